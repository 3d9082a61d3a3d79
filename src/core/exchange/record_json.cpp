// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/record_json.h"

#include <charconv>
#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
namespace {

/// Why a value could not be taken; carries the field's path.
struct Misfit {
    std::string field;
    std::string what;
};

using Parsed = nlohmann::json;

template <class T>
struct IsVector : std::false_type {};
template <class T>
struct IsVector<std::vector<T>> : std::true_type {};
template <class T>
struct IsId : std::false_type {};
template <class T>
struct IsId<Id<T>> : std::true_type {};

template <class T>
Json toJson(const T& value);

template <HasFields T>
Json fieldsToJson(const T& value) {
    [[maybe_unused]] static const T standard{};
    Json json = Json::object();
    forEachField<T>([&](const char* name, auto member) {
        if (!(value.*member == standard.*member))
            json[name] = toJson(value.*member);
    });
    if constexpr (requires { value.extra; }) {
        if (!value.extra.empty())
            json.update(Json::parse(value.extra.view()));
    }
    return json;
}

template <class T>
Json toJson(const T& value) {
    if constexpr (IsId<T>::value)
        return idText(value.value);
    else if constexpr (std::is_same_v<T, std::uint64_t>) // Position::object: an id of any kind
        return idText(value);
    else if constexpr (HasWords<T>)
        return std::string(textOf(value));
    else if constexpr (std::is_same_v<T, SharedText>)
        return value.str();
    else if constexpr (std::is_same_v<T, PortLayout>)
        return toJson(value.blocks());
    else if constexpr (std::is_same_v<T, Attributes>) {
        Json json = Json::object();
        for (const auto& [name, text] : value)
            json[name] = text;
        return json;
    } else if constexpr (IsVector<T>::value) {
        Json json = Json::array();
        for (const auto& item : value)
            json.push_back(toJson(item));
        return json;
    } else if constexpr (HasFields<T>)
        return fieldsToJson(value);
    else
        return value;
}

template <class T>
void fromJson(const Parsed& json, T& value, const char* field);

template <HasFields T>
void fieldsFromJson(const Parsed& json, T& value, const char* field, bool isRecord) {
    if (!json.is_object())
        throw Misfit{field, "is not an object"};
    std::size_t known = isRecord ? 1 : 0; // "kind"
    forEachField<T>([&](const char* name, auto member) {
        const auto at = json.find(name);
        if (at == json.end())
            return;
        ++known;
        fromJson(*at, value.*member, name);
    });
    if (json.size() == known)
        return;
    if constexpr (requires { value.extra; }) {
        Parsed rest = json;
        rest.erase("kind");
        forEachField<T>([&](const char* name, auto) { rest.erase(name); });
        if (!rest.empty())
            value.extra = SharedText(rest.dump());
    }
}

template <class Number>
void numberFromJson(const Parsed& json, Number& value, const char* field) {
    if constexpr (std::is_floating_point_v<Number>) {
        if (!json.is_number())
            throw Misfit{field, "is not a number"};
        value = json.get<Number>();
    } else {
        if (!json.is_number_integer())
            throw Misfit{field, "is not a whole number"};
        const auto wide = json.get<std::int64_t>();
        if (json.is_number_unsigned() && json.get<std::uint64_t>() > INT64_MAX)
            throw Misfit{field, "is too large"};
        if (wide < std::numeric_limits<Number>::min() || wide > std::numeric_limits<Number>::max())
            throw Misfit{field, "is too large"};
        value = static_cast<Number>(wide);
    }
}

std::string textFromJson(const Parsed& json, const char* field) {
    if (!json.is_string())
        throw Misfit{field, "is not a text"};
    return json.get_ref<const std::string&>();
}

std::uint64_t idFromJson(const Parsed& json, const char* field) {
    const auto id = idFromText(textFromJson(json, field));
    if (!id)
        throw Misfit{field, "is not an id of twelve characters"};
    return *id;
}

template <class T>
void fromJson(const Parsed& json, T& value, const char* field) {
    if constexpr (IsId<T>::value) {
        value.value = idFromJson(json, field);
    } else if constexpr (std::is_same_v<T, std::uint64_t>) {
        value = idFromJson(json, field);
    } else if constexpr (HasWords<T>) {
        const auto word = fromText<T>(textFromJson(json, field));
        if (!word)
            throw Misfit{field, fmt::format("has the unknown value \"{}\"", textFromJson(json, field))};
        value = *word;
    } else if constexpr (std::is_same_v<T, SharedText>) {
        value = SharedText(textFromJson(json, field));
    } else if constexpr (std::is_same_v<T, std::string>) {
        value = textFromJson(json, field);
    } else if constexpr (std::is_same_v<T, bool>) {
        if (!json.is_boolean())
            throw Misfit{field, "is not true or false"};
        value = json.get<bool>();
    } else if constexpr (std::is_same_v<T, PortLayout>) {
        std::vector<PortBlock> blocks;
        fromJson(json, blocks, field);
        for (const PortBlock& block : blocks)
            if (const auto keys = expandKeys(block.keys); !keys)
                throw Misfit{field, keys.refusal().what};
        value = PortLayout(std::move(blocks));
    } else if constexpr (std::is_same_v<T, Attributes>) {
        if (!json.is_object())
            throw Misfit{field, "is not an object"};
        for (const auto& [name, text] : json.items())
            value[name] = textFromJson(text, field);
    } else if constexpr (IsVector<T>::value) {
        if (!json.is_array())
            throw Misfit{field, "is not a list"};
        value.resize(json.size());
        for (std::size_t i = 0; i < json.size(); ++i)
            fromJson(json[i], value[i], field);
    } else if constexpr (HasFields<T>) {
        fieldsFromJson(json, value, field, false);
    } else {
        numberFromJson(json, value, field);
    }
}

template <class Record>
void requireIdentity(const Record& record) {
    if constexpr (requires { record.id.value; }) {
        if (!record.id)
            throw Misfit{"id", "is missing"};
    } else if constexpr (requires { record.id.empty(); }) {
        if (record.id.empty())
            throw Misfit{"id", "is missing"};
    }
    if constexpr (requires { record.device.value; }) {
        if (!record.device)
            throw Misfit{"device", "is missing"};
    }
    if constexpr (requires { record.sheet.value; }) {
        if (!record.sheet)
            throw Misfit{"sheet", "is missing"};
    }
    if constexpr (std::is_same_v<Record, Position>) {
        if (record.object == 0)
            throw Misfit{"object", "is missing"};
    }
    if constexpr (std::is_same_v<Record, Link>) {
        if (!record.a.device || !record.b.device)
            throw Misfit{record.a.device ? "b" : "a", "names no device"};
    }
    if constexpr (std::is_same_v<Record, Port>) {
        if (record.port.empty())
            throw Misfit{"port", "is missing"};
    }
}

/// Calls `each` with a default record of the kind; false when the kind is not known.
template <class Each>
bool withKind(std::string_view kind, Each&& each) {
    bool found = false;
    static const Network shape;
    shape.forEachTable([&]<class Record, std::size_t n>(const Table<Record, n>&) {
        if constexpr (!std::is_same_v<Record, UnknownRecord>) {
            if (!found && textOf(Record::kind) == kind) {
                found = true;
                each(Record{});
            }
        }
    });
    return found;
}

enum class Repeats { refused, replace };

Result<Done> putParsed(Network& network, const Parsed& json, std::string_view line, Repeats repeats) {
    if (!json.is_object() || !json.contains("kind") || !json["kind"].is_string())
        return error("the line is not an object with a kind", "remove it or restore the file");
    const auto& kind = json["kind"].get_ref<const std::string&>();
    bool repeated = false;
    const bool known = withKind(kind, [&]<class Record>(Record record) {
        fieldsFromJson(json, record, "", true);
        requireIdentity(record);
        repeated = repeats == Repeats::refused && network.find<Record>(record.key()) != nullptr;
        if (!repeated)
            network.put(std::move(record));
    });
    if (repeated)
        return error(fmt::format("this {} is there twice", kind), "remove one of the two");
    if (!known)
        network.put(UnknownRecord{SharedText(std::string(line))});
    return Done{};
}

int columnOf(std::string_view line, const std::string& field) {
    const auto at = line.find('"' + field + '"');
    return at == std::string_view::npos ? 1 : static_cast<int>(at) + 1;
}

template <class Act>
Result<Done> guarded(std::string_view line, Where where, Act&& act) {
    try {
        auto done = act(Parsed::parse(line));
        if (done)
            return done;
        Remark refusal = done.refusal();
        where.column = 1;
        refusal.where = where;
        return refusal;
    } catch (const Misfit& misfit) {
        where.column = columnOf(line, misfit.field);
        return error(fmt::format("\"{}\" {}", misfit.field, misfit.what), "correct it or restore the file",
                     where);
    } catch (const nlohmann::json::parse_error& broken) {
        where.column = static_cast<int>(broken.byte);
        return error("the line is not whole JSON", "restore the file from a copy", where);
    } catch (const nlohmann::json::exception&) {
        where.column = 1;
        return error("the line cannot be read", "restore the file from a copy", where);
    }
}

} // namespace

template <class Record>
std::string lineOf(const Record& record) {
    if constexpr (std::is_same_v<Record, UnknownRecord>) {
        return record.json.str();
    } else {
        Json json;
        json["kind"] = std::string(textOf(Record::kind));
        json.update(fieldsToJson(record));
        return json.dump(-1, ' ', false, Json::error_handler_t::replace);
    }
}

template std::string lineOf(const NetworkInfo&);
template std::string lineOf(const DeviceModel&);
template std::string lineOf(const ModuleModel&);
template std::string lineOf(const TransceiverModel&);
template std::string lineOf(const CableType&);
template std::string lineOf(const Sheet&);
template std::string lineOf(const Group&);
template std::string lineOf(const Vlan&);
template std::string lineOf(const Subnet&);
template std::string lineOf(const Service&);
template std::string lineOf(const Device&);
template std::string lineOf(const Port&);
template std::string lineOf(const Interface&);
template std::string lineOf(const PanelMap&);
template std::string lineOf(const Cable&);
template std::string lineOf(const Link&);
template std::string lineOf(const Position&);
template std::string lineOf(const Note&);
template std::string lineOf(const Asset&);
template std::string lineOf(const UnknownRecord&);

Result<Done> putLine(Network& network, std::string_view line, const Where& where) {
    return guarded(line, where,
                   [&](const Parsed& json) { return putParsed(network, json, line, Repeats::refused); });
}

template <class Entry>
Result<Done> readEntries(std::string_view text, const std::string& file, std::vector<Entry>& out) {
    return guarded(text, {file, 0, 0, {}}, [&](const Parsed& json) -> Result<Done> {
        fromJson(json, out, "");
        return Done{};
    });
}

template Result<Done> readEntries(std::string_view, const std::string&, std::vector<DeviceModel>&);
template Result<Done> readEntries(std::string_view, const std::string&, std::vector<ModuleModel>&);
template Result<Done> readEntries(std::string_view, const std::string&, std::vector<TransceiverModel>&);
template Result<Done> readEntries(std::string_view, const std::string&, std::vector<CableType>&);

std::string removalLine(Kind kind, Key key) {
    return Json{{"remove", std::string(textOf(kind))}, {"hi", key.hi}, {"lo", key.lo}}.dump();
}

Result<Done> applyLine(Network& network, std::string_view line) {
    return guarded(line, {}, [&](const Parsed& json) -> Result<Done> {
        if (!json.is_object() || !json.contains("remove"))
            return putParsed(network, json, line, Repeats::replace);
        const std::string kind = textFromJson(json["remove"], "remove");
        const Key key{json.at("hi").get<std::uint64_t>(), json.at("lo").get<std::uint64_t>()};
        if (kind == textOf(Kind::unknown))
            network.erase<UnknownRecord>(key);
        else if (!withKind(kind, [&]<class Record>(const Record&) { network.erase<Record>(key); }))
            return error("the removal names no known kind");
        return Done{};
    });
}

} // namespace underridge::exchange

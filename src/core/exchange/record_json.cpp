// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/record_json.h"

#include "core/exchange/json_view.h"
#include "core/model/references.h"

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

using Parsed = JsonView;

template <class T>
struct IsVector : std::false_type {};
template <class T>
struct IsVector<std::vector<T>> : std::true_type {};
template <class T>
struct IsShared : std::false_type {};
template <class T>
struct IsShared<Shared<T>> : std::true_type {};
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
    else if constexpr (std::is_same_v<T, Address>)
        return value.text();
    else if constexpr (IsShared<T>::value)
        return toJson(*value);
    else if constexpr (std::is_same_v<T, OspfArea>) {
        const bool plain =
            !value.empty() && value.text().find_first_not_of("0123456789") == std::string::npos;
        const auto number = value.number();
        return plain && number && std::to_string(*number) == value.text() ? Json(*number)
                                                                          : Json(value.text());
    } else if constexpr (std::is_same_v<T, PortLayout>)
        return toJson(value.blocks());
    else if constexpr (std::is_same_v<T, PortNames>)
        return toJson(value.all());
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
    if (!json.isObject())
        throw Misfit{field, "is not an object"};
    [[maybe_unused]] JsonMembers rest;
    json.forEachMember([&](std::string_view name, JsonView member) {
        bool known = isRecord && name == "kind";
        forEachField<T>([&](const char* fieldName, auto target) {
            if (known || name != fieldName)
                return;
            known = true;
            fromJson(member, value.*target, fieldName);
        });
        if constexpr (requires { value.extra; })
            if (!known)
                rest.set(name, member.compact());
    });
    if constexpr (requires { value.extra; })
        if (!rest.empty())
            value.extra = SharedText(rest.text());
}

template <class Number>
void numberFromJson(const Parsed& json, Number& value, const char* field) {
    if (json.kind() != JsonView::Kind::number)
        throw Misfit{field, std::is_floating_point_v<Number> ? "is not a number" : "is not a whole number"};
    if constexpr (std::is_floating_point_v<Number>) {
        const auto number = json.number();
        if (!number)
            throw Misfit{field, "is too large"};
        value = *number;
    } else {
        if (json.raw().find_first_of(".eE") != std::string_view::npos)
            throw Misfit{field, "is not a whole number"};
        const auto wide = json.integer();
        if (!wide || *wide < std::numeric_limits<Number>::min() || *wide > std::numeric_limits<Number>::max())
            throw Misfit{field, "is too large"};
        value = static_cast<Number>(*wide);
    }
}

/// Where there are escapes, in `scratch`.
std::string_view textFromJson(const Parsed& json, const char* field, std::string& scratch) {
    if (!json.isText())
        throw Misfit{field, "is not a text"};
    return json.text(scratch);
}

std::string textFromJson(const Parsed& json, const char* field) {
    if (!json.isText())
        throw Misfit{field, "is not a text"};
    return json.text();
}

std::uint64_t idFromJson(const Parsed& json, const char* field) {
    std::string scratch;
    const auto id = idFromText(textFromJson(json, field, scratch));
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
        std::string scratch;
        auto word = fromText<T>(textFromJson(json, field, scratch));
        if constexpr (std::is_same_v<T, OspfNetwork>)
            if (json.isText("p2p")) // as many write it
                word = OspfNetwork::pointToPoint;
        if (!word)
            throw Misfit{field, fmt::format("has the unknown value \"{}\"", textFromJson(json, field))};
        value = *word;
    } else if constexpr (std::is_same_v<T, SharedText>) {
        value = SharedText(textFromJson(json, field));
    } else if constexpr (std::is_same_v<T, std::string> || std::is_same_v<T, Address>) {
        value = textFromJson(json, field);
    } else if constexpr (std::is_same_v<T, OspfArea>) {
        value = json.kind() == JsonView::Kind::number ? std::string(json.raw())
                                                      : std::string(textFromJson(json, field));
        if (!value.empty() && !value.number())
            throw Misfit{field, "is no area: write 0 or 0.0.0.0"};
    } else if constexpr (std::is_same_v<T, bool>) {
        const auto boolean = json.boolean();
        if (!boolean)
            throw Misfit{field, "is not true or false"};
        value = *boolean;
    } else if constexpr (std::is_same_v<T, PortLayout>) {
        std::vector<PortBlock> blocks;
        fromJson(json, blocks, field);
        for (const PortBlock& block : blocks)
            if (const auto keys = expandKeys(block.keys); !keys)
                throw Misfit{field, keys.refusal().what};
        value = PortLayout(std::move(blocks));
    } else if constexpr (std::is_same_v<T, PortNames>) {
        std::vector<std::string> names;
        fromJson(json, names, field);
        value = PortNames(std::move(names));
    } else if constexpr (std::is_same_v<T, Attributes>) {
        if (!json.isObject())
            throw Misfit{field, "is not an object"};
        json.forEachMember([&](std::string_view name, JsonView text) {
            value[std::string(name)] = textFromJson(text, field);
        });
    } else if constexpr (IsVector<T>::value) {
        if (!json.isArray())
            throw Misfit{field, "is not a list"};
        value.resize(json.size());
        std::size_t i = 0;
        json.forEach([&](JsonView part) { fromJson(part, value[i++], field); });
    } else if constexpr (requires { T(*value); } && IsShared<T>::value) {
        auto whole = *value;
        fromJson(json, whole, field);
        value = T(std::move(whole));
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
                Record record;
                each(record);
            }
        }
    });
    return found;
}

/// Reads the object of one line and hands the record over: `take(record)`.
template <class Take>
Result<Done> recordFrom(const Parsed& json, std::string_view line, Take&& take) {
    const JsonView kind = json["kind"];
    if (!kind.isText())
        return error("the line is not an object with a kind", "remove it or restore the file");
    std::string scratch;
    const bool known = withKind(kind.text(scratch), [&]<class Record>(Record& record) {
        fieldsFromJson(json, record, "", true);
        requireIdentity(record);
        take(std::move(record));
    });
    if (!known)
        take(UnknownRecord{SharedText(std::string(line))});
    return Done{};
}

int columnOf(std::string_view line, const std::string& field) {
    const auto at = line.find('"' + field + '"');
    return at == std::string_view::npos ? 1 : static_cast<int>(at) + 1;
}

/// The place of an offset in a text that begins at `where`.
Where placeIn(std::string_view text, std::size_t offset, Where where) {
    const std::string_view before = text.substr(0, offset);
    where.line += static_cast<int>(std::count(before.begin(), before.end(), '\n'));
    where.column = static_cast<int>(offset - (before.rfind('\n') + 1)) + 1;
    return where;
}

template <class Act>
Result<Done> guarded(JsonReader& reader, std::string_view line, Where where, Act&& act) {
    if (const auto fault = reader.read(line))
        return error("the line is not whole JSON", "restore the file from a copy",
                     placeIn(line, fault->offset, where));
    try {
        auto done = act(reader.root());
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
    }
}

/// The same for a text that is not followed by what may be read.
template <class Act>
Result<Done> guardedCopy(std::string_view text, const Where& where, Act&& act) {
    std::string padded;
    padded.reserve(text.size() + JsonReader::padding);
    padded = text;
    JsonReader reader(maxOwnDepth);
    return guarded(reader, padded, where, act);
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
        std::string line = json.dump(-1, ' ', false, Json::error_handler_t::replace);
        if constexpr (requires { record.extra; })
            if (!record.extra.empty()) { // members as they were written
                line.back() = ',';
                line += record.extra.view().substr(1);
            }
        return line;
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
template std::string lineOf(const Route&);
template std::string lineOf(const PanelMap&);
template std::string lineOf(const Cable&);
template std::string lineOf(const Link&);
template std::string lineOf(const Position&);
template std::string lineOf(const Note&);
template std::string lineOf(const CableRoute&);
template std::string lineOf(const Statement&);
template std::string lineOf(const Ring&);
template std::string lineOf(const SetAside&);
template std::string lineOf(const Asset&);
template std::string lineOf(const UnknownRecord&);

bool takeLearned(Port& port) {
    if (port.extra.empty())
        return false;
    const auto held = JsonText::parse(port.extra.str(), {}, maxOwnDepth);
    if (!held || held->root()["learned"].boolean() != true)
        return false;
    JsonMembers rest(held->root());
    rest.erase("learned");
    port.extra = rest.empty() ? SharedText() : SharedText(rest.text());
    return true;
}

Result<Done> addLine(Records& records, JsonReader& reader, std::string_view line, const Where& where) {
    return guarded(reader, line, where, [&](const Parsed& json) {
        return recordFrom(json, line, [&]<class Record>(Record record) {
            records.all<Record>().push_back(std::move(record));
        });
    });
}

template <class Entry>
Result<Done> readEntries(std::string_view text, const std::string& file, std::vector<Entry>& out) {
    return guardedCopy(text, {file, 1, 0, {}}, [&](const Parsed& json) -> Result<Done> {
        fromJson(json, out, "");
        return Done{};
    });
}

template Result<Done> readEntries(std::string_view, const std::string&, std::vector<DeviceModel>&);
template Result<Done> readEntries(std::string_view, const std::string&, std::vector<ModuleModel>&);
template Result<Done> readEntries(std::string_view, const std::string&, std::vector<TransceiverModel>&);
template Result<Done> readEntries(std::string_view, const std::string&, std::vector<CableType>&);

template <class T>
Result<Done> readValue(JsonView json, T& value, const char* name) {
    try {
        fromJson(json, value, name);
        return Done{};
    } catch (const Misfit& misfit) {
        return error(fmt::format("\"{}\" {}", misfit.field, misfit.what), "see docs/acts.md");
    }
}

template Result<Done> readValue(JsonView, Shared<SpanningTree>&, const char*);
template Result<Done> readValue(JsonView, Shared<Ospf>&, const char*);
template Result<Done> readValue(JsonView, Shared<Bgp>&, const char*);
template Result<Done> readValue(JsonView, Shared<PacketFilter>&, const char*);
template Result<Done> readValue(JsonView, Shared<PortTree>&, const char*);
template Result<Done> readValue(JsonView, Shared<OspfInterface>&, const char*);
template Result<Done> readValue(JsonView, std::vector<Translation>&, const char*);
template Result<Done> readValue(JsonView, std::vector<Vrrp>&, const char*);
template Result<Done> readValue(JsonView, std::vector<Address>&, const char*);
template Result<Done> readValue(JsonView, std::vector<std::string>&, const char*);
template Result<Done> readValue(JsonView, std::vector<VlanRange>&, const char*);

std::string removalLine(Kind kind, Key key) {
    return Json{{"remove", std::string(textOf(kind))}, {"hi", key.hi}, {"lo", key.lo}}.dump();
}

Result<Done> applyLine(Network& network, std::string_view line) {
    return guardedCopy(line, {}, [&](const Parsed& json) -> Result<Done> {
        if (!json["remove"])
            return recordFrom(json, line, [&]<class Record>(Record record) {
                if constexpr (std::is_same_v<Record, Position>)
                    if (record.of == Kind::unknown) // of a journal before version 2
                        record.of = kindOf(network, record.object);
                if constexpr (std::is_same_v<Record, Port>)
                    if (const Device* device = network.device(record.device); device && takeLearned(record)) {
                        Device named = *device;
                        std::vector<std::string> names = named.learned.all();
                        names.push_back(record.port);
                        named.learned = PortNames(std::move(names));
                        network.put(std::move(named));
                    }
                network.put(std::move(record));
            });
        const std::string kind = textFromJson(json["remove"], "remove");
        const auto hi = json["hi"].whole(), lo = json["lo"].whole();
        if (!hi || !lo)
            throw Misfit{"remove", "names no record"};
        if (kind == textOf(Kind::unknown))
            network.erase<UnknownRecord>({*hi, *lo});
        else if (!withKind(kind, [&]<class Record>(const Record&) { network.erase<Record>({*hi, *lo}); }))
            return error("the removal names no known kind");
        return Done{};
    });
}

} // namespace underridge::exchange

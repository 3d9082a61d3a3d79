// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/own_format.h"

#include "core/base/text.h"
#include "core/exchange/record_json.h"

#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
namespace {

constexpr std::string_view signature = "{\"underridge\":";

/// The id in a key that names the record itself, or at least its owner.
template <class Record>
std::uint64_t ownId(Key key) {
    return std::is_same_v<Record, Position> || std::is_same_v<Record, Interface> ? key.lo : key.hi;
}

/// Removes what refers to nothing, with a remark each.
class Mender {
public:
    Mender(Network& network, const std::string& file, std::vector<Remark>& remarks)
        : network_(network), file_(file), remarks_(remarks) {}

    void mend() {
        dropWhere<Link>("link",
                        [&](const Link& l) { return lacksDevice(l.a.device) || lacksDevice(l.b.device); });
        dropWhere<Port>("port record", [&](const Port& p) { return lacksDevice(p.device); });
        dropWhere<Interface>("interface", [&](const Interface& i) { return lacksDevice(i.device); });
        dropWhere<PanelMap>("panel map", [&](const PanelMap& m) { return lacksDevice(m.device); });
        dropWhere<Cable>("cable", [&](const Cable& c) {
            return std::any_of(c.ends.begin(), c.ends.end(),
                               [&](const CableEnd& e) { return lacksDevice(e.at.device); });
        });
        dropWhere<Position>(
            "position", [&](const Position& p) { return !network_.sheet(p.sheet) || !isDrawable(p.object); });
        dropWhere<Note>("note", [&](const Note& n) { return !network_.sheet(n.sheet); });
        clearWhere<Device>([](Device& d) -> GroupId& { return d.group; });
        clearWhere<Group>([](Group& g) -> GroupId& { return g.parent; });
        breakGroupLoops();
        clearCables();
    }

private:
    bool lacksDevice(DeviceId id) const { return !network_.device(id); }

    bool isDrawable(std::uint64_t id) const {
        return network_.device({id}) || network_.group({id}) || network_.note({id}) || network_.link({id});
    }

    void remark(std::string what, std::string object) {
        remarks_.push_back(warning(std::move(what), "check it", {file_, 0, 0, std::move(object)}));
    }

    template <class Record, class Test>
    void dropWhere(const char* noun, Test&& test) {
        std::vector<Key> bad;
        network_.all<Record>().forEach([&](const Record& record) {
            if (test(record))
                bad.push_back(record.key());
        });
        for (const Key key : bad) {
            remark(fmt::format("a {} refers to something that is not in the file; it was left out", noun),
                   fmt::format("{} {}", noun, idText(ownId<Record>(key))));
            network_.erase<Record>(key);
        }
    }

    template <class Record, class Owner>
    void clearWhere(Owner&& owner) {
        std::vector<Record> bad;
        network_.all<Record>().forEach([&](const Record& record) {
            Record copy = record;
            if (GroupId& group = owner(copy); group && !network_.group(group)) {
                group = {};
                bad.push_back(std::move(copy));
            }
        });
        for (Record& record : bad) {
            remark("its group is not in the file; it was put at the top", record.name);
            network_.put(std::move(record));
        }
    }

    void breakGroupLoops() {
        std::vector<Group> groups;
        network_.all<Group>().forEach([&](const Group& group) { groups.push_back(group); });
        for (Group group : groups) {
            std::size_t steps = 0;
            GroupId at = network_.group(group.id)->parent;
            while (at && at != group.id && steps++ <= groups.size())
                at = network_.group(at)->parent;
            if (at != group.id)
                continue;
            group.parent = {};
            remark("the group is inside itself; it was put at the top", group.name);
            network_.put(std::move(group));
        }
    }

    void clearCables() {
        std::vector<Link> bad;
        network_.all<Link>().forEach([&](const Link& link) {
            if (link.cable && !network_.cable(link.cable))
                bad.push_back(link);
        });
        for (Link& link : bad) {
            remark("its cable is not in the file", "link " + idText(link.id.value));
            link.cable = {};
            network_.put(std::move(link));
        }
    }

    Network& network_;
    const std::string& file_;
    std::vector<Remark>& remarks_;
};

Result<Done> checkHeader(std::string_view line, const std::string& file) {
    const Where where{file, 1, 1, {}};
    const auto json = nlohmann::json::parse(line, nullptr, false);
    if (!json.is_object() || !json.contains("underridge") || !json["underridge"].is_number_integer())
        return error("the file is not an Underridge network", "choose another file", where);
    const auto version = json["underridge"].get<std::int64_t>();
    if (version < 1 || version > formatVersion)
        return error(fmt::format("the file has format version {}, this program reads up to {}", version,
                                 formatVersion),
                     "open it with a newer version", where);
    return Done{};
}

} // namespace

std::string writeOwn(const Network& network) {
    std::string out = fmt::format("{}{}}}\n", signature, formatVersion);
    network.forEachTable([&]<class Record, std::size_t n>(const Table<Record, n>& table) {
        table.forEach([&](const Record& record) {
            out += lineOf(record);
            out += '\n';
        });
    });
    return out;
}

bool isOwn(std::string_view bytes) {
    return bytes.starts_with(signature);
}

Result<Loaded> readOwn(std::string_view bytes, const std::string& file) {
    Loaded loaded;
    int number = 0;
    std::size_t at = 0;
    while (at < bytes.size()) {
        const std::size_t end = std::min(bytes.find('\n', at), bytes.size());
        std::string_view line = bytes.substr(at, end - at);
        at = end + 1;
        ++number;
        if (line.ends_with('\r'))
            line.remove_suffix(1);
        const Where where{file, number, 1, {}};
        if (line.size() > maxLineBytes)
            return error("the line is too long", "restore the file from a copy", where);
        if (number == 1) {
            if (auto header = checkHeader(line, file); !header)
                return header.refusal();
            continue;
        }
        if (line.empty())
            continue;
        if (auto put = putLine(loaded.network, line, where); !put)
            return put.refusal();
    }
    if (number == 0)
        return error("the file is empty", "choose another file", {file, 1, 1, {}});
    if (!loaded.network.info().id)
        return error("the file has no network record; it may have been cut off", "restore it from a copy",
                     {file, number, 1, {}});
    Mender(loaded.network, file, loaded.remarks).mend();
    return loaded;
}

} // namespace underridge::exchange

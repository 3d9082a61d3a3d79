// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mending.h"

#include "core/base/parallel.h"
#include "core/model/id_set.h"
#include "core/model/references.h"
#include "core/model/route_limits.h"

#include <atomic>
#include <concepts>
#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
namespace {

/// The id in a key that names the record itself, or at least its owner.
template <class Record>
std::uint64_t ownId(Key key) {
    return std::is_same_v<Record, Position> || std::is_same_v<Record, Interface> ||
                   std::is_same_v<Record, Route>
               ? key.lo
               : key.hi;
}

/// Looks the ids up that a whole network is full of, without walking its tables for each.
class KnownIds {
public:
    explicit KnownIds(const Network& network)
        : all_{network},
          devices_(IdSet::of(network.all<Device>())),
          links_(IdSet::of(network.all<Link>())),
          cables_(IdSet::of(network.all<Cable>())) {}

    bool operator()(DeviceId id) const { return devices_.contains(id.value); }
    bool operator()(LinkId id) const { return links_.contains(id.value); }
    bool operator()(CableId id) const { return cables_.contains(id.value); }
    bool operator()(ObjectRef object) const {
        return object.kind == Kind::device ? devices_.contains(object.id)
               : object.kind == Kind::link ? links_.contains(object.id)
                                           : all_(object);
    }
    template <class AnId>
    requires std::invocable<InNetwork, AnId>
    bool operator()(AnId id) const { return all_(id); }
    bool operator()(DeviceId device, InterfaceId id) const { return all_(device, id); }

private:
    InNetwork all_;
    IdSet devices_, links_, cables_;
};

using namespace routeLimits;
constexpr double mostMmPerPixel = 100'000;

CableRoute brought(CableRoute route) {
    for (FloorPoint& point : route.points) {
        point.xMm = std::clamp(point.xMm, -farthestMm, farthestMm);
        point.yMm = std::clamp(point.yMm, -farthestMm, farthestMm);
    }
    route.heightMm = std::clamp(route.heightMm, -highestMm, highestMm);
    route.widthMm = std::clamp(route.widthMm, leastMm, mostMm);
    route.depthMm = std::clamp(route.depthMm, leastMm, mostMm);
    route.limitPercent = std::clamp(route.limitPercent, 0, 100);
    return route;
}
Group brought(Group group) {
    if (!(group.planMmPerPixel >= 0 && group.planMmPerPixel <= mostMmPerPixel))
        group.planMmPerPixel = 1;
    group.planXMm = std::clamp(group.planXMm, -farthestMm, farthestMm);
    group.planYMm = std::clamp(group.planYMm, -farthestMm, farthestMm);
    return group;
}
CableType brought(CableType type) {
    constexpr int mostEnds = 12, mostStrands = 3456; // of the largest ribbon cables made
    type.farEnds = std::clamp(type.farEnds, 1, mostEnds);
    type.positions = std::clamp(type.positions, 1, mostStrands);
    return type;
}
Cable brought(Cable cable) {
    constexpr std::int64_t roundTheEarthMm = 40'000'000'000;
    cable.lengthMm = std::clamp<std::int64_t>(cable.lengthMm, 0, roundTheEarthMm);
    return cable;
}
Device brought(Device device) {
    constexpr std::size_t mostInstances = 64; // IEEE 802.1Q clause 13.8
    if (device.spanningTree->instances.size() <= mostInstances)
        return device;
    SpanningTree tree = *device.spanningTree;
    tree.instances.resize(mostInstances);
    device.spanningTree = std::move(tree);
    return device;
}
Port brought(Port port) {
    constexpr int mostLanes = 16;
    port.breakout = std::clamp(port.breakout, 0, mostLanes);
    return port;
}
/// What lies farther or is larger than is possible.
template <class Record>
bool isBeyond(const Record& record) {
    if constexpr (requires { brought(record); })
        return brought(record) != record;
    return false;
}

class Mender {
public:
    Mender(Network& network, const std::string& file, std::vector<Remark>& remarks)
        : network_(network), file_(file), remarks_(remarks) {}

    void run() {
        if (isSound())
            return;
        dropWhatCannotStand();
        change<Cable>("a device it ends at is not in the file; that end was left out", [&](Cable& cable) {
            std::erase_if(cable.ends, [&](const CableEnd& end) { return lacksDevice(end.at.device); });
        });
        change<Cable>(
            "ends are said of links that are not on it; they were left out",
            [&](const Cable& cable) { return mayBeStale(cable); },
            [&](Cable& cable) { dropStaleEnds(cable); });
        clearReferences();
        change<Interface>(
            "a range of VLANs runs backwards or beyond 1 to 4094; it was left out",
            [](const Interface& interface) { return hasWrongRange(interface); },
            [](Interface& interface) {
                std::erase_if(interface.taggedRanges, [](VlanRange range) { return !range.valid(); });
            });
        breakGroupLoops();
        const auto bring = [](auto& record) { record = brought(record); };
        change<CableRoute>(
            "it lies further away, or is larger, than a cable route can; it was brought nearer",
            isBeyond<CableRoute>, bring);
        change<Group>(
            "its plan lies further away, or has another scale, than is possible; it was brought nearer",
            isBeyond<Group>, bring);
        change<CableType>("it has ends or strands beyond what a cable can; they were brought within",
                          isBeyond<CableType>, bring);
        change<Cable>("its length is not possible; it was brought within", isBeyond<Cable>, bring);
        change<Device>("it has more than 64 spanning tree instances; the others were left out",
                       isBeyond<Device>, bring);
        change<Port>("it is split into more lanes than a port can; they were brought within", isBeyond<Port>,
                     bring);
        change<Position>(
            "it lies off the sheet; it was moved to its edge",
            [](const Position& position) { return liesOff(position); },
            [](Position& position) {
                position.at = ontoSheet(position.at);
                std::transform(position.bends.begin(), position.bends.end(), position.bends.begin(),
                               ontoSheet);
            });
    }

private:
    /// Whether there is nothing to mend, as in every file of our own: looked at by two
    /// threads.
    bool isSound() const {
        std::atomic<bool> sound = true;
        const KnownIds known(network_);
        const auto look = [&]<class... Kinds>() {
            (network_.all<Kinds>().forEach([&](const Kinds& record) {
                if (!refersToWhatIsThere(record, known) || liesOff(record) || isBeyond(record) ||
                    mayBeStale(record) || hasWrongRange(record))
                    sound = false;
            }),
             ...);
        };
        constexpr std::size_t many = 1000;
        inParallel(
            network_.all<Device>().size() + network_.all<Position>().size() >= many,
            {[&] { look.template operator()<Sheet, Group, Vlan, Subnet, Service, Device, Port, Position>(); },
             [&] {
                 look.template operator()<Interface, Route, PanelMap, Cable, CableType, Link, Note,
                                          CableRoute, Statement, Ring>();
             }});
        return sound && network_.all<Group>().empty(); // groups may go in a circle
    }

    bool misnamed(const Position& position) const {
        return !isThere(network_, position.drawn()) && kindOf(network_, position.object) != Kind::unknown;
    }
    template <class Record>
    static bool liesOff(const Record& record) {
        if constexpr (std::is_same_v<Record, Position>)
            return !isOnSheet(record.at) || !std::all_of(record.bends.begin(), record.bends.end(), isOnSheet);
        return false;
    }
    template <class Record>
    static bool hasWrongRange(const Record& record) {
        if constexpr (std::is_same_v<Record, Interface>)
            return !std::all_of(record.taggedRanges.begin(), record.taggedRanges.end(),
                                [](VlanRange range) { return range.valid(); });
        return false;
    }
    template <class Record>
    bool mayBeStale(const Record& record) const {
        if constexpr (std::is_same_v<Record, Cable>) {
            const CableType* type = network_.typeOf(record);
            return type && isTrunk(*type);
        }
        return false;
    }

    bool lacksDevice(DeviceId id) const { return !network_.device(id); }

    void remark(std::string what, std::string object) {
        remarks_.push_back(warning(std::move(what), "check it", {file_, 0, 0, std::move(object)}));
    }

    template <class Record>
    static std::string nameOf(const Record& record) {
        if constexpr (requires { record.name; })
            if (!record.name.empty())
                return record.name;
        return fmt::format("{} {}", textOf(Record::kind), idText(ownId<Record>(record.key())));
    }

    template <class Record, class Test>
    void drop(const char* noun, Test&& test) {
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

    void dropWhatCannotStand() {
        drop<Link>("link", [&](const Link& l) { return lacksDevice(l.a.device) || lacksDevice(l.b.device); });
        drop<Port>("port record", [&](const Port& p) { return lacksDevice(p.device); });
        drop<Interface>("interface", [&](const Interface& i) { return lacksDevice(i.device); });
        drop<Route>("route", [&](const Route& r) { return lacksDevice(r.device); });
        drop<PanelMap>("panel map", [&](const PanelMap& m) { return lacksDevice(m.device); });
        drop<Cable>("cable", [&](const Cable& c) {
            return !c.ends.empty() && std::all_of(c.ends.begin(), c.ends.end(), [&](const CableEnd& e) {
                return lacksDevice(e.at.device);
            });
        });
        change<Position>(
            "it was said to be of another kind of object", [&](const Position& p) { return misnamed(p); },
            [&](Position& p) { p.of = kindOf(network_, p.object); });
        drop<Position>("position", [&](const Position& p) {
            return !network_.sheet(p.sheet) || !isThere(network_, p.drawn());
        });
        drop<CableRoute>("cable route", [&](const CableRoute& r) { return !network_.group(r.floor); });
        drop<Note>("note", [&](const Note& n) { return !network_.sheet(n.sheet); });
    }

    /// Applies `mended` to the records of a kind that `isWrong` says; those it changes
    /// get a remark.
    template <class Record, class IsWrong, class Mended>
    void change(const char* what, IsWrong&& isWrong, Mended&& mended) {
        std::vector<Record> changed;
        network_.all<Record>().forEach([&](const Record& record) {
            if (!isWrong(record))
                return;
            Record copy = record;
            mended(copy);
            if (copy != record)
                changed.push_back(std::move(copy));
        });
        for (Record& record : changed) {
            remark(what, nameOf(record));
            network_.put(std::move(record));
        }
    }
    /// The same for those that refer to what is not there.
    template <class Record, class Mended>
    void change(const char* what, Mended&& mended) {
        change<Record>(
            what, [&](const Record& record) { return !refersToWhatIsThere(network_, record); }, mended);
    }

    template <class AnId>
    void clear(AnId& id) const {
        if (id && !isThere(network_, id))
            id = {};
    }
    template <class AnId>
    void clear(std::vector<AnId>& ids) const {
        std::erase_if(ids, [&](AnId id) { return !isThere(network_, id); });
    }

    void clearReferences() {
        change<Device>("its group is not in the file; it was put at the top",
                       [&](Device& device) { clear(device.group); });
        change<Device>("the floor or rack it stands on is not in the file; its place is not known now",
                       [&](Device& device) {
                           const auto mendPlace = [&](Place& place) {
                               if (place.in && !isThere(network_, place.in))
                                   place = {};
                           };
                           mendPlace(device.place);
                           for (Chassis& chassis : device.stack)
                               mendPlace(chassis.place);
                       });
        change<Device>("the other of its pair is not in the file; it is alone now",
                       [&](Device& device) { clear(device.pairedWith); });
        change<Group>("its group is not in the file; it was put at the top",
                      [&](Group& group) { clear(group.parent); });
        change<Group>("its plan is not in the file", [&](Group& group) { clear(group.plan); });
        change<Vlan>("its scope is not in the file; it is of the whole network now",
                     [&](Vlan& vlan) { clear(vlan.scope); });
        change<Sheet>("the group it shows is not in the file; it shows the whole network now",
                      [&](Sheet& sheet) { clear(sheet.shows); });
        change<Subnet>("its VLAN is not in the file", [&](Subnet& subnet) { clear(subnet.vlan); });
        change<Service>("a device it names is not in the file", [&](Service& service) {
            clear(service.users);
            clear(service.providers);
        });
        change<Interface>("a VLAN of it is not in the file", [&](Interface& interface) {
            clear(interface.untagged);
            clear(interface.tagged);
            clear(interface.untaggedToo);
            clear(interface.voice);
        });
        change<Interface>("the interface it stands on is not in the file", [&](Interface& interface) {
            if (interface.parent &&
                !network_.find<Interface>({interface.device.value, interface.parent.value}))
                interface.parent = {};
        });
        change<Statement>("what it is about is not in the file", [&](Statement& statement) {
            for (Party* party : {&statement.from, &statement.to}) {
                clear(party->device);
                clear(party->group);
            }
        });
        change<Subnet>("a DHCP server of it is not in the file",
                       [&](Subnet& subnet) { clear(subnet.dhcpServers); });
        change<Ring>("a part of it is not in the file", [&](Ring& ring) {
            clear(ring.links);
            clear(ring.owner);
            clear(ring.blocked);
        });
        change<Link>("its cable is not in the file", [&](Link& link) { clear(link.cable); });
        change<Link>("the sheet it is drawn on is not in the file", [&](Link& link) { clear(link.onlyOn); });
        change<Link>("a link it rests on is not in the file", [&](Link& link) { clear(link.over); });
    }

    /// Ends of a trunk cable that no link on it has, but for the last pair, which says
    /// where it leads.
    void dropStaleEnds(Cable& cable) const {
        const CableType* type = network_.typeOf(cable);
        if (!type || !isTrunk(*type) || cable.ends.size() % 2 != 0)
            return;
        std::vector<CableEnd> left, stale;
        for (std::size_t i = 0; i < cable.ends.size(); i += 2) {
            const CableEnd &a = cable.ends[i], &b = cable.ends[i + 1];
            const Link* link = network_.linkAt(a.at);
            const bool used = link && link->cable == cable.id && (link->a == b.at || link->b == b.at);
            const auto same = [&](const CableEnd& end) { return end.at.known() && end.at == a.at; };
            auto& into = used && std::none_of(left.begin(), left.end(), same) ? left : stale;
            into.insert(into.end(), {a, b});
        }
        if (left.empty() && !stale.empty())
            left = {{{stale[0].at.device, {}}, {}}, {{stale[1].at.device, {}}, {}}};
        cable.ends = std::move(left);
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

    Network& network_;
    const std::string& file_;
    std::vector<Remark>& remarks_;
};

} // namespace

void mend(Network& network, const std::string& file, std::vector<Remark>& remarks) {
    Mender(network, file, remarks).run();
}

} // namespace underridge::exchange

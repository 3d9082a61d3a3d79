// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/objects.h"

#include "core/edit/cables.h"
#include "core/edit/links.h"
#include "core/edit/names.h"
#include "core/model/group_tree.h"
#include "core/model/power.h"
#include "core/model/standing.h"

#include <fmt/format.h>
#include <map>
#include <set>
#include <unordered_map>

namespace underridge::edit {
using namespace model;
namespace {

void erasePositions(Network& network, std::uint64_t object) {
    std::vector<Key> keys;
    network.forEachPositionOf(object, [&](const Position& position) { keys.push_back(position.key()); });
    for (const Key key : keys)
        network.erase<Position>(key);
}

/// Applies `change` to the records of a kind that it changes: for kinds there are few of.
template <class Record, class Change>
void changeWhere(Network& network, Change&& change) {
    std::vector<Record> changed;
    network.all<Record>().forEach([&](const Record& record) {
        Record copy = record;
        change(copy);
        if (copy != record)
            changed.push_back(std::move(copy));
    });
    for (Record& record : changed)
        network.put(std::move(record));
}

void removeLink(Network& network, LinkId id) {
    const Link* held = network.link(id);
    if (!held)
        return;
    const Link link = *held;
    network.erase<Link>(link.key());
    changeWhere<Ring>(network, [&](Ring& ring) {
        std::erase(ring.links, id);
        if (ring.blocked == id)
            ring.blocked = {};
    });
    erasePositions(network, id.value);
    takeOffCable(network, link);
}

template <class Record>
void eraseOwned(Network& network, DeviceId device) {
    std::vector<Key> keys;
    network.all<Record>().forEachIn(device.value,
                                    [&](const Record& record) { keys.push_back(record.key()); });
    for (const Key key : keys)
        network.erase<Record>(key);
}

void removeDevice(Network& network, DeviceId id) {
    std::vector<LinkId> links;
    network.forEachLinkOf(id, [&](const Link& link) { links.push_back(link.id); });
    for (const LinkId link : links)
        removeLink(network, link);
    std::vector<CableId> cables;
    network.forEachCableOf(id, [&](const Cable& cable) { cables.push_back(cable.id); });
    for (const CableId cable : cables)
        network.erase<Cable>({cable.value, 0});
    eraseOwned<Port>(network, id);
    eraseOwned<Interface>(network, id);
    eraseOwned<Route>(network, id);
    eraseOwned<PanelMap>(network, id);
    changeWhere<Service>(network, [&](Service& service) {
        std::erase(service.users, id);
        std::erase(service.providers, id);
    });
    changeWhere<Statement>(network, [&](Statement& statement) {
        for (Party* party : {&statement.from, &statement.to})
            if (party->device == id)
                party->device = {};
    });
    changeWhere<Subnet>(network, [&](Subnet& subnet) { std::erase(subnet.dhcpServers, id); });
    changeWhere<Ring>(network, [&](Ring& ring) {
        if (ring.owner == id)
            ring.owner = {};
    });
    erasePositions(network, id.value);
    network.erase<Device>({id.value, 0});
}

/// Where something stands that stood on a floor or in a rack that is to go: on the rack's
/// own spot of its floor, else nowhere known.
Place placeWithout(const Network& network, const Group& gone, const Place& place) {
    const Group* outer = network.group(gone.parent);
    const bool onFloor = outer && outer->type == GroupKind::floor && isRack(gone.type);
    return onFloor ? Place{outer->id, gone.xMm, gone.yMm, gone.heightMm, 0, place.side} : Place{};
}

/// Members go up one level; whatever named the group names the one around it, or the
/// whole network.
void removeGroup(Network& network, GroupId id) {
    const Group gone = *network.group(id);
    std::vector<ObjectRef> members;
    network.forEachIn(id, [&](ObjectRef member) { members.push_back(member); });
    for (const ObjectRef member : members) {
        if (const Device* device = network.device({member.id})) {
            Device copy = *device;
            copy.group = gone.parent;
            network.put(std::move(copy));
        } else if (const Group* group = network.group({member.id})) {
            Group copy = *group;
            copy.parent = gone.parent;
            network.put(std::move(copy));
        }
    }
    std::vector<Device> placed;
    network.forEachPlacedIn(id, [&](const Device& device) { placed.push_back(device); });
    for (Device& device : placed) {
        if (device.place.in == id)
            device.place = placeWithout(network, gone, device.place);
        for (Chassis& chassis : device.stack)
            if (chassis.place.in == id)
                chassis.place = placeWithout(network, gone, chassis.place);
        network.put(std::move(device));
    }
    changeWhere<Vlan>(network, [&](Vlan& vlan) {
        if (vlan.scope == id)
            vlan.scope = gone.parent;
    });
    changeWhere<Sheet>(network, [&](Sheet& sheet) {
        if (sheet.shows == id)
            sheet.shows = gone.parent;
    });
    changeWhere<Note>(network, [&](Note& note) {
        if (note.group == id)
            note.group = gone.parent;
    });
    changeWhere<Statement>(network, [&](Statement& statement) {
        for (Party* party : {&statement.from, &statement.to})
            if (party->group == id)
                party->group = {};
    });
    std::vector<Key> routes;
    network.all<CableRoute>().forEach([&](const CableRoute& route) {
        if (route.floor == id)
            routes.push_back(route.key());
    });
    for (const Key route : routes)
        network.erase<CableRoute>(route);
    erasePositions(network, id.value);
    network.erase<Group>({id.value, 0});
}

/// What was fed from devices that are gone is fed no longer, and no half of a pair is left.
void cutFeeds(Network& network, const std::set<DeviceId>& gone) {
    if (gone.empty())
        return;
    changeWhere<Device>(network, [&](Device& device) {
        std::erase_if(device.feeds, [&](const PowerFeed& feed) { return gone.contains(feed.from); });
        if (gone.contains(device.pairedWith))
            device.pairedWith = {};
    });
}

/// Upper links rest on what is left.
void cutSupports(Network& network) {
    std::vector<Link> changed;
    network.all<Link>().forEach([&](const Link& link) {
        const auto isGone = [&](LinkId below) { return !network.link(below); };
        if (!std::any_of(link.over.begin(), link.over.end(), isGone))
            return;
        changed.push_back(link);
        std::erase_if(changed.back().over, isGone);
    });
    for (Link& link : changed)
        network.put(std::move(link));
}

/// What was set aside of something that is gone is forgotten.
void forgetSetAside(Network& network) {
    std::vector<Key> stale;
    network.all<SetAside>().forEach([&](const SetAside& each) {
        const auto there = [&](const ObjectRef& subject) {
            return isThere(network, subject) || network.cable({subject.id}) || network.vlan({subject.id}) ||
                   network.find<Statement>({subject.id, 0}) || network.find<Ring>({subject.id, 0});
        };
        if (!std::all_of(each.subjects.begin(), each.subjects.end(), there))
            stale.push_back(each.key());
    });
    for (const Key key : stale)
        network.erase<SetAside>(key);
}

std::string removalName(const Network& network, const Refs& objects) {
    if (objects.size() != 1)
        return fmt::format("Delete {} objects", objects.size());
    if (const Device* device = network.device({objects.front().id}))
        return "Delete " + device->name;
    if (const Link* link = network.link({objects.front().id}))
        return "Unlink " + linkText(network, *link);
    if (const Group* group = network.group({objects.front().id}))
        return "Ungroup " + group->name;
    if (const CableRoute* route = network.cableRoute({objects.front().id}))
        return "Delete " + route->name;
    return "Delete note";
}

template <class Model>
void carry(const Network& from, Network& to, std::string_view id) {
    const Key key{fnv1a(id), 0};
    if (const Model* model = from.find<Model>(key); model && !to.find<Model>(key))
        to.put(*model);
}

void carryModels(const Network& from, Network& to, const Device& device) {
    carry<DeviceModel>(from, to, device.model);
    for (const FittedModule& module : device.modules)
        carry<ModuleModel>(from, to, module.model);
    for (const FittedTransceiver& transceiver : device.transceivers)
        carry<TransceiverModel>(from, to, transceiver.model);
}

std::vector<VlanId> vlansOf(const Interface& interface) {
    std::vector<VlanId> vlans = interface.tagged;
    if (interface.untagged)
        vlans.push_back(interface.untagged);
    if (interface.voice)
        vlans.push_back(interface.voice);
    vlans.insert(vlans.end(), interface.untaggedToo.begin(), interface.untaggedToo.end());
    return vlans;
}

/// "till-03" → "till-{03..}"; "core" → "core".
std::string patternLike(const std::string& name) {
    const auto last = name.find_last_not_of("0123456789");
    const std::size_t digits = last == std::string::npos ? 0 : last + 1;
    if (digits == name.size() || name.find_first_of("{}") != std::string::npos)
        return name;
    return name.substr(0, digits) + "{" + name.substr(digits) + "..}";
}

/// Pasting: what each old id became.
class Pasting {
public:
    Pasting(Network& network, const Network& piece, SheetId sheet, Point by, IdSource& ids)
        : network_(network), piece_(piece), sheet_(sheet), by_(by), ids_(ids) {
        network.all<Device>().forEach([&](const Device& device) { names_.insert(device.name); });
    }

    Refs run() {
        keepOnSheet();
        piece_.all<Device>().forEach([&](const Device& device) { paste(device); });
        pasteOwned<Port>();
        pasteInterfaces();
        pasteOwned<PanelMap>();
        piece_.all<Link>().forEach([&](const Link& link) { paste(link); });
        piece_.all<Note>().forEach([&](const Note& note) { paste(note); });
        piece_.all<Position>().forEach([&](const Position& position) { paste(position); });
        return subjects_;
    }

private:
    /// What would lie off the sheet is moved less far, all of it alike.
    void keepOnSheet() {
        Point least{sheetLimit, sheetLimit}, most{-sheetLimit, -sheetLimit};
        piece_.all<Position>().forEach([&](const Position& position) {
            least = {std::min(least.x, position.at.x), std::min(least.y, position.at.y)};
            most = {std::max(most.x, position.at.x), std::max(most.y, position.at.y)};
        });
        by_ = moveOnSheet(least, most, by_);
    }

    void paste(const Device& old) {
        Device device = old;
        device.id = ids_.make<DeviceId>();
        device.name = freshName(old.name);
        device.serial.clear();
        device.feeds.clear();   // an outlet feeds one
        device.pairedWith = {}; // a pair is two
        SpanningTree tree = *device.spanningTree;
        tree.address.clear(); // of one bridge
        device.spanningTree = std::move(tree);
        Ospf ospf = *device.ospf;
        ospf.routerId.clear();
        device.ospf = std::move(ospf);
        if (!network_.group(device.group))
            device.group = {};
        fresh_[old.id.value] = device.id.value;
        subjects_.push_back(refTo(device.id));
        carryModels(piece_, network_, device);
        network_.put(std::move(device));
    }

    void paste(const Link& old) {
        Link link = old;
        link.id = ids_.make<LinkId>();
        link.a.device = {fresh_.at(old.a.device.value)};
        link.b.device = {fresh_.at(old.b.device.value)};
        if (const Cable* held = piece_.cable(old.cable)) {
            const auto [at, first] = cables_.try_emplace(held->id, CableId{});
            Cable cable;
            if (first) {
                cable = *held;
                at->second = cable.id = ids_.make<CableId>();
                cable.label.clear();
                cable.measured.clear();
                cable.ends.clear();
            } else { // one cable that carries several links stays one
                cable = *network_.cable(at->second);
            }
            // The near end of a breakout assembly is the port that is split, and is there
            // once.
            const CableType* type = piece_.typeOf(*held);
            const auto near =
                held->ends.empty() ? fresh_.end() : fresh_.find(held->ends.front().at.device.value);
            const bool assembly = type && type->farEnds > 1 && near != fresh_.end();
            const PortRef split = assembly ? PortRef{{near->second}, held->ends.front().at.port} : PortRef{};
            if (assembly && first)
                cable.ends.push_back({split, {}});
            for (const PortRef* end : {&link.a, &link.b})
                if (!assembly || end->device != split.device || !end->port.starts_with(split.port + "/"))
                    cable.ends.push_back({*end, link.positions});
            link.cable = cable.id;
            carry<CableType>(piece_, network_, cable.type);
            network_.put(std::move(cable));
        }
        fresh_[old.id.value] = link.id.value;
        network_.put(std::move(link));
    }

    void paste(const Note& old) {
        Note note = old;
        note.id = ids_.make<NoteId>();
        note.sheet = sheet_;
        if (!network_.group(note.group))
            note.group = {};
        fresh_[old.id.value] = note.id.value;
        subjects_.push_back(refTo(note.id));
        network_.put(std::move(note));
    }

    void paste(const Position& old) {
        const auto at = fresh_.find(old.object);
        if (at == fresh_.end())
            return;
        Position position = old;
        position.sheet = sheet_;
        position.object = at->second;
        position.at = ontoSheet(position.at + by_);
        for (Point& bend : position.bends)
            bend = ontoSheet(bend + by_);
        network_.put(std::move(position));
    }

    template <class Record>
    void pasteOwned() {
        piece_.all<Record>().forEach([&](const Record& old) {
            Record record = old;
            record.device = {fresh_.at(old.device.value)};
            network_.put(std::move(record));
        });
    }

    /// The VLAN of the same id, else of the same number and name, else one brought along.
    VlanId vlanFor(VlanId old) {
        const Vlan* brought = piece_.vlan(old);
        if (!brought || network_.vlan(old))
            return network_.vlan(old) ? old : VlanId{};
        VlanId same;
        network_.all<Vlan>().forEach([&](const Vlan& vlan) {
            if (vlan.number == brought->number && vlan.name == brought->name)
                same = vlan.id;
        });
        if (same)
            return same;
        Vlan vlan = *brought;
        if (!network_.group(vlan.scope))
            vlan.scope = {};
        network_.put(std::move(vlan));
        return old;
    }

    void pasteInterfaces() {
        piece_.all<Interface>().forEach([&](const Interface& old) { fresh_[old.id.value] = ids_.next(); });
        piece_.all<Interface>().forEach([&](const Interface& old) {
            Interface interface = old;
            interface.id = {fresh_.at(old.id.value)};
            interface.device = {fresh_.at(old.device.value)};
            if (const auto parent = fresh_.find(old.parent.value); parent != fresh_.end())
                interface.parent = {parent->second};
            interface.untagged = interface.untagged ? vlanFor(interface.untagged) : VlanId{};
            for (VlanId& vlan : interface.tagged)
                vlan = vlanFor(vlan);
            std::erase(interface.tagged, VlanId{});
            for (VlanId& vlan : interface.untaggedToo)
                vlan = vlanFor(vlan);
            std::erase(interface.untaggedToo, VlanId{});
            interface.voice = interface.voice ? vlanFor(interface.voice) : VlanId{};
            interface.vrrp.clear();
            interface.addresses.clear(); // two devices do not share an address
            interface.mac.clear();
            network_.put(std::move(interface));
        });
    }

    std::string freshName(const std::string& old) {
        if (names_.insert(old).second)
            return old;
        auto names = seriesNames(patternLike(old), 1, {names_.begin(), names_.end()});
        const std::string name = names ? names->front() : old;
        names_.insert(name);
        return name;
    }

    Network& network_;
    const Network& piece_;
    SheetId sheet_;
    Point by_;
    IdSource& ids_;
    std::set<std::string> names_;
    std::unordered_map<std::uint64_t, std::uint64_t> fresh_;
    std::map<CableId, CableId> cables_;
    Refs subjects_;
};

} // namespace

ActResult removeObjects(const Network& network, const Refs& objects) {
    if (objects.empty())
        return error("nothing is selected", "select something first");
    Act act{removalName(network, objects), network, {}};
    std::set<DeviceId> fedFrom; ///< devices that go and may feed others
    for (const ObjectRef ref : objects) {
        switch (ref.kind) {
        case Kind::device:
            if (const Device* device = act.network.device({ref.id})) {
                if (!outletsOf(act.network, *device).empty())
                    fedFrom.insert(device->id);
                removeDevice(act.network, {ref.id});
            }
            break;
        case Kind::link:
            removeLink(act.network, {ref.id});
            break;
        case Kind::group:
            if (act.network.group({ref.id}))
                removeGroup(act.network, {ref.id});
            break;
        case Kind::cableRoute:
            act.network.erase<CableRoute>({ref.id, 0});
            break;
        case Kind::note:
            erasePositions(act.network, ref.id);
            act.network.erase<Note>({ref.id, 0});
            break;
        default:
            return error("this cannot be deleted by itself", "select a device, link, group or note");
        }
    }
    cutFeeds(act.network, fedFrom);
    cutSupports(act.network);
    forgetSetAside(act.network);
    return act;
}

Refs withMembers(const Network& network, const Refs& objects) {
    Refs all = objects;
    for (const ObjectRef each : objects) {
        if (each.kind != Kind::group)
            continue;
        for (const DeviceId id : devicesWithin(network, {each.id}))
            all.push_back(refTo(id));
        for (const GroupId id : groupsWithin(network, {each.id}))
            all.push_back(refTo(id));
    }
    std::sort(all.begin(), all.end());
    all.erase(std::unique(all.begin(), all.end()), all.end());
    return all;
}

Clip copyObjects(const Network& network, SheetId sheet, const Refs& objects) {
    Clip clip;
    clip.piece.put(network.info());
    if (const Sheet* drawn = network.sheet(sheet))
        clip.piece.put(*drawn);
    std::set<DeviceId> copied;
    const auto carryPosition = [&](std::uint64_t id) {
        if (const Position* position = network.position(sheet, id))
            clip.piece.put(*position);
    };
    for (const ObjectRef ref : withMembers(network, objects)) {
        if (const Device* device = network.device({ref.id})) {
            copied.insert(device->id);
            clip.piece.put(*device);
            carryModels(network, clip.piece, *device);
            const auto carryRecord = [&](const auto& record) { clip.piece.put(record); };
            network.all<Port>().forEachIn(ref.id, carryRecord);
            network.all<Interface>().forEachIn(ref.id, [&](const Interface& interface) {
                clip.piece.put(interface);
                for (const VlanId id : vlansOf(interface))
                    if (const Vlan* vlan = network.vlan(id))
                        clip.piece.put(*vlan);
            });
            network.all<PanelMap>().forEachIn(ref.id, carryRecord);
            carryPosition(ref.id);
        } else if (const Note* note = network.note({ref.id})) {
            clip.piece.put(*note);
            carryPosition(ref.id);
        }
    }
    for (const DeviceId device : copied)
        network.forEachLinkOf(device, [&](const Link& link) {
            if (!copied.contains(link.a.device) || !copied.contains(link.b.device))
                return;
            clip.piece.put(link);
            if (const Cable* cable = network.cable(link.cable)) {
                clip.piece.put(*cable);
                carry<CableType>(network, clip.piece, cable->type);
            }
            carryPosition(link.id.value);
        });
    return clip;
}

ActResult pasteClip(const Network& network, SheetId sheet, const Clip& clip, Point by, IdSource& ids) {
    if (clip.empty())
        return error("there is nothing to paste", "copy some devices first");
    Act act{{}, network, {}};
    act.subjects = Pasting(act.network, clip.piece, sheet, by, ids).run();
    act.name =
        act.subjects.size() == 1 ? "Paste 1 object" : fmt::format("Paste {} objects", act.subjects.size());
    return act;
}

ActResult duplicateObjects(const Network& network, SheetId sheet, const Refs& objects, Point by,
                           IdSource& ids) {
    auto act = pasteClip(network, sheet, copyObjects(network, sheet, objects), by, ids);
    if (!act)
        return error("there is nothing to duplicate", "select devices or notes first");
    act->name = act->subjects.size() == 1 ? "Duplicate 1 object"
                                          : fmt::format("Duplicate {} objects", act->subjects.size());
    return act;
}

} // namespace underridge::edit

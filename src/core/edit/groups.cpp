// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/groups.h"

#include "core/edit/objects.h"
#include "core/edit/sheets.h"
#include "core/edit/shown_places.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"
#include "core/scene/plates.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
using scene::Rect;
namespace {

/// Between what is in a group and what comes into it, and the size of an empty one.
constexpr int roomBetween = 24, emptyWidth = 240, emptyHeight = 120;

GroupId groupOf(const Network& network, ObjectRef member) {
    const Device* device = network.device({member.id});
    if (device)
        return device->group;
    const Group* group = network.group({member.id});
    return group ? group->parent : GroupId{};
}

/// Members of a list without those that lie in another of the list.
Refs outermost(const Network& network, const Refs& members) {
    std::set<GroupId> groups;
    for (const ObjectRef each : members)
        if (each.kind == Kind::group)
            groups.insert({each.id});
    Refs out;
    for (const ObjectRef each : members) {
        const auto above = upwards(network, groupOf(network, each));
        if (std::none_of(above.begin(), above.end(), [&](GroupId g) { return groups.contains(g); }))
            out.push_back(each);
    }
    return out;
}

std::string countedName(const Network& network, const char* verb, const Refs& members, const char* more) {
    if (members.size() != 1)
        return fmt::format("{} {} objects{}", verb, members.size(), more);
    const Device* device = network.device({members.front().id});
    const Group* group = network.group({members.front().id});
    return fmt::format("{} {}{}", verb, device ? device->name : group ? group->name : "object", more);
}

/// Puts members into a group, in the tree only.
Result<Done> regroup(Network& network, const Refs& members, GroupId into) {
    for (const ObjectRef member : members) {
        if (const Device* device = network.device({member.id})) {
            Device copy = *device;
            copy.group = into;
            const Group* group = network.group(into);
            const bool physical = group && group->type != GroupKind::cluster;
            const auto holds = [&](const Place& place) {
                return !place.in || !physical || isWithin(network, place.in, into);
            };
            if (!holds(copy.place))
                copy.place = {};
            for (Chassis& chassis : copy.stack)
                if (!holds(chassis.place))
                    chassis.place = {};
            network.put(std::move(copy));
        } else if (const Group* group = network.group({member.id})) {
            if (isWithin(network, into, group->id))
                return error(fmt::format("{} cannot go into itself", group->name), "choose another group");
            Group copy = *group;
            copy.parent = into;
            network.put(std::move(copy));
        } else {
            return error("only devices and groups go into a group", "select these");
        }
    }
    return Done{};
}

/// What members take up on a sheet, all unfolded.
Rect standingOf(const Network& network, SheetId sheet, const Refs& members) {
    Rect all;
    const auto add = [&](DeviceId id) {
        if (const auto plate = scene::plateOf(network, sheet, *network.device(id)))
            all = all.united(plate->frame);
    };
    for (const ObjectRef member : members) {
        if (member.kind == Kind::device)
            add({member.id});
        else
            for (const DeviceId id : devicesWithin(network, {member.id}))
                add(id);
    }
    return all;
}

/// Members that came into a group stand below what was there.
Result<Done> standInside(Network& network, SheetId sheet, const Refs& members, const Rect& there) {
    const Rect block = standingOf(network, sheet, members);
    if (block.empty() || there.empty() || there.contains(block))
        return Done{};
    const Point by{static_cast<int>(std::lround(there.x - block.x)),
                   static_cast<int>(std::lround(there.bottom() + roomBetween - block.y))};
    std::vector<std::pair<ObjectRef, Point>> moves;
    for (const ObjectRef member : members)
        moves.emplace_back(member, by);
    return moveStored(network, sheet, moves);
}

} // namespace

ActResult makeGroup(const Network& network, SheetId sheet, const std::string& name, GroupKind type,
                    const Refs& members, Point emptyAt, IdSource& ids) {
    const Refs taken = outermost(network, members);
    GroupId around;
    if (!taken.empty()) {
        around = groupOf(network, taken.front());
        for (const ObjectRef each : taken)
            around = commonGroup(network, around, groupOf(network, each));
    }
    auto added = addGroup(network, name, type, around, ids);
    if (!added)
        return added;
    Act act = *std::move(added);
    act.name = fmt::format("Group as {}", name);
    const GroupId id{act.subjects.front().id};
    if (taken.empty()) {
        if (!isOnSheet(emptyAt))
            return error("that is off the sheet", "put it nearer to the rest");
        Position drawn = positionOr(act.network, sheet, refTo(id));
        drawn.at = emptyAt;
        drawn.width = emptyWidth;
        drawn.height = emptyHeight;
        act.network.put(std::move(drawn));
    }
    if (auto done = regroup(act.network, taken, id); !done)
        return done.refusal();
    return act;
}

ActResult putInto(const Network& network, const Refs& members, GroupId into) {
    Act act{countedName(network, "Group", members, ""), network, members};
    if (auto done = regroup(act.network, members, into); !done)
        return done.refusal();
    return act;
}

ActResult moveInto(const Network& network, const Refs& members, GroupId into) {
    const Group* group = network.group(into);
    if (into && !group)
        return error("the group is no longer there", "choose another");
    const Refs taken = outermost(network, members);
    Act act{countedName(network, "Move", taken,
                        group ? fmt::format(" into {}", group->name).c_str() : " out of its group"),
            network, taken};
    Refs there;
    if (into)
        network.forEachIn(into, [&](ObjectRef each) {
            if (std::find(taken.begin(), taken.end(), each) == taken.end())
                there.push_back(each);
        });
    if (auto done = regroup(act.network, taken, into); !done)
        return done.refusal();
    for (const Sheet& sheet : network.sheetsInOrder())
        if (auto done = standInside(act.network, sheet.id, taken, standingOf(network, sheet.id, there));
            !done)
            return done.refusal();
    return act;
}

ActResult moveIntoAt(const Network& network, const Look& look, const Refs& members, GroupId into, Point by) {
    const auto shared = sharedFoldingOf(network, look);
    const scene::Folding& before = *shared;
    const Refs taken = outermost(network, members);
    std::vector<Target> targets;
    for (const ObjectRef each : taken)
        if (const auto at = shownCorner(network, look.sheet, before, each))
            targets.push_back({each, *at + by});
    auto moved = moveInto(network, taken, into);
    if (!moved)
        return moved;
    // Into a tile: below what is in there. Into a frame: where they were dropped.
    const scene::ShownGroup* to = before.group(into);
    if (to && to->folded)
        return moved;
    return shownAt(*std::move(moved), look, targets);
}

ActResult placeShown(const Network& network, const Look& look, const DeviceModel& model,
                     const std::vector<Placed>& placed, GroupId group, IdSource& ids) {
    auto act = placeDevices(network, look.sheet, model, placed, group, ids);
    if (!act)
        return act;
    std::vector<Target> targets;
    for (std::size_t i = 0; i < placed.size(); ++i)
        targets.push_back({act->subjects[i], placed[i].at});
    return shownAt(*std::move(act), look, targets);
}

ActResult removeWithMembers(const Network& network, const Refs& objects) {
    Refs all = withMembers(network, objects);
    const std::set<ObjectRef> gone(all.begin(), all.end());
    network.all<Note>().forEach([&](const Note& note) {
        if (note.group && gone.contains(refTo(note.group)) && !gone.contains(refTo(note.id)))
            all.push_back(refTo(note.id));
    });
    auto act = removeObjects(network, all);
    if (act)
        act->name = countedName(network, "Delete", objects, "");
    return act;
}

ActResult setFolded(const Network& network, SheetId sheet, const std::vector<GroupId>& groups, bool folded) {
    if (groups.empty())
        return error("there is no group", "select one");
    const Group* first = network.group(groups.front());
    Act act{groups.size() == 1 && first
                ? fmt::format("{} {}", folded ? "Fold" : "Unfold", first->name)
                : fmt::format("{} {} groups", folded ? "Fold" : "Unfold", groups.size()),
            network,
            {}};
    for (const GroupId id : groups) {
        if (!network.group(id))
            return error("the group is no longer there", "select again");
        act.subjects.push_back(refTo(id));
        if (!folded && !network.position(sheet, id.value))
            continue;
        Position position = positionOr(network, sheet, refTo(id));
        position.folded = folded;
        if (!folded && position.width == 0 && position.extra.empty() && !position.pinned)
            act.network.erase<Position>(position.key());
        else
            act.network.put(std::move(position));
    }
    return act;
}

ActResult drawGroup(const Network& network, SheetId sheet, GroupId id, Point at, int width, int height) {
    const Group* group = network.group(id);
    if (!group)
        return error("the group is no longer there", "select again");
    if (!isOnSheet(at) || !isOnSheet(at + Point{width, height}))
        return error("that is off the sheet", "draw it smaller");
    Act act{fmt::format("Size of {}", group->name), network, {refTo(id)}};
    Position position = positionOr(network, sheet, refTo(id));
    position.at = at;
    position.width = width;
    position.height = height;
    if (width == 0 && !position.folded && position.extra.empty())
        act.network.erase<Position>(position.key());
    else
        act.network.put(std::move(position));
    return act;
}

ActResult ungroup(const Network& network, const Look& look, const std::vector<GroupId>& groups) {
    if (groups.empty())
        return error("there is no group", "select one");
    const auto before = foldingOf(network, look);
    std::vector<Target> targets;
    Refs gone, freed;
    for (const GroupId id : groups) {
        gone.push_back(refTo(id));
        network.forEachIn(id, [&](ObjectRef member) {
            freed.push_back(member);
            if (const auto at = shownCorner(network, look.sheet, before, member))
                targets.push_back({member, *at});
        });
        network.forEachNoteOf(look.sheet, [&](const Note& note) {
            if (note.group != id)
                return;
            if (const auto at = shownCorner(network, look.sheet, before, refTo(note.id)))
                targets.push_back({refTo(note.id), *at});
        });
    }
    auto removed = removeObjects(network, gone);
    if (!removed)
        return removed;
    const Group* first = network.group(groups.front());
    removed->name = groups.size() == 1 && first ? fmt::format("Ungroup {}", first->name)
                                                : fmt::format("Ungroup {} groups", groups.size());
    // Where cables run is said of a floor, in its metres: without it there is nowhere to keep that.
    const auto routes = network.all<CableRoute>().size() - removed->network.all<CableRoute>().size();
    if (routes > 0)
        removed->name += fmt::format(", with {} cable route{}", routes, routes == 1 ? "" : "s");
    removed->subjects = freed;
    return shownAt(*std::move(removed), Look(look.sheet, look.entered), targets);
}

ActResult setGroupKind(const Network& network, GroupId id, GroupKind type) {
    bool routes = false;
    network.all<CableRoute>().forEach([&](const CableRoute& route) { routes |= route.floor == id; });
    if (routes && type != GroupKind::floor)
        return error("cable routes are drawn on it, which only floors have", "delete them first");
    return changeEach<Group>(network, {{id.value, 0}}, fmt::format("Kind: {}", textOf(type)),
                             [&](Group& group) { group.type = type; });
}

ActResult setGroupLevel(const Network& network, GroupId id, int level) {
    if (level < -99 || level > 999)
        return error("a level is a number from -99 to 999", "type such a number");
    return changeEach<Group>(network, {{id.value, 0}}, fmt::format("Level {}", level),
                             [&](Group& group) { group.level = level; });
}

ActResult setSheetGroups(const Network& network, SheetId sheet, bool groups) {
    const Sheet* of = network.sheet(sheet);
    if (groups && of && of->layer == SheetLayer::network)
        return error("routers and subnets are drawn without groups", "look at another sheet for those");
    return changeEach<Sheet>(network, {{sheet.value, 0}}, groups ? "Show groups" : "Hide groups",
                             [&](Sheet& held) { held.groups = groups; });
}

} // namespace underridge::edit

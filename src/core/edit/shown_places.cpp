// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/shown_places.h"

#include "core/model/group_tree.h"
#include "core/scene/plates.h"

#include <limits>
#include <map>
#include <set>

namespace underridge::edit {
using namespace model;
using scene::Folding;
using scene::PointF;
using scene::Rect;
using scene::rounded;
namespace {

/// How often a target is aimed at anew: what moves may itself widen the frame it is in.
constexpr int aims = 4;

/// The group an object is a member of.
GroupId around(const Network& network, ObjectRef object) {
    if (const Device* device = network.device({object.id}))
        return device->group;
    if (const Note* note = network.note({object.id}))
        return note->group;
    const Group* group = network.group({object.id});
    return group ? group->parent : GroupId{};
}

/// How far what is stored of an object has to move for it to be shown at a point.
/// `others`: how the groups are shown without what moves, which then holds no room of its
/// own.
std::optional<Point> wayTo(const Network& network, SheetId sheet, const Folding& folding,
                           const Folding& others, const Target& target) {
    const GroupId level = around(network, target.object);
    auto place = others.placeFor(level, scene::toF(target.at));
    if (!place)
        place = folding.placeFor(level, scene::toF(target.at));
    if (!place && folding.groups().empty())
        place = scene::toF(target.at); // nothing is shown elsewhere than it stands
    if (!place)
        return std::nullopt;
    if (target.object.kind == Kind::group) {
        const auto standing = folding.standing({target.object.id});
        return standing ? std::optional(rounded(*place - PointF{standing->x, standing->y})) : std::nullopt;
    }
    const Position* held = network.position(sheet, target.object.id);
    return held ? std::optional(rounded(*place) - held->at) : std::nullopt;
}

std::vector<scene::Standing> standingsOf(const Network& network, SheetId sheet) {
    std::vector<scene::Standing> devices;
    network.all<Position>().forEachIn(sheet.value, [&](const Position& position) {
        const Device* device = position.of == Kind::device ? network.device({position.object}) : nullptr;
        if (const auto plate = device ? scene::plateOf(network, sheet, *device) : std::nullopt)
            devices.push_back({device->id, device->group, plate->frame});
    });
    return devices;
}

/// The same with some devices as the network has them now; `all` is sorted.
void bringUp(std::vector<scene::Standing>& all, const Network& network, SheetId sheet,
             const std::set<DeviceId>& changed) {
    std::vector<scene::Standing> fresh;
    for (const DeviceId id : changed) {
        const auto at =
            std::lower_bound(all.begin(), all.end(), id,
                             [](const scene::Standing& each, DeviceId v) { return each.device < v; });
        const Device* device = network.device(id);
        const Position* position = network.position(sheet, id.value);
        if (!device || !position)
            continue; // what is gone is no target
        if (at == all.end() || at->device != id) {
            fresh.push_back({id, device->group, scene::plateOf(network, sheet, *device)->frame});
            continue;
        }
        at->in = device->group;
        at->plate.x = position->at.x;
        at->plate.y = position->at.y;
    }
    const auto middle = static_cast<std::ptrdiff_t>(all.size());
    all.insert(all.end(), fresh.begin(), fresh.end());
    std::inplace_merge(all.begin(), all.begin() + middle, all.end(),
                       [](const auto& x, const auto& y) { return x.device < y.device; });
}

bool showsGroups(const Network& network, SheetId id) {
    const Sheet* sheet = network.sheet(id);
    return sheet && sheet->drawsGroups() && network.all<Group>().size() > 0;
}

Folding foldingOf(const Network& network, const Look& look, const std::vector<scene::Standing>& devices) {
    return Folding::of(network, look.sheet,
                       scene::shownGroup(network, *network.sheet(look.sheet), look.entered), devices);
}

/// The same folding with some devices as they stand now, or without them.
Folding refolded(const Folding& folding, const Network& network, const std::set<DeviceId>& devices,
                 const std::set<GroupId>& groups, const std::vector<scene::Standing>* standing) {
    std::vector<Folding::Change> changes;
    for (const DeviceId id : devices) {
        std::optional<scene::Standing> now;
        if (standing) {
            const auto at =
                std::lower_bound(standing->begin(), standing->end(), id,
                                 [](const scene::Standing& each, DeviceId v) { return each.device < v; });
            if (at != standing->end() && at->device == id)
                now = *at;
        }
        changes.push_back({id, now});
    }
    return folding.updated(network, changes, groups);
}

/// The groups that targets are, or hold.
std::set<GroupId> groupsOf(const Network& network, const std::vector<Target>& targets) {
    std::set<GroupId> out;
    for (const Target& target : targets)
        if (target.object.kind == Kind::group) {
            out.insert({target.object.id});
            for (const GroupId id : groupsWithin(network, {target.object.id}))
                out.insert(id);
        }
    return out;
}

/// The devices that targets are, or hold.
std::set<DeviceId> devicesOf(const Network& network, const std::vector<Target>& targets) {
    std::set<DeviceId> out;
    for (const Target& target : targets) {
        if (target.object.kind == Kind::device)
            out.insert({target.object.id});
        else if (target.object.kind == Kind::group)
            for (const DeviceId id : devicesWithin(network, {target.object.id}))
                out.insert(id);
    }
    return out;
}

} // namespace

Folding foldingOf(const Network& network, const Look& look) {
    if (!showsGroups(network, look.sheet))
        return {};
    return look.standing ? foldingOf(network, look, *look.standing)
                         : foldingOf(network, look, standingsOf(network, look.sheet));
}

std::shared_ptr<const Folding> sharedFoldingOf(const Network& network, const Look& look) {
    return look.folding && showsGroups(network, look.sheet)
               ? look.folding
               : std::make_shared<const Folding>(foldingOf(network, look));
}

Position positionOr(const Network& network, SheetId sheet, ObjectRef object) {
    if (const Position* held = network.position(sheet, object.id))
        return *held;
    Position fresh;
    fresh.sheet = sheet;
    fresh.object = object.id;
    fresh.of = object.kind;
    return fresh;
}

std::optional<Point> shownCorner(const Network& network, SheetId sheet, const Folding& folding,
                                 ObjectRef object) {
    const Position* held = network.position(sheet, object.id);
    if (object.kind == Kind::group) {
        const scene::ShownGroup* group = folding.group({object.id});
        return group ? std::optional(rounded({group->frame.x, group->frame.y})) : std::nullopt;
    }
    if (!held || folding.groups().empty())
        return held ? std::optional(held->at) : std::nullopt;
    if (object.kind == Kind::device) {
        const auto plate = folding.plateOf({object.id});
        return plate ? std::optional(rounded({plate->x, plate->y})) : std::nullopt;
    }
    const GroupId level = around(network, object);
    const auto shown = folding.shownFrom(level, scene::toF(held->at));
    if (level && !shown)
        return std::nullopt; // its group is folded
    return rounded(shown.value_or(scene::toF(held->at)));
}

Result<Done> moveStored(Network& network, SheetId sheet,
                        const std::vector<std::pair<ObjectRef, Point>>& moves) {
    std::map<std::uint64_t, Point> by; ///< devices and notes, and groups that were drawn
    for (const auto& [object, way] : moves) {
        by[object.id] = way;
        if (object.kind != Kind::group)
            continue;
        for (const DeviceId device : devicesWithin(network, {object.id}))
            by[device.value] = way;
        std::set<GroupId> within{{object.id}};
        for (const GroupId group : groupsWithin(network, {object.id})) {
            by[group.value] = way;
            within.insert(group);
        }
        network.forEachNoteOf(sheet, [&](const Note& note) {
            if (within.contains(note.group))
                by[note.id.value] = way;
        });
    }
    std::set<LinkId> among;
    const auto bothMove = [&](const Link& link) {
        const auto a = by.find(link.a.device.value), b = by.find(link.b.device.value);
        return a != by.end() && b != by.end() && a->second == b->second;
    };
    for (const auto& [id, way] : by) {
        if (const Position* held = network.position(sheet, id)) {
            Position position = *held;
            position.at = position.at + way;
            if (!isOnSheet(position.at))
                return error("that is off the sheet", "move it less far");
            network.put(std::move(position));
        }
        network.forEachLinkOf({id}, [&](const Link& link) {
            if (bothMove(link))
                among.insert(link.id);
        });
    }
    for (const LinkId id : among)
        if (const Position* held = network.position(sheet, id.value)) {
            Position position = *held;
            for (Point& bend : position.bends)
                bend = ontoSheet(bend + by.at(network.link(id)->a.device.value));
            network.put(std::move(position));
        }
    return Done{};
}

ActResult shownAt(Act act, const Look& look, const std::vector<Target>& targets, const Folding* known) {
    const SheetId sheet = look.sheet;
    const bool grouped = showsGroups(act.network, sheet);
    const std::set<DeviceId> moved = devicesOf(act.network, targets);
    const std::set<GroupId> groups = groupsOf(act.network, targets);
    std::vector<scene::Standing> standing;
    Folding own, others;
    const Folding& before = known ? *known : own;
    if (grouped) {
        standing = look.standing ? *look.standing : standingsOf(act.network, sheet);
        bringUp(standing, act.network, sheet, moved);
        if (!known)
            own = foldingOf(act.network, look, standing);
        others = refolded(before, act.network, moved, {}, nullptr);
    }
    std::vector<std::pair<ObjectRef, Point>> moves;
    for (const Target& target : targets)
        if (const auto way = wayTo(act.network, sheet, before, others, target); way && *way != Point{})
            moves.emplace_back(target.object, *way);
    if (auto done = moveStored(act.network, sheet, moves); !done)
        return done.refusal();
    if (before.groups().empty())
        return act;
    std::int64_t least = std::numeric_limits<std::int64_t>::max();
    Network aimed = act.network;
    for (int aim = 0; aim < aims; ++aim) {
        bringUp(standing, aimed, sheet, moved);
        const Folding now = refolded(before, aimed, moved, groups, &standing);
        moves.clear();
        std::int64_t off = 0;
        for (const Target& target : targets)
            if (const auto at = shownCorner(aimed, sheet, now, target.object); at && *at != target.at) {
                moves.emplace_back(target.object, target.at - *at);
                off += std::abs(target.at.x - at->x) + std::abs(target.at.y - at->y);
            }
        if (off >= least)
            break; // siblings hold the place
        least = off;
        act.network = aimed;
        if (moves.empty() || !moveStored(aimed, sheet, moves))
            break;
    }
    return act;
}

} // namespace underridge::edit

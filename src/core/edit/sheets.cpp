// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/sheets.h"

#include "core/edit/arranging.h"
#include "core/edit/cable_routes.h"
#include "core/edit/shown_places.h"
#include "core/find/filter.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"
#include "core/scene/axes.h"
#include "core/scene/bends.h"
#include "core/scene/layer_network.h"
#include "core/scene/lines.h"
#include "core/scene/overlay_keys.h"
#include "core/scene/plates.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

std::string nameOf(const Network& network, ObjectRef ref) {
    if (const Device* device = network.device({ref.id}))
        return device->name;
    if (const Group* group = network.group({ref.id}))
        return group->name;
    if (const CableRoute* route = network.cableRoute({ref.id}))
        return route->name;
    return ref.kind == Kind::note ? "note" : "object";
}

} // namespace

ActResult moveObjects(const Network& network, const Look& look, const Refs& objects, Point by) {
    const SheetId sheet = look.sheet;
    Act act{objects.size() == 1 ? fmt::format("Move {}", nameOf(network, objects.front()))
                                : fmt::format("Move {} objects", objects.size()),
            network, objects};
    const Sheet* held = network.sheet(sheet);
    if (held && held->mmPerUnit > 0)
        for (const ObjectRef ref : objects)
            if (const CableRoute* route = network.cableRoute({ref.id})) {
                CableRoute moved = *route;
                for (FloorPoint& point : moved.points) {
                    point.xMm += std::int64_t{by.x} * held->mmPerUnit;
                    point.yMm += std::int64_t{by.y} * held->mmPerUnit;
                }
                auto changed = changeCableRoute(act.network, std::move(moved));
                if (!changed)
                    return changed.refusal();
                act.network = std::move(changed->network);
            }
    if (!held || !held->drawsGroups() ||
        network.all<Group>().size() == 0) { // what is shown is what is stored
        std::vector<std::pair<ObjectRef, Point>> moves;
        for (const ObjectRef ref : objects)
            if (ref.kind != Kind::link && ref.kind != Kind::cableRoute)
                moves.emplace_back(ref, by);
        if (auto moved = moveStored(act.network, sheet, moves); !moved)
            return moved.refusal();
        return act;
    }
    const auto shared = sharedFoldingOf(network, look);
    const scene::Folding& folding = *shared;
    std::vector<Target> targets;
    for (const ObjectRef ref : objects)
        if (const auto at = shownCorner(network, sheet, folding, ref); at && ref.kind != Kind::link)
            targets.push_back({ref, *at + by});
    return shownAt(std::move(act), look, targets, &folding);
}

ActResult setBends(const Network& network, const Look& look, LinkId link, std::vector<Point> bends) {
    const SheetId sheet = look.sheet;
    const Link* held = network.link(link);
    if (!held)
        return error("the link is no longer there", "select again");
    const auto shared = bends.empty() ? nullptr : sharedFoldingOf(network, look);
    if (shared && !shared->groups().empty()) {
        const scene::Bends by(*shared, scene::levelOf(network, *held), held->a.device, held->b.device);
        for (Point& bend : bends) {
            const scene::PointF place = by.stored(scene::toF(bend));
            bend = {static_cast<int>(std::lround(place.x)), static_cast<int>(std::lround(place.y))};
        }
    }
    if (!std::all_of(bends.begin(), bends.end(), isOnSheet))
        return error("that is off the sheet", "move it less far");
    Act act{bends.empty() ? "Straighten link" : "Bend link", network, {refTo(link)}};
    Position position = positionOr(network, sheet, refTo(link));
    position.bends = std::move(bends);
    if (position.bends.empty() && position.extra.empty())
        act.network.erase<Position>(position.key());
    else
        act.network.put(std::move(position));
    return act;
}

ActResult straighten(const Network& network, SheetId sheet, const std::vector<LinkId>& links) {
    if (links.size() == 1)
        return setBends(network, {sheet}, links.front(), {});
    Act act{fmt::format("Straighten {} links", links.size()), network, {}};
    for (const LinkId id : links) {
        auto straight = setBends(act.network, {sheet}, id, {});
        if (!straight)
            return straight;
        act.network = std::move(straight->network);
        act.subjects.push_back(refTo(id));
    }
    return act;
}

ActResult addNote(const Network& network, const Look& look, Point at, const std::string& text,
                  IdSource& ids) {
    const SheetId sheet = look.sheet;
    if (trimmed(text).empty())
        return error("the note is empty", "type something");
    if (!isOnSheet(at))
        return error("that is off the sheet", "put it nearer to the rest");
    Act act{"Add note", network, {}};
    Note note;
    note.id = ids.make<NoteId>();
    note.sheet = sheet;
    note.text = text;
    const auto folding = sharedFoldingOf(network, look);
    for (const scene::ShownGroup& group : folding->groups()) // outer ones before inner ones
        if (!group.folded && group.frame.contains(scene::toF(at)))
            note.group = group.id;
    Position position = positionOr(network, sheet, refTo(note.id));
    position.at = at;
    act.subjects.push_back(refTo(note.id));
    act.network.put(std::move(note));
    act.network.put(std::move(position));
    const Sheet* held = network.sheet(sheet);
    if (!held || !held->drawsGroups() || network.all<Group>().size() == 0)
        return act;
    const ObjectRef added = act.subjects.front();
    return shownAt(std::move(act), look, {{added, at}});
}

ActResult setNoteGroup(const Network& network, const Look& look, NoteId id, GroupId group) {
    const Note* held = network.note(id);
    if (!held || (group && !network.group(group)))
        return error(held ? "the group is no longer there" : "the note is no longer there", "select again");
    const auto folding = sharedFoldingOf(network, look);
    const auto at = shownCorner(network, look.sheet, *folding, refTo(id));
    Act act{group ? fmt::format("Keep with {}", network.group(group)->name)
                  : std::string("Keep with the sheet"),
            network,
            {refTo(id)}};
    Note note = *held;
    note.group = group;
    act.network.put(std::move(note));
    return at ? shownAt(std::move(act), look, {{refTo(id), *at}}) : ActResult(std::move(act));
}

ActResult setNoteText(const Network& network, NoteId id, const std::string& text) {
    if (trimmed(text).empty())
        return error("the note is empty", "type something, or delete the note");
    auto act = changeEach<Note>(network, {{id.value, 0}}, "Edit note", [&](Note& note) { note.text = text; });
    if (act)
        act->subjects = {refTo(id)};
    return act;
}

ActResult addSheet(const Network& network, const std::string& name, IdSource& ids) {
    if (trimmed(name).empty())
        return error("the name is empty", "type one");
    Act act{fmt::format("Add sheet {}", name), network, {}};
    Sheet sheet;
    sheet.id = ids.make<SheetId>();
    sheet.name = name;
    const auto others = network.sheetsInOrder();
    sheet.order = others.empty() ? 0 : others.back().order + 1;
    act.network.put(std::move(sheet));
    return act;
}

ActResult newSheet(const Network& network, const std::string& name, std::optional<SheetId> from,
                   GroupId group, bool groups, IdSource& ids) {
    for (const Sheet& each : network.sheetsInOrder())
        if (each.name == name)
            return error(fmt::format("there is a sheet {}", name), "choose another name");
    auto act = addSheet(network, name, ids);
    if (!act)
        return act;
    Sheet sheet = act->network.sheetsInOrder().back();
    const Sheet* original = from ? network.sheet(*from) : nullptr;
    if (original) {
        const SheetId id = sheet.id;
        const int order = sheet.order;
        sheet = *original;
        sheet.id = id;
        sheet.order = order;
        sheet.name = name;
    }
    sheet.shows = group ? group : sheet.shows;
    sheet.groups = groups;
    const SheetId made = sheet.id;
    act->network.put(std::move(sheet));
    if (original)
        network.all<Position>().forEachIn(original->id.value, [&](const Position& held) {
            const Device* device = network.device({held.object});
            if (held.of == Kind::note || (device && group && !isWithin(network, device->group, group)))
                return;
            Position copy = held;
            copy.sheet = made;
            act->network.put(std::move(copy));
        });
    act->subjects = {{Kind::sheet, made.value}};
    return act;
}

ActResult removeSheet(const Network& network, SheetId id) {
    const Sheet* sheet = network.sheet(id);
    if (!sheet || network.all<Sheet>().size() < 2)
        return error(sheet ? "this is the only sheet" : "the sheet is no longer there",
                     sheet ? "add another first" : "choose another");
    Act act{fmt::format("Remove sheet {}", sheet->name), network, {}};
    network.forEachNoteOf(id, [&](const Note& note) { act.network.erase<Note>(note.key()); });
    network.all<Position>().forEachIn(
        id.value, [&](const Position& position) { act.network.erase<Position>(position.key()); });
    network.all<Link>().forEach([&](const Link& link) { // of the layer that is drawn there
        if (link.onlyOn == id)
            act.network.erase<Link>(link.key());
    });
    act.network.erase<Sheet>(sheet->key());
    return act;
}

ActResult orderSheets(const Network& network, const std::vector<SheetId>& order) {
    Act act{"Order sheets", network, {}};
    std::vector<SheetId> all = order;
    for (const Sheet& each : network.sheetsInOrder())
        if (std::find(order.begin(), order.end(), each.id) == order.end())
            all.push_back(each.id);
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Sheet* held = network.sheet(all[i]);
        if (!held)
            return error("a sheet is no longer there", "look at the sheets again");
        Sheet sheet = *held;
        sheet.order = static_cast<int>(i);
        act.network.put(std::move(sheet));
    }
    return act;
}

ActResult takeOffSheet(const Network& network, SheetId sheet, const Refs& objects) {
    Act act{objects.size() == 1 ? fmt::format("Take {} off the sheet", nameOf(network, objects.front()))
                                : fmt::format("Take {} objects off the sheet", objects.size()),
            network,
            {}};
    if (const Sheet* held = network.sheet(sheet); held && held->follows())
        return error("what is on this sheet follows from the network",
                     "filter the sheet, or delete what should be gone");
    if (std::any_of(objects.begin(), objects.end(),
                    [](ObjectRef each) { return each.kind == Kind::cableRoute; }))
        return error("a cable route is part of the floor's plan",
                     "delete it, or leave it out of the selection");
    const auto take = [&](std::uint64_t object) { act.network.erase<Position>({sheet.value, object}); };
    for (const ObjectRef each : objects) {
        if (each.kind == Kind::group) {
            for (const DeviceId id : devicesWithin(network, {each.id}))
                take(id.value);
            for (const GroupId id : groupsWithin(network, {each.id}))
                take(id.value);
        }
        take(each.id);
    }
    return act;
}

ActResult setNoteLook(const Network& network, NoteId id, bool behind, bool outline) {
    const Note* held = network.note(id);
    if (!held)
        return error("the note is no longer there", "select again");
    const std::string name = held->outline != outline ? outline ? "Draw the border only" : "Fill the zone"
                             : behind                 ? "Put the note behind"
                                                      : "Put the note in front";
    return changeEach<Note>(network, {{id.value, 0}}, name, [&](Note& note) {
        note.behind = behind;
        note.outline = outline;
    });
}

ActResult addZone(const Network& network, const Look& look, Point at, int width, int height,
                  const std::string& title, IdSource& ids) {
    auto act = addNote(network, look, at, title, ids);
    if (!act)
        return act;
    if (width < 1 || height < 1 || !isOnSheet(at + Point{width, height}))
        return error("that is off the sheet", "draw it smaller");
    act->name = "Add zone";
    Note note = *act->network.note({act->subjects.front().id});
    note.zone = true;
    Position position = *act->network.position(look.sheet, note.id.value);
    position.width = width;
    position.height = height;
    act->network.put(std::move(note));
    act->network.put(std::move(position));
    return act;
}

ActResult setZoneFrame(const Network& network, const Look& look, NoteId id, Point at, int width, int height) {
    constexpr int least = 20;
    const Note* zone = network.note(id);
    const Position* held = zone ? network.position(zone->sheet, id.value) : nullptr;
    if (!held || !zone->zone)
        return error("the zone is no longer there", "select again");
    if (width < least || height < least)
        return error("that is too small to be seen", "draw it larger");
    if (!isOnSheet(at) || !isOnSheet(at + Point{width, height}))
        return error("that is off the sheet", "draw it smaller");
    Act act{"Resize zone", network, {refTo(id)}};
    Position position = *held;
    // What folding cuts out of it lies in it still.
    const auto shared = sharedFoldingOf(network, look);
    const scene::Folding& folding = *shared;
    if (!folding.groups().empty()) {
        const scene::Rect stored{static_cast<double>(held->at.x), static_cast<double>(held->at.y),
                                 static_cast<double>(held->width), static_cast<double>(held->height)};
        const scene::Rect shown = zone->group ? stored : folding.shownOnSheet(stored, true);
        position.width = std::max(least, held->width + width - static_cast<int>(std::lround(shown.w)));
        position.height = std::max(least, held->height + height - static_cast<int>(std::lround(shown.h)));
        act.network.put(std::move(position));
        return shownAt(std::move(act), look, {{refTo(id), at}}, &folding); // a zone holds no room
    }
    position.at = at;
    position.width = width;
    position.height = height;
    act.network.put(std::move(position));
    return act;
}

ActResult showOnSheet(const Network& network, SheetId sheet,
                      const std::vector<std::pair<DeviceId, Point>>& devices) {
    const Sheet* held = network.sheet(sheet);
    if (!held)
        return error("the sheet is no longer there", "choose another");
    if (held->follows())
        return error("what is on this sheet follows from the network", "show them on another");
    Act act{
        devices.size() == 1 ? "Show 1 device" : fmt::format("Show {} devices", devices.size()), network, {}};
    for (const auto& [id, at] : devices) {
        if (!network.device(id))
            return error("the device is no longer there", "select again");
        if (!isOnSheet(at))
            return error("that is off the sheet", "put it nearer to the rest");
        Position position = positionOr(network, sheet, refTo(id));
        position.at = at;
        act.network.put(std::move(position));
        act.subjects.push_back(refTo(id));
    }
    return act;
}

ActResult addGroup(const Network& network, const std::string& name, GroupKind type, GroupId parent,
                   IdSource& ids) {
    if (trimmed(name).empty())
        return error("the name is empty", "type one");
    if (parent && !network.group(parent))
        return error("the group it is to be in is no longer there", "choose another");
    Act act{fmt::format("Add {} {}", titleOf(type), name), network, {}};
    Group group;
    group.id = ids.make<GroupId>();
    group.name = name;
    group.type = type;
    group.parent = parent;
    act.subjects.push_back(refTo(group.id));
    act.network.put(std::move(group));
    return act;
}

ActResult setSheetLabels(const Network& network, SheetId sheet, bool ports, bool links) {
    const Sheet* held = network.sheet(sheet);
    if (!held)
        return error("the sheet is no longer there", "choose another");
    const bool portsChange = held->portLabels != ports;
    return changeEach<Sheet>(network, {held->key()},
                             fmt::format("{} {} labels", (portsChange ? ports : links) ? "Show" : "Hide",
                                         portsChange ? "port" : "link"),
                             [&](Sheet& s) {
                                 s.portLabels = ports;
                                 s.linkLabels = links;
                             });
}

namespace {

/// Ways that links were given as they were arranged go, but for those that a style has drawn along
/// the axes itself, in bundles where there are many.
void forgetArranged(Network& network, SheetId sheet) {
    const Network drawn = scene::networkOn(network, sheet);
    std::vector<Position> changed;
    drawn.all<Link>().forEach([&](const Link& link) {
        const Position* position = network.position(sheet, link.id.value);
        const auto isAligned = [&] {
            std::vector<scene::PointF> path;
            for (const Point bend : position->bends)
                path.push_back(scene::toF(bend));
            return path.size() > 2 && scene::isAligned(path);
        };
        if (!position || !isArrangedWay(drawn, link, *position) || isAligned())
            return;
        changed.push_back(*position);
        changed.back().bends.clear();
    });
    for (Position& position : changed)
        network.put(std::move(position));
}

} // namespace

ActResult setLineStyle(const Network& network, SheetId sheet, LineStyle lines) {
    const Sheet* held = network.sheet(sheet);
    if (!held)
        return error("the sheet is no longer there", "choose another");
    auto act = changeEach<Sheet>(network, {held->key()}, "Links " + std::string(titleOf(lines)),
                                 [&](Sheet& s) { s.lines = lines; });
    if (act && lines != LineStyle::straight)
        forgetArranged(act->network, sheet);
    return act;
}

ActResult setLinksOnDemand(const Network& network, SheetId sheet, bool on) {
    const Sheet* held = network.sheet(sheet);
    if (!held)
        return error("the sheet is no longer there", "choose another");
    return changeEach<Sheet>(network, {held->key()}, on ? "Links of the selection only" : "All links",
                             [&](Sheet& s) { s.linksOnDemand = on; });
}

ActResult setSheetFilter(const Network& network, SheetId sheet, const std::string& filter, bool hides) {
    const Sheet* held = network.sheet(sheet);
    if (!held)
        return error("the sheet is no longer there", "choose another");
    const std::string wanted = trimmed(filter);
    if (const auto read = find::Filter::parse(wanted); !read)
        return read.refusal();
    return changeEach<Sheet>(network, {held->key()},
                             wanted.empty() ? fmt::format("Show everything on {}", held->name)
                                            : fmt::format("Filter {}", held->name),
                             [&](Sheet& s) {
                                 s.filter = wanted;
                                 s.filterHides = hides;
                             });
}

ActResult setSheetOverlays(const Network& network, SheetId sheet, const std::vector<std::string>& keys) {
    const Sheet* of = network.sheet(sheet);
    if (!of)
        return error("the sheet is no longer there", "choose another");
    const auto kept = scene::overlaysOf(*of);
    std::vector<std::string> wanted;
    for (const std::string& each : keys) {
        const bool held =
            std::find(kept.begin(), kept.end(), each) != kept.end(); // perhaps a newer version's
        const auto key = scene::OverlayKey::parse(each);
        if (!key && !held)
            return key.refusal();
        const std::string text = key ? key->text() : each;
        if (std::find(wanted.begin(), wanted.end(), text) == wanted.end())
            wanted.push_back(text);
    }
    return changeEach<Sheet>(network, {{sheet.value, 0}},
                             wanted.empty() ? "Take overlays off" : "Lay over the sheet",
                             [&](Sheet& s) { s.overlay = scene::overlayText(wanted); });
}

ActResult renameSheet(const Network& network, SheetId sheet, const std::string& name) {
    if (trimmed(name).empty())
        return error("the name is empty", "type one");
    return changeEach<Sheet>(network, {{sheet.value, 0}}, fmt::format("Rename sheet to {}", name),
                             [&](Sheet& s) { s.name = name; });
}

ActResult renameNetwork(const Network& network, const std::string& name) {
    if (trimmed(name).empty())
        return error("the name is empty", "type one");
    return changeEach<NetworkInfo>(network, {{}}, fmt::format("Rename network to {}", name),
                                   [&](NetworkInfo& info) { info.name = name; });
}

} // namespace underridge::edit

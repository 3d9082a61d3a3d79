// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/sheets.h"

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
    return ref.kind == Kind::note ? "note" : "object";
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

} // namespace

ActResult moveObjects(const Network& network, SheetId sheet, const Refs& objects, Point by) {
    Act act{objects.size() == 1 ? fmt::format("Move {}", nameOf(network, objects.front()))
                                : fmt::format("Move {} objects", objects.size()),
            network, objects};
    std::set<DeviceId> moved;
    for (const ObjectRef ref : objects) {
        const Position* held = network.position(sheet, ref.id);
        if (!held || ref.kind == Kind::link)
            continue;
        Position position = *held;
        position.at = position.at + by;
        if (!isOnSheet(position.at))
            return error("that is off the sheet", "move it less far");
        act.network.put(std::move(position));
        if (ref.kind == Kind::device)
            moved.insert(DeviceId{ref.id});
    }
    for (const DeviceId device : moved)
        network.forEachLinkOf(device, [&](const Link& link) {
            const Position* held = network.position(sheet, link.id.value);
            if (!held || link.a.device != device || !moved.contains(link.b.device))
                return;
            Position position = *held;
            for (Point& bend : position.bends)
                bend = ontoSheet(bend + by);
            act.network.put(std::move(position));
        });
    return act;
}

ActResult setBends(const Network& network, SheetId sheet, LinkId link, std::vector<Point> bends) {
    if (!network.link(link))
        return error("the link is no longer there", "select again");
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

ActResult addNote(const Network& network, SheetId sheet, Point at, const std::string& text, IdSource& ids) {
    if (trimmed(text).empty())
        return error("the note is empty", "type something");
    if (!isOnSheet(at))
        return error("that is off the sheet", "put it nearer to the rest");
    Act act{"Add note", network, {}};
    Note note;
    note.id = ids.make<NoteId>();
    note.sheet = sheet;
    note.text = text;
    Position position = positionOr(network, sheet, refTo(note.id));
    position.at = at;
    act.subjects.push_back(refTo(note.id));
    act.network.put(std::move(note));
    act.network.put(std::move(position));
    return act;
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

ActResult showOnSheet(const Network& network, SheetId sheet,
                      const std::vector<std::pair<DeviceId, Point>>& devices) {
    if (!network.sheet(sheet))
        return error("the sheet is no longer there", "choose another");
    Act act{
        devices.size() == 1 ? "Show 1 device" : fmt::format("Show {} devices", devices.size()), network, {}};
    for (const auto& [id, at] : devices) {
        if (!network.device(id))
            return error("the device is no longer there", "select again");
        if (!isOnSheet(at))
            return error("that is off the sheet", "put it nearer to the rest");
        Position position;
        position.sheet = sheet;
        position.object = id.value;
        position.of = Kind::device;
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

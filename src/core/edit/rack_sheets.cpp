// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/rack_sheets.h"

#include "core/edit/sheets.h"
#include "core/edit/shown_places.h"
#include "core/model/group_tree.h"
#include "core/model/racks.h"
#include "core/model/standing.h"
#include "core/scene/plates.h"
#include "core/scene/rack.h"

#include <cmath>
#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

/// A rack on a sheet.
struct Elevation {
    GroupId rack;
    int units = 0;
    scene::SheetRack drawn;
};

std::optional<Elevation> elevationOf(const Network& network, SheetId sheet, GroupId rack) {
    const Group* group = network.group(rack);
    const Position* position = network.position(sheet, rack.value);
    if (!group || !isRack(group->type) || group->rackUnits < 1 || !position || position->width < 1)
        return std::nullopt;
    return Elevation{rack, group->rackUnits, {scene::toF(position->at), group->rackUnits}};
}

/// Where it is mounted in a rack, by the device itself.
Mounted mountedAt(const Network& network, const Device& device) {
    return mountedAs(network, device, device.place.unit, device.place.side, device.place.half);
}

Point onSheet(scene::PointF p) {
    return ontoSheet({static_cast<int>(std::lround(p.x)), static_cast<int>(std::lround(p.y))});
}

/// Plates of what is mounted in a rack stand at their units, where they are on the sheet.
void standAtUnits(Network& network, SheetId sheet, const Elevation& elevation) {
    std::vector<DeviceId> devices;
    network.forEachPlacedIn(elevation.rack, [&](const Device& device) {
        if (device.place.in == elevation.rack && device.place.unit > 0)
            devices.push_back(device.id);
    });
    for (const DeviceId id : devices) {
        const Position* held = network.position(sheet, id.value);
        const auto plate = held ? scene::plateOf(network, sheet, *network.device(id)) : std::nullopt;
        if (!plate)
            continue;
        Position position = *held;
        position.at =
            onSheet(elevation.drawn.corner(mountedAt(network, *network.device(id)), plate->frame.h));
        if (!(position.at == held->at))
            network.put(std::move(position));
    }
}

/// The rack a plate was dropped in: the one its device is a member of, or stands in.
std::optional<Elevation> elevationFor(const Network& network, SheetId sheet, const Device& device) {
    if (auto own = elevationOf(network, sheet, device.place.in))
        return own;
    return elevationOf(network, sheet, device.group);
}

/// A plate was moved: its device is mounted there, if there is room near by.
void mountWhereDrawn(Network& network, const Position& position) {
    const Device* held = network.device({position.object});
    const auto elevation = held ? elevationFor(network, position.sheet, *held) : std::nullopt;
    const auto plate = elevation ? scene::plateOf(network, position.sheet, *held) : std::nullopt;
    if (!plate)
        return;
    Mounted wanted = mountedAt(network, *held);
    wanted.side = elevation->drawn.sideAt(plate->frame.centre());
    if (wanted.halfWide)
        wanted.half = elevation->drawn.halfAt(plate->frame.centre());
    wanted.unit = std::clamp(elevation->drawn.unitAt(plate->frame.centre(), wanted.height), 1,
                             std::max(1, elevation->units - wanted.height + 1));
    const auto unit = nearestRoom(network, elevation->rack, wanted);
    if (!unit)
        return; // where it stood it stands
    Device device = *held;
    device.place = Place{elevation->rack, 0, 0, 0, *unit, wanted.side, wanted.half};
    agreeWithPlace(network, device);
    if (!(device == *held))
        network.put(std::move(device));
}

} // namespace

ActResult sheetOfRacks(const Network& network, const std::vector<GroupId>& wanted, const std::string& name,
                       IdSource& ids) {
    constexpr int between = 220;
    std::vector<GroupId> racks;
    for (const GroupId id : wanted.empty() ? racksOf(network) : wanted)
        if (const Group* group = network.group(id); group && isRack(group->type) && group->rackUnits > 0)
            racks.push_back(id);
    if (racks.empty())
        return error("no rack there has units", "give a rack or cabinet some in its details");
    GroupId around = racks.front();
    for (const GroupId id : racks)
        around = commonGroup(network, around, id);
    auto act = newSheet(network, name, std::nullopt, around, true, ids);
    if (!act)
        return act;
    act->name = fmt::format("Draw {} by unit", racks.size() == 1 ? network.group(racks.front())->name
                                                                 : fmt::format("{} racks", racks.size()));
    Sheet sheet = *act->network.sheet({act->subjects.front().id});
    sheet.racks = true;
    sheet.closing = false; // a rack is known by what is where in it
    act->network.put(sheet);
    int x = 0;
    for (const GroupId id : racks) {
        const scene::SheetRack drawn{{static_cast<double>(x), 0}, network.group(id)->rackUnits};
        Position position = positionOr(act->network, sheet.id, refTo(id));
        position.at = {x, 0};
        position.width = static_cast<int>(drawn.frame().w);
        position.height = static_cast<int>(drawn.frame().h);
        act->network.put(position);
        x += position.width + between;
        for (const Mounted& each : mountedIn(network, id)) {
            if (each.unit < 1 || network.device(each.device)->place.in != id)
                continue; // a chassis of a stack that stands elsewhere
            Position plate = positionOr(act->network, sheet.id, refTo(each.device));
            plate.at = position.at;
            act->network.put(std::move(plate));
        }
        standAtUnits(act->network, sheet.id, *elevationOf(act->network, sheet.id, id));
    }
    return act;
}

void followRacks(const Network& before, Network& after) {
    std::set<SheetId> sheets;
    after.all<Sheet>().forEach([&](const Sheet& sheet) {
        if (sheet.racks)
            sheets.insert(sheet.id);
    });
    if (sheets.empty())
        return;
    std::vector<Position> moved;
    std::set<GroupId> racks; // what stands in them may have to go elsewhere
    std::set<DeviceId> placed;
    Network::compare(before, after, [&]<class R>(const R* was, const R* is) {
        if constexpr (std::is_same_v<R, Position>) {
            if (!is || !sheets.contains(is->sheet))
                return;
            if (is->of == Kind::device && (!was || !(was->at == is->at)))
                moved.push_back(*is);
            else if (is->of == Kind::group)
                racks.insert({is->object});
        } else if constexpr (std::is_same_v<R, Device>) {
            if (is && (!was || !(was->place == is->place)))
                placed.insert(is->id);
        } else if constexpr (std::is_same_v<R, Group>) {
            if (is && was && was->rackUnits != is->rackUnits)
                racks.insert(is->id);
        }
    });
    for (const Position& position : moved) {
        const DeviceId id{position.object};
        if (!placed.contains(id) || !after.device(id)->place.in)
            mountWhereDrawn(after, position);
        if (const Device* device = after.device(id))
            racks.insert(device->place.in);
    }
    for (const DeviceId id : placed)
        racks.insert(after.device(id)->place.in);
    for (const SheetId sheet : sheets)
        for (const GroupId rack : racks)
            if (const auto elevation = elevationOf(after, sheet, rack))
                standAtUnits(after, sheet, *elevation);
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/places.h"

#include "core/model/racks.h"
#include "core/model/standing.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

constexpr std::int64_t furthest = 100'000'000;

bool isFar(std::int64_t mm) {
    return mm > furthest || mm < -furthest;
}

} // namespace

ActResult placeGroup(const Network& network, GroupId id, std::int64_t xMm, std::int64_t yMm,
                     std::int64_t heightMm) {
    const Group* group = network.group(id);
    if (!group)
        return error("it is no longer there", "choose another");
    if (isFar(xMm) || isFar(yMm) || isFar(heightMm))
        return error("that is further than 100 km", "enter a place on the site");
    return changeEach<Group>(network, {group->key()}, fmt::format("Place of {}", group->name), [&](Group& g) {
        g.xMm = xMm;
        g.yMm = yMm;
        g.heightMm = heightMm;
    });
}

ActResult setPlace(const Network& network, const std::vector<DeviceId>& devices, const Place& place,
                   std::string name) {
    const Group* in = network.group(place.in);
    if (place.in && !(in && canStandIn(in->type)))
        return error("nothing can stand in that", "choose a floor, a room, a rack or a cabinet");
    if (isFar(place.xMm) || isFar(place.yMm) || isFar(place.heightMm))
        return error("that is further than 100 km", "enter a place on the site");
    const int most = in && in->rackUnits > 0 ? in->rackUnits : 0;
    if (place.unit < 0 || (most > 0 && place.unit > most))
        return error("the rack has no such unit",
                     most > 0 ? fmt::format("enter 1 to {}", most) : "count from 1, the lowest");
    std::vector<Key> keys;
    for (const DeviceId id : devices)
        keys.push_back({id.value, 0});
    return changeEach<Device>(network, keys, std::move(name), [&](Device& device) {
        device.place = place;
        agreeWithPlace(network, device);
    });
}

ActResult mountInRack(const Network& network, DeviceId id, GroupId rackId, int unit, Side side, Half half) {
    const Device* held = network.device(id);
    const Group* rack = network.group(rackId);
    if (!held || !rack)
        return error(held ? "the rack is no longer there" : "the device is no longer there", "select again");
    if (rack->rackUnits < 1)
        return error(fmt::format("{} has no units", rack->name), "give it some in its details");
    const Mounted wanted = mountedAs(network, *held, unit, side, half);
    const auto room = nearestRoom(network, rackId, wanted);
    const std::string remedy =
        room ? fmt::format("unit {} is free", *room) : fmt::format("{} has no room for it", rack->name);
    if (unit < 1 || wanted.top() > rack->rackUnits)
        return error(fmt::format("{} has {} units, {} needs {} from unit {}", rack->name, rack->rackUnits,
                                 held->name, wanted.height, unit),
                     remedy);
    if (const auto there = inTheWay(network, rackId, wanted)) {
        const Device* other = network.device(there->device);
        if (there->side != side)
            return error(fmt::format("{} ({} mm deep) and {} behind it ({} mm) do not go into {} mm",
                                     held->name, wanted.depthMm, other->name, there->depthMm, rack->depthMm),
                         remedy);
        return error(there->height == 1 ? fmt::format("unit {} is taken by {}", there->unit, other->name)
                                        : fmt::format("units {} to {} are taken by {}", there->unit,
                                                      there->top(), other->name),
                     remedy);
    }
    return changeEach<Device>(network, {held->key()},
                              fmt::format("Mount {} in {} unit {}", held->name, rack->name, unit),
                              [&](Device& device) {
                                  device.place = Place{rackId, 0, 0, 0, unit, side, half};
                                  if (!network.group(device.group))
                                      device.group = rackId;
                                  agreeWithPlace(network, device);
                              });
}

ActResult newInRack(const Network& network, const DeviceModel& model, const std::string& name, GroupId rack,
                    int unit, Side side, IdSource& ids, Half half) {
    if (model.rackUnits < 1)
        return error(fmt::format("{} does not go in a rack", model.name), "choose a model with rack units");
    Network with = network;
    with.put(model);
    Device device;
    device.id = ids.make<DeviceId>();
    device.name = name;
    device.model = model.id;
    device.group = rack;
    with.put(device);
    auto act = mountInRack(with, device.id, rack, unit, side, half);
    if (act)
        act->subjects = {refTo(device.id)};
    return act;
}

ActResult setRackUnits(const Network& network, GroupId id, int units) {
    const Group* rack = network.group(id);
    if (!rack)
        return error("the rack is no longer there", "select again");
    if (units < 0 || units > 100)
        return error(fmt::format("a rack has no {} units", units), "enter 0 to 100");
    for (const Mounted& each : mountedIn(network, id))
        if (each.top() > units && each.unit > 0)
            return error(fmt::format("{} is in unit {}", network.device(each.device)->name, each.top()),
                         "move it first");
    return changeEach<Group>(network, {rack->key()}, fmt::format("Units of {}", rack->name),
                             [&](Group& g) { g.rackUnits = units; });
}

ActResult setRackDepth(const Network& network, GroupId id, int mm) {
    constexpr int deepest = 3'000;
    const Group* rack = network.group(id);
    if (!rack)
        return error("the rack is no longer there", "select again");
    if (mm < 0 || mm > deepest)
        return error(fmt::format("a rack is not {} mm deep", mm), "enter 0 to 3 m");
    return changeEach<Group>(network, {rack->key()}, fmt::format("Depth of {}", rack->name),
                             [&](Group& g) { g.depthMm = mm; });
}

ActResult setRisers(const Network& network, GroupId building, std::vector<Riser> risers) {
    const Group* group = network.group(building);
    if (!group || group->type != GroupKind::building)
        return error("only a building has risers", "choose one");
    std::set<std::string> names;
    for (const Riser& riser : risers) {
        if (trimmed(riser.name).empty())
            return error("the name is empty", "type one");
        if (!names.insert(riser.name).second)
            return error(fmt::format("two risers are named {}", riser.name), "give each its own name");
        if (isFar(riser.xMm) || isFar(riser.yMm))
            return error("that is further than 100 km", "enter a place in the building");
    }
    return changeEach<Group>(network, {group->key()}, fmt::format("Risers of {}", group->name),
                             [&](Group& g) { g.risers = std::move(risers); });
}

} // namespace underridge::edit

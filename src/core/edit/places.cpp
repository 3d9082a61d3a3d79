// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/places.h"

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

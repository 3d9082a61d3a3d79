// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/standing.h"

#include <charconv>

namespace underridge::model {
namespace {

const Chassis* chassisOf(const Device& device, const std::string& port) {
    int number = 0;
    const auto [at, fault] = std::from_chars(port.data(), port.data() + port.size(), number);
    if (fault != std::errc{} || at == port.data() + port.size() || *at != '/')
        return nullptr;
    for (const Chassis& chassis : device.stack)
        if (chassis.number == number)
            return &chassis;
    return nullptr;
}

} // namespace

bool isRack(GroupKind kind) {
    return kind == GroupKind::rack || kind == GroupKind::cabinet;
}

bool canStandIn(GroupKind kind) {
    return kind == GroupKind::floor || kind == GroupKind::room || kind == GroupKind::rack ||
           kind == GroupKind::cabinet;
}

const Group* groupAbove(const Network& network, const Group* group, GroupKind kind) {
    while (group && group->type != kind)
        group = network.group(group->parent);
    return group;
}

bool isWithin(const Network& network, GroupId inner, GroupId outer) {
    const Group* group = network.group(inner);
    while (group && group->id != outer)
        group = network.group(group->parent);
    return group;
}

Place placeOf(const Network& network, const PortRef& port) {
    const Device* device = network.device(port.device);
    if (!device)
        return {};
    if (const Chassis* chassis = chassisOf(*device, port.port); chassis && chassis->place.in)
        return chassis->place;
    return device->place;
}

const Group* floorDrawn(const Network& network, const Sheet& sheet) {
    return sheet.mmPerUnit > 0 ? groupAbove(network, network.group(sheet.shows), GroupKind::floor) : nullptr;
}

void agreeWithPlace(const Network& network, Device& device) {
    const Group* group = network.group(device.group);
    const bool isPhysical = group && group->type != GroupKind::cluster;
    if (isPhysical && device.place.in && !isWithin(network, device.place.in, group->id))
        device.group = device.place.in;
}

} // namespace underridge::model

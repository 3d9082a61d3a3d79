// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/racks.h"

#include "core/base/text.h"
#include "core/model/power.h"
#include "core/model/standing.h"

#include <algorithm>

namespace underridge::model {

int rackHeight(const Network& network, const Device& device) {
    const DeviceModel* model = network.modelOf(device);
    return model && model->rackUnits > 0 ? model->rackUnits : 1;
}

Mounted mountedAs(const Network& network, const Device& device, int unit, Side side, Half half) {
    const DeviceModel* model = network.modelOf(device);
    Mounted out;
    out.device = device.id;
    out.unit = unit;
    out.height = rackHeight(network, device);
    out.side = side;
    out.halfWide = model && model->halfWidth;
    out.half = half;
    out.depthMm = model ? model->depthMm : 0;
    return out;
}

bool collide(const Mounted& a, const Mounted& b, int rackDepthMm) {
    if (a.unit < 1 || b.unit < 1 || a.unit > b.top() || b.unit > a.top())
        return false;
    if (a.halfWide && b.halfWide && a.half != b.half)
        return false; // beside one another
    if (a.side == b.side)
        return true;
    return rackDepthMm > 0 && a.depthMm > 0 && b.depthMm > 0 && a.depthMm + b.depthMm > rackDepthMm;
}

std::vector<Mounted> mountedIn(const Network& network, GroupId rack) {
    std::vector<Mounted> out;
    network.forEachPlacedIn(rack, [&](const Device& device) {
        if (device.place.in == rack)
            out.push_back(
                mountedAs(network, device, device.place.unit, device.place.side, device.place.half));
        for (const Chassis& chassis : device.stack)
            if (chassis.place.in == rack) {
                out.push_back(
                    mountedAs(network, device, chassis.place.unit, chassis.place.side, chassis.place.half));
                out.back().height = 1;
            }
    });
    std::stable_sort(out.begin(), out.end(),
                     [](const Mounted& a, const Mounted& b) { return a.unit < b.unit; });
    return out;
}

std::optional<Mounted> inTheWay(const Network& network, GroupId rack, const Mounted& wanted) {
    const Group* group = network.group(rack);
    for (const Mounted& each : mountedIn(network, rack))
        if (each.device != wanted.device && collide(each, wanted, group ? group->depthMm : 0))
            return each;
    return std::nullopt;
}

std::optional<int> nearestRoom(const Network& network, GroupId rack, const Mounted& wanted) {
    const Group* group = network.group(rack);
    const int most = group ? group->rackUnits - wanted.height + 1 : 0;
    std::optional<int> best;
    for (int unit = 1; unit <= most; ++unit) {
        Mounted tried = wanted;
        tried.unit = unit;
        if (!inTheWay(network, rack, tried) &&
            (!best || std::abs(unit - wanted.unit) < std::abs(*best - wanted.unit)))
            best = unit;
    }
    return best;
}

RackUse useOf(const Network& network, const Group& rack) {
    std::vector<bool> taken(static_cast<std::size_t>(std::max(0, rack.rackUnits)) + 1);
    for (const Mounted& each : mountedIn(network, rack.id))
        for (int unit = std::max(1, each.unit); each.unit > 0 && unit <= each.top() && unit <= rack.rackUnits;
             ++unit)
            taken[static_cast<std::size_t>(unit)] = true;
    RackUse use;
    use.units = rack.rackUnits;
    network.forEachPlacedIn(rack.id, [&](const Device& device) {
        const DeviceModel* model = network.modelOf(device);
        use.watts += drawOf(network, device);
        use.kg += model ? model->weightKg : 0;
    });
    int gap = 0;
    for (std::size_t unit = 1; unit < taken.size(); ++unit) {
        use.used += taken[unit];
        gap = taken[unit] ? 0 : gap + 1;
        use.largestGap = std::max(use.largestGap, gap);
    }
    return use;
}

std::vector<GroupId> racksOf(const Network& network) {
    std::vector<const Group*> racks;
    network.all<Group>().forEach([&](const Group& group) {
        if (isRack(group.type) && group.rackUnits > 0)
            racks.push_back(&group);
    });
    std::stable_sort(racks.begin(), racks.end(),
                     [](const Group* a, const Group* b) { return naturalLess(a->name, b->name); });
    std::vector<GroupId> out;
    for (const Group* rack : racks)
        out.push_back(rack->id);
    return out;
}

} // namespace underridge::model

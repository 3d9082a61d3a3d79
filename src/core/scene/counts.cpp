// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/counts.h"

#include "core/model/ports.h"
#include "core/model/standing.h"
#include "core/scene/lines.h"

namespace underridge::scene {
using namespace model;
namespace {

void countFreePorts(const Network& network, const Device& device, Counts& counts) {
    for (const PortView& port : portsOf(network, device)) {
        if (!port.isData() || port.like->block == Block::management || port.isShared() || port.reserved() ||
            network.linkAt({device.id, port.key}))
            continue;
        const auto rates = port.rates();
        auto& free = counts.free[rates.empty() ? 0 : rates.back()];
        ++free.ports;
        if (free.at.empty() || free.at.back() != device.id)
            free.at.push_back(device.id);
    }
}

} // namespace

std::vector<DeviceId> missingOn(const Network& network, const Scene& scene) {
    std::vector<DeviceId> out;
    const Sheet* sheet = network.sheet(scene.sheet());
    if (!sheet || sheet->layer != SheetLayer::physical)
        return out;
    const auto belongs = [&](const Device& device) { // on a sheet of racks: what is mounted in them
        return !sheet->racks || (device.place.unit > 0 && network.position(sheet->id, device.place.in.value));
    };
    const GroupId within = network.group(sheet->shows) ? sheet->shows : GroupId{};
    network.all<Device>().forEach([&](const Device& device) {
        if ((!within || isWithin(network, device.group, within)) &&
            !network.position(sheet->id, device.id.value) && belongs(device))
            out.push_back(device.id);
    });
    return out;
}

Counts countsOf(const Network& network, const Scene& scene) {
    Counts counts;
    const Sheet* sheet = network.sheet(scene.sheet());
    counts.missing = missingOn(network, scene);
    std::vector<const Device*> here;
    network.all<Device>().forEach([&](const Device& device) {
        if (!scene.anchorOf(device.id))
            return;
        here.push_back(&device);
        const Role role = roleOf(network, device);
        counts.roles[role].push_back(device.id);
        (isEndpoint(role) ? counts.endpoints : counts.infrastructure).push_back(device.id);
    });
    counts.devices = here.size();
    const bool upper = sheet && sheet->layer != SheetLayer::physical;
    if (upper) {
        scene.forEachLink([&](const LinkLine& line) { counts.lines.push_back(line.object()); });
        counts.links = counts.lines.size();
        scene.forEachPlate([&](const Plate& plate) {
            if (plate.subnet)
                counts.subnets.push_back(plate.object());
        });
    }
    const bool few = !upper && here.size() <= Counts::mostForPorts;
    if (few)
        for (const Device* device : here)
            countFreePorts(network, *device, counts);
    network.all<Link>().forEach([&](const Link& link) {
        if (!sheet || upper || !isDrawnOn(link, *sheet) || !scene.anchorOf(link.a.device) ||
            !scene.anchorOf(link.b.device))
            return;
        ++counts.links;
        counts.media[{formOf(network, link), mediumOf(network, link)}].push_back(link.id);
        if (few)
            counts.speeds[speedOf(network, link)].push_back(link.id);
    });
    scene.forEach<Frame>([&](const Frame& frame) { counts.groups[frame.kind].push_back(frame.id); });
    scene.forEach<Tile>([&](const Tile& tile) { counts.groups[tile.kind].push_back(tile.id); });
    return counts;
}

} // namespace underridge::scene

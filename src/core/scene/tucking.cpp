// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/tucking.h"

#include "core/model/ports.h"
#include "core/model/words.h"
#include "core/scene/lines.h"

#include <algorithm>
#include <map>

namespace underridge::scene {
using namespace model;
namespace {

bool hasPlate(const Network& network, SheetId sheet, const Folding* folding, DeviceId device) {
    return folding ? folding->plateOf(device).has_value() : network.position(sheet, device.value) != nullptr;
}

bool isEndpointAt(const Network& network, DeviceId device) {
    const Device* held = network.device(device);
    return held && isEndpoint(roleOf(network, *held));
}

/// An endpoint with those that hang on it, as a computer behind a phone, and the one device
/// all of them are on; none: they are on none, or on several.
struct Hanging {
    std::vector<DeviceId> endpoints;
    DeviceId on;
};

Hanging hangingWith(const Network& network, SheetId sheet, DeviceId device) {
    constexpr std::size_t most = 16;
    Hanging out;
    if (!isEndpointAt(network, device))
        return out;
    out.endpoints.push_back(device);
    const Sheet& held = *network.sheet(sheet);

    bool one = true;
    for (std::size_t i = 0; i < out.endpoints.size() && one; ++i)
        network.forEachLinkOf(out.endpoints[i], [&](const Link& link) {
            const DeviceId other = link.a.device == out.endpoints[i] ? link.b.device : link.a.device;
            if (!isDrawnOn(link, held) || !network.position(sheet, other.value))
                return;
            if (!isEndpointAt(network, other)) {
                one &= !out.on || out.on == other;
                out.on = other;
            } else if (std::find(out.endpoints.begin(), out.endpoints.end(), other) == out.endpoints.end()) {
                out.endpoints.push_back(other);
                one &= out.endpoints.size() <= most;
            }
        });
    if (!one)
        out.on = {};
    return out;
}

bool tucks(const Network& network, SheetId sheet, DeviceId device) {
    const Position* position = network.position(sheet, device.value);
    return position && position->tucks;
}

} // namespace

DeviceId tuckedInto(const Network& network, SheetId sheet, const Folding* folding, DeviceId device) {
    const Hanging hanging = hangingWith(network, sheet, device);
    const auto isSeen = [&](DeviceId id) { return hasPlate(network, sheet, folding, id); };
    return hanging.on && tucks(network, sheet, hanging.on) && isSeen(hanging.on) &&
                   std::all_of(hanging.endpoints.begin(), hanging.endpoints.end(), isSeen)
               ? hanging.on
               : DeviceId{};
}

std::vector<DeviceId> tuckableAt(const Network& network, SheetId sheet, DeviceId device) {
    std::vector<DeviceId> out;
    if (isEndpointAt(network, device))
        return out;
    network.forEachLinkOf(device, [&](const Link& link) {
        const DeviceId other = link.a.device == device ? link.b.device : link.a.device;
        const Hanging hanging = hangingWith(network, sheet, other);
        if (hanging.on == device)
            out.insert(out.end(), hanging.endpoints.begin(), hanging.endpoints.end());
    });
    std::erase_if(out, [&](DeviceId id) { return !network.position(sheet, id.value); });
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

void takeAround(const Network& network, DeviceId device, std::set<DeviceId>& into) {
    std::vector<DeviceId> open{device};
    while (!open.empty()) {
        const DeviceId at = open.back();
        open.pop_back();
        network.forEachLinkOf(at, [&](const Link& link) {
            const DeviceId other = link.a.device == at ? link.b.device : link.a.device;
            if (into.insert(other).second && isEndpointAt(network, other))
                open.push_back(other);
        });
    }
}

std::vector<DeviceId> tuckedAt(const Network& network, SheetId sheet, const Folding* folding,
                               DeviceId device) {
    if (!tucks(network, sheet, device))
        return {};
    std::vector<DeviceId> out = tuckableAt(network, sheet, device);
    std::erase_if(out, [&](DeviceId id) { return tuckedInto(network, sheet, folding, id) != device; });
    return out;
}

Plate withTucked(const Network& network, SheetId sheet, const Folding* folding, Plate plate) {
    plate.tucked.clear();
    std::map<Role, int> roles;
    for (const DeviceId id : tuckedAt(network, sheet, folding, plate.id))
        ++roles[roleOf(network, *network.device(id))];
    plate.tucked.assign(roles.begin(), roles.end());
    std::stable_sort(plate.tucked.begin(), plate.tucked.end(),
                     [](const auto& a, const auto& b) { return a.second > b.second; });
    return plate;
}

bool anyTucks(const Network& network, SheetId sheet) {
    bool any = false;
    network.all<Position>().forEachIn(sheet.value, [&](const Position& position) { any |= position.tucks; });
    return any;
}

} // namespace underridge::scene

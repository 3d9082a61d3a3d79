// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/within.h"

#include "core/linking/ranking.h"
#include "core/model/ports.h"

#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

/// Of devices in one tier; trying a pair takes some 50 µs.
constexpr std::size_t mostOfTier = 200;

/// How far a device stands from another in tiers, up before level before down.
int distanceOf(int from, int to) {
    constexpr int level = 20, down = 40;
    return to > from ? to - from : to == from ? level : down + from - to;
}

struct Ranked {
    Candidate candidate;
    int transceivers = 0, distance = 0, speed = 0, free = 0;
    std::string name;

    bool operator<(const Ranked& o) const {
        return std::tuple(distance, -speed, transceivers, -free) !=
                       std::tuple(o.distance, -o.speed, o.transceivers, -o.free)
                   ? std::tuple(distance, -speed, transceivers, -free) <
                         std::tuple(o.distance, -o.speed, o.transceivers, -o.free)
                   : naturalLess(name, o.name);
    }
};

std::string reasonFor(const Network& network, const Device& device, std::size_t all,
                      const std::string& port) {
    if (all == 1)
        return port;
    return fmt::format("of {} devices {} is the nearest {} that fits; {}", all, device.name,
                       lowered(titleOf(roleOf(network, device))), port);
}

} // namespace

std::vector<Candidate> candidatesIn(const Network& network, const Catalogue& catalogue, const End& from,
                                    const std::vector<DeviceId>& devices, const Habits& habits,
                                    std::size_t enough) {
    const Device* start = network.device(from.device);
    std::map<int, std::vector<const Device*>> tiers;
    for (const DeviceId id : devices)
        if (const Device* device = network.device(id); device && start && id != from.device)
            tiers[distanceOf(tierOf(network, *start), tierOf(network, *device))].push_back(device);
    Fits fits(catalogue);
    std::vector<Ranked> ranked;
    for (const auto& [distance, members] : tiers) {
        if (ranked.size() >= enough)
            break;
        for (std::size_t i = 0; i < std::min(members.size(), mostOfTier); ++i) {
            const Device& device = *members[i];
            auto pair = bestPair(network, fits, from, {device.id, {}}, habits);
            if (!pair)
                continue;
            const PortCount ports = countPorts(network, device);
            pair->reason = reasonFor(network, device, devices.size(), pair->reason);
            const int transceivers = pair->joint.transceivers(), speed = pair->joint.speed;
            ranked.push_back({{device.id, *std::move(pair)},
                              transceivers,
                              distance,
                              speed,
                              ports.all - ports.used,
                              device.name});
        }
    }
    std::sort(ranked.begin(), ranked.end());
    std::vector<Candidate> out;
    for (Ranked& each : ranked)
        out.push_back(std::move(each.candidate));
    return out;
}

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
// What one failure would take down though its neighbours are doubled.
#include "core/analysis/checks.h"
#include "core/model/power.h"
#include "core/model/uplinks.h"

#include <fmt/format.h>
#include <map>
#include <queue>
#include <set>

namespace underridge::analysis {
using namespace model;
namespace {

/// How many steps each station is from where the network comes from; -1: it is joined to
/// nothing of that.
std::vector<int> depthsOf(const Told& told) {
    const Wiring& wiring = told.f.wiring();
    std::vector<int> depths(wiring.stations().size(), -1);
    std::queue<int> next;
    for (const DeviceId root : uplinksOf(told.network).roots)
        if (const int station = wiring.stationOf(root); station >= 0 && depths[at(station)] < 0) {
            depths[at(station)] = 0;
            next.push(station);
        }
    for (; !next.empty(); next.pop())
        for (const int index : wiring.station(next.front()).ports) {
            const LogicalPort& port = wiring.port(index);
            if (port.peer < 0)
                continue;
            const int far = wiring.port(port.peer).station;
            if (depths[at(far)] < 0) {
                depths[at(far)] = depths[at(next.front())] + 1;
                next.push(far);
            }
        }
    return depths;
}

/// What leads towards where the network comes from.
struct Ups {
    std::set<int> to; ///< stations
    std::size_t links = 0;
};

Ups upsOf(const Wiring& wiring, const std::vector<int>& depths, int station) {
    Ups ups;
    for (const int index : wiring.station(station).ports) {
        const LogicalPort& port = wiring.port(index);
        if (!port.up || port.peer < 0)
            continue;
        const int far = wiring.port(port.peer).station;
        if (depths[at(far)] < 0 || depths[at(far)] >= depths[at(station)])
            continue;
        ups.to.insert(far);
        ups.links += port.links.size();
    }
    return ups;
}

/// Switches that hang on one link where most of their like, at the same place, have two.
void checkUplinks(Told& told) {
    const Wiring& wiring = told.f.wiring();
    const auto depths = depthsOf(told);
    std::map<int, Ups> all;
    std::map<int, std::vector<int>> below; // switches by what they hang on
    for (int i = 0; i < static_cast<int>(wiring.stations().size()); ++i) {
        const Station& station = wiring.station(i);
        if (station.role != Role::switch_ || depths[at(i)] < 1)
            continue;
        const Ups& ups = all[i] = upsOf(wiring, depths, i);
        for (const int above : ups.to)
            below[above].push_back(i);
    }
    for (const auto& [station, ups] : all) {
        if (ups.links != 1)
            continue;
        const int above = *ups.to.begin();
        std::size_t others = 0, doubled = 0;
        for (const int sibling : below[above]) {
            others += sibling != station;
            doubled += sibling != station && all[sibling].links > 1;
        }
        if (doubled >= 2 && 3 * doubled >= 2 * others)
            told.tell("uplink-single", {told.device(station)},
                      fmt::format(
                          "{} hangs on {} by one link, while {} of {} other switches there have two or more",
                          told.name(station), told.name(above), doubled, others),
                      "join it by a second link, as they are");
    }
}

/// The chassis or module a port is part of; empty for those of the device itself.
std::string unitOf(const Device& device, const std::string& port) {
    std::string unit;
    for (const FittedModule& module : device.modules)
        if (port.starts_with(module.slot + "/") && module.slot.size() > unit.size())
            unit = module.slot;
    if (unit.empty() && device.stack.size() > 1)
        unit = port.substr(0, port.find('/'));
    return unit;
}

/// LAGs whose members all go with one module or chassis of several.
void checkUnits(Told& told) {
    const Wiring& wiring = told.f.wiring();
    for (int index = 0; index < static_cast<int>(wiring.ports().size()); ++index) {
        const LogicalPort& port = wiring.port(index);
        const Device& device = *wiring.station(port.station).device;
        if (port.members.size() < 2 || port.links.size() < 2 ||
            std::max(device.modules.size(), device.stack.size()) < 2)
            continue;
        std::set<std::string> units;
        for (const PortRef& member : port.members)
            units.insert(unitOf(device, member.port));
        if (units.size() == 1 && !units.begin()->empty())
            told.tell("lag-one-unit", {told.device(port.station), told.link(index)},
                      fmt::format("all {} members of {} are on {} {}, and fail with it", port.members.size(),
                                  told.port(index), device.stack.size() > 1 ? "chassis" : "module",
                                  *units.begin()),
                      "spread them over two");
    }
}

/// Pairs of devices that stand in for each other: multi-chassis pairs, and routers that share
/// an address.
std::set<std::pair<DeviceId, DeviceId>> pairsOf(const Network& network) {
    std::set<std::pair<DeviceId, DeviceId>> pairs;
    const auto add = [&](DeviceId a, DeviceId b) {
        if (a != b && network.device(a) && network.device(b))
            pairs.insert(std::minmax(a, b));
    };
    network.all<Device>().forEach([&](const Device& device) { add(device.id, device.pairedWith); });
    std::map<std::pair<std::string, std::string>, std::vector<DeviceId>> sharing; // VRF and address
    network.all<Interface>().forEach([&](const Interface& interface) {
        for (const Vrrp& vrrp : interface.vrrp)
            sharing[{interface.vrf, vrrp.address.host()}].push_back(interface.device);
    });
    for (const auto& [address, devices] : sharing)
        for (std::size_t i = 1; i < devices.size(); ++i)
            add(devices[i - 1], devices[i]);
    return pairs;
}

void checkFeeds(Told& told) {
    const Network& network = told.network;
    const auto pairs = pairsOf(network);
    if (pairs.empty())
        return;
    const PowerTree power(network);
    for (const auto& [a, b] : pairs) {
        const auto &of = power.needs(a), &others = power.needs(b);
        for (const PowerSource& source : of)
            if (others.contains(source) && source.device != a && source.device != b) {
                told.tell("pair-one-feed", {refTo(a), refTo(b)},
                          fmt::format("{} and {} stand in for each other, but without {} both are dark",
                                      network.device(a)->name, network.device(b)->name, power.nameOf(source)),
                          "feed one of them from elsewhere too");
                break; // what is behind it takes both as well
            }
    }
}

} // namespace

void checkResilience(Told& told) {
    checkUplinks(told);
    checkUnits(told);
    checkFeeds(told);
}

} // namespace underridge::analysis

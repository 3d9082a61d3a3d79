// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/impact.h"

#include "core/linking/chain.h"

#include <algorithm>

#include <map>

namespace underridge::analysis {
using namespace model;
namespace {

/// Stations by what they are joined to: each has the number of its part.
std::vector<std::size_t> partsOf(const Wiring& wiring) {
    const std::size_t unseen = wiring.stations().size();
    std::vector<std::size_t> part(unseen, unseen);
    std::vector<std::size_t> next;
    for (std::size_t start = 0; start < part.size(); ++start) {
        if (part[start] != unseen)
            continue;
        part[start] = start;
        next.push_back(start);
        while (!next.empty()) {
            const Station& station = wiring.stations()[next.back()];
            next.pop_back();
            for (const int index : station.ports) {
                const LogicalPort& port = wiring.port(index);
                if (!port.up || port.peer < 0)
                    continue;
                const auto peer = static_cast<std::size_t>(wiring.port(port.peer).station);
                if (part[peer] != unseen)
                    continue;
                part[peer] = start;
                next.push_back(peer);
            }
        }
    }
    return part;
}

} // namespace

Impact impactOf(const Network& network, ObjectRef object) {
    Impact out;
    const Wiring whole(network);
    const Link* link = network.link({object.id});
    int at = link ? -1 : whole.stationOf({object.id});
    const auto takeBehind = [&](const Link& each) { // panels may be between
        for (const PortRef* end : {&each.a, &each.b})
            if (const auto way = linking::outward(network, *end); at < 0 && !way.empty())
                at = whole.stationOf(way.back().to.device);
    };
    if (link)
        takeBehind(*link);
    else if (at < 0)
        network.forEachLinkOf({object.id}, takeBehind);
    if (at < 0)
        return out;
    const auto before = partsOf(whole);
    const std::size_t mine = before[static_cast<std::size_t>(at)];
    const Wiring left(network, {link ? refTo(link->id) : refTo(DeviceId{object.id})});
    const auto after = partsOf(left);
    std::map<std::size_t, std::vector<DeviceId>> parts;
    for (std::size_t i = 0; i < whole.stations().size(); ++i) {
        const DeviceId device = whole.stations()[i].device->id;
        const int now = left.stationOf(device);
        if (before[i] != mine || now < 0)
            continue;
        ++out.joined;
        parts[after[static_cast<std::size_t>(now)]].push_back(device);
    }
    auto rest = parts.begin();
    for (auto each = parts.begin(); each != parts.end(); ++each)
        if (each->second.size() > rest->second.size())
            rest = each;
    for (auto each = parts.begin(); each != parts.end(); ++each)
        if (each != rest)
            out.cutOff.insert(out.cutOff.end(), each->second.begin(), each->second.end());
    std::sort(out.cutOff.begin(), out.cutOff.end());
    return out;
}

} // namespace underridge::analysis

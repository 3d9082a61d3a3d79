// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/rings.h"

#include <algorithm>
#include <map>

namespace underridge::analysis {
using namespace model;
namespace {

/// Whether all hang together and each station has two of the hops.
bool goesRound(const std::map<int, std::vector<int>>& neighbours) {
    if (neighbours.size() < 2)
        return false;
    for (const auto& [station, others] : neighbours)
        if (others.size() != 2)
            return false;
    std::set<int> met;
    int before = -1, here = neighbours.begin()->first;
    do {
        met.insert(here);
        const auto& others = neighbours.at(here);
        const int next = others[0] == before ? others[1] : others[0];
        before = here;
        here = next;
    } while (!met.contains(here));
    return met.size() == neighbours.size();
}

} // namespace

Rings::Rings(const Wiring& wiring) {
    wiring.network().all<Ring>().forEach([&](const Ring& ring) { all_.push_back(stateOf(ring, wiring)); });
    std::stable_sort(all_.begin(), all_.end(), [](const RingState& a, const RingState& b) {
        return naturalLess(a.record->name, b.record->name);
    });
    for (std::size_t i = 0; i < all_.size(); ++i)
        for (const auto& [a, b] : all_[i].hops)
            for (const int port : {a, b})
                if (port >= 0)
                    at_[port].push_back(static_cast<int>(i));
}

RingState Rings::stateOf(const Ring& ring, const Wiring& wiring) const {
    RingState out;
    out.record = &ring;
    std::map<int, std::vector<int>> neighbours;
    std::set<std::pair<int, int>> seen; // several links of a LAG are one hop
    bool up = !ring.links.empty();
    for (const LinkId id : ring.links) {
        const auto hop = wiring.portsJoinedBy(id);
        if (id == ring.blocked)
            out.blockedHop = static_cast<int>(out.hops.size());
        out.hops.push_back(hop);
        if (hop.first < 0) {
            up = false;
            continue;
        }
        const LogicalPort &a = wiring.port(hop.first), &b = wiring.port(hop.second);
        up = up && a.up && b.up && a.peer == hop.second;
        if (!seen.insert(std::minmax(hop.first, hop.second)).second)
            continue;
        neighbours[a.station].push_back(b.station);
        neighbours[b.station].push_back(a.station);
    }
    for (const auto& [station, others] : neighbours)
        out.stations.push_back(station);
    out.closed = goesRound(neighbours);
    out.whole = out.closed && up;
    return out;
}

bool Rings::blocks(int port, int vlan) const {
    const auto found = at_.find(port);
    if (found == at_.end())
        return false;
    return std::any_of(found->second.begin(), found->second.end(), [&](int index) {
        const RingState& ring = all_[analysis::at(index)];
        if (!ring.blocks())
            return false;
        const auto& [a, b] = ring.hops[analysis::at(ring.blockedHop)];
        const auto& vlans = ring.record->vlans;
        return (port == a || port == b) &&
               (vlans.empty() || std::any_of(vlans.begin(), vlans.end(),
                                             [&](VlanRange range) { return range.contains(vlan); }));
    });
}

const RingState* Rings::at(int port) const {
    const auto found = at_.find(port);
    return found == at_.end() ? nullptr : &all_[analysis::at(found->second.front())];
}

bool Rings::dropsRepeated(int port) const {
    const RingState* ring = at(port);
    if (!ring || ring->record->protocol != RingProtocol::hsr || !ring->whole)
        return false;
    return ring->hops.front().first == port || ring->hops.front().second == port;
}

} // namespace underridge::analysis

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/bgp.h"

#include <algorithm>

namespace underridge::analysis {
using namespace model;
Bgp::Bgp(const Routing& routing, const Wiring& wiring, const Bridging& bridging, const Addressing& addressing)
    : routing_(routing), wiring_(wiring), bridging_(bridging), addressing_(addressing) {}

bool Bgp::speaks(int station) const {
    const Station& at = wiring_.station(station);
    return at.routes && at.device->bgp && at.device->bgp->as > 0;
}

std::uint32_t Bgp::idOf(int station) const {
    return routerIdOf(bridging_, station, wiring_.station(station).device->bgp->routerId);
}

/// Whether an address is on a subnet of the station and answers there.
bool Bgp::directly(int station, const Ip& address) const {
    for (const int i : bridging_.interfacesOf(station)) {
        const NetInterface& each = bridging_.interface(i);
        const bool on = std::any_of(each.record->addresses.begin(), each.record->addresses.end(),
                                    [&](const Address& a) { return prefixOf(a).contains(address); });
        if (each.up && on && !addressing_.answering(i, address).empty())
            return true;
    }
    return false;
}

Bgp::Rift Bgp::riftOf(int station, const BgpNeighbour& neighbour) const {
    const Ip address = ipOf(neighbour.address);
    const auto& holders = addressing_.holders(address);
    const auto holder = std::find_if(holders.begin(), holders.end(), [&](const Held& held) {
        return !held.shared && speaks(bridging_.interface(held.interface).station);
    });
    if (holder == holders.end())
        return Rift::nobody;
    const int other = bridging_.interface(holder->interface).station;
    const model::Bgp& mine = *wiring_.station(station).device->bgp;
    const model::Bgp& theirs = *wiring_.station(other).device->bgp;
    if (theirs.as != neighbour.as)
        return Rift::as;
    const auto names =
        std::find_if(theirs.neighbours.begin(), theirs.neighbours.end(), [&](const BgpNeighbour& n) {
            for (const Held& held : addressing_.holders(ipOf(n.address)))
                if (bridging_.interface(held.interface).station == station)
                    return true;
            return false;
        });
    if (names == theirs.neighbours.end())
        return Rift::unanswered;
    if (names->as != mine.as)
        return Rift::as;
    const Ip back = ipOf(names->address);
    const bool reached = theirs.as != mine.as
                             ? directly(station, address) && directly(other, back)
                             : routing_.base(station).find(address) && routing_.base(other).find(back);
    return reached ? Rift::none : Rift::unreachable;
}

/// What a speaker tells by itself.
Bgp::Paths Bgp::own(int station) const {
    Paths out;
    const model::Bgp& set = *wiring_.station(station).device->bgp;
    const RoutingTable& table = routing_.base(station);
    Path mine;
    mine.routerId = idOf(station);
    for (const Address& network : set.networks)
        if (network.valid() && table.at(prefixOf(network)))
            out[prefixOf(network)] = mine;
    mine.origin = 2;
    for (const RouteEntry& entry : table.entries())
        if (std::find(set.redistribute.begin(), set.redistribute.end(), entry.origin) !=
            set.redistribute.end())
            out.try_emplace(entry.to, mine);
    return out;
}

/// What a speaker makes of the best path of another; nothing when it is not told it or
/// cannot use it.
std::optional<Bgp::Path> Bgp::heard(const Session& session, const Path& path) const {
    const std::int64_t as = wiring_.station(session.from).device->bgp->as;
    const std::int64_t mine = wiring_.station(session.hears).device->bgp->as;
    const bool within = !session.external;
    if (path.from == session.hears || (within && path.from >= 0 && !path.external))
        return std::nullopt; // not back, and not from within to within
    Path out = path;
    if (session.external)
        out.as.insert(out.as.begin(), as);
    if (std::find(out.as.begin(), out.as.end(), mine) != out.as.end())
        return std::nullopt; // section 9.1.2: it was here
    if (session.external || !path.next)
        out.next = session.fromAddress;
    out.external = session.external;
    out.routerId = idOf(session.from);
    out.peer = session.fromAddress;
    out.from = session.from;
    const RouteEntry* way = routing_.base(session.hears).find(out.next);
    if (!way || way->to.length == 0 || way->hops.empty())
        return std::nullopt;
    out.igp = way->metric;
    return out;
}

/// Section 9.1.2.2, without local preferences and discriminators.
bool Bgp::before(const Path& a, const Path& b) {
    const auto rank = [](const Path& path) {
        return std::tuple(path.from >= 0, path.as.size(), path.origin, !path.external, path.igp,
                          path.routerId, path.peer);
    };
    return rank(a) < rank(b);
}

void Bgp::workOut() const {
    std::vector<Session> sessions;
    for (int s = 0; s < static_cast<int>(wiring_.stations().size()); ++s) {
        if (!speaks(s))
            continue;
        best_[s] = own(s);
        const model::Bgp& set = *wiring_.station(s).device->bgp;
        for (const BgpNeighbour& neighbour : set.neighbours)
            if (riftOf(s, neighbour) == Rift::none)
                for (const Held& held : addressing_.holders(ipOf(neighbour.address)))
                    if (const int other = bridging_.interface(held.interface).station; speaks(other)) {
                        sessions.push_back({s, other, ipOf(neighbour.address), neighbour.as != set.as});
                        break;
                    }
    }
    // A path takes as many rounds as it has hops.
    for (std::size_t round = 0; round < best_.size() + 2; ++round) {
        std::map<int, Paths> next;
        for (const auto& [station, paths] : best_)
            next[station] = own(station);
        for (const Session& session : sessions)
            for (const auto& [prefix, path] : best_.at(session.from))
                if (const auto got = heard(session, path)) {
                    const auto [held, fresh] = next[session.hears].try_emplace(prefix, *got);
                    if (!fresh && before(*got, held->second))
                        held->second = *got;
                }
        if (next == best_)
            return;
        best_ = std::move(next);
    }
}

std::vector<RouteEntry> Bgp::routes(int station) const {
    std::vector<RouteEntry> out;
    if (!speaks(station))
        return out;
    std::call_once(once_, [&] { workOut(); });
    const auto paths = best_.find(station);
    if (paths == best_.end())
        return out;
    for (const auto& [prefix, path] : paths->second) {
        const RouteEntry* way = path.next ? routing_.base(station).find(path.next) : nullptr;
        if (!way)
            continue; // its own
        RouteEntry entry{prefix, RouteOrigin::bgp, {}, static_cast<std::int64_t>(path.as.size()), way->hops,
                         false};
        entry.within = !path.external;
        for (NextHop& hop : entry.hops)
            if (!hop.via)
                hop.via = path.next;
        out.push_back(std::move(entry));
    }
    return out;
}

} // namespace underridge::analysis

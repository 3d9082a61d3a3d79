// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of routes, gateways, OSPF and filters.
#include "core/analysis/bgp.h"
#include "core/analysis/checks.h"
#include "core/analysis/ospf.h"
#include "core/analysis/silence.h"

#include <algorithm>
#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;
namespace {

/// One static route: whether it is taken, and what its next hop does with it.
void checkRoute(Told& told, const Route& route) {
    const Forwarding& f = told.f;
    const int station = f.wiring().stationOf(route.device);
    if (station < 0 || route.discards)
        return;
    const std::string name = told.name(station);
    const Refusal refusal = f.routing().refusalOf(route);
    if (refusal != Refusal::none) {
        told.tell("gateway-outside", {told.device(station)},
                  fmt::format("the next hop {} of {} to {} is in none of its subnets", route.via.text(), name,
                              route.to.text()),
                  "correct the next hop, or the address and prefix length of the device");
        return;
    }
    const RouteEntry* entry = f.routing().table(station, route.vrf).at(prefixOf(route.to));
    const Ip via = ipOf(route.via);
    if (!entry || entry->origin != RouteOrigin::fixed)
        return;
    const auto hop = std::find_if(entry->hops.begin(), entry->hops.end(),
                                  [&](const NextHop& each) { return each.via == via; });
    if (hop == entry->hops.end())
        return; // over another route
    const auto answering = f.addressing().answering(hop->interface, via);
    if (answering.empty()) {
        Cause cause = whySilent(f, hop->interface, via);
        if (const auto& holders = f.addressing().holders(via); !holders.empty())
            told.lookAt(holders.front().interface);
        told.tell("gateway-silent", {told.device(station)},
                  fmt::format("the next hop {} of {} does not answer: {}", via.text(), name, cause.reason),
                  std::move(cause.remedy), std::move(cause.acts));
        return;
    }
    const NetInterface& there = f.bridging().interface(answering.front());
    if (!f.wiring().station(there.station).routes) {
        told.tell("gateway-host", {told.device(station), told.device(there.station)},
                  fmt::format("the next hop {} of {} is {}, which does not route", via.text(), name,
                              told.name(there.station)),
                  "correct the next hop, or let that device route");
        return;
    }
    if (route.to.prefixLength() == 0)
        return; // a way out has its end somewhere
    const RouteEntry* onward =
        f.routing().table(there.station, there.record->vrf).find(prefixOf(route.to).base);
    if (!onward) {
        told.tell("route-hole", {told.device(station), told.device(there.station)},
                  fmt::format("{} sends {} to {}, which has no route there", name, route.to.text(),
                              told.name(there.station)),
                  fmt::format("give {} a route to it", told.name(there.station)));
        return;
    }
    const bool back =
        !onward->hops.empty() && onward->origin != RouteOrigin::connected &&
        std::all_of(onward->hops.begin(), onward->hops.end(), [&](const NextHop& next) {
            const auto& holders = f.addressing().holders(next.via);
            return !holders.empty() && f.bridging().interface(holders.front().interface).station == station;
        });
    if (back && route.device < f.wiring().station(there.station).device->id)
        told.tell(
            "route-loop", {told.device(station), told.device(there.station)},
            fmt::format("{} and {} send {} to each other", name, told.name(there.station), route.to.text()),
            "correct the one that is not nearer");
}

void checkRoutesOf(Told& told, int station) {
    told.f.network().all<Route>().forEachIn(told.f.wiring().station(station).device->id.value,
                                            [&](const Route& route) { checkRoute(told, route); });
}

template <class Act>
void eachSubnet(const NetInterface& each, Act act) {
    for (const Address& address : each.record->addresses)
        if (address.valid() && address.prefixLength() >= 0)
            act(prefixOf(address));
}

/// Subnets a router is on, by island.
std::set<std::pair<int, Prefix>> routedIn(const Forwarding& f, int reach) {
    std::set<std::pair<int, Prefix>> routed;
    for (const int i : f.bridging().reaches().all[at(reach)].interfaces)
        if (const NetInterface& each = f.bridging().interface(i);
            each.up && f.wiring().station(each.station).routes && f.bridging().islandOf(i) >= 0)
            eachSubnet(each, [&](const Prefix& subnet) {
                routed.insert({f.bridging().islandOf(i), subnet});
            });
    return routed;
}

/// A host on a subnet with a router, but no way out of it.
void checkWayOut(Told& told, int s, const std::set<std::pair<int, Prefix>>& routed) {
    const Forwarding& f = told.f;
    if (f.wiring().station(s).routes)
        return;
    bool out = false, could = false, asks = false;
    Prefix subnet;
    int any = -1;
    f.network().all<Route>().forEachIn(f.wiring().station(s).device->id.value,
                                       [&](const Route& route) { out |= route.to.prefixLength() == 0; });
    for (const int i : f.bridging().interfacesOf(s))
        if (const NetInterface& each = f.bridging().interface(i); each.up && f.bridging().islandOf(i) >= 0)
            eachSubnet(each, [&](const Prefix& prefix) {
                if (!could && routed.contains({f.bridging().islandOf(i), prefix})) {
                    could = true;
                    asks = each.record->dhcp;
                    subnet = prefix;
                    any = i;
                }
            });
    if (out || !could)
        return;
    if (asks) { // why it hears nothing is told for itself
        const RouteEntry* heard = f.routing().table(s).at(prefixOf(Ip{subnet.base.version, {}}, 0));
        const auto& dhcp = f.routing().dhcp();
        const auto& addresses = f.bridging().interface(any).record->addresses;
        if (heard || std::all_of(addresses.begin(), addresses.end(), [&](const Address& address) {
                return dhcp.silenceOf(any, address) != DhcpSilence::none;
            }))
            return;
        told.tell("gateway-missing", {told.device(s)},
                  fmt::format("{} is told no gateway for {}", told.interface(any), subnet.text()),
                  "state the gateway of the subnet");
        return;
    }
    told.tell("gateway-missing", {told.device(s)},
              fmt::format("{} in {} has no default route", told.interface(any), subnet.text()),
              "give it a default route to the router there");
}

std::string_view textOf(OspfRift rift) {
    switch (rift) {
    case OspfRift::area:
        return "their areas differ";
    case OspfRift::subnet:
        return "their subnets differ";
    case OspfRift::routerId:
        return "their router ids are the same";
    case OspfRift::mtu:
        return "their MTUs differ";
    case OspfRift::network:
        return "one is point to point, the other broadcast";
    case OspfRift::none:
        break;
    }
    return {};
}

/// Routers that hear each other; what OSPF knows of a reach is the same as long as all that
/// routers know is.
void checkNeighbours(Told& told) {
    const Ospf& ospf = told.f.routing().ospf();
    std::map<std::pair<int, int>, std::vector<int>> byIsland;
    for (int p = 0; p < static_cast<int>(ospf.ports().size()); ++p) {
        const OspfPort& port = ospf.ports()[at(p)];
        const int island = told.f.bridging().islandOf(port.interface);
        if (!port.passive && island >= 0)
            byIsland[{island, port.address.version}].push_back(p);
    }
    for (const auto& [island, members] : byIsland)
        for (std::size_t i = 0; i < members.size(); ++i)
            for (std::size_t j = i + 1; j < members.size(); ++j) {
                const OspfPort &a = ospf.ports()[static_cast<std::size_t>(members[i])],
                               &b = ospf.ports()[static_cast<std::size_t>(members[j])];
                const OspfRift rift = ospf.riftBetween(members[i], members[j]);
                if (rift == OspfRift::none || a.router == b.router)
                    continue;
                const NetInterface &x = told.f.bridging().interface(a.interface),
                                   &y = told.f.bridging().interface(b.interface);
                told.tell("ospf-neighbour", {told.device(x.station), told.device(y.station)},
                          fmt::format("{} and {} hear each other but do not become neighbours: {}",
                                      told.interface(a.interface), told.interface(b.interface), textOf(rift)),
                          "set both the same, or make one passive");
                break; // one of each is enough to see it by
            }
}

std::string_view textOf(Bgp::Rift rift) {
    switch (rift) {
    case Bgp::Rift::nobody:
        return "no router that speaks BGP has that address";
    case Bgp::Rift::unreachable:
        return "they do not reach each other";
    case Bgp::Rift::as:
        return "the systems they name are not the ones they are in";
    case Bgp::Rift::unanswered:
        return "it does not name this router in turn";
    case Bgp::Rift::none:
        break;
    }
    return {};
}

void checkBgp(Told& told) {
    const Forwarding& f = told.f;
    for (int s = 0; s < static_cast<int>(f.wiring().stations().size()); ++s) {
        const Device& device = *f.wiring().station(s).device;
        if (!f.wiring().station(s).routes || device.bgp->as <= 0)
            continue;
        for (const BgpNeighbour& neighbour : device.bgp->neighbours)
            if (const Bgp::Rift rift = f.routing().bgp().riftOf(s, neighbour); rift != Bgp::Rift::none)
                told.tell("bgp-neighbour", {told.device(s)},
                          fmt::format("{} has no session with {}: {}", told.name(s), neighbour.address.text(),
                                      textOf(rift)),
                          "name each other by addresses that meet, with the right system");
    }
}

bool covers(const std::vector<Address>& wide, const std::vector<Address>& narrow) {
    if (wide.empty())
        return true;
    return !narrow.empty() && std::all_of(narrow.begin(), narrow.end(), [&](const Address& each) {
        return std::any_of(wide.begin(), wide.end(), [&](const Address& w) {
            const Prefix a = prefixOf(w), b = prefixOf(each);
            return w.valid() && each.valid() && a.length <= b.length && a.contains(b.base);
        });
    });
}

/// Whether all that fits one rule fits an earlier one.
bool covers(const FilterRule& wide, const FilterRule& narrow) {
    const bool ports =
        wide.ports.empty() ||
        (!narrow.ports.empty() && std::all_of(narrow.ports.begin(), narrow.ports.end(), [&](PortRange range) {
            return std::any_of(wide.ports.begin(), wide.ports.end(),
                               [&](PortRange w) { return w.first <= range.first && range.last <= w.last; });
        }));
    return ports && covers(wide.from, narrow.from) && covers(wide.to, narrow.to) &&
           (wide.protocol == Protocol::any || wide.protocol == narrow.protocol) &&
           (wide.fromZone.empty() || wide.fromZone == narrow.fromZone) &&
           (wide.toZone.empty() || wide.toZone == narrow.toZone);
}

} // namespace

void checkRoutes(Told& told, int reach) {
    const auto routed = routedIn(told.f, reach);
    for (const int station : told.f.bridging().reaches().all[at(reach)].residents) {
        checkRoutesOf(told, station);
        checkWayOut(told, station, routed);
    }
}

void checkRoutesBetween(Told& told) {
    const Reaches& reaches = told.f.bridging().reaches();
    std::map<int, std::set<std::pair<int, Prefix>>> known; // by reach
    for (const int station : reaches.travellers) {
        checkRoutesOf(told, station);
        if (told.f.wiring().station(station).routes)
            continue;
        std::set<std::pair<int, Prefix>> routed;
        for (const int i : told.f.bridging().interfacesOf(station)) {
            const int reach = reaches.ofInterface[at(i)];
            const auto [found, fresh] = known.try_emplace(reach);
            if (fresh)
                found->second = routedIn(told.f, reach);
            routed.insert(found->second.begin(), found->second.end());
        }
        checkWayOut(told, station, routed);
    }
}

void checkSessions(Told& told) {
    checkNeighbours(told);
    checkBgp(told);
}

void checkFilters(Told& told) {
    for (int s = 0; s < static_cast<int>(told.f.wiring().stations().size()); ++s) {
        const auto& rules = told.f.wiring().station(s).device->filter->rules;
        const auto name = [&](std::size_t i) {
            return rules[i].name.empty() ? fmt::format("rule {}", i + 1)
                                         : fmt::format("rule {} ({})", i + 1, rules[i].name);
        };
        for (std::size_t later = 1; later < rules.size(); ++later)
            for (std::size_t earlier = 0; earlier < later; ++earlier)
                if (covers(rules[earlier], rules[later])) {
                    told.tell("filter-never", {told.device(s)},
                              fmt::format("{} of {} is never reached: {} fits all it fits", name(later),
                                          told.name(s), name(earlier)),
                              "move it up, or take it away");
                    break;
                }
    }
}

} // namespace underridge::analysis

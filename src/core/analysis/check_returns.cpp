// SPDX-License-Identifier: GPL-3.0-or-later
// Whether answers come back: tried between the places hosts are at, one for all that have the
// same routers.
#include "core/analysis/checks.h"
#include "core/analysis/trace.h"

#include <fmt/format.h>
#include <map>
#include <set>

namespace underridge::analysis {
using namespace model;
namespace {

/// Of more places as many are taken, in even steps: each asks for a routing table.
constexpr std::size_t mostPlaces = 24;

/// Whether anything may lead one way only: static routes, filters, or a router that tells OSPF
/// not of all it is in.
bool mayDiffer(const Forwarding& f) {
    const Network& network = f.network();
    std::set<DeviceId> speaking, silent;
    bool may = false;
    for (int i = 0; i < f.bridging().interfaceCount(); ++i) {
        const NetInterface& interface = f.bridging().interface(i);
        const Station& station = f.wiring().station(interface.station);
        if (!station.routes || interface.record->addresses.empty())
            continue;
        may |= !station.device->filter->rules.empty();
        (interface.record->ospf->area.empty() ? silent : speaking).insert(station.device->id);
    }
    may |= std::any_of(silent.begin(), silent.end(), [&](DeviceId id) { return speaking.contains(id); });
    if (!may)
        network.all<Route>().forEach([&](const Route& route) {
            const Device* device = network.device(route.device);
            may |= device && routes(network, *device);
        });
    return may;
}

/// One host of each set of routers that subnets with hosts have.
std::vector<int> placesOf(const Forwarding& f) {
    struct Subnet {
        std::set<int> routers;
        int host = -1;
    };
    std::map<std::pair<std::string, Prefix>, Subnet> subnets;
    for (int i = 0; i < f.bridging().interfaceCount(); ++i) {
        const NetInterface& interface = f.bridging().interface(i);
        if (!interface.up)
            continue;
        const bool routes = f.wiring().station(interface.station).routes;
        for (const Address& address : interface.record->addresses) {
            if (!address.valid() || address.prefixLength() < 0)
                continue;
            Subnet& subnet = subnets[{interface.record->vrf, prefixOf(address)}];
            if (routes)
                subnet.routers.insert(interface.station);
            else if (subnet.host < 0)
                subnet.host = interface.station;
        }
    }
    std::map<std::set<int>, int> places;
    for (const auto& [where, subnet] : subnets)
        if (subnet.host >= 0 && !subnet.routers.empty())
            places.try_emplace(subnet.routers, subnet.host);
    std::vector<int> all, out;
    for (const auto& [routers, host] : places)
        all.push_back(host);
    const std::size_t step = std::max<std::size_t>(1, (all.size() + mostPlaces - 1) / mostPlaces);
    for (std::size_t i = 0; i < all.size(); i += step)
        out.push_back(all[i]);
    return out;
}

bool passes(const Trace& trace, DeviceId device) {
    return std::any_of(trace.hops.begin(), trace.hops.end(),
                       [&](const TraceHop& hop) { return hop.device == device && hop.layer == 3; });
}

/// Answers that stop for one reason at one place, and between whom that was seen first.
struct Lost {
    DeviceId from, to, at;
    std::string reason, remedy;
    int pairs = 0;
};

} // namespace

void checkReturns(Told& told) {
    const Forwarding& f = told.f;
    if (!mayDiffer(f))
        return;
    const auto places = placesOf(f);
    std::map<std::pair<std::string_view, std::string>, Lost> lost; // by rule and reason
    for (std::size_t pair = 0; pair < places.size() * places.size(); ++pair) {
        const DeviceId from = f.wiring().station(places[pair / places.size()]).device->id,
                       to = f.wiring().station(places[pair % places.size()]).device->id;
        if (from == to)
            continue;
        const auto [there, back] = traceBoth(f, {{from, {}, {}}, {to, {}, {}}, Protocol::any, 0});
        if (!there.reached() || back.reached() || back.hops.empty() || back.stoppedAt == to)
            continue; // what is wrong with a host's own gateway has rules of its own
        const bool unseen = back.stop == Stop::refused && !passes(there, back.stoppedAt);
        const bool noWay = back.stop == Stop::noRoute || back.stop == Stop::silent ||
                           back.stop == Stop::discarded || back.stop == Stop::loop;
        if (!unseen && !noWay)
            continue;
        Lost& held = lost[{unseen ? "path-asymmetric" : "return-missing", back.reason}];
        if (held.pairs++ == 0) {
            held.from = from;
            held.to = to;
            held.at = back.stoppedAt;
            held.reason = back.reason;
            held.remedy = unseen ? "lead both ways over one filter, or share its state" : back.remedy;
        }
    }
    for (const auto& [key, each] : lost) {
        const Network& network = f.network();
        const auto name = [&](DeviceId id) {
            const Device* device = network.device(id);
            return device ? device->name : std::string("?");
        };
        std::string message = fmt::format("what {} sends reaches {}, but answers do not come back: {}",
                                          name(each.from), name(each.to), each.reason);
        if (each.pairs > 1)
            message += fmt::format(" (so between {} places)", each.pairs);
        told.tell(key.first, {refTo(network.device(each.at) ? each.at : each.to)}, std::move(message),
                  each.remedy);
    }
}

} // namespace underridge::analysis

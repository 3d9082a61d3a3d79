// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/routing.h"

#include "core/analysis/bgp.h"
#include "core/analysis/ospf.h"

#include <algorithm>

namespace underridge::analysis {
using namespace model;
namespace {

/// Which source of routes is believed before which: less is better.
int preferenceOf(RouteOrigin origin, bool within) {
    switch (origin) {
    case RouteOrigin::connected:
        return 0;
    case RouteOrigin::fixed:
    case RouteOrigin::dhcp:
        return 1;
    case RouteOrigin::bgp:
        return within ? 4 : 2;
    case RouteOrigin::ospf:
        return 3;
    }
    return 5;
}

auto rank(const RouteEntry& entry) {
    return std::tuple(preferenceOf(entry.origin, entry.within), entry.path, entry.metric);
}

void addHop(RouteEntry& entry, const NextHop& hop) {
    const auto at = std::lower_bound(entry.hops.begin(), entry.hops.end(), hop);
    if (at == entry.hops.end() || *at != hop)
        entry.hops.insert(at, hop);
}

bool isLoopback(const NetInterface& interface) {
    return interface.record->type == InterfaceKind::loopback && interface.port < 0;
}

bool isDefault(const Prefix& prefix) {
    return prefix.length == 0;
}

} // namespace

std::string_view textOf(OspfPath path) {
    return path == OspfPath::intraArea   ? "intra-area"
           : path == OspfPath::interArea ? "inter-area"
                                         : "external";
}

RoutingTable::RoutingTable(std::vector<RouteEntry> entries) {
    std::stable_sort(entries.begin(), entries.end(), [](const RouteEntry& a, const RouteEntry& b) {
        return std::tuple(a.to, rank(a)) < std::tuple(b.to, rank(b));
    });
    for (RouteEntry& entry : entries) {
        if (entries_.empty() || entries_.back().to != entry.to)
            entries_.push_back(std::move(entry));
        else if (rank(entries_.back()) == rank(entry)) // equal ways, all of them
            for (const NextHop& hop : entry.hops)
                addHop(entries_.back(), hop);
    }
    for (const RouteEntry& entry : entries_) {
        auto& lengths = lengths_[entry.to.base.version == 6];
        if (std::find(lengths.begin(), lengths.end(), entry.to.length) == lengths.end())
            lengths.push_back(entry.to.length);
    }
    for (auto& lengths : lengths_)
        std::sort(lengths.begin(), lengths.end(), std::greater<>());
}

const RouteEntry* RoutingTable::at(const Prefix& prefix) const {
    const auto found =
        std::lower_bound(entries_.begin(), entries_.end(), prefix,
                         [](const RouteEntry& entry, const Prefix& to) { return entry.to < to; });
    return found != entries_.end() && found->to == prefix ? &*found : nullptr;
}

const RouteEntry* RoutingTable::find(const Ip& to) const {
    for (const int length : lengths_[to.version == 6])
        if (const RouteEntry* entry = at(prefixOf(to, length)))
            return entry;
    return nullptr;
}

Routing::Routing(const Wiring& wiring, const Bridging& bridging, const Addressing& addressing)
    : wiring_(wiring),
      bridging_(bridging),
      addressing_(addressing),
      dhcp_(wiring, bridging, addressing),
      ospf_(std::make_unique<Ospf>(*this, wiring, bridging)),
      bgp_(std::make_unique<Bgp>(*this, wiring, bridging, addressing)) {}

Routing::Routing(const Routing& before, const Wiring& wiring, const Bridging& bridging,
                 const Addressing& addressing)
    : wiring_(wiring),
      bridging_(bridging),
      addressing_(addressing),
      dhcp_(wiring, bridging, addressing),
      before_(&before) {}

bool Routing::mayDiffer(int station) const {
    if (wiring_.station(station).routes)
        return false;
    const auto& interfaces = bridging_.interfacesOf(station);
    return std::any_of(interfaces.begin(), interfaces.end(), [&](int i) {
        const auto reach = at(bridging_.reaches().ofInterface[at(i)]);
        return bridging_.all()[reach] != before_->bridging_.all()[reach];
    });
}

Routing::~Routing() = default;

const Ospf& Routing::ospf() const {
    return before_ ? before_->ospf() : *ospf_;
}

const Bgp& Routing::bgp() const {
    return before_ ? before_->bgp() : *bgp_;
}

bool routesAlike(const Wiring& wiring, const Bridging& before, const Addressing& addressingBefore,
                 const Bridging& after, const Addressing& addressingAfter) {
    constexpr std::size_t mostRouters = 64; // on one stretch; of more it is as quick to begin anew
    for (std::size_t r = 0; r < after.all().size(); ++r) {
        if (before.all()[r] == after.all()[r])
            continue;
        const Reach &was = *before.all()[r], &is = *after.all()[r];
        std::vector<int> routers;
        for (std::size_t i = 0; i < is.interfaces().size(); ++i) {
            if (was.interfaces()[i].up != is.interfaces()[i].up)
                return false;
            if (wiring.station(is.interfaces()[i].station).routes)
                routers.push_back(static_cast<int>(i));
        }
        if (routers.size() > mostRouters)
            return false;
        for (const int a : routers)
            for (const int b : routers)
                if (a != b && was.carries(a, b) != is.carries(a, b))
                    return false;
    }
    return addressingBefore.sharesAlike(addressingAfter);
}

std::vector<std::string> Routing::vrfsOf(int station) const {
    std::vector<std::string> out{""};
    for (const int i : bridging_.interfacesOf(station)) {
        const std::string& vrf = bridging_.interface(i).record->vrf;
        if (std::find(out.begin(), out.end(), vrf) == out.end())
            out.push_back(vrf);
    }
    std::sort(out.begin(), out.end());
    return out;
}

std::vector<RouteEntry> Routing::connected(int station, const std::string& vrf) const {
    std::vector<RouteEntry> out;
    for (const int i : bridging_.interfacesOf(station)) {
        const NetInterface& each = bridging_.interface(i);
        if (!each.up || each.record->vrf != vrf)
            continue;
        for (const Address& address : each.record->addresses)
            if (address.valid() && address.prefixLength() >= 0)
                out.push_back({prefixOf(address), RouteOrigin::connected, {}, 0, {{{}, i}}, false});
    }
    return out;
}

std::vector<NextHop> Routing::onSubnet(int station, const std::string& vrf, const Ip& via) const {
    std::vector<NextHop> out;
    int longest = -1;
    for (const int i : bridging_.interfacesOf(station)) {
        const NetInterface& each = bridging_.interface(i);
        if (!each.up || each.record->vrf != vrf || isLoopback(each))
            continue;
        for (const Address& address : each.record->addresses) {
            const Prefix subnet = prefixOf(address);
            if (address.prefixLength() < 0 || !subnet.contains(via) || subnet.length < longest)
                continue;
            if (subnet.length > longest)
                out.clear();
            longest = subnet.length;
            out.push_back({via, i});
        }
    }
    if (out.size() > 1)
        out.resize(1); // one subnet twice at one device: the first of them
    return out;
}

Refusal Routing::refusalOf(const Route& route) const {
    if (!route.to.valid())
        return Refusal::noPrefix;
    if (route.discards)
        return Refusal::none;
    const Ip via = ipOf(route.via);
    if (!via || via.version != route.to.version())
        return Refusal::noNextHop;
    const int station = wiring_.stationOf(route.device);
    if (station < 0)
        return Refusal::outside;
    for (const int i : bridging_.interfacesOf(station))
        for (const Address& address : bridging_.interface(i).record->addresses)
            if (ipOf(address) == via)
                return Refusal::ownAddress;
    if (!onSubnet(station, route.vrf, via).empty())
        return Refusal::none;
    const RouteEntry* entry = table(station, route.vrf).at(prefixOf(route.to));
    return entry && entry->origin == RouteOrigin::fixed ? Refusal::none : Refusal::outside;
}

std::vector<RouteEntry> Routing::fixed(int station, const std::string& vrf) const {
    std::vector<RouteEntry> out;
    const Device& device = *wiring_.station(station).device;
    wiring_.network().all<Route>().forEachIn(device.id.value, [&](const Route& route) {
        if (route.vrf != vrf || !route.to.valid())
            return;
        RouteEntry entry{prefixOf(route.to), RouteOrigin::fixed, {}, route.metric, {}, route.discards};
        const Ip via = ipOf(route.via);
        if (!route.discards && (!via || via.version != route.to.version()))
            return;
        if (!route.discards) {
            for (const int i : bridging_.interfacesOf(station))
                for (const Address& address : bridging_.interface(i).record->addresses)
                    if (ipOf(address) == via)
                        return; // an own address is no next hop
            entry.hops = onSubnet(station, vrf, via);
            if (entry.hops.empty())
                entry.hops.push_back({via, -1}); // by another route, if there is one
        }
        out.push_back(std::move(entry));
    });
    return out;
}

void Routing::addTold(int station, const std::string& vrf, std::vector<RouteEntry>& entries) const {
    if (wiring_.station(station).routes)
        return;
    std::vector<RouteEntry> told;
    for (const int i : bridging_.interfacesOf(station)) {
        if (!bridging_.interface(i).record->dhcp || bridging_.interface(i).record->vrf != vrf)
            continue;
        for (const int version : {4, 6}) {
            const Ip gateway = dhcp_.gatewayFor(i, version);
            auto hops = gateway ? onSubnet(station, vrf, gateway) : std::vector<NextHop>();
            const auto typed = [&](const RouteEntry& entry) {
                return isDefault(entry.to) && entry.to.base.version == version;
            };
            if (!hops.empty() && std::none_of(entries.begin(), entries.end(), typed))
                told.push_back(
                    {prefixOf({version, {}}, 0), RouteOrigin::dhcp, {}, 0, std::move(hops), false});
        }
    }
    entries.insert(entries.end(), told.begin(), told.end());
}

/// Next hops beyond the own subnets are looked for in the rest of the table, over other
/// static routes too; what cannot be found is left out. A host refuses such a next hop.
void Routing::recurse(int station, const std::string& vrf, std::vector<RouteEntry>& entries) const {
    std::vector<RouteEntry> open;
    std::erase_if(entries, [&](RouteEntry& entry) {
        const bool isOpen = !entry.hops.empty() && entry.hops.front().interface < 0;
        if (isOpen)
            open.push_back(std::move(entry));
        return isOpen;
    });
    if (open.empty() || !wiring_.station(station).routes)
        return;
    const auto learned = ospf().routes(station, vrf);
    bool found = true;
    while (found && !open.empty()) {
        found = false;
        std::vector<RouteEntry> known = entries;
        known.insert(known.end(), learned.begin(), learned.end());
        const RoutingTable table(std::move(known));
        std::erase_if(open, [&](RouteEntry& entry) {
            const Ip via = entry.hops.front().via;
            const RouteEntry* by = table.find(via);
            if (!by || isDefault(by->to) || by->discards || by->to == entry.to ||
                by->origin == RouteOrigin::connected)
                return false;
            entry.hops = by->hops;
            entries.push_back(std::move(entry));
            return found = true;
        });
    }
}

const RoutingTable& Routing::table(int station, const std::string& vrf) const {
    const bool speaks = vrf.empty() && wiring_.station(station).device->bgp;
    return tableOf(station, vrf, speaks);
}

const RoutingTable& Routing::tableOf(int station, const std::string& vrf, bool all) const {
    if (before_ && !mayDiffer(station))
        return before_->tableOf(station, vrf, all);
    {
        const std::lock_guard lock(mutex_);
        const auto at = tables_.find({station, vrf, all});
        if (at != tables_.end())
            return *at->second;
    }
    std::vector<RouteEntry> entries = connected(station, vrf);
    auto statics = fixed(station, vrf);
    entries.insert(entries.end(), std::make_move_iterator(statics.begin()),
                   std::make_move_iterator(statics.end()));
    addTold(station, vrf, entries);
    recurse(station, vrf, entries);
    auto learned = ospf().routes(station, vrf);
    entries.insert(entries.end(), std::make_move_iterator(learned.begin()),
                   std::make_move_iterator(learned.end()));
    if (all) {
        auto heard = bgp().routes(station);
        entries.insert(entries.end(), std::make_move_iterator(heard.begin()),
                       std::make_move_iterator(heard.end()));
    }
    auto table = std::make_unique<RoutingTable>(std::move(entries));
    const std::lock_guard lock(mutex_);
    return *tables_.try_emplace({station, vrf, all}, std::move(table)).first->second;
}

} // namespace underridge::analysis

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/ospf.h"

#include <algorithm>
#include <queue>

namespace underridge::analysis {
using namespace model;
namespace {

constexpr std::uint32_t backbone = 0;
constexpr std::int64_t externalMetric = 20;

void merge(std::vector<NextHop>& into, const std::vector<NextHop>& more) {
    for (const NextHop& hop : more) {
        const auto place = std::lower_bound(into.begin(), into.end(), hop);
        if (place == into.end() || *place != hop)
            into.insert(place, hop);
    }
}

} // namespace

void Ospf::Cost::take(std::int64_t cost, const std::vector<NextHop>& ways) {
    if (!set || cost < metric) {
        metric = cost;
        hops = ways;
        set = true;
    } else if (cost == metric) {
        merge(hops, ways);
    }
}

Ospf::Ospf(const Routing& routing, const Wiring& wiring, const Bridging& bridging)
    : routing_(routing), wiring_(wiring), bridging_(bridging) {
    gather();
    meetNeighbours();
    std::set<std::uint32_t> numbers;
    for (const OspfPort& port : ports_)
        numbers.insert(port.area);
    for (const std::uint32_t number : numbers)
        buildArea(number);
}

/// 100 Mbit/s by the speed, at least 1: RFC 4750, ospfIfMetricValue.
std::int64_t Ospf::costOf(const NetInterface& interface) const {
    const int set = interface.record->ospf->cost;
    if (set > 0)
        return set;
    const int speed = interface.port >= 0 ? wiring_.speedOf(interface.port) : 0;
    constexpr int reference = 100;
    return speed > 0 ? std::max(1, reference / speed) : 1;
}

void Ospf::gather() {
    const int stations = static_cast<int>(wiring_.stations().size());
    for (int s = 0; s < stations; ++s) {
        if (!wiring_.station(s).routes)
            continue;
        // A router of each version: their tables know nothing of one another.
        std::map<std::pair<std::string, int>, int> here;
        for (const int i : bridging_.interfacesOf(s)) {
            const NetInterface& each = bridging_.interface(i);
            const auto area = each.record->ospf->area.number();
            if (!area || !each.up)
                continue;
            for (const Address& address : each.record->addresses) {
                if (!address.valid() || address.prefixLength() < 0)
                    continue;
                const auto [router, fresh] = here.try_emplace({each.record->vrf, address.version()},
                                                              static_cast<int>(routers_.size()));
                if (fresh) {
                    routers_.push_back({s, each.record->vrf, 0, {}, {}});
                    routerAt_[{s, each.record->vrf}].push_back(router->second);
                }
                OspfPort port;
                port.interface = i;
                port.router = router->second;
                port.address = ipOf(address);
                port.subnet = prefixOf(address);
                port.area = *area;
                port.cost = costOf(each);
                port.loopback = each.record->type == InterfaceKind::loopback;
                port.passive = each.record->ospf->passive || port.loopback;
                port.pointToPoint = each.record->ospf->network == OspfNetwork::pointToPoint;
                routers_[at(router->second)].ports.push_back(static_cast<int>(ports_.size()));
                routers_[at(router->second)].areas.insert(*area);
                ports_.push_back(std::move(port));
            }
        }
    }
    for (OspfRouter& router : routers_)
        router.id =
            routerIdOf(bridging_, router.station, wiring_.station(router.station).device->ospf->routerId);
}

OspfRift Ospf::riftBetween(int a, int b) const {
    const OspfPort &x = ports_[at(a)], &y = ports_[at(b)];
    const auto mtu = [&](const OspfPort& port) {
        const int said = bridging_.interface(port.interface).record->mtu;
        return said > 0 ? said : 1500;
    };
    if (x.area != y.area)
        return OspfRift::area; // section 8.2
    if (x.pointToPoint != y.pointToPoint)
        return OspfRift::network;
    if (x.pointToPoint ? !x.subnet.contains(y.address) && !y.subnet.contains(x.address)
                       : x.subnet != y.subnet)
        return OspfRift::subnet; // section 10.5
    if (routers_[at(x.router)].id == routers_[at(y.router)].id)
        return OspfRift::routerId;
    return mtu(x) != mtu(y) ? OspfRift::mtu : OspfRift::none; // section 10.6
}

void Ospf::meetNeighbours() {
    std::map<std::pair<int, int>, std::vector<int>> byIsland; ///< and version
    std::vector<int> odd;
    for (int p = 0; p < static_cast<int>(ports_.size()); ++p) {
        if (ports_[at(p)].passive)
            continue;
        const int island = bridging_.islandOf(ports_[at(p)].interface);
        if (island < 0)
            odd.push_back(p);
        else
            byIsland[{island, ports_[at(p)].address.version}].push_back(p);
    }
    const auto join = [&](int a, int b) {
        if (ports_[at(a)].router == ports_[at(b)].router || riftBetween(a, b) != OspfRift::none)
            return;
        ports_[at(a)].neighbours.push_back(b);
        ports_[at(b)].neighbours.push_back(a);
    };
    for (const auto& [island, members] : byIsland)
        for (std::size_t i = 0; i < members.size(); ++i)
            for (std::size_t j = i + 1; j < members.size(); ++j)
                join(members[i], members[j]);
    for (const int a : odd)
        for (int b = 0; b < static_cast<int>(ports_.size()); ++b) {
            const OspfPort &x = ports_[at(a)], &y = ports_[at(b)];
            const bool both = bridging_.islandOf(y.interface) < 0;
            if (y.passive || (both && b <= a) || x.address.version != y.address.version)
                continue;
            if (bridging_.meet(x.interface, y.interface))
                join(a, b);
        }
}

void Ospf::buildArea(std::uint32_t number) {
    Area& area = areas_[number];
    const auto node = [&](int router) {
        const auto [found, fresh] = area.nodeOf.try_emplace(router, static_cast<int>(area.edges.size()));
        if (fresh)
            area.edges.emplace_back();
        return found->second;
    };
    for (const OspfPort& port : ports_)
        if (port.area == number)
            node(port.router);
    std::vector<bool> done(ports_.size(), false);
    for (int p = 0; p < static_cast<int>(ports_.size()); ++p) {
        const OspfPort& port = ports_[at(p)];
        if (port.area != number)
            continue;
        if (port.loopback) { // section 12.4.1.1: a host route of no cost
            area.prefixes.push_back({node(port.router), prefixOf(port.address, port.address.bits()), 0});
            continue;
        }
        if (port.neighbours.empty() || port.pointToPoint)
            area.prefixes.push_back({node(port.router), port.subnet, port.cost});
        if (port.pointToPoint) {
            for (const int n : port.neighbours)
                area.edges[at(node(port.router))].push_back({node(ports_[at(n)].router), port.cost, p, n});
            continue;
        }
        if (port.neighbours.empty() || done[at(p)])
            continue;
        const int network = static_cast<int>(area.edges.size());
        area.edges.emplace_back();
        area.prefixes.push_back({network, port.subnet, 0});
        std::vector<int> members = port.neighbours;
        members.push_back(p);
        for (const int m : members) {
            if (done[at(m)])
                continue;
            done[at(m)] = true;
            const int at = node(ports_[static_cast<std::size_t>(m)].router);
            area.edges[static_cast<std::size_t>(at)].push_back(
                {network, ports_[static_cast<std::size_t>(m)].cost, m, -1});
            area.edges[static_cast<std::size_t>(network)].push_back({at, 0, -1, m});
        }
    }
}

/// Dijkstra (1959) as section 16.1 has it: equal ways are kept, and the next hop is taken
/// where the root is left.
const Ospf::Tree& Ospf::tree(int router, std::uint32_t number) const {
    const auto [found, fresh] = trees_.try_emplace({router, number});
    Tree& tree = found->second;
    if (!fresh)
        return tree;
    const Area& area = areas_.at(number);
    const int root = area.nodeOf.at(router);
    tree.nodes.resize(area.edges.size());
    std::vector<int> leftBy(area.edges.size(), -1); // a network of the root: the port to it
    using Item = std::pair<std::int64_t, int>;
    std::priority_queue<Item, std::vector<Item>, std::greater<>> queue;
    std::vector<bool> done(area.edges.size(), false);
    tree.nodes[at(root)].set = true;
    queue.push({0, -root});
    while (!queue.empty()) {
        const auto [cost, turned] = queue.top(); // of equal cost networks, which come last, first
        const int here = -turned;
        queue.pop();
        if (done[at(here)])
            continue;
        done[at(here)] = true;
        for (const Edge& edge : area.edges[at(here)]) {
            if (edge.to == root || done[at(edge.to)])
                continue;
            std::vector<NextHop> hops = tree.nodes[at(here)].hops;
            if (here == root && edge.neighbour >= 0)
                hops = {{ports_[at(edge.neighbour)].address, ports_[at(edge.port)].interface}};
            else if (here == root)
                hops = {{{}, ports_[at(edge.port)].interface}};
            else if (!hops.empty() && edge.neighbour >= 0) // out of a network the root is on
                for (NextHop& hop : hops)
                    if (!hop.via)
                        hop.via = ports_[at(edge.neighbour)].address;
            const std::int64_t total = cost + edge.cost;
            if (!tree.nodes[at(edge.to)].set || total <= tree.nodes[at(edge.to)].metric) {
                tree.nodes[at(edge.to)].take(total, hops);
                queue.push({total, -edge.to});
            }
        }
    }
    for (const auto& [node, prefix, cost] : area.prefixes)
        if (tree.nodes[at(node)].set)
            tree.prefixes[prefix].take(tree.nodes[at(node)].metric + cost, tree.nodes[at(node)].hops);
    return tree;
}

bool Ospf::isBorder(int router) const {
    const auto& areas = routers_[at(router)].areas;
    return areas.size() > 1 && areas.contains(backbone);
}

const std::map<Prefix, std::int64_t>& Ospf::summary(int router, std::uint32_t into) const {
    const auto [found, fresh] = summaries_.try_emplace({router, into});
    auto& told = found->second;
    if (!fresh)
        return told;
    std::map<Prefix, std::int64_t> sums;
    const auto take = [&](const Prefix& prefix, std::int64_t metric) {
        const auto held = sums.try_emplace(prefix, metric).first;
        held->second = std::min(held->second, metric);
    };
    for (const std::uint32_t area : routers_[at(router)].areas)
        if (area != into)
            for (const auto& [prefix, cost] : tree(router, area).prefixes)
                take(prefix, cost.metric);
    if (into != backbone)
        for (const auto& [prefix, cost] : between(router))
            if (!sums.contains(prefix))
                sums.emplace(prefix, cost.metric);
    told = std::move(sums);
    return told;
}

template <class Each>
void Ospf::forEachBorder(int router, Each&& each) const {
    // A border router itself looks at the backbone alone: section 16.2.
    for (const std::uint32_t area : routers_[at(router)].areas) {
        if (isBorder(router) && area != backbone)
            continue;
        const Tree& own = tree(router, area);
        for (const auto& [border, node] : areas_.at(area).nodeOf)
            if (border != router && isBorder(border) && own.nodes[at(node)].set)
                each(border, area, own.nodes[at(node)]);
    }
}

const Ospf::Prefixes& Ospf::between(int router) const {
    const auto [found, fresh] = between_.try_emplace(router);
    if (!fresh)
        return found->second;
    Prefixes out;
    forEachBorder(router, [&](int border, std::uint32_t area, const Cost& way) {
        for (const auto& [prefix, metric] : summary(border, area))
            out[prefix].take(way.metric + metric, way.hops);
    });
    for (const std::uint32_t area : routers_[at(router)].areas) // within an area before between
        for (const auto& [prefix, cost] : tree(router, area).prefixes)
            out.erase(prefix);
    return found->second = std::move(out);
}

/// The way to another router within the areas of the first, one left aside.
Ospf::Cost Ospf::within(int router, int other, std::optional<std::uint32_t> aside) const {
    Cost best;
    for (const std::uint32_t area : routers_[at(router)].areas) {
        const auto node = areas_.at(area).nodeOf.find(other);
        if (area == aside || node == areas_.at(area).nodeOf.end())
            continue;
        if (const Cost& cost = tree(router, area).nodes[at(node->second)]; cost.set)
            best.take(cost.metric, cost.hops);
    }
    return best;
}

/// The way to another router: within an area, else over border routers.
Ospf::Cost Ospf::toRouter(int router, int other) const {
    Cost best = within(router, other);
    if (best.set)
        return best;
    forEachBorder(router, [&](int border, std::uint32_t area, const Cost& way) {
        Cost onward = within(border, other, area);
        if (!onward.set && area != backbone)
            onward = toRouter(border, other);
        if (onward.set)
            best.take(way.metric + onward.metric, way.hops);
    });
    return best;
}

void Ospf::addExternal(int router, const Prefixes& within, const Prefixes& over,
                       std::vector<RouteEntry>& out) const {
    const OspfRouter& self = routers_[at(router)];
    const int version = self.ports.empty() ? 4 : ports_[at(self.ports.front())].address.version;
    Prefixes found;
    const auto inSelf = [&](const Ip& ip) -> std::optional<Cost> {
        for (const int p : self.ports) // on a subnet of its own
            if (ports_[at(p)].subnet.contains(ip) && !ports_[at(p)].loopback) {
                Cost cost;
                cost.take(ports_[at(p)].cost, {{ip, ports_[at(p)].interface}});
                return cost;
            }
        std::optional<Cost> best;
        int longest = -1;
        for (const Prefixes* prefixes : {&within, &over})
            for (const auto& [prefix, cost] : *prefixes)
                if (prefix.length > longest && prefix.contains(ip)) {
                    longest = prefix.length;
                    best = cost;
                }
        return best;
    };
    const auto isOwn = [&](const Ip& ip) {
        return std::any_of(self.ports.begin(), self.ports.end(),
                           [&](int p) { return ports_[at(p)].address == ip; });
    };
    for (int other = 0; other < static_cast<int>(routers_.size()); ++other) {
        const OspfRouter& teller = routers_[at(other)];
        const auto& [_, passes, tellsDefault] = *wiring_.station(teller.station).device->ospf;
        if (other == router || (passes.empty() && !tellsDefault) || teller.ports.empty() ||
            ports_[at(teller.ports.front())].address.version != version)
            continue;
        const Cost way = toRouter(router, other);
        if (!way.set)
            continue;
        const auto told = [&](RouteOrigin origin) {
            return std::find(passes.begin(), passes.end(), origin) != passes.end();
        };
        const auto tell = [&](const RouteEntry& entry, const Ip& forward) {
            // A default route is passed on only where that is said by itself.
            const bool wanted = entry.to.length > 0 ? told(entry.origin) : tellsDefault;
            if (!wanted || entry.to.base.version != version)
                return;
            Cost cost = way;
            // Section 16.4 (3): the forwarding address, where it is on a subnet OSPF has.
            const bool known = forward && std::any_of(teller.ports.begin(), teller.ports.end(), [&](int p) {
                                   return ports_[at(p)].subnet.contains(forward);
                               });
            if (known) {
                const auto there = inSelf(forward);
                if (!there || isOwn(forward))
                    return; // what goes there would come from here
                cost = *there;
            }
            found[entry.to].take(cost.metric, cost.hops);
        };
        for (const RouteEntry& entry : routing_.fixed(teller.station, teller.vrf))
            if (entry.discards)
                tell(entry, {});
            else if (entry.hops.front().interface >= 0)
                tell(entry, entry.hops.front().via);
        for (const RouteEntry& entry : routing_.connected(teller.station, teller.vrf)) {
            const bool inside = std::any_of(teller.ports.begin(), teller.ports.end(),
                                            [&](int p) { return ports_[at(p)].subnet == entry.to; });
            if (!inside)
                tell(entry, {});
        }
    }
    for (auto& [prefix, cost] : found)
        if (!within.contains(prefix) && !over.contains(prefix))
            out.push_back(
                {prefix, RouteOrigin::ospf, OspfPath::external, externalMetric, std::move(cost.hops), false});
}

std::vector<RouteEntry> Ospf::routes(int station, const std::string& vrf) const {
    std::vector<RouteEntry> out;
    const auto processes = routerAt_.find({station, vrf});
    if (processes == routerAt_.end())
        return out;
    const std::lock_guard lock(mutex_);
    for (const int router : processes->second) {
        Prefixes within;
        for (const std::uint32_t area : routers_[at(router)].areas)
            for (const auto& [prefix, cost] : tree(router, area).prefixes)
                within[prefix].take(cost.metric, cost.hops);
        const Prefixes& over = between(router);
        const auto add = [&](const Prefixes& prefixes, OspfPath path) {
            for (const auto& [prefix, cost] : prefixes) {
                // What is its own is connected; a network it is on is told with a gap.
                std::vector<NextHop> hops = cost.hops;
                std::erase_if(hops, [](const NextHop& hop) { return !hop.via; });
                if (!hops.empty())
                    out.push_back({prefix, RouteOrigin::ospf, path, cost.metric, std::move(hops), false});
            }
        };
        add(within, OspfPath::intraArea);
        add(over, OspfPath::interArea);
        addExternal(router, within, over, out);
    }
    return out;
}

} // namespace underridge::analysis

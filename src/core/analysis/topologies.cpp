// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/topologies.h"

#include "core/analysis/ospf.h"
#include "core/linking/chain.h"

#include <algorithm>
#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;
using namespace exchange;
namespace {

/// Directed, where frames of one interface come to the other; both indices of
/// Bridging::interface().
using Pair = std::pair<int, int>;

std::string dotted(std::uint32_t number) {
    return fmt::format("{}.{}.{}.{}", number >> 24, number >> 16 & 255, number >> 8 & 255, number & 255);
}

class TopologyMaker {
public:
    explicit TopologyMaker(const Forwarding& forwarding)
        : forwarding_(forwarding), wiring_(forwarding.wiring()), bridging_(forwarding.bridging()) {}

    std::vector<UpperLayer> made() {
        std::set<std::string> vrfs;
        for (int i = 0; i < bridging_.interfaceCount(); ++i)
            if (const NetInterface& each = bridging_.interface(i); isShown(each))
                vrfs.insert(each.record->vrf);
        for (const std::string& vrf : vrfs)
            networkLayer(vrf);
        ospfAreas();
        return std::move(out_);
    }

private:
    bool isRouter(const NetInterface& interface) const { return wiring_.station(interface.station).routes; }
    /// Addresses of a switch or host that stand on no port are management addresses of the
    /// layer below.
    bool isShown(const NetInterface& interface) const {
        return !interface.record->addresses.empty() &&
               (isRouter(interface) || !interface.record->port.empty());
    }
    std::string pointOf(const NetInterface& interface) const {
        const Interface& record = *interface.record;
        for (const std::string* name : {&record.port, &record.name, &interface.name})
            if (!name->empty())
                return *name;
        return fmt::format("{} {}", textOf(record.type), idText(record.id.value));
    }
    LayerPoint point(const NetInterface& interface) const {
        return {pointOf(interface), interface.record->port, interface.record->addresses,
                interface.record->id};
    }

    // --- the network layer -------------------------------------------------------

    void networkLayer(const std::string& vrf) {
        UpperLayer layer;
        layer.suffix = vrf.empty() ? "l3" : "l3-" + vrf;
        layer.name = vrf.empty() ? "Network layer" : "Network layer, " + vrf;
        std::map<int, std::size_t> nodeOf; // station
        std::map<Prefix, std::vector<int>> subnets;
        for (int i = 0; i < bridging_.interfaceCount(); ++i) {
            const NetInterface& each = bridging_.interface(i);
            if (each.record->vrf != vrf || !isShown(each))
                continue;
            const auto [at, fresh] = nodeOf.try_emplace(each.station, layer.nodes.size());
            if (fresh)
                layer.nodes.push_back(nodeFor(each.station));
            LayerNode& node = layer.nodes[at->second];
            node.points.push_back(point(each));
            for (const Address& address : each.record->addresses)
                if (address.prefixLength() >= 0) {
                    addPrefix(node, prefixOf(address), 0);
                    subnets[prefixOf(address)].push_back(i);
                }
        }
        std::set<Pair> joined;
        for (const auto& [prefix, members] : subnets)
            for (const int a : members)
                if (isRouter(bridging_.interface(a)))
                    for (const int b : members)
                        joinBoth(layer, nodeOf, a, b, joined);
        out_.push_back(std::move(layer));
    }

    LayerNode nodeFor(int station) const {
        const Device& device = *wiring_.station(station).device;
        LayerNode node;
        node.device = device.id;
        node.name = device.name;
        if (wiring_.station(station).routes)
            if (const auto id = routerIdOf(bridging_, station, device.ospf->routerId))
                node.routerId = dotted(id);
        return node;
    }
    static void addPrefix(LayerNode& node, const Prefix& prefix, std::int64_t metric) {
        const Address address(prefix.text());
        for (const LayerPrefix& each : node.prefixes)
            if (each.prefix == address)
                return;
        node.prefixes.push_back({address, metric});
    }
    void joinBoth(UpperLayer& layer, const std::map<int, std::size_t>& nodeOf, int a, int b,
                  std::set<Pair>& joined) {
        const NetInterface &x = bridging_.interface(a), &y = bridging_.interface(b);
        if (x.station == y.station || !x.up || !y.up || !joined.insert({a, b}).second ||
            !bridging_.meet(a, b))
            return;
        joined.insert({b, a});
        for (const auto& [from, to] : {Pair(a, b), Pair(b, a)}) {
            const NetInterface &source = bridging_.interface(from), &target = bridging_.interface(to);
            layer.links.push_back({{nodeOf.at(source.station), pointOf(source)},
                                   {nodeOf.at(target.station), pointOf(target)},
                                   std::nullopt,
                                   linksOver(from, to)});
        }
    }
    /// Every link of the way, those of a LAG all.
    std::vector<std::pair<LinkId, bool>> linksOver(int from, int to) const {
        std::vector<std::pair<LinkId, bool>> out;
        const auto way = bridging_.way(from, to);
        if (!way)
            return out;
        const Network& network = wiring_.network();
        for (const Crossing& crossing : *way) {
            const LogicalPort& port = wiring_.port(crossing.out);
            const DeviceId device = wiring_.station(port.station).device->id;
            for (const LinkId id : port.links) {
                const Link& link = *network.link(id);
                PortRef at = link.a.device == device ? link.a : link.b;
                for (const linking::Stretch& stretch : linking::outward(network, at)) {
                    const Link& each = *network.link(stretch.link);
                    out.emplace_back(each.id, each.a == stretch.to);
                }
            }
        }
        return out;
    }

    // --- OSPF ----------------------------------------------------------------------

    void ospfAreas() {
        const Ospf& ospf = forwarding_.routing().ospf();
        std::map<std::tuple<int, std::string, std::uint32_t>, std::vector<int>> areas; // its ports
        for (int p = 0; p < static_cast<int>(ospf.ports().size()); ++p) {
            const OspfPort& port = ospf.ports()[at(p)];
            areas[{port.address.version, ospf.routers()[at(port.router)].vrf, port.area}].push_back(p);
        }
        for (const auto& [key, ports] : areas)
            area(ospf, std::get<0>(key), std::get<1>(key), std::get<2>(key), ports);
    }

    void area(const Ospf& ospf, int version, const std::string& vrf, std::uint32_t number,
              const std::vector<int>& ports) {
        UpperLayer layer;
        layer.area = dotted(number);
        layer.version = version;
        layer.suffix =
            fmt::format("ospf{}-{}{}{}", version == 4 ? "" : "v3", *layer.area, vrf.empty() ? "" : "-", vrf);
        layer.name =
            fmt::format("OSPF{} area {}{}{}", version == 4 ? "" : "v3", number, vrf.empty() ? "" : ", ", vrf);
        std::map<int, std::size_t> nodeOf; // router
        for (const int p : ports) {
            const OspfPort& port = ospf.ports()[at(p)];
            const auto [found, fresh] = nodeOf.try_emplace(port.router, layer.nodes.size());
            if (fresh)
                layer.nodes.push_back(routerNode(ospf, port.router));
            LayerNode& node = layer.nodes[found->second];
            const NetInterface& interface = bridging_.interface(port.interface);
            if (std::none_of(node.points.begin(), node.points.end(),
                             [&](const LayerPoint& each) { return each.id == pointOf(interface); }))
                node.points.push_back(point(interface));
            addPrefix(node, port.loopback ? prefixOf(port.address, port.address.bits()) : port.subnet,
                      port.loopback ? 0 : port.cost);
        }
        std::set<int> done;
        for (const int p : ports)
            joinNeighbours(ospf, layer, nodeOf, p, done);
        out_.push_back(std::move(layer));
    }

    LayerNode routerNode(const Ospf& ospf, int router) const {
        const OspfRouter& record = ospf.routers()[at(router)];
        LayerNode node = nodeFor(record.station);
        node.routerId = record.id ? dotted(record.id) : std::string();
        const auto& told = wiring_.station(record.station).device->ospf;
        node.part = record.areas.size() > 1                             ? OspfPart::areaBorder
                    : told->redistribute.empty() && !told->tellsDefault ? OspfPart::internal
                                                                        : OspfPart::boundary;
        return node;
    }

    /// Of a network that several share, from each router at its cost, back at none.
    void joinNeighbours(const Ospf& ospf, UpperLayer& layer, const std::map<int, std::size_t>& nodeOf, int p,
                        std::set<int>& done) const {
        const OspfPort& port = ospf.ports()[at(p)];
        const auto end = [&](const OspfPort& of) {
            return LayerEnd{nodeOf.at(of.router), pointOf(bridging_.interface(of.interface))};
        };
        if (port.pointToPoint) {
            for (const int n : port.neighbours) {
                const OspfPort& other = ospf.ports()[at(n)];
                layer.links.push_back(
                    {end(port), end(other), port.cost, linksOver(port.interface, other.interface)});
            }
            return;
        }
        if (port.neighbours.empty() || done.contains(p))
            return;
        std::vector<int> members = port.neighbours;
        members.push_back(p);
        std::sort(members.begin(), members.end());
        const std::size_t network = layer.nodes.size();
        LayerNode node;
        node.name = port.subnet.text();
        node.id = node.name;
        for (const LayerNode& each : layer.nodes) // one subnet in two places
            if (each.id == node.id)
                node.id = fmt::format("{}#{}", node.name, network);
        node.part = OspfPart::pseudonode;
        addPrefix(node, port.subnet, 0);
        layer.nodes.push_back(std::move(node));
        for (const int m : members)
            if (done.insert(m).second) {
                const OspfPort& member = ospf.ports()[at(m)];
                layer.links.push_back({end(member), {network, {}}, member.cost, {}});
                layer.links.push_back({{network, {}}, end(member), 0, {}});
            }
    }

    const Forwarding& forwarding_;
    const Wiring& wiring_;
    const Bridging& bridging_;
    std::vector<UpperLayer> out_;
};

} // namespace

std::vector<UpperLayer> topologiesOf(const Forwarding& forwarding) {
    return TopologyMaker(forwarding).made();
}

Written written(const Network& network, Format format, Tables tables) {
    if (format != Format::rfc8345)
        return write(network, format, tables);
    return writeRfc8345(network, topologiesOf(Forwarding(network)));
}

} // namespace underridge::analysis

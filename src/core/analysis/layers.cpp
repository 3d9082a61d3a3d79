// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/layers.h"

#include "core/analysis/prefix.h"
#include "core/linking/chain.h"
#include "core/model/vlans.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace underridge::analysis {
using namespace model;
namespace {

// --- data link ------------------------------------------------------------------

/// What is in both.
std::vector<VlanRange> both(const std::vector<VlanRange>& a, const std::vector<VlanRange>& b) {
    std::vector<VlanRange> out;
    for (const VlanRange& x : a)
        for (const VlanRange& y : b)
            if (const VlanRange range{std::max(x.first, y.first), std::min(x.last, y.last)}; range.valid())
                out.push_back(range);
    return out;
}

/// "10, 20–24".
std::string listed(std::vector<VlanRange> ranges) {
    std::sort(ranges.begin(), ranges.end(), [](VlanRange a, VlanRange b) { return a.first < b.first; });
    std::string out;
    for (std::size_t i = 0; i < ranges.size(); ++i) {
        VlanRange range = ranges[i];
        while (i + 1 < ranges.size() && ranges[i + 1].first <= range.last + 1)
            range.last = std::max(range.last, ranges[++i].last);
        const char* to = range.last == range.first + 1 ? ", " : "–";
        out += out.empty() ? "" : ", ";
        out += range.first == range.last ? fmt::format("{}", range.first)
                                         : fmt::format("{}{}{}", range.first, to, range.last);
    }
    return out;
}

std::string carried(const Wiring& wiring, int a, int b) {

    const auto says = [&](int index) {
        const LogicalPort& port = wiring.port(index);
        return port.bridged && !wiring.station(port.station).plain;
    };
    if (!says(a) && !says(b))
        return {}; // nobody has set any VLAN
    const Membership ofA = membershipOf(wiring, says(a) ? a : b), ofB = membershipOf(wiring, says(b) ? b : a);
    const std::string tagged = listed(both(ofA.tagged, ofB.tagged));
    std::string untagged;
    if (ofA.pvid == ofB.pvid)
        untagged = ofA.pvid > 0 ? fmt::format("{}", ofA.pvid) : "";
    else // two VLANs that are one there
        untagged = fmt::format("{} to {}", ofA.pvid > 0 ? fmt::format("{}", ofA.pvid) : "none",
                               ofB.pvid > 0 ? fmt::format("{}", ofB.pvid) : "none");
    if (tagged.empty())
        return untagged.empty() ? "no VLAN" : "VLAN " + untagged;
    const char* head = tagged.find_first_of(",\xE2") == std::string::npos ? "VLAN " : "VLANs ";
    return head + tagged + (untagged.empty() ? "" : fmt::format(", {} untagged", untagged));
}

// --- network --------------------------------------------------------------------

using Place = std::pair<std::string, Prefix>; ///< VRF and prefix

bool isSubnet(const Address& address) {
    return address.valid() && address.prefixLength() >= 0 &&
           address.prefixLength() < (address.version() == 4 ? 32 : 128);
}

/// Prefixes by the subnet they are one with.
class Joins {
public:
    std::size_t add(const Place& place) {
        const auto [at, fresh] = index_.try_emplace(place, parents_.size());
        if (fresh)
            parents_.push_back(at->second);
        return at->second;
    }
    void join(std::size_t a, std::size_t b) { parents_[root(a)] = root(b); }
    std::size_t root(std::size_t i) {
        while (parents_[i] != i)
            i = parents_[i] = parents_[parents_[i]];
        return i;
    }
    const std::map<Place, std::size_t>& all() const { return index_; }

private:
    std::map<Place, std::size_t> index_;
    std::vector<std::size_t> parents_;
};

/// The end of an address within a prefix of whole octets: ".1"; else all of it.
std::string ownPart(const Address& address) {
    const std::string host = address.host();
    if (address.version() != 4 || address.prefixLength() < 24)
        return host;
    return host.substr(host.rfind('.'));
}

std::string attachedAs(const Interface& interface) {
    std::string out = !interface.name.empty() ? interface.name : interface.port;
    for (const Address& address : interface.addresses)
        if (isSubnet(address)) {
            out += (out.empty() ? "" : " ") + ownPart(address);
            break;
        }
    for (const Vrrp& vrrp : interface.vrrp)
        if (vrrp.address.version() == 4) {
            const std::string host = vrrp.address.host();
            out += ", VRRP " + host.substr(host.rfind('.'));
            break;
        }
    return out;
}

std::string ospfText(const Interface& interface) {
    const OspfInterface& ospf = *interface.ospf;
    if (ospf.area.empty() || ospf.passive) // no neighbour is sought there
        return {};
    return fmt::format("area {}{}", ospf.area.text(),
                       ospf.cost > 0 ? fmt::format(", cost {}", ospf.cost) : "");
}

int vlanOf(const Network& network, const Interface& interface) {
    if (interface.type == InterfaceKind::vlan)
        return numberOf(network, interface.untagged);
    if (interface.type == InterfaceKind::subinterface && !interface.tagged.empty())
        return numberOf(network, interface.tagged.front());
    return 0;
}

class LayerMaker {
public:
    explicit LayerMaker(const Network& network) : network_(network) {}

    NetworkLayer made() {
        gather();
        makeNodes();
        countHosts();
        attach();
        NetworkLayer out;
        out.attachments = std::move(attachments_);
        for (auto& [root, node] : nodes_) {
            std::sort(node.vlans.begin(), node.vlans.end());
            node.vlans.erase(std::unique(node.vlans.begin(), node.vlans.end()), node.vlans.end());
            out.subnets.push_back(std::move(node));
        }
        std::sort(out.subnets.begin(), out.subnets.end(),
                  [](const SubnetNode& a, const SubnetNode& b) { return a.id < b.id; });
        return out;
    }

private:
    void gather() {
        std::map<Place, DeviceId> lone; // prefixes one other device alone is in so far
        network_.all<Subnet>().forEach([&](const Subnet& subnet) {
            if (isSubnet(subnet.prefix))
                joins_.add({subnet.vrf, prefixOf(subnet.prefix)});
        });
        network_.all<Interface>().forEach([&](const Interface& interface) {
            const Device* device = network_.device(interface.device);
            if (!device || interface.addresses.empty())
                return;
            const bool routing = routes(network_, *device);
            std::optional<std::size_t> first;
            for (const Address& address : interface.addresses) {
                if (!isSubnet(address))
                    continue;
                const Place place{interface.vrf, prefixOf(address)};
                if (!routing) {
                    const auto [at, fresh] = lone.try_emplace(place, device->id);
                    if (!fresh && at->second != device->id)
                        joins_.add(place);
                    continue;
                }
                const std::size_t index = joins_.add(place);
                if (first)
                    joins_.join(*first, index);
                else
                    first = index;
            }
        });
    }

    void makeNodes() {
        std::map<Place, const Subnet*> recorded;
        network_.all<Subnet>().forEach([&](const Subnet& subnet) {
            if (isSubnet(subnet.prefix))
                recorded.try_emplace({subnet.vrf, prefixOf(subnet.prefix)}, &subnet);
        });
        for (const auto& [place, index] : joins_.all()) { // version 4 before 6, ascending
            SubnetNode& node = nodes_[joins_.root(index)];
            if (node.prefixes.empty())
                node.vrf = place.first;
            node.prefixes.emplace_back(place.second.text());
            const auto at = recorded.find(place);
            if (at == recorded.end())
                continue;
            if (!node.id)
                node.id = at->second->id;
            if (node.name.empty())
                node.name = at->second->name;
            if (const int vlan = numberOf(network_, at->second->vlan))
                node.vlans.push_back(vlan);
        }
        for (auto& [root, node] : nodes_)
            if (!node.id)
                node.id = {numberFor(node)};
    }

    static std::uint64_t numberFor(const SubnetNode& node) {
        constexpr std::uint64_t most = (std::uint64_t{1} << idBits) - 1;
        const std::uint64_t number =
            fnv1a(fmt::format("subnet {} {}", node.vrf, node.prefixes.front().text())) & most;
        return number == 0 ? 1 : number;
    }

    /// The node an address is in, by the longest prefix it lies in.
    SubnetNode* nodeFor(const std::string& vrf, const Address& address) {
        const auto& all = joins_.all();
        if (const auto at = all.find({vrf, prefixOf(address)}); at != all.end())
            return &nodes_.at(joins_.root(at->second));
        const Ip ip = ipOf(address);
        std::pair<int, SubnetNode*> best{-1, nullptr}; // its mask differs from the router's
        for (const auto& [place, index] : all)
            if (place.first == vrf && place.second.length > best.first && place.second.contains(ip))
                best = {place.second.length, &nodes_.at(joins_.root(index))};
        return best.second;
    }

    void countHosts() {
        std::set<std::pair<const SubnetNode*, DeviceId>> counted;
        network_.all<Interface>().forEach([&](const Interface& interface) {
            const Device* device = network_.device(interface.device);
            if (!device || interface.addresses.empty() || routes(network_, *device))
                return;
            for (const Address& address : interface.addresses)
                if (SubnetNode* node = isSubnet(address) ? nodeFor(interface.vrf, address) : nullptr;
                    node && counted.emplace(node, device->id).second)
                    ++node->hosts;
        });
    }

    void attach() {
        network_.all<Interface>().forEach([&](const Interface& interface) {
            const Device* device = network_.device(interface.device);
            if (!device || interface.addresses.empty() || !routes(network_, *device))
                return;
            for (const Address& address : interface.addresses) {
                SubnetNode* node = isSubnet(address) ? nodeFor(interface.vrf, address) : nullptr;
                if (!node)
                    continue;
                attachments_.push_back(
                    {interface.id, device->id, node->id, attachedAs(interface), ospfText(interface)});
                if (const int vlan = vlanOf(network_, interface))
                    node->vlans.push_back(vlan);
                break; // all its prefixes are of one node
            }
        });
    }

    const Network& network_;
    Joins joins_;
    std::map<std::size_t, SubnetNode> nodes_; ///< by root
    std::vector<Attachment> attachments_;
};

} // namespace

namespace {

/// Where a port stands among those lines begin at: LAGs, ports something is set on, others, and those that
/// are there once more.
std::tuple<int, Key> endRank(const Wiring& wiring, int port) {
    const Interface* settings = wiring.settingsOf(port);
    if (wiring.portAt(wiring.port(port).members.front()) != port)
        return {3, {}};
    if (!settings)
        return {2, {}};
    return {settings->type == InterfaceKind::lag ? 0 : 1, settings->key()};
}

/// Which of two ports that meet a line begins at. Bends in files are kept by it.
bool leads(const Wiring& wiring, int a, int b) {
    const auto x = endRank(wiring, a), y = endRank(wiring, b);
    if (x != y)
        return x < y;
    // The one whose link has the lower id; where it is one link, the one that begins.
    const auto &ofA = wiring.port(a).links, &ofB = wiring.port(b).links;
    if (ofA.empty() || ofB.empty())
        return a < b;
    const LinkId first = *std::min_element(ofA.begin(), ofA.end()),
                 other = *std::min_element(ofB.begin(), ofB.end());
    if (first != other)
        return first < other;
    const auto& members = wiring.port(a).members;
    return std::find(members.begin(), members.end(), wiring.network().link(first)->a) != members.end();
}

} // namespace

std::vector<FrameLink> frameLinksOf(const Network& network) {
    const Wiring wiring(network);
    std::vector<FrameLink> out;
    std::set<std::pair<int, int>> seen;
    for (int i = 0; i < static_cast<int>(wiring.ports().size()); ++i) {
        const LogicalPort& port = wiring.port(i);
        if (!port.up || port.peer < 0 || !seen.insert(std::minmax(i, port.peer)).second)
            continue;
        // Of a LAG into a multi-chassis pair each of the two has its own part.
        const LogicalPort& peer = wiring.port(port.peer);
        const bool turned = peer.links.size() == port.links.size() ? !leads(wiring, i, port.peer)
                                                                   : peer.links.size() < port.links.size();
        const LogicalPort& a = turned ? peer : port;
        const DeviceId deviceA = wiring.station(a.station).device->id;
        FrameLink line;
        for (const LinkId id : a.links) {
            const Link& link = *network.link(id);
            const PortRef& from = link.a.device == deviceA ? link.a : link.b;
            const auto way = linking::outward(network, from);
            for (const linking::Stretch& stretch : way)
                line.links.push_back(stretch.link);
            if (!way.empty() && (!line.id || id < line.id)) {
                line.id = id;
                line.a = from;
                line.b = way.back().to;
            }
        }
        if (!line.id)
            continue;
        std::sort(line.links.begin(), line.links.end());
        line.links.erase(std::unique(line.links.begin(), line.links.end()), line.links.end());
        line.vlans = turned ? carried(wiring, port.peer, i) : carried(wiring, i, port.peer);
        out.push_back(std::move(line));
    }
    std::sort(out.begin(), out.end(), [](const FrameLink& x, const FrameLink& y) { return x.id < y.id; });
    return out;
}

std::string SubnetNode::text() const {
    std::string out;
    const auto add = [&](const std::string& part) { out += (out.empty() ? "" : " · ") + part; };
    if (hosts > 0)
        add(fmt::format("{} {}", hosts, hosts == 1 ? "host" : "hosts"));
    if (!name.empty())
        add(name);
    else if (!vlans.empty())
        add(fmt::format("VLAN {}", vlans.front()));
    if (!vrf.empty())
        add(vrf);
    return out;
}

NetworkLayer networkLayerOf(const Network& network) {
    return LayerMaker(network).made();
}

bool isOnLayer(const Network& network, const Device& device, SheetLayer layer) {
    switch (layer) {
    case SheetLayer::physical:
    case SheetLayer::upper:
        return true;
    case SheetLayer::dataLink:
        return !linking::isPassive(network, device) && roleOf(network, device) != Role::power;
    case SheetLayer::network:
        return routes(network, device);
    }
    return true;
}

} // namespace underridge::analysis

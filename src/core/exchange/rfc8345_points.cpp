// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_points.h"

namespace underridge::exchange::rfc8345 {
using namespace model;

bool Points::takeLag(const Net& net, JsonView json, Node& node, const std::string& nodeId) {
    const JsonView attributes = member(json, l2, "l2-termination-point-attributes");
    const JsonView members = listIn(attributes, l2, "member-link-tp");
    const std::string id = textIn(json, nt, "tp-id");
    if (members.size() == 0 || id.empty() || id.size() > maxPoint || isEnd(net, nodeId, id))
        return false;
    std::vector<std::string> ports;
    members.forEach([&](JsonView each) {
        if (each.text() != id && node.points.contains(each.text()))
            ports.push_back(each.text());
    });
    if (ports.empty())
        return false;
    node.renamed[id] = ports.front();
    JsonMembers left(attributes);
    for (const char* said : {"lag", "member-link-tp", "interface-name"})
        drop(left, l2, said);
    Interface& lag = builder_.lag(node.device, id, std::move(ports));
    takeTags(lag, attributes, left);
    JsonMembers rest = without(json, nt, {"tp-id"});
    replaceMember(rest, l2, "l2-termination-point-attributes", left.text());
    JsonMembers entry;
    entry.setText("network", net.id);
    entry.setText("tp", id);
    entry.set("rest", rest.text());
    addEntry(lagEntries_[&lag], entry);
    return true;
}

/// Whether a link of the network ends at a point.
bool Points::isEnd(const Net& net, const std::string& node, const std::string& point) {
    const auto [at, fresh] = ends_.try_emplace(net.id);
    if (fresh)
        listIn(net.json, nt, "link").forEach([&](JsonView link) {
            for (const auto& [end, nodeName, pointName] :
                 {std::tuple("source", "source-node", "source-tp"),
                  std::tuple("destination", "dest-node", "dest-tp")}) {
                const JsonView json = member(link, nt, end);
                at->second.insert(named(textIn(json, nt, nodeName), textIn(json, nt, pointName)));
            }
        });
    return at->second.contains(named(node, point));
}

void Points::takeTags(Interface& interface, JsonView attributes, JsonMembers& left) {
    const JsonView tag = member(attributes, l2, "outer-tag");
    const auto ranges = vlansIn(tag.whole() ? std::string(tag.raw()) : tag.text());
    constexpr int fewVlans = 32; // of more, none is recorded for itself
    for (const VlanRange& range : ranges)
        if (range.last - range.first >= fewVlans)
            interface.taggedRanges.push_back(range);
        else
            for (int vlan = range.first; vlan <= range.last; ++vlan)
                interface.tagged.push_back(builder_.vlan(vlan));
    if (!ranges.empty())
        drop(left, l2, "outer-tag");
}

/// At another layer of the same device, a point that rests on one port is that port.
std::string Points::keyOf(JsonView json, const Node& node, const std::string& id) const {
    const JsonView supports = listIn(json, nt, "supporting-termination-point");
    if (supports.size() != 1)
        return id;
    const JsonView support = supports.at(0);
    const Node* below = nets_.node(textIn(support, nt, "network-ref"), textIn(support, nt, "node-ref"));
    const auto port = below ? below->portOf(textIn(support, nt, "tp-ref")) : std::nullopt;
    return port && port->device == node.device ? port->port : id;
}

void Points::take(const Net& net, JsonView json, Node& node, const std::string& id,
                  const std::vector<LayerPrefix>& prefixes) {
    const std::string key = keyOf(json, node, id);
    if (key != id)
        node.renamed[id] = key;
    const PortRef ref{node.device, key};
    JsonMembers rest = without(json, nt, {"tp-id"});
    l2Point(json, ref, rest);
    l3Point(json, ref, prefixes, rest, net.area);
    const bool plain = std::all_of(rest.members().begin(), rest.members().end(), [](const auto& each) {
        return each.second == "{}" || each.second == "[]";
    });
    if (plain && key == id && nets_.isOne())
        return;
    JsonMembers entry;
    entry.setText("network", net.id);
    entry.setText("tp", id);
    entry.set("rest", rest.text());
    addEntry(portEntries_[ref], entry);
}

void Points::l2Point(JsonView json, const PortRef& ref, JsonMembers& rest) {
    const JsonView attributes = member(json, l2, "l2-termination-point-attributes");
    if (!attributes.isObject())
        return;
    JsonMembers left(attributes);
    if (const std::string name = textIn(attributes, l2, "interface-name"); !name.empty()) {
        builder_.portRecord(ref).label = name;
        drop(left, l2, "interface-name");
    }
    if (const std::string mac = textIn(attributes, l2, "mac-address"); !mac.empty()) {
        builder_.interfaceOn(ref.device, ref.port).mac = mac.substr(0, 40);
        drop(left, l2, "mac-address");
    }
    if (member(attributes, l2, "outer-tag"))
        takeTags(builder_.interfaceOn(ref.device, ref.port), attributes, left);
    replaceMember(rest, l2, "l2-termination-point-attributes", left.text());
}

void Points::l3Point(JsonView json, const PortRef& ref, const std::vector<LayerPrefix>& prefixes,
                     JsonMembers& rest, const std::string& area) {
    std::int64_t cost = 0;
    const auto takePart = [&] {
        if (!area.empty())
            setOspf(ref, area, cost);
    };
    const JsonView attributes = member(json, l3, "l3-termination-point-attributes");
    if (!attributes.isObject())
        return takePart();
    bool all = true;
    listIn(attributes, l3, "ip-address").forEach([&](JsonView address) {
        Address held(address.text());
        if (!held.valid()) {
            all = false;
            return;
        }
        for (const auto& [prefix, metric] : prefixes)
            if (held.prefixLength() < 0 && prefix.prefixLength() >= 0 && prefix.contains(held)) {
                held = Address(held.text() + "/" + std::to_string(prefix.prefixLength()));
                cost = metric;
            }
        builder_.addAddress(ref.device, ref.port, held.text());
    });
    takePart();
    if (all)
        replaceMember(rest, l3, "l3-termination-point-attributes",
                      without(attributes, l3, {"ip-address"}).text());
}

/// Of the interface on a port; a cost of 0 says nothing.
void Points::setOspf(const PortRef& ref, const std::string& area, std::int64_t cost) {
    constexpr std::int64_t most = 65535;
    Interface& interface = builder_.interfaceOn(ref.device, ref.port);
    OspfInterface ospf = *interface.ospf;
    ospf.area = area;
    if (cost > 0 && cost <= most)
        ospf.cost = static_cast<int>(cost);
    interface.ospf = ospf;
}

} // namespace underridge::exchange::rfc8345

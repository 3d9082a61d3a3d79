// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_points.h"

#include "core/base/text.h"

#include <charconv>

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
    Interface& lag = builder_.interfaceNamed(node.device, InterfaceKind::lag, id);
    lag.members = std::move(ports);
    interfaces_[named(net.id, named(nodeId, id))] = &lag;
    takeTags(lag, attributes, left);
    JsonMembers rest = without(json, nt, {"tp-id"});
    replaceMember(rest, l2, "l2-termination-point-attributes", left.text());
    JsonMembers entry;
    entry.setText("network", net.id);
    entry.setText("tp", id);
    entry.set("rest", rest.text());
    addEntry(interfaceEntries_[&lag], entry);
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
    return port && port->known() && port->device == node.device ? port->port : id;
}

namespace {

/// The number a name ends in, with what stands before it.
std::optional<std::pair<std::string_view, int>> numbered(std::string_view name) {
    const std::size_t last = name.find_last_not_of("0123456789") + 1;
    int number = 0;
    const auto [end, code] = std::from_chars(name.data() + last, name.data() + name.size(), number);
    return code == std::errc() && end == name.data() + name.size() && last < name.size()
               ? std::optional(std::pair(name.substr(0, last), number))
               : std::nullopt;
}

bool isHostRoute(const LayerPrefix& prefix) {
    return prefix.prefix.prefixLength() == (prefix.prefix.version() == 4 ? 32 : 128);
}

} // namespace

/// One whose kind its name tells, or that has addresses of single hosts only. Null: neither.
Interface* Points::byName(JsonView json, const Node& node, const std::string& id,
                          const std::vector<LayerPrefix>& prefixes) {
    const std::string name = lowered(id);
    const auto tail = numbered(name);
    const bool hasVlan = tail && tail->second >= 1 && tail->second <= 4094;
    constexpr std::string_view stem = "vlan";
    if (hasVlan && tail->first.starts_with(stem) &&
        tail->first.find_first_not_of(" -_.", stem.size()) == std::string_view::npos) {
        Interface& vlan = builder_.interfaceNamed(node.device, InterfaceKind::vlan, id);
        vlan.untagged = builder_.vlan(tail->second);
        return &vlan;
    }
    const auto port = hasVlan && tail->first.ends_with('.')
                          ? node.below->portOf(id.substr(0, tail->first.size() - 1))
                          : std::nullopt;
    if (port && port->known()) {
        Interface& subinterface = builder_.interfaceNamed(node.device, InterfaceKind::subinterface, id);
        subinterface.parent = builder_.interfaceOn(node.device, port->port).id;
        subinterface.tagged = {builder_.vlan(tail->second)};
        return &subinterface;
    }
    const JsonView said = listIn(member(json, l3, "l3-termination-point-attributes"), l3, "ip-address");
    bool hosts = said.size() > 0;
    said.forEach([&](JsonView each) {
        const Address address(each.text());
        hosts &= std::any_of(prefixes.begin(), prefixes.end(), [&](const LayerPrefix& prefix) {
            return isHostRoute(prefix) && prefix.prefix.contains(address);
        });
    });
    const std::string_view word = tail ? tail->first : std::string_view(name);
    return hosts || word == "lo" || word.starts_with("loopback")
               ? &builder_.interfaceNamed(node.device, InterfaceKind::loopback, id)
               : nullptr;
}

/// The interface a point of a layer above is that rests on no port: a LAG below, or one that
/// its name tells the kind of. Null: it is a port.
Interface* Points::standing(const Net& net, JsonView json, const Node& node, const std::string& nodeId,
                            const std::string& id, const std::vector<LayerPrefix>& prefixes) {
    if (!node.below)
        return nullptr;
    const JsonView supports = listIn(json, nt, "supporting-termination-point");
    Interface* found = nullptr;
    supports.forEach([&](JsonView support) {
        const auto at =
            interfaces_.find(named(textIn(support, nt, "network-ref"),
                                   named(textIn(support, nt, "node-ref"), textIn(support, nt, "tp-ref"))));
        if (at != interfaces_.end() && at->second->device == node.device && supports.size() == 1)
            found = at->second;
    });
    if (!found && net.unicast && supports.empty() && !node.below->portOf(id))
        found = byName(json, node, id, prefixes);
    if (found)
        interfaces_[named(net.id, named(nodeId, id))] = found;
    return found;
}

void Points::take(const Net& net, JsonView json, Node& node, const std::string& nodeId, const std::string& id,
                  const std::vector<LayerPrefix>& prefixes) {
    JsonMembers rest = without(json, nt, {"tp-id"});
    JsonMembers entry;
    entry.setText("network", net.id);
    entry.setText("tp", id);
    if (Interface* found = standing(net, json, node, nodeId, id, prefixes)) {
        node.renamed[id] = found->members.empty() ? std::string() : found->members.front();
        l3Point(
            json, [&]() -> Interface& { return *found; }, prefixes, rest, net.area);
        entry.set("rest", rest.text());
        return addEntry(interfaceEntries_[found], entry);
    }
    const std::string key = keyOf(json, node, id);
    if (key != id)
        node.renamed[id] = key;
    const PortRef ref{node.device, key};
    l2Point(json, ref, rest);
    l3Point(
        json, [&]() -> Interface& { return builder_.interfaceOn(ref.device, ref.port); }, prefixes, rest,
        net.area);
    const bool plain = std::all_of(rest.members().begin(), rest.members().end(), [](const auto& each) {
        return each.second == "{}" || each.second == "[]";
    });
    if (plain && key == id && nets_.isOne())
        return;
    entry.set("rest", rest.text());
    addEntry(portEntries_[ref], entry);
}

void Points::takeUnlisted(const Net& net, const PortRef& ref) {
    if (nets_.isOne() || !ref.known())
        return;
    JsonMembers entry;
    entry.setText("network", net.id);
    entry.setText("tp", ref.port);
    entry.set("rest", "{}");
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

void Points::l3Point(JsonView json, InterfaceThere interface, const std::vector<LayerPrefix>& prefixes,
                     JsonMembers& rest, const std::string& area) {
    std::int64_t cost = 0;
    const auto takePart = [&] {
        if (!area.empty())
            setOspf(interface(), area, cost);
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
        Builder::addAddress(interface(), held.text());
    });
    takePart();
    if (all)
        replaceMember(rest, l3, "l3-termination-point-attributes",
                      without(attributes, l3, {"ip-address"}).text());
}

void Points::setOspf(const Net& net, const std::string& node, const std::string& point, const PortRef& ref,
                     std::int64_t cost) {
    const auto at = interfaces_.find(named(net.id, named(node, point)));
    if (at != interfaces_.end())
        setOspf(*at->second, net.area, cost);
    else if (ref.known())
        setOspf(builder_.interfaceOn(ref.device, ref.port), net.area, cost);
}

void Points::setOspf(Interface& interface, const std::string& area, std::int64_t cost) {
    constexpr std::int64_t most = 65535;
    OspfInterface ospf = *interface.ospf;
    ospf.area = area;
    if (cost > 0 && cost <= most)
        ospf.cost = static_cast<int>(cost);
    interface.ospf = ospf;
    ospf_.insert(&interface);
}

std::map<Interface*, Entries> Points::ofInterfaces() const {
    std::map<Interface*, Entries> all = interfaceEntries_;
    for (Interface* const interface : ospf_) {
        JsonMembers was, entry;
        was.setText("area", interface->ospf->area.text());
        was.set("cost", std::to_string(interface->ospf->cost));
        entry.set("ospf", was.text());
        addEntry(all[interface], entry);
    }
    return all;
}

} // namespace underridge::exchange::rfc8345

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/exact_json.h"
#include "core/exchange/foreign.h"
#include "core/exchange/rfc8345_upper_edits.h"
#include "core/model/ports.h"
#include "core/model/vlans.h"

#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
using namespace rfc8345;
namespace {

using Json = ExactJson;

constexpr const char* l2Type = "ietf-l2-topology:l2-topology";

class Writer {
public:
    Writer(const Network& network, std::span<const UpperLayer> above) : network_(network), above_(above) {}

    std::string write() {
        for (const Sheet& sheet : network_.sheetsInOrder()) {
            const Json entry = kept(sheet.extra);
            if (const std::string id = stringIn(entry, "network"); !id.empty() && used_.insert(id).second)
                nets_.push_back({id, entry});
        }
        Json list = Json::array();
        if (nets_.empty())
            writeDrawn(list);
        else
            writeImported(list);
        return exactText(inDocument(std::move(list))) + "\n";
    }

private:
    /// The list of networks as the source had it wrapped, with what stood beside it.
    Json inDocument(Json list) const {
        const Json document = kept(network_.info().extra);
        const auto named = [](const std::string& name, Json value, const Json& beside) {
            Json out{{name, std::move(value)}};
            addKept(out, beside.is_object() ? beside : Json::object());
            return out;
        };
        Json way = document.is_object() && document.contains("way") ? document["way"] : Json::array();
        Json beside =
            document.is_object() && document.contains("beside") ? document["beside"] : Json::object();
        if (!way.is_array() || way.empty()) {
            way = Json::array();
            way.push_back(Json{{"name", "ietf-network:networks"}});
        }
        Json out = named("network", std::move(list), beside);
        for (auto level = way.rbegin(); level != way.rend(); ++level)
            out =
                named(stringIn(*level, "name"), std::move(out),
                      level->is_object() && level->contains("beside") ? (*level)["beside"] : Json::object());
        return out;
    }

    void writeDrawn(Json& list) {
        own_ = idText(network_.info().id.value);
        for (const UpperLayer& layer : above_)
            for (const LayerNode& node : layer.nodes)
                for (const LayerPoint& point : node.points)
                    if (point.port.empty())
                        routers_.insert(node.device);
        Json types{{l2Type, Json::object()}};
        if (above_.empty() && hasAddressedPorts())
            types[l3Type] = Json::object();
        Json rest{{"network-types", std::move(types)}};
        if (!network_.info().name.empty())
            rest["ietf-l2-topology:l2-topology-attributes"] = {{"name", network_.info().name}};
        list.push_back(networkJson(own_, {{"rest", std::move(rest)}}));
        for (const UpperLayer& layer : above_)
            list.push_back(rfc8345::networkJson(layer, own_ + "-" + layer.suffix, naming()));
    }

    /// What was read as it came, with what was edited since, and layers there are since.
    void writeImported(Json& list) {
        findHomes();
        const UpperEdits edits(network_, nets_, above_, naming());
        edits_ = &edits;
        for (const auto& [id, entry] : nets_) {
            list.push_back(networkJson(id, entry));
            edits.apply(list.back(), id);
        }
        for (const UpperLayer* layer : edits.missing()) {
            std::string id = own_ + "-" + layer->suffix;
            while (!used_.insert(id).second)
                id += "-new";
            list.push_back(rfc8345::networkJson(*layer, id, naming()));
        }
        edits_ = nullptr;
    }

    /// What is drawn since goes to the network most devices are at home in: the first they were
    /// read from, which is the lowest.
    void findHomes() {
        std::map<std::string, std::size_t> homes;
        network_.all<Device>().forEach([&](const Device& device) {
            std::string home = homeIn(device.extra);
            ++homes[home];
            if (used_.contains(home))
                homes_[device.id.value] = std::move(home);
        });
        own_ = nets_.front().id;
        for (const Imported& net : nets_)
            if (homes[net.id] > homes[own_])
                own_ = net.id;
        network_.all<Link>().forEach([&](const Link& link) {
            const Device *a = network_.device(link.a.device), *b = network_.device(link.b.device);
            if (!a || !b || kept(link.extra).is_array())
                return;
            const std::string home = homeOf(*a);
            if (homeOf(*b) != home)
                visitors_[home].insert(b->id);
        });
    }

    /// Empty: it was in no document.
    static std::string homeIn(const SharedText& extra) {
        const Json entries = kept(extra);
        return entries.is_array() && !entries.empty() ? stringIn(entries.front(), "network") : std::string();
    }
    std::string homeOf(const Device& device) const {
        const auto at = homes_.find(device.id.value);
        return at == homes_.end() ? own_ : at->second;
    }

    Naming naming() const {
        return {[this](DeviceId id) -> Named {
                    const Device& device = *network_.device(id);
                    const std::string home = homeOf(device);
                    return {home, nodeId(home, device)};
                },
                [this](const PortRef& ref) { return pointId(homeOf(*network_.device(ref.device)), ref); },
                [this](LinkId id, bool back) -> Named {
                    const Link& link = *network_.link(id);
                    const Json entries = kept(link.extra);
                    if (!entries.is_array() || entries.empty())
                        return {homeOf(*network_.device(link.a.device)), linkId(id, back)};
                    const Json& entry = entries.front();
                    const bool both = back && entry.is_object() && entry.contains("back");
                    return {stringIn(entry, "network"), stringIn(both ? entry["back"] : entry, "link")};
                }};
    }

    bool hasAddressedPorts() const {
        bool any = false;
        network_.all<Interface>().forEach([&](const Interface& interface) {
            any |= !interface.port.empty() && !interface.addresses.empty();
        });
        return any;
    }

    Json networkJson(const std::string& id, const Json& entry) {
        Json json{{"network-id", id}};
        addKept(json, restIn(entry));
        Json nodes = Json::array(), links = Json::array();
        network_.all<Device>().forEach([&](const Device& device) {
            const Json entries = kept(device.extra);
            const Json here = entryFor(entries, id);
            if (here.is_object() || (id == own_ && !entries.is_array()))
                nodes.push_back(nodeJson(id, device, here));
            else if (const auto at = visitors_.find(id);
                     at != visitors_.end() && at->second.contains(device.id))
                nodes.push_back(visitorJson(device));
        });
        if (entry.contains("nodes"))
            for (const Json& node : entry["nodes"])
                nodes.push_back(node);
        network_.all<Link>().forEach([&](const Link& link) { addLinks(id, link, links); });
        if (entry.contains("links"))
            for (const Json& link : entry["links"])
                links.push_back(link);
        if (!nodes.empty())
            json["node"] = std::move(nodes);
        if (!links.empty())
            json[linkList] = std::move(links);
        return json;
    }

    /// A device of another network that something is drawn to since.
    Json visitorJson(const Device& device) const {
        const std::string home = homeOf(device);
        return {{"node-id", idText(device.id.value)},
                {"supporting-node",
                 Json::array({Json{{"network-ref", home}, {"node-ref", nodeId(home, device)}}})}};
    }

    std::string nodeId(const std::string& network, const Device& device) const {
        const std::string id = stringIn(entryFor(kept(device.extra), network), "node");
        return id.empty() ? idText(device.id.value) : id;
    }

    Json nodeJson(const std::string& network, const Device& device, const Json& entry) {
        const Json rest = restIn(entry);
        const std::string id = nodeId(network, device);
        Json json{{"node-id", id}};
        const bool atL3 = rest.contains(l3Node) && !rest.contains(l2Node);
        const char* attributes = atL3 ? l3Node : l2Node;
        if (device.name != id)
            json[attributes]["name"] = device.name;
        std::set<std::string> prefixes;
        Json addresses = Json::array();
        network_.all<Interface>().forEachIn(device.id.value, [&](const Interface& interface) {
            if (interface.port.empty() && !atL3) {
                if (isSaidAbove(interface))
                    return;
                for (const Address& address : interface.addresses)
                    addresses.push_back(address.host());
                if (!interface.mac.empty())
                    json[l2Node]["management-mac"] = interface.mac;
            } else if (!interface.port.empty() && above_.empty()) {
                for (const Address& address : interface.addresses)
                    if (const Address prefix = address.network(); prefix.valid())
                        prefixes.insert(prefix.text());
            }
        });
        if (!addresses.empty())
            json[l2Node]["management-address"] = std::move(addresses);
        if (!prefixes.empty() && !(rest.contains(l3Node) && rest[l3Node].contains("prefix")) &&
            (!entry.is_object() || rest.contains(l3Node))) {
            Json list = Json::array();
            for (const std::string& prefix : prefixes)
                list.push_back({{"prefix", prefix}});
            json[l3Node]["prefix"] = std::move(list);
        }
        addKept(json, rest);
        Json points = Json::array();
        for (const PortView& port : portsOf(network_, device))
            if (Json point = pointJson(network, device, port, entry.is_object()); !point.is_null())
                points.push_back(std::move(point));
        network_.all<Interface>().forEachIn(device.id.value, [&](const Interface& interface) {
            if (!interface.port.empty() || interface.name.empty())
                return;
            const Json entries = kept(interface.extra), here = entryFor(entries, network);
            const bool isLag = interface.type == InterfaceKind::lag;
            const bool isFresh = !entries.is_array() && homeOf(device) == network;
            const bool isBelow = here.is_object() && stringIn(entries.front(), "network") == network;
            if (isLag && (isBelow || isFresh))
                points.push_back(lagJson(interface, here));
            else if (here.is_object())
                points.push_back(standingJson(interface, here));
        });
        if (!points.empty())
            json[pointList] = std::move(points);
        return json;
    }

    /// Whether a network above has an interface that is on no port.
    bool isSaidAbove(const Interface& interface) const {
        return edits_ ? edits_->isTold(interface) : routers_.contains(interface.device);
    }

    /// A point of a layer above that is no port below.
    static Json standingJson(const Interface& interface, const Json& entry) {
        const Json rest = restIn(entry);
        Json json{{"tp-id", stringIn(entry, "tp")}};
        Json addresses = Json::array();
        for (const Address& address : interface.addresses)
            addresses.push_back(address.host());
        if (!addresses.empty() && rest.contains(l3Point))
            json[l3Point]["ip-address"] = std::move(addresses);
        addKept(json, rest);
        return json;
    }

    /// A LAG with the points that are its members.
    Json lagJson(const Interface& lag, const Json& entry) const {
        Json members = Json::array();
        for (const std::string& member : lag.members)
            members.push_back(member);
        Json attributes{{"interface-name", lag.name}, {"lag", true}};
        if (!members.empty())
            attributes["member-link-tp"] = std::move(members);
        if (const std::string tags = taggedText(network_, lag); !tags.empty())
            attributes["outer-tag"] = tags;
        Json json{{"tp-id", lag.name}, {l2Point, std::move(attributes)}};
        addKept(json, restIn(entry));
        return json;
    }

    std::string pointId(const std::string& network, const PortRef& ref) const {
        const Port* record = network_.port(ref);
        const std::string id =
            record ? stringIn(entryFor(kept(record->extra), network), "tp") : std::string();
        return id.empty() ? ref.port : id;
    }

    Json pointJson(const std::string& network, const Device& device, const PortView& port, bool imported) {
        const Json entries = port.record ? kept(port.record->extra) : Json();
        const Json here = entryFor(entries, network);
        // At another layer of an imported device only the points that layer has.
        if (entries.is_array() ? !here.is_object() : nets_.size() > 1 && homeOf(device) != network)
            return {};
        const Json rest = restIn(here);
        Json json{{"tp-id", pointId(network, {device.id, port.key})}};
        const bool atL3 = rest.contains(l3Point) && !rest.contains(l2Point);
        if (port.record && !port.record->label.empty() && !atL3)
            json[l2Point]["interface-name"] = port.record->label;
        network_.all<Interface>().forEachIn(device.id.value, [&](const Interface& interface) {
            if (interface.port != port.key)
                return;
            if (!interface.mac.empty() && !atL3)
                json[l2Point]["mac-address"] = interface.mac;
            if (const std::string tags = taggedText(network_, interface); !tags.empty() && !atL3)
                json[l2Point]["outer-tag"] = tags;
            if (!interface.addresses.empty() && (imported ? rest.contains(l3Point) : above_.empty())) {
                Json list = Json::array();
                for (const Address& address : interface.addresses)
                    list.push_back(address.host());
                json[l3Point]["ip-address"] = std::move(list);
            }
        });
        addKept(json, rest);
        return json;
    }

    void addLinks(const std::string& network, const Link& link, Json& out) {
        const Json entries = kept(link.extra);
        const Device *a = network_.device(link.a.device), *b = network_.device(link.b.device);
        if (!a || !b)
            return;
        if (entries.is_array()) {
            for (const Json& entry : entries) {
                if (stringIn(entry, "network") != network)
                    continue;
                out.push_back(keptLink(network, entry, link, *a, *b, false));
                if (entry.contains("back"))
                    out.push_back(keptLink(network, entry["back"], link, *a, *b, true));
            }
            return;
        }
        if (network != homeOf(*a))
            return;
        const std::string id = linkId(link.id, false);
        Json rest = Json::object();
        if (const int speed = speedOf(network_, link); speed > 0)
            rest[l2Link] = {{"rate", std::to_string(static_cast<std::int64_t>(speed) * 1000)}};
        out.push_back(linkJson(network, id, link, *a, *b, false, rest));
        out.push_back(linkJson(network, linkId(link.id, true), link, *a, *b, true, rest));
    }

    /// Of a link drawn here; what goes from its end b to its end a is another.
    static std::string linkId(LinkId link, bool back) { return idText(link.value) + (back ? "-back" : ""); }

    Json keptLink(const std::string& network, const Json& entry, const Link& link, const Device& a,
                  const Device& b, bool back) const {
        Json json = linkJson(network, stringIn(entry, "link"), link, a, b, back, restIn(entry));
        for (const char* end : {"source", "destination"}) // where it says more than the drawing
            if (entry.is_object() && entry.contains(end) && !hasPoint(json[end]))
                json[end] = entry[end];
        return json;
    }

    static bool hasPoint(const Json& end) { return end.contains("source-tp") || end.contains("dest-tp"); }

    Json linkJson(const std::string& network, const std::string& id, const Link& link, const Device& a,
                  const Device& b, bool back, const Json& rest) const {
        const Device& from = back ? b : a;
        const Device& to = back ? a : b;
        const PortRef& out = back ? link.b : link.a;
        const PortRef& in = back ? link.a : link.b;
        Json json{{"link-id", id},
                  {"source", {{"source-node", nodeId(network, from)}}},
                  {"destination", {{"dest-node", nodeId(network, to)}}}};
        if (out.known())
            json["source"]["source-tp"] = pointId(network, out);
        if (in.known())
            json["destination"]["dest-tp"] = pointId(network, in);
        addKept(json, rest);
        return json;
    }

    const Network& network_;
    std::span<const UpperLayer> above_;
    std::set<DeviceId> routers_;                           ///< with interfaces that are on no port
    std::unordered_map<std::uint64_t, std::string> homes_; ///< of devices that were read
    std::map<std::string, std::set<DeviceId>> visitors_;   ///< of networks, beside their own devices
    const UpperEdits* edits_ = nullptr;                    ///< of an imported document
    std::string own_;
    std::set<std::string> used_;
    std::vector<Imported> nets_;
};

} // namespace

Written writeRfc8345(const Network& network, std::span<const UpperLayer> above) {
    Written written{Writer(network, above).write(), {}};
    listLosses(network, {}, "RFC 8345", written.remarks);
    std::size_t attributes = 0, untagged = 0, notOnPort = 0;
    network.all<Device>().forEach([&](const Device& device) { attributes += device.attributes.size(); });
    network.all<Link>().forEach([&](const Link& link) { attributes += link.attributes.size(); });
    network.all<Interface>().forEach([&](const Interface& interface) {
        untagged += static_cast<bool>(interface.untagged);
        notOnPort += above.empty() && interface.type != InterfaceKind::physical &&
                     interface.type != InterfaceKind::loopback && interface.type != InterfaceKind::lag;
    });
    const auto lost = [&](std::size_t count, std::string_view one, std::string_view many) {
        if (count > 0)
            written.remarks.push_back(lossRemark(count, one, many, "RFC 8345"));
    };
    lost(attributes, "attribute", "attributes");
    lost(untagged, "untagged VLAN", "untagged VLANs");
    lost(notOnPort, "interface that is not on a port", "interfaces that are not on a port");
    return written;
}

} // namespace underridge::exchange

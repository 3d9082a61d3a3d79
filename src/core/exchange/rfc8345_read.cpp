// SPDX-License-Identifier: GPL-3.0-or-later
// RFC 8345 in, in the JSON encoding of RFC 7951; also wrapped as RESTCONF data (RFC 8040)
// or as instance data (RFC 9195).
//
// A network of the document becomes a sheet. A node that rests on exactly one node of
// another network here, and alone, is the same device seen at another layer. A link between
// devices that a network below joins already is of the upper layer: drawn on its sheet alone
// and in no port. So is one that says what it rests on.
// What is not understood is kept with its object under "rfc8345".
#include "core/exchange/foreign.h"
#include "core/exchange/rfc8345_links.h"

#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
using namespace rfc8345;
namespace {

class Rfc8345Reader {
public:
    Rfc8345Reader(const Source& source, const JsonText& document, std::vector<Remark> decoding)
        : source_(source),
          document_(document),
          builder_(source, source.file.substr(source.file.find_last_of('/') + 1)),
          remarks_(builder_.remarks(), source.file, document),
          points_(builder_, nets_),
          links_(builder_, nets_, points_, remarks_) {
        for (Remark& remark : decoding)
            builder_.remarks().add(std::move(remark));
    }

    Result<Loaded> read() {
        if (auto found = findNetworks(); !found)
            return found.refusal();
        const auto order = nets_.inOrder([this](const Net& net) {
            remarks_.warn("the networks rest on each other in a circle", "remove one supporting-network",
                          net.json, net.id);
        });
        for (const std::size_t i : order)
            nodes(nets_.all[i]);
        for (const std::size_t i : order)
            links_.read(nets_.all[i]);
        if (nets_.isOne())
            builder_.info().name = nets_.all.front().id;
        keepEntries();
        return builder_.finish();
    }

private:
    /// Goes down to the list of networks; what stands beside the way is kept for the
    /// writer.
    Result<Done> findNetworks() {
        const Where start{source_.file, 1, 1};
        JsonView at = document_.root();
        if (!at.isObject())
            return error("the document is not a JSON object", "choose another file", start);
        const auto into = [&](std::string_view module, std::string_view name) {
            const JsonView next = member(at, module, name);
            if (!next)
                return false;
            JsonMembers level;
            level.setText("name", fmt::format("{}:{}", module, name));
            level.set("beside", without(at, module, {name}).text());
            addEntry(way_, level);
            at = next;
            return true;
        };
        into("ietf-restconf", "data");
        if (into("ietf-yang-instance-data", "instance-data-set"))
            into("ietf-yang-instance-data", "content-data");
        JsonView list;
        if (into(nw, "networks")) {
            list = member(at, nw, "network");
        } else {
            list = member(at, nw, "network");
            if (!list)
                return error("the document holds no networks of RFC 8345",
                             "it should begin with {\"ietf-network:networks\": …", start);
        }
        if (at.isObject()) {
            remarks_.strangers(at, {"network"});
            beside_ = without(at, nw, {"network"}).text();
        }
        if (list && !list.isArray())
            return error("\"network\" is not a list", "correct it or restore the file", remarks_.where(list));
        std::set<std::string> seen;
        list.forEach([&](JsonView json) {
            Net net{textIn(json, nw, "network-id"), json};
            net.area = ospfAreaOf(json);
            net.unicast = isUnicast(json);
            remarks_.strangers(json, {"network-id", "node", "link", "supporting-network", "network-types"});
            if (net.id.empty())
                remarks_.warn("a network has no network-id; it was passed over", "give it one", json);
            else if (!seen.insert(net.id).second)
                remarks_.warn("the network is there twice; the second was passed over",
                              "give each network its own id", json, net.id);
            else
                nets_.all.push_back(std::move(net));
        });
        for (Net& net : nets_.all)
            net.sheet = builder_.addSheet(titleOf(net));
        return Done{};
    }

    static bool isUpper(const Net& net) {
        return std::any_of(net.nodes.begin(), net.nodes.end(),
                           [](const auto& each) { return each.second.isJoinedBelow(); });
    }

    static std::string titleOf(const Net& net) {
        for (const auto& [module, container] :
             {std::pair(l2, "l2-topology-attributes"), std::pair(l3, "l3-topology-attributes")})
            if (std::string name = textIn(member(net.json, module, container), module, "name"); !name.empty())
                return name;
        return net.id;
    }

    void nodes(Net& net) {
        const JsonView list = member(net.json, nw, "node");
        if (list && !list.isArray()) {
            remarks_.warn("\"node\" is not a list; it was passed over", "correct it", list, net.id);
            return;
        }
        // How many nodes of this network rest on each node below: only one that stands
        // alone is the same device.
        std::unordered_map<std::string, int> resting;
        list.forEach([&](JsonView node) {
            listIn(node, nw, "supporting-node").forEach([&](JsonView support) {
                ++resting[named(textIn(support, nw, "network-ref"), textIn(support, nw, "node-ref"))];
            });
        });
        list.forEach([&](JsonView json) { node(net, json, resting); });
    }

    /// The node whose device one is another view of, if it is.
    const Node* sameAs(JsonView json, const std::string& id,
                       const std::unordered_map<std::string, int>& resting) {
        const Node* same = nullptr;
        const JsonView supports = listIn(json, nw, "supporting-node");
        supports.forEach([&](JsonView support) {
            const std::string network = textIn(support, nw, "network-ref"),
                              node = textIn(support, nw, "node-ref");
            const Node* below = nets_.node(network, node);
            if (!below && nets_.net(network))
                remarks_.warn(
                    fmt::format("it rests on the node \"{}\" of \"{}\", which is not there", node, network),
                    "the reference is kept", support, id);
            if (below && supports.size() == 1 && resting.at(named(network, node)) == 1)
                same = below;
        });
        return same;
    }

    void node(Net& net, JsonView json, const std::unordered_map<std::string, int>& resting) {
        remarks_.strangers(json, {"node-id", "termination-point", "supporting-node"});
        const std::string id = textIn(json, nw, "node-id");
        if (id.empty()) {
            remarks_.warn("a node has no node-id; it was passed over", "give it one", json);
            addRaw(net.keptNodes, json);
            return;
        }
        if (net.nodes.contains(id)) {
            remarks_.warn("the node is there twice; the second was passed over", "give each node its own id",
                          json, id);
            return;
        }
        const Node* below = sameAs(json, id, resting);
        DeviceId device = below ? below->device : DeviceId();
        const JsonView l2Attributes = member(json, l2, "l2-node-attributes");
        const JsonView l3Attributes = member(json, l3, "l3-node-attributes");
        std::string name = textIn(l2Attributes, l2, "name");
        if (name.empty())
            name = textIn(l3Attributes, l3, "name");
        if (!below) {
            device = builder_.addDevice(net.id == nets_.all.front().id ? id : named(net.id, id),
                                        name.empty() ? id : name);
            if (isPseudonode(json))
                builder_.setModel(device, "shared-segment");
        }
        Node& node = net.nodes.emplace(id, Node{device, {}, {}, below, &net}).first->second;
        builder_.knowAs(id, device.value);
        builder_.show(net.sheet, device);

        JsonMembers rest = without(json, nt, {"termination-point", "node-id"});
        // The name is the device's, unless another layer gave it another.
        const std::string& deviceName = builder_.device(device).name;
        dropWhereText(rest, json, l2, "l2-node-attributes", "name", deviceName);
        dropWhereText(rest, json, l3, "l3-node-attributes", "name", deviceName);
        listIn(l2Attributes, l2, "management-address").forEach([&](JsonView address) {
            if (Address(address.text()).valid())
                builder_.addAddress(device, {}, address.text());
        });
        if (const std::string mac = textIn(l2Attributes, l2, "management-mac"); !mac.empty())
            builder_.interfaceOn(device, {}).mac = mac.substr(0, 40);
        const std::vector<LayerPrefix> prefixes = prefixesIn(l3Attributes);
        if (net.version == 0 && !prefixes.empty())
            net.version = prefixes.front().prefix.version();
        const JsonView ids = listIn(l3Attributes, l3, "router-id");
        if (!isPseudonode(json) && (!net.area.empty() || ids.size() > 0))
            builder_.device(device).routing = true;
        if (!net.area.empty() && ids.size() > 0)
            if (const Address said(ids.at(0).text()); said.version() == 4 && said.valid()) {
                Ospf ospf = *builder_.device(device).ospf;
                ospf.routerId = said.host();
                builder_.device(device).ospf = ospf;
            }
        points(net, json, node, id, prefixes);
        JsonMembers entry;
        entry.setText("network", net.id);
        entry.setText("node", id);
        entry.set("rest", rest.text());
        addEntry(deviceEntries_[device.value], entry);
    }

    /// Takes one text out of a container of `rest` when it says just what is known
    /// already.
    static void dropWhereText(JsonMembers& rest, JsonView object, std::string_view module,
                              std::string_view container, std::string_view name, std::string_view known) {
        const JsonView held = member(object, module, container);
        if (!held.isObject() || !member(held, module, name).isText(known))
            return;
        replaceMember(rest, module, container, without(held, module, {name}).text());
    }

    void points(Net& net, JsonView whole, Node& node, const std::string& nodeId,
                const std::vector<LayerPrefix>& prefixes) {
        const JsonView list = listIn(whole, nt, "termination-point");
        const PointList& points = lists_.of(list);
        node.points = points.names;
        std::set<std::string> seen;
        const bool alone = nets_.isOne(); // no other layer to tell a point from
        list.forEach([&](JsonView json) {
            net.unicast |= static_cast<bool>(member(json, l3, "l3-termination-point-attributes"));
            if (points.usable && alone && json.size() == 1)
                return; // nothing but its id
            if (points_.takeLag(net, json, node, nodeId))
                return;
            std::string id = textIn(json, nt, "tp-id");
            if (id.empty() || id.size() > maxPoint)
                remarks_.warn("a termination point has no usable tp-id; it was passed over",
                              fmt::format("give it one of at most {} bytes", maxPoint), json, nodeId);
            else if (!points.usable && !seen.insert(id).second)
                remarks_.warn(
                    fmt::format("the termination point {} is there twice; the second was passed over", id),
                    "give each its own id", json, nodeId);
            else
                points_.take(net, json, node, nodeId, id, prefixes);
        });
        if (node.renamed.empty())
            return builder_.addPorts(node.device, points.names);
        std::vector<std::string> own = points.names.all();
        std::erase_if(own, [&](const std::string& id) { return node.renamed.contains(id); });
        builder_.addPorts(node.device, PortNames(std::move(own)));
    }

    static SharedText extraWith(const std::string& value) { return {"{\"rfc8345\":" + value + "}"}; }

    void keepEntries() {
        for (const auto& [id, entries] : deviceEntries_)
            builder_.device({id}).extra = extraWith('[' + entries + ']');
        for (const auto& [ref, entries] : points_.ofPorts())
            builder_.portRecord(ref).extra = extraWith('[' + entries + ']');
        for (const auto& [interface, entries] : points_.ofInterfaces())
            interface->extra = extraWith('[' + entries + ']');
        for (const auto& [id, entries] : links_.entries())
            builder_.links().at(id).extra = extraWith('[' + entries + ']');
        for (const Net& net : nets_.all) {
            JsonMembers rest = without(net.json, nw, {"network-id", "node"});
            drop(rest, nt, "link");
            JsonMembers entry;
            entry.setText("network", net.id);
            entry.set("rest", rest.text());
            if (!net.area.empty())
                entry.setText("area", net.area);
            if (net.version == 6)
                entry.set("ipv6", "true");
            if (net.unicast)
                entry.set("unicast", "true");
            if (!net.keptLinks.empty())
                entry.set("links", '[' + net.keptLinks + ']');
            if (!net.keptNodes.empty())
                entry.set("nodes", '[' + net.keptNodes + ']');
            for (Sheet& sheet : builder_.sheets())
                if (sheet.id == net.sheet) {
                    sheet.extra = extraWith(entry.text());
                    sheet.layer = isUpper(net) ? SheetLayer::upper : SheetLayer::physical;
                }
        }
        JsonMembers document;
        document.set("way", '[' + way_ + ']');
        document.set("beside", beside_);
        builder_.info().extra = extraWith(document.text());
    }

    const Source& source_;
    const JsonText& document_;
    Builder builder_;
    DocumentRemarks remarks_;
    std::string way_; ///< inside of an array: the members that lead to the networks, and what stands beside
    std::string beside_ = "{}"; ///< members beside the list of networks
    Nets nets_;
    Points points_;
    Links links_;
    PointLists lists_;
    std::unordered_map<std::uint64_t, Entries> deviceEntries_;
};

} // namespace

Result<Loaded> readRfc8345(std::string_view bytes, const Source& source) {
    std::vector<Remark> remarks;
    auto text = decodeText(bytes, source.file, remarks);
    if (!text)
        return text.refusal();
    const auto document = JsonText::parse(*std::move(text), source.file);
    if (!document)
        return document.refusal();
    return Rfc8345Reader(source, *document, std::move(remarks)).read();
}

} // namespace underridge::exchange

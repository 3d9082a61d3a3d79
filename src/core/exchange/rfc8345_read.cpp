// SPDX-License-Identifier: GPL-3.0-or-later
// RFC 8345 in, in the JSON encoding of RFC 7951; also wrapped as RESTCONF data (RFC 8040)
// or as instance data (RFC 9195).
//
// A network of the document becomes a sheet. A node that rests on exactly one node of
// another network here, and alone, is the same device seen at another layer. A link that
// rests on exactly one link is that link; one that rests on several is a link of its own.
// What is not understood is kept with its object under "rfc8345".
#include "core/exchange/foreign.h"
#include "core/exchange/rfc8345_points.h"

#include <deque>
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
          lines_(document.text()),
          points_(builder_, nets_) {
        for (Remark& remark : decoding)
            builder_.remarks().add(std::move(remark));
    }

    Result<Loaded> read() {
        if (auto found = findNetworks(); !found)
            return found.refusal();
        const auto order = nets_.inOrder([this](const Net& net) {
            remark(Severity::warning, "the networks rest on each other in a circle",
                   "remove one supporting-network", net.json, net.id);
        });
        for (const std::size_t i : order)
            nodes(nets_.all[i]);
        for (const std::size_t i : order)
            links(nets_.all[i]);
        if (nets_.isOne())
            builder_.info().name = nets_.all.front().id;
        keepEntries();
        return builder_.finish();
    }

private:
    void remark(Severity severity, std::string what, std::string remedy, JsonView at,
                std::string object = {}) {
        Where where = lines_.at(source_.file, at.offset());
        where.object = std::move(object);
        builder_.remarks().add({severity, std::move(what), std::move(remedy), std::move(where)});
    }

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
            strangers(at, {"network"});
            beside_ = without(at, nw, {"network"}).text();
        }
        if (list && !list.isArray())
            return error("\"network\" is not a list", "correct it or restore the file",
                         lines_.at(source_.file, list.offset()));
        std::set<std::string> seen;
        list.forEach([&](JsonView json) {
            Net net{textIn(json, nw, "network-id"), json};
            net.area = ospfAreaOf(json);
            strangers(json, {"network-id", "node", "link", "supporting-network", "network-types"});
            if (net.id.empty())
                remark(Severity::warning, "a network has no network-id; it was passed over", "give it one",
                       json);
            else if (!seen.insert(net.id).second)
                remark(Severity::warning, "the network is there twice; the second was passed over",
                       "give each network its own id", json, net.id);
            else
                nets_.all.push_back(std::move(net));
        });
        for (Net& net : nets_.all)
            net.sheet = builder_.addSheet(titleOf(net));
        return Done{};
    }

    /// Members with a name of the standard and the module of another: they are not what
    /// they look like.
    void strangers(JsonView object, std::initializer_list<std::string_view> names) {
        object.forEachMember([&](std::string_view key, JsonView value) {
            const auto colon = key.find(':');
            if (colon == std::string_view::npos)
                return;
            const std::string_view module = key.substr(0, colon), name = key.substr(colon + 1);
            if (std::find(names.begin(), names.end(), name) != names.end() && !isMember(key, nw, name) &&
                !isMember(key, nt, name))
                remark(Severity::warning,
                       fmt::format("\"{}\" is of the module {}; it is kept, not read", name,
                                   module.substr(0, 60)),
                       "correct its prefix if the standard's is meant", value);
        });
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
            remark(Severity::warning, "\"node\" is not a list; it was passed over", "correct it", list,
                   net.id);
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

    /// The device a node is another view of, if it is.
    DeviceId sameAs(JsonView json, const std::string& id,
                    const std::unordered_map<std::string, int>& resting) {
        DeviceId device;
        const JsonView supports = listIn(json, nw, "supporting-node");
        supports.forEach([&](JsonView support) {
            const std::string network = textIn(support, nw, "network-ref"),
                              node = textIn(support, nw, "node-ref");
            const Node* below = nets_.node(network, node);
            if (!below && nets_.net(network))
                remark(
                    Severity::warning,
                    fmt::format("it rests on the node \"{}\" of \"{}\", which is not there", node, network),
                    "the reference is kept", support, id);
            if (below && supports.size() == 1 && resting.at(named(network, node)) == 1)
                device = below->device;
        });
        return device;
    }

    void node(Net& net, JsonView json, const std::unordered_map<std::string, int>& resting) {
        strangers(json, {"node-id", "termination-point", "supporting-node"});
        const std::string id = textIn(json, nw, "node-id");
        if (id.empty()) {
            remark(Severity::warning, "a node has no node-id; it was passed over", "give it one", json);
            keepRaw(net.keptNodes, json);
            return;
        }
        if (net.nodes.contains(id)) {
            remark(Severity::warning, "the node is there twice; the second was passed over",
                   "give each node its own id", json, id);
            return;
        }
        DeviceId device = sameAs(json, id, resting);
        const bool merged = static_cast<bool>(device);
        const JsonView l2Attributes = member(json, l2, "l2-node-attributes");
        const JsonView l3Attributes = member(json, l3, "l3-node-attributes");
        std::string name = textIn(l2Attributes, l2, "name");
        if (name.empty())
            name = textIn(l3Attributes, l3, "name");
        if (!merged) {
            device = builder_.addDevice(net.id == nets_.all.front().id ? id : named(net.id, id),
                                        name.empty() ? id : name);
            if (isPseudonode(json))
                builder_.setModel(device, "shared-segment");
        }
        Node& node = net.nodes.emplace(id, Node{device, {}}).first->second;
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
        if (const JsonView ids = listIn(l3Attributes, l3, "router-id"); !net.area.empty() && ids.size() > 0)
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

    static void keepRaw(std::string& into, JsonView json) {
        if (!into.empty())
            into += ',';
        into += json.compact();
    }

    void points(const Net& net, JsonView whole, Node& node, const std::string& nodeId,
                const std::vector<LayerPrefix>& prefixes) {
        const JsonView list = listIn(whole, nt, "termination-point");
        const PointList& points = lists_.of(list);
        node.points = points.names;
        std::set<std::string> seen;
        const bool alone = nets_.isOne(); // no other layer to tell a point from
        list.forEach([&](JsonView json) {
            if (points.usable && alone && json.size() == 1)
                return; // nothing but its id
            if (points_.takeLag(net, json, node, nodeId))
                return;
            std::string id = textIn(json, nt, "tp-id");
            if (id.empty() || id.size() > maxPoint)
                remark(Severity::warning, "a termination point has no usable tp-id; it was passed over",
                       fmt::format("give it one of at most {} bytes", maxPoint), json, nodeId);
            else if (!points.usable && !seen.insert(id).second)
                remark(Severity::warning,
                       fmt::format("the termination point {} is there twice; the second was passed over", id),
                       "give each its own id", json, nodeId);
            else
                points_.take(net, json, node, id, prefixes);
        });
        if (node.renamed.empty())
            return builder_.addPorts(node.device, points.names);
        std::vector<std::string> own = points.names.all();
        std::erase_if(own, [&](const std::string& id) { return node.renamed.contains(id); });
        builder_.addPorts(node.device, PortNames(std::move(own)));
    }

    // --- links -----------------------------------------------------------------

    struct EndsHash {
        std::size_t operator()(const std::pair<PortRef, PortRef>& ends) const {
            const auto one = [](const PortRef& ref) { return ref.device.value * 31 ^ fnv1a(ref.port); };
            return one(ends.first) * 0x9E3779B97F4A7C15ULL ^ one(ends.second);
        }
    };
    struct Direction {
        JsonView json;
        std::string id;
        PortRef source, destination;
        bool restsOnSeveral = false;
        bool paired = false;
    };

    void links(Net& net) {
        const JsonView list = member(net.json, nt, "link");
        if (list && !list.isArray()) {
            remark(Severity::warning, "\"link\" is not a list; it was passed over", "correct it", list,
                   net.id);
            return;
        }
        std::vector<Direction> directions;
        std::unordered_set<std::string> seen;
        list.forEach([&](JsonView json) { direction(net, json, seen, directions); });
        // RFC 8345 links go one way; what goes both ways is two of them.
        std::unordered_map<std::pair<PortRef, PortRef>, std::deque<std::size_t>, EndsHash> waiting;
        for (std::size_t i = 0; i < directions.size(); ++i) {
            const bool loop = directions[i].destination == directions[i].source;
            const auto back = waiting.find({directions[i].destination, directions[i].source});
            if (back != waiting.end() && !back->second.empty() && !loop) {
                const std::size_t first = back->second.front();
                back->second.pop_front();
                directions[first].paired = directions[i].paired = true;
                join(net, directions[first], &directions[i]);
            } else {
                waiting[{directions[i].source, directions[i].destination}].push_back(i);
            }
        }
        for (const Direction& direction : directions)
            if (!direction.paired)
                join(net, direction, nullptr);
    }

    void direction(Net& net, JsonView json, std::unordered_set<std::string>& seen,
                   std::vector<Direction>& out) {
        strangers(json, {"link-id", "source", "destination", "supporting-link"});
        Direction direction{json, textIn(json, nt, "link-id"), {}, {}};
        if (direction.id.empty()) {
            remark(Severity::warning, "a link has no link-id; it is kept, not drawn", "give it one", json);
            keepRaw(net.keptLinks, json);
            return;
        }
        if (!seen.insert(direction.id).second) {
            remark(Severity::warning, "the link is there twice; the second was passed over",
                   "give each link its own id", json, direction.id);
            return;
        }
        const auto from = end(net, json, "source", "source-node", "source-tp", direction.id);
        const auto to = end(net, json, "destination", "dest-node", "dest-tp", direction.id);
        if (!from || !to) {
            keepRaw(net.keptLinks, json);
            return;
        }
        if (!net.area.empty() && from->known())
            points_.setOspf(
                *from, net.area,
                static_cast<std::int64_t>(
                    wholeIn(member(member(json, l3, "l3-link-attributes"), l3, "metric1")).value_or(0)));
        direction.source = *from;
        direction.destination = *to;
        if (listIn(json, nt, "supporting-link").size() > 0) {
            if (const auto same = linkBelow(json); same) {
                JsonMembers entry;
                entry.setText("network", net.id);
                entry.setText("link", direction.id);
                entry.set("rest", restOf(json));
                for (const char* each : {"source", "destination"})
                    entry.set(each, member(json, nt, each).compact());
                entry.set("ends", "true");
                addEntry(linkEntries_[same->value], entry);
                net.links.emplace(direction.id, *same);
                return;
            }
            direction.restsOnSeveral = true;
        }
        out.push_back(std::move(direction));
    }

    /// The drawn link that all supporting links are, when it is one and the same.
    std::optional<LinkId> linkBelow(JsonView json) const {
        std::optional<LinkId> same;
        bool one = true;
        listIn(json, nt, "supporting-link").forEach([&](JsonView support) {
            const auto below =
                nets_.link(textIn(support, nt, "network-ref"), textIn(support, nt, "link-ref"));
            one &= below && (!same || *same == *below);
            same = below;
        });
        return one ? same : std::nullopt;
    }

    std::optional<PortRef> end(const Net& net, JsonView link, std::string_view container,
                               std::string_view nodeName, std::string_view pointName, const std::string& id) {
        const JsonView json = member(link, nt, container);
        const std::string node = textIn(json, nt, nodeName);
        std::string point = textIn(json, nt, pointName);
        const auto at = net.nodes.find(node);
        if (at == net.nodes.end()) {
            remark(Severity::warning,
                   node.empty()
                       ? fmt::format("the link has no {}; it is kept, not drawn", nodeName)
                       : fmt::format("the link names the node \"{}\", which is not there; it is kept, "
                                     "not drawn",
                                     node),
                   "correct the ends where it came from", link, id);
            return std::nullopt;
        }
        if (point.empty())
            return PortRef{at->second.device, {}};
        if (auto known = at->second.portOf(point))
            return known;
        remark(Severity::warning,
               fmt::format("the link names the termination point \"{}\" of {}, which does not list it", point,
                           node),
               "the port is taken as named", link, id);
        return builder_.port(at->second.device, point);
    }

    static std::string restOf(JsonView json) {
        constexpr std::size_t ownMembers = 3;
        if (json.size() == ownMembers) // id and both ends were there: nothing else is
            return "{}";
        return without(json, nt, {"link-id", "source", "destination"}).text();
    }

    /// A link above others does not take a port from those below it: its end is then
    /// known by device alone.
    PortRef endFor(const Direction& direction, const PortRef& port, bool& moved) {
        if (!direction.restsOnSeveral || !port.known() || !taken_.contains(port))
            return port;
        moved = true;
        return {port.device, {}};
    }

    void join(Net& net, const Direction& forth, const Direction* back) {
        bool moved = false;
        const PortRef a = endFor(forth, forth.source, moved), b = endFor(forth, forth.destination, moved);
        Link& link =
            builder_.addLink(net.id == nets_.all.front().id ? forth.id : named(net.id, forth.id), a, b);
        if (forth.restsOnSeveral || listIn(net.json, nw, "supporting-network").size() > 0)
            link.onlyOn = net.sheet;
        if (!nets_.isOne()) // others may rest on it
            for (const PortRef* end : {&a, &b})
                if (end->known())
                    taken_.insert(*end);
        const auto described = [&](const Direction& direction) {
            JsonMembers members;
            members.setText("link", direction.id);
            members.set("rest", restOf(direction.json));
            if (moved) { // what it says of its ends is more than the drawing does
                members.set("source", member(direction.json, nt, "source").compact());
                members.set("destination", member(direction.json, nt, "destination").compact());
            }
            if (!nets_.isOne())
                net.links.emplace(direction.id, link.id);
            builder_.knowAs(direction.id, link.id.value);
            return members;
        };
        JsonMembers entry = described(forth);
        entry.setText("network", net.id);
        if (back)
            entry.set("back", described(*back).text());
        // RFC 8944: rate in kbit/s.
        const auto rate = wholeIn(member(member(forth.json, l2, "l2-link-attributes"), l2, "rate"));
        if (rate && *rate >= 1000 && *rate < 10'000'000'000)
            for (const PortRef* end : {&link.a, &link.b})
                if (builder_.isLearned(*end))
                    builder_.portRecord(*end).speed = static_cast<int>(*rate / 1000);
        addEntry(linkEntries_[link.id.value], entry);
    }

    static SharedText extraWith(const std::string& value) { return {"{\"rfc8345\":" + value + "}"}; }

    void keepEntries() {
        for (const auto& [id, entries] : deviceEntries_)
            builder_.device({id}).extra = extraWith('[' + entries + ']');
        for (const auto& [ref, entries] : points_.ofPorts())
            builder_.portRecord(ref).extra = extraWith('[' + entries + ']');
        for (const auto& [lag, entries] : points_.ofLags())
            lag->extra = extraWith('[' + entries + ']');
        for (const auto& [id, entries] : linkEntries_)
            builder_.links().at(id).extra = extraWith('[' + entries + ']');
        for (const Net& net : nets_.all) {
            JsonMembers rest = without(net.json, nw, {"network-id", "node"});
            drop(rest, nt, "link");
            JsonMembers entry;
            entry.setText("network", net.id);
            entry.set("rest", rest.text());
            if (!net.keptLinks.empty())
                entry.set("links", '[' + net.keptLinks + ']');
            if (!net.keptNodes.empty())
                entry.set("nodes", '[' + net.keptNodes + ']');
            for (Sheet& sheet : builder_.sheets())
                if (sheet.id == net.sheet)
                    sheet.extra = extraWith(entry.text());
        }
        JsonMembers document;
        document.set("way", '[' + way_ + ']');
        document.set("beside", beside_);
        builder_.info().extra = extraWith(document.text());
    }

    const Source& source_;
    const JsonText& document_;
    Builder builder_;
    Lines lines_;
    std::string way_; ///< inside of an array: the members that lead to the networks, and what stands beside
    std::string beside_ = "{}"; ///< members beside the list of networks
    Nets nets_;
    Points points_;
    PointLists lists_;
    std::unordered_map<std::uint64_t, Entries> deviceEntries_, linkEntries_;
    std::set<PortRef> taken_;
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

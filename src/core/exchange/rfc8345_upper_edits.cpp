// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_upper_edits.h"

#include "core/exchange/rfc8345_members.h"
#include "core/model/ports.h"

#include <algorithm>

namespace underridge::exchange::rfc8345 {
using namespace model;
namespace {

using Json = ExactJson;

/// A member under any name it may have; null: there is none.
Json* memberOf(Json& object, std::string_view module, std::string_view name) {
    if (object.is_object())
        for (auto each = object.begin(); each != object.end(); ++each)
            if (isMember(each.key(), module, name))
                return &each.value();
    return nullptr;
}

Json& memberOr(Json& object, std::string_view module, const char* name, const char* key, Json fresh) {
    Json* held = memberOf(object, module, name);
    return held ? *held : object[key] = std::move(fresh);
}

std::string textOf(Json& object, std::string_view module, std::string_view name) {
    const Json* held = memberOf(object, module, name);
    return held && held->is_string() ? held->get<std::string>() : std::string();
}

void dropMember(Json& object, std::string_view module, std::string_view name) {
    std::string key;
    for (auto each = object.begin(); each != object.end(); ++each)
        if (isMember(each.key(), module, name))
            key = each.key();
    object.erase(key);
}

template <class Each>
void forEachOf(Json& object, std::string_view module, std::string_view name, Each&& each) {
    if (Json* list = memberOf(object, module, name); list && list->is_array())
        for (Json& element : *list)
            each(element);
}

template <class Is>
void eraseWhere(Json& object, std::string_view module, std::string_view name, Is&& is) {
    Json* list = memberOf(object, module, name);
    if (!list || !list->is_array())
        return;
    Json left = Json::array();
    for (Json& element : *list)
        if (!is(element))
            left.push_back(std::move(element));
    *list = std::move(left);
}

LinkEnd endOf(Json& link, std::string_view end, std::string_view node, std::string_view point) {
    Json* json = memberOf(link, nt, end);
    return json ? LinkEnd{textOf(*json, nt, node), textOf(*json, nt, point)} : LinkEnd{};
}

LinkEnd sourceOf(Json& link) {
    return endOf(link, "source", "source-node", "source-tp");
}

LinkEnd destinationOf(Json& link) {
    return endOf(link, "destination", "dest-node", "dest-tp");
}

std::vector<Address> addressesOf(Json& point) {
    std::vector<Address> out;
    if (Json* attributes = memberOf(point, l3, "l3-termination-point-attributes"))
        forEachOf(*attributes, l3, "ip-address", [&](Json& each) {
            if (each.is_string())
                out.emplace_back(each.get<std::string>());
        });
    return out;
}

bool holdsAny(Json& prefix, const std::vector<Address>& addresses) {
    const Address held(textOf(prefix, l3, "prefix"));
    return held.valid() && std::any_of(addresses.begin(), addresses.end(),
                                       [&](const Address& each) { return held.contains(each); });
}

/// Points that are gone, with their links and prefixes, and nodes nothing is left of.
void dropPoints(Json& net, const std::set<LinkEnd>& gone) {
    if (gone.empty())
        return;
    std::set<std::string> touched, linked;
    eraseWhere(net, nt, "link", [&](Json& link) {
        const LinkEnd from = sourceOf(link), to = destinationOf(link);
        const bool drops = gone.contains(from) || gone.contains(to);
        (drops ? touched : linked).insert({from.node, to.node});
        return drops;
    });
    forEachOf(net, nw, "node", [&](Json& node) {
        const std::string id = textOf(node, nw, "node-id");
        std::vector<Address> left, lost;
        bool any = false;
        eraseWhere(node, nt, "termination-point", [&](Json& point) {
            const bool drops = gone.contains({id, textOf(point, nt, "tp-id")});
            const auto addresses = addressesOf(point);
            (drops ? lost : left).insert((drops ? lost : left).end(), addresses.begin(), addresses.end());
            any |= !drops;
            if (drops)
                touched.insert(id);
            return drops;
        });
        if (any)
            linked.insert(id);
        if (Json* attributes = memberOf(node, l3, "l3-node-attributes"))
            eraseWhere(*attributes, l3, "prefix",
                       [&](Json& prefix) { return holdsAny(prefix, lost) && !holdsAny(prefix, left); });
    });
    eraseWhere(net, nw, "node", [&](Json& node) {
        const std::string id = textOf(node, nw, "node-id");
        return touched.contains(id) && !linked.contains(id);
    });
}

void setCosts(Json& net, const std::map<LinkEnd, int>& costs) {
    if (costs.empty())
        return;
    forEachOf(net, nt, "link", [&](Json& link) {
        const auto at = costs.find(sourceOf(link));
        if (at == costs.end())
            return;
        if (at->second > 0)
            memberOr(memberOr(link, l3, "l3-link-attributes", l3Link, Json::object()), l3, "metric1",
                     "metric1", {}) = std::to_string(at->second); // uint64 is a text in RFC 7951
        else if (Json* attributes = memberOf(link, l3, "l3-link-attributes"))
            dropMember(*attributes, l3, "metric1");
    });
    forEachOf(net, nw, "node", [&](Json& node) {
        const std::string id = textOf(node, nw, "node-id");
        Json* attributes = memberOf(node, l3, "l3-node-attributes");
        forEachOf(node, nt, "termination-point", [&](Json& point) {
            const auto at = costs.find({id, textOf(point, nt, "tp-id")});
            if (at == costs.end() || !attributes)
                return;
            const auto addresses = addressesOf(point);
            forEachOf(*attributes, l3, "prefix", [&](Json& prefix) {
                if (!holdsAny(prefix, addresses))
                    return;
                if (at->second > 0)
                    memberOr(prefix, l3, "metric", "metric", {}) = at->second;
                else
                    dropMember(prefix, l3, "metric");
            });
        });
    });
}

/// What OSPF was said to be of an interface when it was read.
struct Was {
    std::optional<std::uint32_t> area;
    int cost = 0;
};

std::optional<Was> wasOf(const Interface& interface) {
    const Json entries = kept(interface.extra);
    if (entries.is_array())
        for (const Json& entry : entries)
            if (entry.is_object() && entry.contains("ospf") && entry["ospf"].is_object()) {
                const Json& ospf = entry["ospf"];
                const auto cost = ospf.find("cost");
                return Was{OspfArea(stringIn(ospf, "area")).number(),
                           cost != ospf.end() && cost->is_number_integer() ? cost->get<int>() : 0};
            }
    return std::nullopt;
}

/// An interface that is not merely where addresses of its device are kept.
bool isNamed(const Interface& interface) {
    return !interface.port.empty() || !interface.name.empty();
}

} // namespace

UpperEdits::UpperEdits(const Network& network, std::span<const Imported> imported,
                       std::span<const UpperLayer> above, Naming naming)
    : network_(network), naming_(std::move(naming)), one_(imported.size() == 1) {
    for (const Imported& each : imported)
        if (each.entry.is_object() && each.entry.contains("unicast"))
            uppers_.push_back({each.id, OspfArea(stringIn(each.entry, "area")).number(),
                               each.entry.contains("ipv6") ? 6 : 4});
    for (const UpperLayer& layer : above)
        if (Upper* upper = upperOf(layer))
            upper->now.push_back(&layer);
        else if (layer.area || layer.suffix != "l3" || uppers_.empty() || tellsMore(layer))
            missing_.push_back(&layer);
    const auto tell = [&](const UpperLayer& layer, auto&& is) {
        for (const LayerNode& node : layer.nodes)
            for (const LayerPoint& point : node.points)
                if (is(point.interface))
                    told_.insert(point.interface);
    };
    for (const UpperLayer* layer : missing_)
        tell(*layer, [](InterfaceId) { return true; });
    for (Upper& upper : uppers_) {
        upper.changes = changesIn(upper);
        for (const UpperLayer* layer : upper.now)
            tell(*layer, [&](InterfaceId id) { return upper.changes.fresh.contains(id); });
    }
}

/// The network that is about a layer, of an area best the one for its kind of addresses. Null:
/// none is.
UpperEdits::Upper* UpperEdits::upperOf(const UpperLayer& layer) {
    const auto area = layer.area ? OspfArea(*layer.area).number() : std::nullopt;
    Upper* found = nullptr;
    for (Upper& upper : uppers_)
        if (upper.area == area && (area || layer.suffix == "l3") &&
            (!found || (found->version != layer.version && upper.version == layer.version)))
            found = &upper;
    return found;
}

/// Whether a layer has addresses that no area tells.
bool UpperEdits::tellsMore(const UpperLayer& layer) const {
    return std::any_of(layer.nodes.begin(), layer.nodes.end(), [&](const LayerNode& node) {
        return std::any_of(node.points.begin(), node.points.end(), [&](const LayerPoint& point) {
            const Interface* record = network_.find<Interface>({node.device.value, point.interface.value});
            return record && isNamed(*record) && !record->ospf->area.number() && !isInUpper(*record);
        });
    });
}

bool UpperEdits::isTold(const Interface& interface) const {
    return told_.contains(interface.id) || isInUpper(interface);
}

bool UpperEdits::isInUpper(const Interface& interface) const {
    return std::any_of(uppers_.begin(), uppers_.end(),
                       [&](const Upper& upper) { return !pointIn(upper.id, interface).empty(); });
}

std::optional<std::string> UpperEdits::nodeIn(const std::string& id, DeviceId device) const {
    const Device* held = network_.device(device);
    const Json entry = held ? entryFor(kept(held->extra), id) : Json();
    return entry.is_object() ? std::optional(stringIn(entry, "node")) : std::nullopt;
}

/// Empty: it has none.
std::string UpperEdits::pointIn(const std::string& id, const Interface& interface) const {
    const PortRef ref{interface.device, interface.port};
    const Port* port = ref.known() ? network_.port(ref) : nullptr;
    const Json entries = ref.known() ? (port ? kept(port->extra) : Json()) : kept(interface.extra);
    if (const std::string point = stringIn(entryFor(entries, id), "tp"); !point.empty())
        return point;
    return one_ && ref.known() && !entries.is_array() ? interface.port : std::string();
}

void UpperEdits::changesOf(const Interface& interface, const Upper& upper, Changes& out) const {
    const std::string point = pointIn(upper.id, interface);
    if (!upper.area) { // addresses given since, of an interface that is not merely its device's
        if (!interface.addresses.empty() && isNamed(interface) && interface.vrf.empty() &&
            !isInUpper(interface))
            out.fresh.insert(interface.id);
        return;
    }
    const bool takesPart = interface.ospf->area.number() == upper.area;
    if (point.empty()) {
        if (takesPart)
            out.fresh.insert(interface.id);
        return;
    }
    const auto node = nodeIn(upper.id, interface.device);
    const auto was = wasOf(interface);
    if (!node || (was && was->area != upper.area))
        return;
    if (!takesPart)
        out.gone.insert({*node, point});
    else if (const int cost = interface.ospf->cost; !was || was->cost != cost)
        out.costs[{*node, point}] = cost;
}

UpperEdits::Changes UpperEdits::changesIn(const Upper& upper) const {
    Changes out;
    std::set<PortRef> said;
    network_.all<Interface>().forEach([&](const Interface& interface) {
        changesOf(interface, upper, out);
        said.insert({interface.device, interface.port});
    });
    if (upper.area)
        network_.all<Port>().forEach([&](const Port& port) {
            if (port.extra.empty() || said.contains({port.device, port.port}))
                return;
            const std::string point = stringIn(entryFor(kept(port.extra), upper.id), "tp");
            if (const auto node = nodeIn(upper.id, port.device); node && !point.empty())
                out.gone.insert({*node, point});
        });
    return out;
}

namespace {

/// The router id that is read of a list (RFC 8346): the first, where it is one of OSPF.
std::string routerIdIn(Json& attributes) {
    Json* list = memberOf(attributes, l3, "router-id");
    const bool any = list && list->is_array() && !list->empty() && list->front().is_string();
    const Address first(any ? list->front().get<std::string>() : std::string());
    return first.valid() && first.version() == 4 ? first.host() : std::string();
}

/// Whether a network of the document says it of a device.
bool saysRouterId(const Device& device, const std::string& routerId) {
    Json entries = kept(device.extra);
    bool says = false;
    if (entries.is_array())
        for (const Json& entry : entries) {
            Json rest = restIn(entry);
            Json* attributes = memberOf(rest, l3, "l3-node-attributes");
            says |= attributes && routerIdIn(*attributes) == routerId;
        }
    return says;
}

} // namespace

/// Of devices for which none of the networks that were read says what is set now.
void UpperEdits::setRouterIds(Json& net, const Upper& upper) const {
    std::map<std::string, std::string> ids;
    network_.all<Device>().forEach([&](const Device& device) {
        const auto node = nodeIn(upper.id, device.id);
        const std::string& now = device.ospf->routerId;
        if (node && (now.empty() || !saysRouterId(device, now)))
            ids[*node] = now;
    });
    forEachOf(net, nw, "node", [&](Json& node) {
        const auto at = ids.find(textOf(node, nw, "node-id"));
        if (at == ids.end())
            return;
        Json* attributes = memberOf(node, l3, "l3-node-attributes");
        if ((attributes ? routerIdIn(*attributes) : std::string()) == at->second)
            return;
        if (at->second.empty())
            dropMember(*attributes, l3, "router-id");
        else
            memberOr(memberOr(node, l3, "l3-node-attributes", l3Node, Json::object()), l3, "router-id",
                     "router-id", {}) = Json::array({at->second});
    });
}

/// A layer as it follows from the network, brought into one that was read.
class UpperEdits::Merging {
public:
    Merging(Json& net, const UpperLayer& layer, const UpperEdits& edits, const std::string& id,
            const std::set<InterfaceId>& fresh)
        : net_(net), layer_(layer), naming_(edits.naming_), fresh_(fresh) {
        for (const LayerNode& node : layer.nodes) {
            const auto here = node.device ? edits.nodeIn(id, node.device) : std::nullopt;
            ids_.push_back(here ? *here : node.device ? naming_.node(node.device).id : node.id);
            auto& points = points_.emplace_back();
            for (const LayerPoint& point : node.points) {
                const Interface* record =
                    edits.network_.find<Interface>({node.device.value, point.interface.value});
                const std::string known = record ? edits.pointIn(id, *record) : std::string();
                points[point.id] = {known.empty() ? point.id : known, fresh.contains(point.interface)};
            }
        }
    }

    /// `segments`: nodes of the document that several share.
    void run(const std::set<std::string>& segments) {
        findPresent(segments);
        for (std::size_t i = 0; i < layer_.nodes.size(); ++i)
            for (const LayerPoint& point : layer_.nodes[i].points)
                if (fresh_.contains(point.interface))
                    addPoint(i, point);
        for (const LayerLink& link : layer_.links)
            if (isFresh(link.from) || isFresh(link.to))
                addLink(link);
    }

private:
    struct Point {
        std::string id; ///< in the document
        bool fresh = false;
    };

    LinkEnd endAt(const LayerEnd& end) const {
        return {ids_[end.node], end.point.empty() ? std::string() : points_[end.node].at(end.point).id};
    }
    bool isFresh(const LayerEnd& end) const {
        return !end.point.empty() && points_[end.node].at(end.point).fresh;
    }

    /// What is linked already. A segment that is there goes by its id.
    void findPresent(const std::set<std::string>& segments) {
        std::map<LinkEnd, std::string> segmentAt;
        forEachOf(net_, nt, "link", [&](Json& link) {
            const LinkEnd from = sourceOf(link), to = destinationOf(link);
            present_.insert({from, to});
            if (segments.contains(to.node))
                segmentAt[from] = to.node;
        });
        for (const LayerLink& link : layer_.links)
            if (const auto at = segmentAt.find(endAt(link.from));
                link.to.point.empty() && !isFresh(link.from) && at != segmentAt.end())
                ids_[link.to.node] = at->second;
    }

    Json& node(std::size_t index) {
        Json& nodes = memberOr(net_, nw, "node", "node", Json::array());
        for (Json& each : nodes)
            if (textOf(each, nw, "node-id") == ids_[index])
                return each;
        LayerNode bare = layer_.nodes[index];
        if (bare.device)
            bare.prefixes.clear(); // those of its points
        nodes.push_back(nodeJson(bare, ids_[index], naming_));
        return nodes.back();
    }

    void addPoint(std::size_t index, const LayerPoint& point) {
        Json& to = node(index);
        memberOr(to, nt, "termination-point", pointList, Json::array())
            .push_back(pointJson(layer_.nodes[index], point, points_[index].at(point.id).id, naming_));
        Json& attributes = memberOr(to, l3, "l3-node-attributes", l3Node, Json::object());
        Json& prefixes = memberOr(attributes, l3, "prefix", "prefix", Json::array());
        for (const LayerPrefix& each : layer_.nodes[index].prefixes) {
            const bool its = std::any_of(point.addresses.begin(), point.addresses.end(),
                                         [&](const Address& a) { return each.prefix.contains(a); });
            const bool held = std::any_of(prefixes.begin(), prefixes.end(), [&](Json& prefix) {
                return Address(textOf(prefix, l3, "prefix")) == each.prefix;
            });
            if (its && !held)
                prefixes.push_back(prefixJson(each));
        }
    }

    void addLink(const LayerLink& link) {
        const LinkEnd from = endAt(link.from), to = endAt(link.to);
        node(link.from.node);
        node(link.to.node);
        if (present_.insert({from, to}).second)
            memberOr(net_, nt, "link", linkList, Json::array()).push_back(linkJson(link, from, to, naming_));
    }

    Json& net_;
    const UpperLayer& layer_;
    const Naming& naming_;
    const std::set<InterfaceId>& fresh_;
    std::vector<std::string> ids_;                     ///< in the document, by node
    std::vector<std::map<std::string, Point>> points_; ///< by node and id
    std::set<std::pair<LinkEnd, LinkEnd>> present_;
};

void UpperEdits::addFresh(Json& net, const Upper& upper, const std::set<InterfaceId>& fresh) const {
    if (fresh.empty())
        return;
    std::set<std::string> segments;
    network_.all<Device>().forEach([&](const Device& device) {
        if (const auto node = nodeIn(upper.id, device.id); node && roleOf(network_, device) == Role::splitter)
            segments.insert(*node);
    });
    for (const UpperLayer* layer : upper.now)
        Merging(net, *layer, *this, upper.id, fresh).run(segments);
}

void UpperEdits::apply(Json& net, const std::string& id) const {
    for (const Upper& upper : uppers_) {
        if (upper.id != id)
            continue;
        dropPoints(net, upper.changes.gone);
        setCosts(net, upper.changes.costs);
        if (upper.area)
            setRouterIds(net, upper);
        addFresh(net, upper, upper.changes.fresh);
    }
}

} // namespace underridge::exchange::rfc8345

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_upper_edits.h"

#include "core/exchange/rfc8345_members.h"
#include "core/model/ports.h"

#include <algorithm>

namespace underridge::exchange::rfc8345 {
using namespace model;
namespace {

using Json = ExactJson;

constexpr const char* l3Node = "ietf-l3-unicast-topology:l3-node-attributes";
constexpr const char* l3Link = "ietf-l3-unicast-topology:l3-link-attributes";
constexpr const char* pointList = "ietf-network-topology:termination-point";
constexpr const char* linkList = "ietf-network-topology:link";

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
            uppers_.push_back({each.id, OspfArea(stringIn(each.entry, "area")).number(), {}});
    for (const UpperLayer& layer : above) {
        const auto area = layer.area ? OspfArea(*layer.area).number() : std::nullopt;
        bool found = false;
        for (Upper& upper : uppers_)
            if (upper.area == area && (area || layer.suffix == "l3") && !found) {
                upper.now.push_back(&layer);
                found = true;
            }
        if (!found && (area || layer.suffix != "l3" || uppers_.empty() || tellsMore(layer)))
            missing_.push_back(&layer);
    }
    const auto tell = [&](const UpperLayer& layer, auto&& is) {
        for (const LayerNode& node : layer.nodes)
            for (const LayerPoint& point : node.points)
                if (is(point.interface))
                    told_.insert(point.interface);
    };
    for (const UpperLayer* layer : missing_)
        tell(*layer, [](InterfaceId) { return true; });
    for (const Upper& upper : uppers_) {
        const Changes changes = changesIn(upper);
        for (const UpperLayer* layer : upper.now)
            tell(*layer, [&](InterfaceId id) { return changes.fresh.contains(id); });
    }
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

/// The first one was read (RFC 8346); what was not understood is left.
void UpperEdits::setRouterIds(Json& net, const Upper& upper) const {
    std::map<std::string, std::string> ids;
    network_.all<Device>().forEach([&](const Device& device) {
        if (const auto node = nodeIn(upper.id, device.id))
            ids[*node] = device.ospf->routerId;
    });
    forEachOf(net, nw, "node", [&](Json& node) {
        const auto at = ids.find(textOf(node, nw, "node-id"));
        if (at == ids.end())
            return;
        Json* attributes = memberOf(node, l3, "l3-node-attributes");
        Json* list = attributes ? memberOf(*attributes, l3, "router-id") : nullptr;
        const bool any = list && list->is_array() && !list->empty() && list->front().is_string();
        const Address first(any ? list->front().get<std::string>() : std::string());
        const std::string held = first.valid() && first.version() == 4 ? first.host() : std::string();
        if (held == at->second)
            return;
        if (at->second.empty())
            dropMember(*attributes, l3, "router-id");
        else
            memberOr(memberOr(node, l3, "l3-node-attributes", l3Node, Json::object()), l3, "router-id",
                     "router-id", {}) = Json::array({at->second});
    });
}

void UpperEdits::addFresh(Json& net, const Upper& upper, const std::set<InterfaceId>& fresh) const {
    if (fresh.empty())
        return;
    std::set<std::string> segments; // nodes several share
    network_.all<Device>().forEach([&](const Device& device) {
        if (const auto node = nodeIn(upper.id, device.id); node && roleOf(network_, device) == Role::splitter)
            segments.insert(*node);
    });
    std::set<std::pair<LinkEnd, LinkEnd>> present;
    std::map<LinkEnd, std::string> segmentAt;
    forEachOf(net, nt, "link", [&](Json& link) {
        const LinkEnd from = sourceOf(link), to = destinationOf(link);
        present.insert({from, to});
        if (segments.contains(to.node))
            segmentAt[from] = to.node;
    });
    for (const UpperLayer* layer : upper.now) {
        std::vector<std::string> ids;
        std::vector<std::map<std::string, std::pair<std::string, bool>>> points; // id here, and whether fresh
        for (const LayerNode& node : layer->nodes) {
            const auto here = node.device ? nodeIn(upper.id, node.device) : std::nullopt;
            ids.push_back(here ? *here : node.device ? naming_.node(node.device).id : node.id);
            auto& of = points.emplace_back();
            for (const LayerPoint& point : node.points) {
                const Interface* record =
                    network_.find<Interface>({node.device.value, point.interface.value});
                const std::string known = record ? pointIn(upper.id, *record) : std::string();
                of[point.id] = {known.empty() ? point.id : known, fresh.contains(point.interface)};
            }
        }
        const auto endAt = [&](const LayerEnd& end) {
            return LinkEnd{ids[end.node],
                           end.point.empty() ? std::string() : points[end.node].at(end.point).first};
        };
        const auto isFresh = [&](const LayerEnd& end) {
            return !end.point.empty() && points[end.node].at(end.point).second;
        };
        for (const LayerLink& link : layer->links) // a segment that is there already
            if (const auto at = segmentAt.find(endAt(link.from));
                link.to.point.empty() && !isFresh(link.from) && at != segmentAt.end())
                ids[link.to.node] = at->second;
        const auto there = [&](std::size_t index) -> Json& {
            Json& nodes = memberOr(net, nw, "node", "node", Json::array());
            for (Json& node : nodes)
                if (textOf(node, nw, "node-id") == ids[index])
                    return node;
            LayerNode bare = layer->nodes[index];
            if (bare.device)
                bare.prefixes.clear(); // those of its points
            nodes.push_back(nodeJson(bare, ids[index], naming_));
            return nodes.back();
        };
        for (std::size_t i = 0; i < layer->nodes.size(); ++i)
            for (const LayerPoint& point : layer->nodes[i].points) {
                if (!fresh.contains(point.interface))
                    continue;
                Json& node = there(i);
                memberOr(node, nt, "termination-point", pointList, Json::array())
                    .push_back(pointJson(layer->nodes[i], point, points[i].at(point.id).first, naming_));
                Json& attributes = memberOr(node, l3, "l3-node-attributes", l3Node, Json::object());
                Json& prefixes = memberOr(attributes, l3, "prefix", "prefix", Json::array());
                for (const LayerPrefix& each : layer->nodes[i].prefixes) {
                    const bool its = std::any_of(point.addresses.begin(), point.addresses.end(),
                                                 [&](const Address& a) { return each.prefix.contains(a); });
                    const bool held = std::any_of(prefixes.begin(), prefixes.end(), [&](Json& prefix) {
                        return Address(textOf(prefix, l3, "prefix")) == each.prefix;
                    });
                    if (its && !held)
                        prefixes.push_back(prefixJson(each));
                }
            }
        for (const LayerLink& link : layer->links) {
            if (!isFresh(link.from) && !isFresh(link.to))
                continue;
            const LinkEnd from = endAt(link.from), to = endAt(link.to);
            there(link.from.node);
            there(link.to.node);
            if (present.insert({from, to}).second)
                memberOr(net, nt, "link", linkList, Json::array())
                    .push_back(linkJson(link, from, to, naming_));
        }
    }
}

void UpperEdits::apply(Json& net, const std::string& id) const {
    for (const Upper& upper : uppers_) {
        if (upper.id != id)
            continue;
        const Changes changes = changesIn(upper);
        dropPoints(net, changes.gone);
        setCosts(net, changes.costs);
        if (upper.area)
            setRouterIds(net, upper);
        addFresh(net, upper, changes.fresh);
    }
}

} // namespace underridge::exchange::rfc8345

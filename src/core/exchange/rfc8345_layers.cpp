// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_layers.h"

#include <set>

namespace underridge::exchange::rfc8345 {
using namespace model;
namespace {

using Json = ExactJson;

constexpr const char* unicast = "ietf-l3-unicast-topology:";
constexpr const char* ospf = "example-ospf-topology:";

std::string in(const char* module, const char* name) {
    return std::string(module) + name;
}

const char* partName(OspfPart part) {
    switch (part) {
    case OspfPart::none:
        return nullptr;
    case OspfPart::internal:
        return "internal";
    case OspfPart::areaBorder:
        return "abr";
    case OspfPart::boundary:
        return "asbr";
    case OspfPart::pseudonode:
        return "pseudonode";
    }
    return nullptr;
}

Json attributesJson(const LayerNode& node) {
    Json out{{"name", node.name}};
    if (!node.routerId.empty())
        out["router-id"] = Json::array({node.routerId});
    Json prefixes = Json::array();
    for (const LayerPrefix& each : node.prefixes)
        prefixes.push_back(prefixJson(each));
    if (!prefixes.empty())
        out["prefix"] = std::move(prefixes);
    if (const char* part = partName(node.part)) // of type empty: [null]
        out[in(ospf, "ospf-node-attributes")] = {{part, Json::array({nullptr})}};
    return out;
}

} // namespace

Json prefixJson(const LayerPrefix& prefix) {
    Json json{{"prefix", prefix.prefix.text()}};
    if (prefix.metric > 0)
        json["metric"] = prefix.metric;
    return json;
}

Json nodeJson(const LayerNode& node, const std::string& id, const Naming& below) {
    Json json{{"node-id", id}};
    if (node.device) {
        const Named support = below.node(node.device);
        json["supporting-node"].push_back({{"network-ref", support.network}, {"node-ref", support.id}});
    }
    json[l3Node] = attributesJson(node);
    return json;
}

Json pointJson(const LayerNode& node, const LayerPoint& point, const std::string& id, const Naming& below) {
    Json json{{"tp-id", id}};
    if (!point.port.empty()) {
        const Named support = below.node(node.device);
        json["supporting-termination-point"].push_back({{"network-ref", support.network},
                                                        {"node-ref", support.id},
                                                        {"tp-ref", below.point({node.device, point.port})}});
    }
    Json addresses = Json::array();
    for (const Address& address : point.addresses)
        addresses.push_back(address.host());
    if (!addresses.empty())
        json[l3Point] = {{"ip-address", std::move(addresses)}};
    return json;
}

Json linkJson(const LayerLink& link, const LinkEnd& from, const LinkEnd& to, const Naming& below) {
    const auto text = [](const LinkEnd& end) {
        return end.node + (end.point.empty() ? "" : ":") + end.point;
    };
    Json json{{"link-id", text(from) + "," + text(to)},
              {"source", {{"source-node", from.node}}},
              {"destination", {{"dest-node", to.node}}}};
    if (!from.point.empty())
        json["source"]["source-tp"] = from.point;
    if (!to.point.empty())
        json["destination"]["dest-tp"] = to.point;
    Json supports = Json::array();
    for (const auto& [id, back] : link.over) {
        Named support = below.link(id, back);
        supports.push_back({{"network-ref", support.network}, {"link-ref", support.id}});
    }
    if (!supports.empty())
        json["supporting-link"] = std::move(supports);
    if (link.metric) // uint64 is a text in RFC 7951
        json[l3Link] = {{"metric1", std::to_string(*link.metric)}};
    return json;
}

Json networkJson(const UpperLayer& layer, const std::string& id, const Naming& below) {
    Json type = Json::object(), attributes{{"name", layer.name}};
    if (layer.area) {
        type[in(ospf, "ospf")] = Json::object();
        attributes[in(ospf, "ospf-topology-attributes")] = {{"area-id", *layer.area}};
    }
    std::set<std::string> lower;
    std::vector<std::string> ids;
    Json nodes = Json::array(), links = Json::array();
    for (const LayerNode& node : layer.nodes) {
        ids.push_back(node.device ? below.node(node.device).id : node.id);
        Json json = nodeJson(node, ids.back(), below);
        if (node.device)
            lower.insert(below.node(node.device).network);
        for (const LayerPoint& point : node.points)
            json[pointList].push_back(pointJson(node, point, point.id, below));
        nodes.push_back(std::move(json));
    }
    for (const LayerLink& link : layer.links)
        links.push_back(linkJson(link, {ids[link.from.node], link.from.point},
                                 {ids[link.to.node], link.to.point}, below));
    Json json{{"network-id", id}, {"network-types", {{l3Type, std::move(type)}}}};
    for (const std::string& each : lower)
        json["supporting-network"].push_back({{"network-ref", each}});
    json[in(unicast, "l3-topology-attributes")] = std::move(attributes);
    if (!nodes.empty())
        json["node"] = std::move(nodes);
    if (!links.empty())
        json[linkList] = std::move(links);
    return json;
}

} // namespace underridge::exchange::rfc8345

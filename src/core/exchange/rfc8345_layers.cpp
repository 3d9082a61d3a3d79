// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_layers.h"

#include <fmt/format.h>

namespace underridge::exchange::rfc8345 {
using namespace model;
namespace {

using Json = ExactJson;

constexpr const char* unicast = "ietf-l3-unicast-topology:";
constexpr const char* ospf = "example-ospf-topology:";

std::string in(const char* module, const char* name) {
    return std::string(module) + name;
}

std::string nodeId(const LayerNode& node) {
    return node.device ? idText(node.device.value) : node.id;
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
    for (const LayerPrefix& each : node.prefixes) {
        Json prefix{{"prefix", each.prefix.text()}};
        if (each.metric > 0)
            prefix["metric"] = each.metric;
        prefixes.push_back(std::move(prefix));
    }
    if (!prefixes.empty())
        out["prefix"] = std::move(prefixes);
    if (const char* part = partName(node.part)) // of type empty: [null]
        out[in(ospf, "ospf-node-attributes")] = {{part, Json::array({nullptr})}};
    return out;
}

Json nodeJson(const LayerNode& node, const std::string& below) {
    Json json{{"node-id", nodeId(node)}};
    if (node.device)
        json["supporting-node"].push_back({{"network-ref", below}, {"node-ref", nodeId(node)}});
    json[in(unicast, "l3-node-attributes")] = attributesJson(node);
    Json points = Json::array();
    for (const LayerPoint& each : node.points) {
        Json point{{"tp-id", each.id}};
        if (!each.port.empty())
            point["supporting-termination-point"].push_back(
                {{"network-ref", below}, {"node-ref", nodeId(node)}, {"tp-ref", each.port}});
        Json addresses = Json::array();
        for (const Address& address : each.addresses)
            addresses.push_back(address.host());
        if (!addresses.empty())
            point[in(unicast, "l3-termination-point-attributes")] = {{"ip-address", std::move(addresses)}};
        points.push_back(std::move(point));
    }
    if (!points.empty())
        json["ietf-network-topology:termination-point"] = std::move(points);
    return json;
}

std::string endId(const UpperLayer& layer, const LayerEnd& end) {
    return nodeId(layer.nodes[end.node]) + (end.point.empty() ? "" : ":") + end.point;
}

Json linkJson(const UpperLayer& layer, const LayerLink& link, const std::string& below) {
    Json json{{"link-id", endId(layer, link.from) + "," + endId(layer, link.to)},
              {"source", {{"source-node", nodeId(layer.nodes[link.from.node])}}},
              {"destination", {{"dest-node", nodeId(layer.nodes[link.to.node])}}}};
    if (!link.from.point.empty())
        json["source"]["source-tp"] = link.from.point;
    if (!link.to.point.empty())
        json["destination"]["dest-tp"] = link.to.point;
    Json supports = Json::array();
    for (const auto& [id, back] : link.over)
        supports.push_back({{"network-ref", below}, {"link-ref", linkId(id, back)}});
    if (!supports.empty())
        json["supporting-link"] = std::move(supports);
    if (link.metric) // uint64 is a text in RFC 7951
        json[in(unicast, "l3-link-attributes")] = {{"metric1", std::to_string(*link.metric)}};
    return json;
}

} // namespace

std::string linkId(LinkId link, bool back) {
    return idText(link.value) + (back ? "-back" : "");
}

Json networkJson(const UpperLayer& layer, const std::string& below) {
    Json type = Json::object(), attributes{{"name", layer.name}};
    if (layer.area) {
        type[in(ospf, "ospf")] = Json::object();
        attributes[in(ospf, "ospf-topology-attributes")] = {{"area-id", *layer.area}};
    }
    Json json{{"network-id", below + "-" + layer.suffix},
              {"network-types", {{in(unicast, "l3-unicast-topology"), std::move(type)}}},
              {"supporting-network", Json::array({Json{{"network-ref", below}}})},
              {in(unicast, "l3-topology-attributes"), std::move(attributes)}};
    Json nodes = Json::array(), links = Json::array();
    for (const LayerNode& node : layer.nodes)
        nodes.push_back(nodeJson(node, below));
    for (const LayerLink& link : layer.links)
        links.push_back(linkJson(layer, link, below));
    if (!nodes.empty())
        json["node"] = std::move(nodes);
    if (!links.empty())
        json["ietf-network-topology:link"] = std::move(links);
    return json;
}

} // namespace underridge::exchange::rfc8345

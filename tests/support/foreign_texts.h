// SPDX-License-Identifier: GPL-3.0-or-later
// Texts in foreign formats that several tests read.
#pragma once

namespace underridge::tests {

/// A routed network that rests on a switched one, with members no standard names.
inline constexpr const char* twoLayers = R"({"ietf-network:networks": {"network": [
 {"network-id": "routing", "network-types": {"ietf-l3-unicast-topology:l3-unicast-topology": {}},
  "supporting-network": [{"network-ref": "switching"}],
  "node": [
   {"node-id": "R-A", "supporting-node": [{"network-ref": "switching", "node-ref": "a"}],
    "ietf-l3-unicast-topology:l3-node-attributes": {"name": "edge-1", "router-id": ["10.84.255.1"],
     "prefix": [{"prefix": "10.84.200.0/24", "metric": 10}]},
    "ietf-network-topology:termination-point": [
     {"tp-id": "if-1", "supporting-termination-point": [{"network-ref": "switching", "node-ref": "a", "tp-ref": "X1"}],
      "ietf-l3-unicast-topology:l3-termination-point-attributes": {"ip-address": ["10.84.200.1"]}}]},
   {"node-id": "R-B", "supporting-node": [{"network-ref": "switching", "node-ref": "b"}],
    "ietf-network-topology:termination-point": [{"tp-id": "if-9"}]}],
  "ietf-network-topology:link": [
   {"link-id": "adjacency", "source": {"source-node": "R-A", "source-tp": "if-1"},
    "destination": {"dest-node": "R-B", "dest-tp": "if-9"},
    "supporting-link": [{"network-ref": "switching", "link-ref": "ab"}, {"network-ref": "switching", "link-ref": "bc"}]}]},
 {"network-id": "switching", "network-types": {"ietf-l2-topology:l2-topology": {}}, "quay:berth": 7,
  "node": [
   {"node-id": "a", "quay:colour": "red", "ietf-l2-topology:l2-node-attributes": {"name": "acc-a", "management-address": ["10.84.99.1"]},
    "ietf-network-topology:termination-point": [
      {"tp-id": "X1", "quay:depth": "4 m", "ietf-l2-topology:l2-termination-point-attributes": {"interface-name": "uplink", "mac-address": "02:00:00:00:00:01", "outer-tag": "10,20-21"}}]},
   {"node-id": "b", "ietf-network-topology:termination-point": [{"tp-id": "1"}, {"tp-id": "2"}]},
   {"node-id": "lan", "ietf-l2-topology:l2-node-attributes": {"flags": ["quay:pseudonode"]}}],
  "ietf-network-topology:link": [
   {"link-id": "ab", "source": {"source-node": "a", "source-tp": "X1"}, "destination": {"dest-node": "b", "dest-tp": "1"},
    "quay:tide": 3, "ietf-l2-topology:l2-link-attributes": {"rate": "10000000"}},
   {"link-id": "ba", "source": {"source-node": "b", "source-tp": "1"}, "destination": {"dest-node": "a", "dest-tp": "X1"}},
   {"link-id": "bc", "source": {"source-node": "b"}, "destination": {"dest-node": "lan"}}]}]}})";

/// A node twice, a node without id, a link to nowhere, a link to a point that is not
/// listed.
inline constexpr const char* oddTopology = R"({"ietf-network:networks": {"network": [
 {"network-id": "n", "node": [
   {"node-id": "a"},
   {"node-id": "a"},
   {"name": "none"}],
  "ietf-network-topology:link": [
   {"link-id": "l", "source": {"source-node": "a"},
    "destination": {"dest-node": "gone"}},
   {"link-id": "m", "source": {"source-node": "a", "source-tp": "7"}, "destination": {"dest-node": "a"}}]}]}})";

/// Latin-1, a prefix for every element, keys with types and defaults, a nested graph,
/// foreign content.
inline constexpr const char* harbour =
    R"(<?xml version="1.0" encoding="ISO-8859-1"?>
<g:graphml xmlns:g="http://graphml.graphdrawing.org/xmlns" xmlns:q="urn:quay">
 <g:key id="k0" for="node" attr.name="label" attr.type="string"/>
 <g:key id="k1" for="node" attr.name="berth" attr.type="int"><g:default>3</g:default></g:key>
 <g:key id="k2" for="edge" attr.name="cost" attr.type="double"/>
 <g:key id="k3" for="node" attr.name="role" attr.type="string"/>
 <g:key id="k4" for="node"/>
 <g:graph id="harbour" edgedefault="directed">
  <g:node id="n0"><g:data key="k0">Caf)"
    "\xE9"
    R"(</g:data><g:data key="k3">switch</g:data><g:port name="p1-1"/></g:node>
  <g:node id="hall"><g:graph id="hall:" edgedefault="directed">
    <g:node id="n1"><g:data key="k1">9</g:data><g:data key="k4"><q:shape kind="round"/></g:data></g:node>
    <g:node id="n2"><g:data key="k1">many</g:data></g:node>
  </g:graph></g:node>
  <g:edge source="n0" target="n1" sourceport="p1-1"><g:data key="k2">2.5</g:data></g:edge>
  <g:edge id="e1" source="n1" target="hall"/>
  <g:edge id="e2" source="n1" target="nowhere"/>
 </g:graph>
</g:graphml>)";

} // namespace underridge::tests

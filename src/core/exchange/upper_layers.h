// SPDX-License-Identifier: GPL-3.0-or-later
// Topologies above the links, as RFC 8346 writes them: who reaches whom at the network layer,
// and what OSPF knows of an area.
#pragma once
#include "core/model/network.h"

#include <optional>
#include <string>
#include <vector>

namespace underridge::exchange {

/// What an OSPF router is in an area (RFC 2328 section 3.3); a pseudonode stands for a
/// network that several share (section 2.1).
enum class OspfPart { none, internal, areaBorder, boundary, pseudonode };

struct LayerPoint {
    std::string id;
    std::string port; ///< of the device, that it stands on; empty: it stands on none
    std::vector<model::Address> addresses;
    model::InterfaceId interface;
};

struct LayerPrefix {
    model::Address prefix;
    std::int64_t metric = 0; ///< 0: it is not said
};

struct LayerNode {
    model::DeviceId device; ///< none: a pseudonode
    std::string id;         ///< of a pseudonode; a device's is that of the layer below
    std::string name;
    std::string routerId; ///< dotted decimal; empty: it has none
    std::vector<LayerPrefix> prefixes;
    std::vector<LayerPoint> points;
    OspfPart part = OspfPart::none;
};

struct LayerEnd {
    std::size_t node = 0; ///< index in UpperLayer::nodes
    std::string point;    ///< empty: of a pseudonode
};

/// One way: what goes both ways is two.
struct LayerLink {
    LayerEnd from, to;
    std::optional<std::int64_t> metric;
    std::vector<std::pair<model::LinkId, bool>>
        over; ///< links below in their order, and whether from their end b
};

struct UpperLayer {
    std::string suffix; ///< of its id, after that of the network: "l3"
    std::string name;
    std::optional<std::string> area; ///< of OSPF; nothing: the network layer itself
    int version = 4;                 ///< of the addresses OSPF is about: 6 is OSPFv3
    std::vector<LayerNode> nodes;
    std::vector<LayerLink> links;
};

} // namespace underridge::exchange

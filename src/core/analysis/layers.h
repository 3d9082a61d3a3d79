// SPDX-License-Identifier: GPL-3.0-or-later
// The layers above the cables as somebody would draw them: who hands frames to whom (data
// link), and routers with the subnets between them (network). Both follow from the one
// network.
#pragma once
#include "core/analysis/wiring.h"

namespace underridge::analysis {

/// Frames pass between two devices: over a link, over several and the panels between them,
/// or over all of a LAG.
struct FrameLink {
    model::LinkId id;                 ///< the lowest of `links` at the first device
    model::PortRef a, b;              ///< where that link ends, and what it comes to
    std::vector<model::LinkId> links; ///< all it goes over, sorted
    std::string vlans;                ///< what it carries, as it is said: "VLANs 10, 20–24, 99 untagged"
};

/// Those of all ports that are up, by their first link.
std::vector<FrameLink> frameLinksOf(const model::Network& network);

/// A subnet as one draws it: prefixes that interfaces of routers have side by side.
struct SubnetNode {
    /// Of the first that is recorded; else a number that follows from VRF and prefix.
    model::SubnetId id;
    std::string vrf;
    std::vector<model::Address> prefixes; ///< those of version 4 first, ascending
    std::string name;                     ///< as recorded
    std::vector<int> vlans;               ///< ascending
    int hosts = 0;                        ///< devices in it that do not route

    /// "24 hosts · tills".
    std::string text() const;
};

/// An interface of a router in a subnet.
struct Attachment {
    model::InterfaceId interface;
    model::DeviceId device;
    model::SubnetId subnet;
    std::string at;   ///< "vlan20 .1": its name, and what is its own of the address
    std::string ospf; ///< "area 0, cost 10"; empty: it seeks no neighbours
};

struct NetworkLayer {
    std::vector<SubnetNode> subnets;     ///< by id
    std::vector<Attachment> attachments; ///< in the order of interfaces
};

/// Subnets interfaces of routers are in, those that are recorded, and those two other
/// devices or more share; loopbacks are none.
NetworkLayer networkLayerOf(const model::Network& network);

/// Whether a device is drawn on a layer: on the data link layer what sends frames, on the
/// network layer what routes.
bool isOnLayer(const model::Network& network, const model::Device& device, model::SheetLayer layer);

} // namespace underridge::analysis

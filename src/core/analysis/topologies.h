// SPDX-License-Identifier: GPL-3.0-or-later
// What the open formats say of the layers above the links, from what follows for frames and
// packets.
#pragma once
#include "core/analysis/forwarding.h"
#include "core/exchange/foreign.h"
#include "core/exchange/upper_layers.h"

namespace underridge::analysis {

/// For each VRF the network layer: routers and what has addresses on ports, joined where two
/// interfaces of one subnet hear each other and one of them is a router's. For each area of
/// OSPF (v2, v3) its routers and shared networks (RFC 2328 section 2.1), with costs.
std::vector<exchange::UpperLayer> topologiesOf(const Forwarding& forwarding);

/// A network in a format, with all that the format can hold.
exchange::Written written(const model::Network& network, exchange::Format format,
                          exchange::Tables tables = exchange::Tables::both);

} // namespace underridge::analysis

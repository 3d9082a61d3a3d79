// SPDX-License-Identifier: GPL-3.0-or-later
// What hangs on what: every device below the neighbour over which it is nearest to where the
// network comes from.
#pragma once
#include "core/model/network.h"

#include <unordered_map>

namespace underridge::model {

/// How near to where the network comes from a role stands: 6 for providers, 5 routers and
/// firewalls, 4 switches, 2 servers and access points, 1 panels, 0 endpoints.
int tierOf(Role role);

struct UplinkTree {
    /// The device each hangs on; roots are not in it.
    std::unordered_map<std::uint64_t, DeviceId> above;
    /// Of every connected part all devices of its highest tier, by id; then those without links.
    std::vector<DeviceId> roots;

    /// None: it is a root.
    DeviceId aboveOf(DeviceId device) const;
};

/// By breadth-first search from the roots; of several neighbours equally near the one of the
/// higher tier, then the one with more links, then the lower id.
UplinkTree uplinksOf(const Network& network);

} // namespace underridge::model

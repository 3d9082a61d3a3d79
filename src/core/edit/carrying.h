// SPDX-License-Identifier: GPL-3.0-or-later
// Making a VLAN reach a place: which ports must carry it on the way, and the act that sets
// them.
#pragma once
#include "core/edit/act.h"

namespace underridge::analysis {
class Forwarding;
}

namespace underridge::edit {

struct Carrying {
    std::vector<model::PortRef> tagged; ///< ports that get the VLAN, from the place on
    bool untagged = false;              ///< the endpoint's own port, the first, gets it untagged
    Act act;

    /// "acc-1 X1, dist-1 3".
    std::string portsText(const model::Network& network) const;
};

/// From a switch, or from the switch an endpoint is on, over the links the spanning tree
/// leaves open, to the nearest part of the VLAN that has a router's interface in it, else
/// to its largest part. Refuses when the VLAN is there already, is nowhere else, or no link
/// leads there. Ports that carry it stay as they are.
Result<Carrying> carryVlan(const analysis::Forwarding& forwarding, model::DeviceId device, int vlan,
                           model::IdSource& ids);

} // namespace underridge::edit

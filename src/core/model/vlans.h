// SPDX-License-Identifier: GPL-3.0-or-later
// VLANs by number, and what interfaces say of them.
#pragma once
#include "core/model/network.h"

namespace underridge::model {

/// The number of a VLAN; 0 when there is none.
int numberOf(const Network& network, VlanId vlan);

/// The VLAN of a number that what is in a group is in the scope of, the nearest scope
/// first; none when there is none.
VlanId vlanFor(const Network& network, GroupId in, int number);

/// Whether a physical interface or LAG says anything of VLANs.
bool saysVlans(const Interface& interface);

/// The numbers an interface takes and sends tagged: "10,20,30-39"; empty: none.
std::string taggedText(const Network& network, const Interface& interface);

} // namespace underridge::model

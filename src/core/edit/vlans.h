// SPDX-License-Identifier: GPL-3.0-or-later
// VLANs (IEEE 802.1Q) and which ports carry them.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Adds a VLAN, 1–4094, to a scope; none: the whole network. Refuses one that is there in
/// that scope.
ActResult addVlan(const model::Network& network, int number, const std::string& name, model::GroupId scope,
                  model::IdSource& ids);

/// The VLAN of that number a device is in the scope of, the nearest scope first; none when
/// there is none.
model::VlanId vlanFor(const model::Network& network, model::DeviceId device, int number);

/// What a port carries: one VLAN untagged (0: none), and those tagged, written as
/// "20,30,100-110". Refuses numbers no VLAN of the device's scopes has, but in ranges.
ActResult setPortVlans(const model::Network& network, const model::PortRef& port, int untagged,
                       const std::string& tagged, model::IdSource& ids);

/// The VLAN untagged on the ports of switches that devices hang on, panels passed; what is tagged
/// there stays. 0: none. Refuses when one of them hangs on no port of a switch, or on several, and
/// a number no VLAN of that switch's scopes has.
ActResult setAccessVlan(const model::Network& network, const std::vector<model::DeviceId>& devices, int vlan,
                        model::IdSource& ids);
/// Where setAccessVlan() would set it for a device; nothing when that is not clear.
std::optional<model::PortRef> accessPortOf(const model::Network& network, model::DeviceId device);

/// The VLANs a text says, as "20,30,100-110", for a device: single numbers must be VLANs
/// of its scopes, ranges need not. Refuses what is neither.
struct VlanList {
    std::vector<model::VlanId> vlans;
    std::vector<model::VlanRange> ranges;
};
Result<VlanList> vlansFrom(const model::Network& network, model::DeviceId device, const std::string& text);
/// The numbers of such a text alone, in its order, whether there are such VLANs or not.
Result<std::vector<model::VlanRange>> rangesFrom(const std::string& text);

/// Tags further VLANs on ports of one device, or on the LAGs they are members of.
ActResult tagToo(const model::Network& network, const model::PortRef& port, const std::string& vlans,
                 model::IdSource& ids);

} // namespace underridge::edit

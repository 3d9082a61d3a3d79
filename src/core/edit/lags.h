// SPDX-License-Identifier: GPL-3.0-or-later
// Link aggregation (IEEE 802.1AX): the interfaces at both ends of several links between
// two devices.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Makes a LAG of links between the same two devices, with an interface at each end. An
/// empty name is the next free lag1, lag2 … of each device. Refuses fewer than two links,
/// links of different devices or speeds, members of another LAG, and ends not known.
ActResult makeLag(const model::Network& network, const std::vector<model::LinkId>& links,
                  const std::string& name, model::IdSource& ids);

/// Dissolves the LAGs these links are members of, at both ends; the links stay. Refuses
/// when there is none.
ActResult dissolveLag(const model::Network& network, const std::vector<model::LinkId>& links);

/// Declares two devices a multi-chassis pair, in which a LAG may end as in one; what they
/// were paired with before is alone again. A device paired with none is alone. Refuses a
/// device paired with itself, or gone.
ActResult pairChassis(const model::Network& network, model::DeviceId one, model::DeviceId other);

/// The other of the pair a device is in; none when it is in none.
model::DeviceId pairOf(const model::Network& network, model::DeviceId device);

/// Gives the LAG of a port another name. Refuses an empty one, and one another interface
/// of the device has.
ActResult renameLag(const model::Network& network, const model::PortRef& member, const std::string& name);

} // namespace underridge::edit

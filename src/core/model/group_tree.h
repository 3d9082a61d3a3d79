// SPDX-License-Identifier: GPL-3.0-or-later
// The tree of groups: what lies in what.
#pragma once
#include "core/model/network.h"

namespace underridge::model {

/// The group itself, then those around it, outwards. Ends at the network, and where
/// parents go in a circle.
std::vector<GroupId> upwards(const Network& network, GroupId group);

/// The innermost group both lie in; none: the network.
GroupId commonGroup(const Network& network, GroupId a, GroupId b);

/// All devices in a group at any depth, by id.
std::vector<DeviceId> devicesWithin(const Network& network, GroupId group);
/// The groups in a group at any depth, outer ones first, without itself.
std::vector<GroupId> groupsWithin(const Network& network, GroupId group);

/// "Fennick Quay/Terminal building/Concourse".
std::string pathText(const Network& network, GroupId group);

} // namespace underridge::model

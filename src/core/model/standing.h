// SPDX-License-Identifier: GPL-3.0-or-later
// Where things stand. A group is what a device is shown in; a place is where it stands,
// and only the place says so: a device drawn in a rack's group has no unit there until it
// is given one. The one rule between the two: a device in a group that is part of a
// building stands in it or further inside, never elsewhere.
#pragma once
#include "core/model/network.h"

namespace underridge::model {

/// What devices are mounted in by unit: racks and cabinets.
bool isRack(GroupKind kind);
/// Floors, rooms, racks and cabinets: what a place may name.
bool canStandIn(GroupKind kind);

/// The group itself or the nearest around it of that kind; null when there is none.
const Group* groupAbove(const Network& network, const Group* group, GroupKind kind);
/// Whether `inner` is `outer` or lies inside it at any depth.
bool isWithin(const Network& network, GroupId inner, GroupId outer);

/// Where the device of a port stands, and of a stack the chassis the port is on, if it
/// has a place of its own. `in` is none when nothing says.
Place placeOf(const Network& network, const PortRef& port);

/// The floor whose cable routes a sheet draws: the one it shows, or shows a part of, to
/// scale; null on other sheets.
const Group* floorDrawn(const Network& network, const Sheet& sheet);

/// Brings a device's group to agree with its place: out of a floor, rack or the like that
/// the place is not in, into what it stands in. Other groups, such as a cluster, are
/// left.
void agreeWithPlace(const Network& network, Device& device);

} // namespace underridge::model

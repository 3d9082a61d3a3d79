// SPDX-License-Identifier: GPL-3.0-or-later
// What is mounted in racks, by unit (IEC 60297-3-100: a unit is 44.45 mm). Units count
// from 1 at the foot.
#pragma once
#include "core/model/network.h"

#include <optional>

namespace underridge::model {

struct Mounted {
    DeviceId device;
    int unit = 1;   ///< the lowest it takes; 0: in the rack, but not said where
    int height = 1; ///< units
    Side side = Side::front;
    bool halfWide = false; ///< it leaves room beside it
    Half half = Half::left;
    int depthMm = 0; ///< 0: not known

    int top() const { return unit + height - 1; }
    bool operator==(const Mounted&) const = default;
};

/// Units a device takes: of its model; 1 where that does not say.
int rackHeight(const Network& network, const Device& device);

/// What stands in a rack, those without a unit first, then from the foot upwards.
std::vector<Mounted> mountedIn(const Network& network, GroupId rack);

/// A device as it would be mounted.
Mounted mountedAs(const Network& network, const Device& device, int unit, Side side, Half half);

/// Whether two things stand at the same height, one above, beside or behind the other in such a
/// way that there is no room for both in a rack so deep (0: not known).
bool collide(const Mounted& a, const Mounted& b, int rackDepthMm);

/// What is in the way of a device on one side of a rack, from the other side where both
/// together are deeper than it; nothing: it has room.
std::optional<Mounted> inTheWay(const Network& network, GroupId rack, const Mounted& wanted);

/// The free unit nearest to the one wanted where a device has room; nothing: there is
/// none.
std::optional<int> nearestRoom(const Network& network, GroupId rack, const Mounted& wanted);

struct RackUse {
    int units = 0;
    int used = 0;       ///< units something takes, on either side
    int largestGap = 0; ///< units free one above another
    int watts = 0;      ///< drawn at most by what stands in it, as far as that is known
    double kg = 0;      ///< of what stands in it, as far as that is known
    int free() const { return units - used; }
};
RackUse useOf(const Network& network, const Group& rack);

/// All racks and cabinets that have units, by name.
std::vector<GroupId> racksOf(const Network& network);

} // namespace underridge::model

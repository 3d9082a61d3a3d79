// SPDX-License-Identifier: GPL-3.0-or-later
// A rack's elevation: its front and its rear side by side, units numbered from the foot,
// and what is mounted where.
#pragma once
#include "core/model/racks.h"
#include "core/scene/geometry.h"

#include <string>

namespace underridge::scene {

inline constexpr double rackUnitHeight = 26, rackWidth = 400, rackNumbers = 30, rackBetween = 40,
                        rackHead = 34;

struct RackSlot {
    model::Mounted mounted;
    Rect area;
    bool behind = false; ///< it is mounted on the other side: its back is seen
    bool clash = false;  ///< something else stands there too, or it stands out of the rack
};

struct RackPicture {
    model::GroupId rack;
    int units = 0;
    Rect front, rear; ///< of all units
    std::vector<RackSlot> slots;
    std::vector<model::DeviceId> loose; ///< in the rack, but not said in which unit

    Rect bounds() const { return {0, 0, rear.right() + 10, rear.bottom() + 10}; }
    /// The unit at a height, from 1; 0: beyond the rack.
    int unitAt(PointF point) const;
    std::optional<model::Side> sideAt(PointF point) const;
    /// What is drawn at a point; null: nothing.
    const RackSlot* slotAt(PointF point) const;
    /// Where something is seen from a side; from behind its left half is to the right.
    Rect areaOf(const model::Mounted& mounted, model::Side seenFrom) const;
    /// The half of the rack at a point, seen from the front.
    model::Half halfAt(PointF point) const;
};

/// A rack as it is drawn on a sheet of racks: in the frame of its group, the front to the
/// left, the rear to the right, a plate for each device at its unit.
struct SheetRack {
    PointF at; ///< upper left corner of its frame
    int units = 0;

    static constexpr double pitch = 52, width = 240, numbers = 22, between = 28;

    Rect frame() const;
    /// All units of a side.
    Rect side(model::Side side) const;
    /// Where the plate of something stands, so high.
    PointF corner(const model::Mounted& mounted, double height) const;
    /// The lowest unit of something so many units high whose middle is there; beyond the
    /// rack it may be less than 1 or too high.
    int unitAt(PointF middle, int height) const;
    model::Side sideAt(PointF point) const;
    /// The half of the rack, seen from the front.
    model::Half halfAt(PointF point) const;
};

/// Nothing of what is no rack with units.
std::optional<RackPicture> rackPicture(const model::Network& network, model::GroupId rack);

} // namespace underridge::scene

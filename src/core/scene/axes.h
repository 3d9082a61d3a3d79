// SPDX-License-Identifier: GPL-3.0-or-later
// Lines along the axes: out of one plate and into the other, with few corners, round the plates
// between where there is room.
#pragma once
#include "core/scene/folding.h"
#include "core/scene/grid.h"

namespace underridge::scene {

/// Where all ways tried between two anchors run: what stands elsewhere is of no matter to them.
Rect reachBetween(const Anchor& a, const Anchor& b);

/// Bundled lines leave a plate at one place and run together until they part, each medium in a
/// lane of its own.
struct Bundling {
    bool on = false;
    double lane = 0; ///< aside of the middle, in sheet units
    /// Those to the left turn at other heights than those to the right: trunks that come from two sides along
    /// one row are two.
    bool bySide = false;
    bool roundFrames = false; ///< of groups neither end is in, as round plates
};

/// A path from one anchor to the other by ports of their rails (-1: not known) whose pieces are
/// upright or level. Of the ways with few corners the first that meets none of `plates`, else
/// the one that meets fewest; straight where the two stand too close. `parallels`: which of the
/// links between the same two, and how many.
std::vector<PointF> axisPath(const Anchor& a, const Anchor& b, int portA, int portB,
                             std::pair<int, int> parallels, const Grid& plates, Bundling bundling = {});

/// What a path runs through.
struct Met {
    int plates = 0; ///< those and tiles that are at neither of its ends
    int frames = 0; ///< of groups neither end is in

    auto operator<=>(const Met&) const = default; // plates are worse
};
/// Looked for in `plates`, which may hold anything.
Met metBy(const std::vector<PointF>& path, const Anchor& a, const Anchor& b, const Grid& plates);

/// Whether all pieces of a path are upright or level.
bool isAligned(const std::vector<PointF>& path);

/// What lines of a sheet go round: plates, but for those that are tucked into others.
Grid gridOfPlates(const model::Network& network, model::SheetId sheet, const Folding* folding,
                  const std::vector<ItemPtr>& plates);

} // namespace underridge::scene

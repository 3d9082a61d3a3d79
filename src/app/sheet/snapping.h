// SPDX-License-Identifier: GPL-3.0-or-later
// Where a dragged rectangle comes to rest: at its neighbours' edges and centres, else on
// the grid.
#pragma once
#include "core/scene/scene.h"

#include <set>

namespace underridge::app {

inline constexpr int gridStep = 8;

struct Snapped {
    model::Point by; ///< the distance to move
    std::vector<std::pair<scene::PointF, scene::PointF>> guides;
};

/// What a dragged rectangle may align with, gathered once for all steps of a drag.
class Neighbours {
public:
    /// What lies in `area`, but for the `moved` objects.
    Neighbours(const scene::Scene& scene, const scene::Rect& area, const std::set<std::uint64_t>& moved);
    /// `moving` wants to go `by`.
    Snapped snap(const scene::Rect& moving, scene::PointF by, double tolerance) const;

private:
    std::vector<scene::Rect> frames_; ///< of plates, then of tiles and notes
};

/// The nearest grid point.
model::Point onGrid(scene::PointF p);

} // namespace underridge::app

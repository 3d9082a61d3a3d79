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

/// `moving` wants to go `by`; what it may align with lies in `area`, but for the `moved`
/// objects.
Snapped snap(const scene::Scene& scene, const scene::Rect& moving, scene::PointF by, const scene::Rect& area,
             const std::set<std::uint64_t>& moved, double tolerance);

/// The nearest grid point.
model::Point onGrid(scene::PointF p);

} // namespace underridge::app

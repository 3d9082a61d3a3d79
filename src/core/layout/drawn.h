// SPDX-License-Identifier: GPL-3.0-or-later
// How good a sheet is, as it is drawn.
#pragma once
#include "core/layout/measures.h"
#include "core/scene/scene.h"

namespace underridge::layout {

struct DrawnMeasures : Measures {
    double stress = 0;
    std::size_t labelOverlaps = 0;   ///< labels over another label, or over a plate
    std::size_t groupIntrusions = 0; ///< plates in frames they do not belong to, and frames over frames
};

/// Of all plates, tiles, frames and lines of a scene.
DrawnMeasures measured(const scene::Scene& scene);

} // namespace underridge::layout

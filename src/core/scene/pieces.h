// SPDX-License-Identifier: GPL-3.0-or-later
// What lies along a path is looked for piece by piece: the box about a long slanting line is half the sheet.
#pragma once
#include "core/scene/geometry.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace underridge::scene {

/// Calls `each(from, to)` for pieces of a path, in order, none of them longer than `most` sheet units.
template <class Each>
void forEachPiece(const std::vector<PointF>& path, double most, Each&& each) {
    for (std::size_t i = 0; i + 1 < path.size(); ++i) {
        const PointF along = path[i + 1] - path[i];
        const double pieces = std::max(1.0, std::ceil(length(along) / most));
        for (double piece = 0; piece < pieces; ++piece)
            each(path[i] + along * (piece / pieces), path[i] + along * ((piece + 1) / pieces));
    }
}

} // namespace underridge::scene

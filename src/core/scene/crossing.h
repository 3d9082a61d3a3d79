// SPDX-License-Identifier: GPL-3.0-or-later
// Where two segments cross.
#pragma once
#include "core/scene/geometry.h"

#include <optional>

namespace underridge::scene {

/// The share of the way from a to b at which it meets the segment from c to d, 0 to 1; nothing where
/// they do not meet or run the same way.
inline std::optional<double> crossingShare(PointF a, PointF b, PointF c, PointF d) {
    const auto cross = [](PointF u, PointF v) { return u.x * v.y - u.y * v.x; };
    const PointF u = b - a, v = d - c, w = c - a;
    const double turn = cross(u, v);
    if (std::abs(turn) < 1e-9)
        return std::nullopt;
    const double mine = cross(w, v) / turn, theirs = cross(w, u) / turn;
    return mine < 0 || mine > 1 || theirs < 0 || theirs > 1 ? std::nullopt : std::optional(mine);
}

} // namespace underridge::scene

// SPDX-License-Identifier: GPL-3.0-or-later
// Where a point of a cable route comes to lie: on another route where that is near, else
// straight on from its neighbour, else on whole decimetres.
#pragma once
#include "app/sheet/tool.h"

namespace underridge::app {

/// `neighbour`: the point before it; none: its first. `self`: a route that is not snapped
/// to. With Ctrl just there.
scene::PointF routePoint(const scene::Scene& scene, const model::Sheet& sheet, const Pointer& pointer,
                         const scene::PointF* neighbour, model::CableRouteId self, double zoom);

} // namespace underridge::app

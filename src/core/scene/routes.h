// SPDX-License-Identifier: GPL-3.0-or-later
// Cable routes on the sheet of a floor that is drawn to scale.
#pragma once
#include "core/model/network.h"
#include "core/scene/items.h"

namespace underridge::scene {

/// A route as it is drawn on a sheet to scale, without what is in it.
RouteLine lineOf(const model::CableRoute& route, const model::Sheet& sheet);

/// All routes of the floor a sheet draws, with how full they are; none on other sheets.
std::vector<RouteLine> routesOn(const model::Network& network, const model::Sheet& sheet);

/// A spot on the floor as a point of a sheet to scale, and the other way round, to whole
/// millimetres.
PointF onSheet(const model::FloorPoint& spot, const model::Sheet& sheet);
model::FloorPoint onFloor(PointF point, const model::Sheet& sheet);

} // namespace underridge::scene

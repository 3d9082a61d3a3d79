// SPDX-License-Identifier: GPL-3.0-or-later
// Trays and conduits on the plan of a floor.
#pragma once
#include "core/edit/act.h"

#include <span>

namespace underridge::edit {

/// Draws a route on a floor and names it after its kind. Refuses what is no floor, fewer
/// than two points or more than 1,000, and a spot beyond 10 km.
ActResult addCableRoute(const model::Network& network, model::GroupId floor, model::CableRouteKind type,
                        std::vector<model::FloorPoint> points, model::IdSource& ids);

/// Replaces what is known of a route. Refuses what addCableRoute() does, an empty name, a
/// size outside 5 mm to 5 m inside, a height beyond 100 m and a limit above 100 per cent.
ActResult changeCableRoute(const model::Network& network, model::CableRoute changed);

/// The points without those that lie on the straight way between their neighbours.
std::vector<model::FloorPoint> straightened(std::span<const model::FloorPoint> points);

} // namespace underridge::edit

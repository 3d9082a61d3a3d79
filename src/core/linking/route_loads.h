// SPDX-License-Identifier: GPL-3.0-or-later
// What lies in cable routes: how full they are, and of which cables.
#pragma once
#include "core/linking/route.h"

namespace underridge::linking {

/// Inside a route, in square millimetres.
double areaOf(const model::CableRoute& route);

/// How many per cent of its area `cables` may fill: what the route says, else of a tray 50
/// (TIA-569, as much as it holds: round cables never lie close), of a conduit 53 with one
/// cable, 31 with two, 40 with more (TIA-569; NFPA 70 chapter 9, table 1).
int limitOf(const model::CableRoute& route, int cables);

/// A route where it is fullest.
struct RouteLoad {
    model::CableRouteId route;
    std::vector<model::CableId> cables; ///< anywhere in it
    int there = 0;                      ///< cables where it is fullest
    std::int64_t atMm = 0;              ///< that stretch begins so far from its first point
    double filledMm2 = 0;
    int percent = 0; ///< of its area, rounded up
    int limit = 0;   ///< per cent

    bool isOver() const { return percent > limit; }
    bool operator==(const RouteLoad&) const = default;
};

/// Of all routes of a floor, by id. Cables whose way cannot be worked out, or that are
/// spare or to be removed, lie nowhere.
std::vector<RouteLoad> loadsOn(const model::Network& network, model::GroupId floor);

} // namespace underridge::linking

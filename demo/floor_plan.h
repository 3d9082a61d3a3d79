// SPDX-License-Identifier: GPL-3.0-or-later
// The floors of the terminal as they are built: rooms in metres, drawn as SVG in ink.
#pragma once
#include <string>
#include <vector>

namespace underridge::demo {

struct Room {
    std::string name;
    double x = 0, y = 0, w = 0, h = 0;  ///< metres, from the upper left corner of the floor
    std::vector<const char*> devices{}; ///< that stand in it, row by row
    int across = 3;                     ///< in a row
    double down = 0;                    ///< metres from row to row; 0: spread over the room
};

struct FloorPlan {
    double w = 84, h = 36; ///< metres
    std::vector<Room> rooms;

    /// Whether it is one of several floors.
    bool hasStairs() const { return w > 60; }
};

/// Millimetres a unit of the drawing.
inline constexpr double floorPlanMm = 50;

std::string floorPlanSvg(const FloorPlan& plan);

} // namespace underridge::demo

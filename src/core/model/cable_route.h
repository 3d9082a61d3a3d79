// SPDX-License-Identifier: GPL-3.0-or-later
// What cables run in, drawn on the plan of a floor: trays and conduits (pathways in
// TIA-569, cable management systems in ISO/IEC 14763-2).
#pragma once
#include "core/model/device.h"

namespace underridge::model {

/// A spot on a floor, from its upper left corner.
struct FloorPoint {
    std::int64_t xMm = 0, yMm = 0;

    auto operator<=>(const FloorPoint&) const = default;
};

struct CableRoute {
    static constexpr Kind kind = Kind::cableRoute;
    CableRouteId id;
    std::string name;
    CableRouteKind type = CableRouteKind::tray;
    GroupId floor;
    std::vector<FloorPoint> points; ///< two or more
    std::int64_t heightMm = 2700;   ///< above the floor
    int widthMm = 200;              ///< inside; of a conduit its inner diameter
    int depthMm = 60;               ///< inside; of a tray
    int limitPercent = 0;           ///< of its area cables may fill; 0: as is usual for its kind
    std::string note;
    SharedText extra;

    bool operator==(const CableRoute&) const = default;
    Key key() const { return {id.value, 0}; }
};

} // namespace underridge::model

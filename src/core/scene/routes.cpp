// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/routes.h"

#include "core/linking/route_loads.h"
#include "core/model/standing.h"
#include "core/scene/text_width.h"

#include <fmt/format.h>

namespace underridge::scene {
using namespace model;
namespace {

/// So that a narrow one can be seen and taken.
constexpr double leastTray = 9, leastConduit = 5;
constexpr double labelHeight = 14;

/// Its name and how full it is, on its longest piece: not in the middle, where its handle is.
void putLabel(RouteLine& line, const std::string& words) {
    std::size_t longest = 1;
    for (std::size_t i = 2; i < line.path.size(); ++i)
        if (length(line.path[i] - line.path[i - 1]) > length(line.path[longest] - line.path[longest - 1]))
            longest = i;
    constexpr double share = 0.36;
    const PointF from = line.path[longest - 1];
    const PointF middle = from + (line.path[longest] - from) * share;
    line.label = words;
    const double width = textWidth(words, labelSize, Weight::semiBold) + 8;
    line.labelArea = {middle.x - width / 2, middle.y - labelHeight / 2, width, labelHeight};
}

} // namespace

PointF onSheet(const FloorPoint& spot, const Sheet& sheet) {
    return PointF{static_cast<double>(spot.xMm), static_cast<double>(spot.yMm)} * (1.0 / sheet.mmPerUnit);
}

FloorPoint onFloor(PointF point, const Sheet& sheet) {
    return {std::llround(point.x * sheet.mmPerUnit), std::llround(point.y * sheet.mmPerUnit)};
}

RouteLine lineOf(const CableRoute& route, const Sheet& sheet) {
    RouteLine line;
    line.id = route.id;
    line.type = route.type;
    for (const FloorPoint& point : route.points)
        line.path.push_back(onSheet(point, sheet));
    line.width = std::max(route.type == CableRouteKind::tray ? leastTray : leastConduit,
                          static_cast<double>(route.widthMm) / sheet.mmPerUnit);
    putLabel(line, route.name);
    return line;
}

std::vector<RouteLine> routesOn(const Network& network, const Sheet& sheet) {
    std::vector<RouteLine> out;
    const Group* floor = floorDrawn(network, sheet);
    if (!floor)
        return out;
    for (const linking::RouteLoad& load : linking::loadsOn(network, floor->id)) {
        const CableRoute& route = *network.cableRoute(load.route);
        if (route.points.size() < 2)
            continue;
        RouteLine line = lineOf(route, sheet);
        line.over = load.isOver();
        putLabel(line, fmt::format("{} · {} %", route.name, load.percent));
        out.push_back(std::move(line));
    }
    return out;
}

} // namespace underridge::scene

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/cable_routes.h"

#include "core/edit/names.h"
#include "core/model/route_limits.h"

#include <cmath>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

constexpr std::size_t mostPoints = 1'000;
using namespace routeLimits;

bool isFar(const FloorPoint& p) {
    return std::abs(p.xMm) > farthestMm || std::abs(p.yMm) > farthestMm;
}

Result<Done> checked(const Network& network, const CableRoute& route) {
    const Group* floor = network.group(route.floor);
    if (!floor || floor->type != GroupKind::floor)
        return error("cable routes are drawn on floors", "choose the sheet of a floor on its plan");
    if (trimmed(route.name).empty())
        return error("the name is empty", "type a name");
    if (route.points.size() < 2)
        return error("a route has a beginning and an end", "draw it to a second point");
    if (route.points.size() > mostPoints)
        return error(fmt::format("{} points are too many", route.points.size()),
                     fmt::format("draw it with at most {}", mostPoints));
    if (std::any_of(route.points.begin(), route.points.end(), isFar))
        return error("a point is more than 10 km away", "draw it on the floor");
    const bool hasDepth = route.type == CableRouteKind::tray;
    if (route.widthMm < leastMm || route.widthMm > mostMm ||
        (hasDepth && (route.depthMm < leastMm || route.depthMm > mostMm)))
        return error("that is no size for a cable route", "between 5 mm and 5 m are possible");
    if (std::abs(route.heightMm) > highestMm)
        return error("that is no height above a floor", "write less than 100 m");
    if (route.limitPercent < 0 || route.limitPercent > 100)
        return error("the limit is not between 0 and 100 per cent", "write such a number; 0 is as usual");
    return Done{};
}

} // namespace

std::vector<FloorPoint> straightened(std::span<const FloorPoint> points) {
    std::vector<FloorPoint> out;
    for (const FloorPoint& point : points) {
        if (!out.empty() && out.back() == point)
            continue;
        if (out.size() > 1) {
            const FloorPoint &a = out[out.size() - 2], &b = out.back();
            const auto across = static_cast<double>(b.xMm - a.xMm) * static_cast<double>(point.yMm - b.yMm) -
                                static_cast<double>(b.yMm - a.yMm) * static_cast<double>(point.xMm - b.xMm);
            const auto onwards = static_cast<double>(b.xMm - a.xMm) * static_cast<double>(point.xMm - b.xMm) +
                                 static_cast<double>(b.yMm - a.yMm) * static_cast<double>(point.yMm - b.yMm);
            if (across == 0 && onwards > 0)
                out.pop_back();
        }
        out.push_back(point);
    }
    return out;
}

ActResult addCableRoute(const Network& network, GroupId floor, CableRouteKind type,
                        std::vector<FloorPoint> points, IdSource& ids) {
    CableRoute route;
    route.type = type;
    route.floor = floor;
    route.points = straightened(points);
    if (type == CableRouteKind::conduit)
        route.widthMm = 25; // a usual size
    std::vector<std::string> taken;
    network.all<CableRoute>().forEach([&](const CableRoute& each) { taken.push_back(each.name); });
    const auto names = seriesNames(type == CableRouteKind::tray ? "Tray {1..}" : "Conduit {1..}", 1, taken);
    if (!names)
        return names.refusal();
    route.name = names->front();
    if (auto good = checked(network, route); !good)
        return good.refusal();
    route.id = ids.make<CableRouteId>();
    Act act{fmt::format("Draw {}", route.name), network, {refTo(route.id)}};
    act.network.put(std::move(route));
    return act;
}

ActResult changeCableRoute(const Network& network, CableRoute changed) {
    const CableRoute* held = network.cableRoute(changed.id);
    if (!held)
        return error("the cable route is no longer there", "select again");
    if (auto good = checked(network, changed); !good)
        return good.refusal();
    const bool renamed = changed.name != held->name;
    Act act{fmt::format("{} {}", renamed ? "Rename" : "Change", held->name), network, {refTo(changed.id)}};
    act.network.put(std::move(changed));
    return act;
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/route_snapping.h"

namespace underridge::app {
using scene::PointF;
namespace {

constexpr double reachPixels = 9, stepMm = 100;

PointF nearestOn(const std::vector<PointF>& path, PointF p) {
    PointF best = path.front();
    for (std::size_t i = 1; i < path.size(); ++i) {
        const PointF a = path[i - 1], along = path[i] - a;
        const double square = along.x * along.x + along.y * along.y;
        const PointF from = p - a;
        const double share =
            square > 0 ? std::clamp((from.x * along.x + from.y * along.y) / square, 0.0, 1.0) : 0;
        if (const PointF here = a + along * share; length(here - p) < length(best - p))
            best = here;
    }
    return best;
}

} // namespace

PointF routePoint(const scene::Scene& scene, const model::Sheet& sheet, const Pointer& pointer,
                  const PointF* neighbour, model::CableRouteId self, double zoom) {
    const PointF at = pointer.sheet;
    if (pointer.modifiers.testFlag(Qt::ControlModifier))
        return at;
    const double reach = reachPixels / zoom;
    const auto near = scene.itemsIn(scene::Rect{at.x, at.y, 0.01, 0.01}.grown(reach));
    for (const scene::RouteLine* route : near.of<scene::RouteLine>()) {
        if (route->id == self)
            continue;
        for (const PointF end : {route->path.front(), route->path.back(), nearestOn(route->path, at)})
            if (length(end - at) <= reach)
                return end;
    }
    const double step = stepMm / sheet.mmPerUnit;
    PointF out{std::round(at.x / step) * step, std::round(at.y / step) * step};
    if (neighbour && std::abs(out.x - neighbour->x) <= reach)
        out.x = neighbour->x;
    if (neighbour && std::abs(out.y - neighbour->y) <= reach)
        out.y = neighbour->y;
    return out;
}

} // namespace underridge::app

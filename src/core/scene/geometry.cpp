// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/geometry.h"

namespace underridge::scene {

double distanceToSegment(PointF p, PointF a, PointF b) {
    const PointF d = b - a;
    const double square = d.x * d.x + d.y * d.y;
    const double t = square == 0 ? 0 : std::clamp(((p.x - a.x) * d.x + (p.y - a.y) * d.y) / square, 0.0, 1.0);
    return length(p - (a + d * t));
}

// Liang and Barsky (1984): clips the segment's parameter against each edge in turn.
bool segmentMeets(PointF a, PointF b, const Rect& rect) {
    double from = 0, to = 1;
    const auto clip = [&](double delta, double room) {
        if (delta == 0)
            return room >= 0;
        const double t = room / delta;
        if (delta < 0)
            from = std::max(from, t);
        else
            to = std::min(to, t);
        return from <= to;
    };
    const PointF d = b - a, c = (a + b) * 0.5 - rect.centre();
    // Most are far enough from the line to tell without dividing (separating axes, Gottschalk 1996).
    const double reach = rect.w * std::abs(d.y) + rect.h * std::abs(d.x);
    if (2 * std::abs(c.x * d.y - c.y * d.x) > reach * (1 + 1e-9) + 1e-6)
        return false;
    return clip(-d.x, a.x - rect.x) && clip(d.x, rect.right() - a.x) && clip(-d.y, a.y - rect.y) &&
           clip(d.y, rect.bottom() - a.y);
}

double pathLength(const std::vector<PointF>& path) {
    double sum = 0;
    for (std::size_t i = 1; i < path.size(); ++i)
        sum += length(path[i] - path[i - 1]);
    return sum;
}

Along alongPath(const std::vector<PointF>& path, double distance) {
    for (std::size_t i = 1; i < path.size(); ++i) {
        const PointF d = path[i] - path[i - 1];
        const double part = length(d);
        if (part > 0 && (distance <= part || i + 1 == path.size()))
            return {path[i - 1] + d * (distance / part), d * (1 / part)};
        distance -= part;
    }
    return {path.empty() ? PointF{} : path.back(), {1, 0}};
}

Rect boundsOf(const std::vector<PointF>& path) {
    if (path.empty())
        return {};
    double left = path[0].x, right = left, top = path[0].y, bottom = top;
    for (const PointF p : path) {
        left = std::min(left, p.x);
        right = std::max(right, p.x);
        top = std::min(top, p.y);
        bottom = std::max(bottom, p.y);
    }
    return {left, top, right - left, bottom - top};
}

} // namespace underridge::scene

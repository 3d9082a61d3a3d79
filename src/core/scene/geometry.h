// SPDX-License-Identifier: GPL-3.0-or-later
// Plane geometry in sheet units.
#pragma once
#include "core/model/sheet.h"

#include <algorithm>
#include <cmath>

namespace underridge::scene {

struct PointF {
    double x = 0, y = 0;

    bool operator==(const PointF&) const = default;
    PointF operator+(PointF o) const { return {x + o.x, y + o.y}; }
    PointF operator-(PointF o) const { return {x - o.x, y - o.y}; }
    PointF operator*(double f) const { return {x * f, y * f}; }
};

inline PointF toF(model::Point p) {
    return {static_cast<double>(p.x), static_cast<double>(p.y)};
}
/// To whole units, as positions are stored.
inline model::Point rounded(PointF p) {
    return {static_cast<int>(std::lround(p.x)), static_cast<int>(std::lround(p.y))};
}
/// Of points of a sheet: too near for anything to overflow, and five times as quick as std::hypot.
inline double length(PointF p) {
    return std::sqrt(p.x * p.x + p.y * p.y);
}

struct Rect {
    double x = 0, y = 0, w = 0, h = 0;

    bool operator==(const Rect&) const = default;
    bool empty() const { return w <= 0 || h <= 0; }
    double right() const { return x + w; }
    double bottom() const { return y + h; }
    PointF centre() const { return {x + w / 2, y + h / 2}; }
    bool contains(PointF p) const { return p.x >= x && p.x < right() && p.y >= y && p.y < bottom(); }
    bool contains(const Rect& o) const {
        return o.x >= x && o.y >= y && o.right() <= right() && o.bottom() <= bottom();
    }
    bool intersects(const Rect& o) const {
        return x < o.right() && o.x < right() && y < o.bottom() && o.y < bottom();
    }
    Rect grown(double by) const { return {x - by, y - by, w + 2 * by, h + 2 * by}; }
    Rect moved(PointF by) const { return {x + by.x, y + by.y, w, h}; }
    /// What lies in both; empty, and at an edge, where they do not meet.
    Rect common(const Rect& o) const {
        const double left = std::max(x, o.x), top = std::max(y, o.y);
        return {left, top, std::max(0.0, std::min(right(), o.right()) - left),
                std::max(0.0, std::min(bottom(), o.bottom()) - top)};
    }
    Rect united(const Rect& o) const {
        if (empty())
            return o;
        if (o.empty())
            return *this;
        const double left = std::min(x, o.x), top = std::min(y, o.y);
        return {left, top, std::max(right(), o.right()) - left, std::max(bottom(), o.bottom()) - top};
    }
};

inline Rect rectBetween(PointF a, PointF b) {
    return {std::min(a.x, b.x), std::min(a.y, b.y), std::abs(a.x - b.x), std::abs(a.y - b.y)};
}

/// Distance of a point from a line segment.
double distanceToSegment(PointF p, PointF a, PointF b);
/// Whether a segment has a point in a rectangle.
bool segmentMeets(PointF a, PointF b, const Rect& rect);
/// The point at a share of a polyline's length, and the direction there (unit length).
struct Along {
    PointF at;
    PointF direction;
};
Along alongPath(const std::vector<PointF>& path, double distance);
double pathLength(const std::vector<PointF>& path);
Rect boundsOf(const std::vector<PointF>& path);

} // namespace underridge::scene

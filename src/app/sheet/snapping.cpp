// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/snapping.h"

#include <array>

namespace underridge::app {
using scene::PointF;
using scene::Rect;
namespace {

struct Best {
    double shift = 0;
    double distance = 0;
    double line = 0;
    Rect other;
    bool found = false;
};

void consider(Best& best, const std::array<double, 3>& mine, const std::array<double, 3>& theirs,
              const Rect& other, double tolerance) {
    for (const double m : mine)
        for (const double t : theirs)
            if (const double d = std::abs(t - m); d <= tolerance && (!best.found || d < best.distance))
                best = {t - m, d, t, other, true};
}

} // namespace

model::Point onGrid(PointF p) {
    return {static_cast<int>(std::lround(p.x / gridStep)) * gridStep,
            static_cast<int>(std::lround(p.y / gridStep)) * gridStep};
}

Neighbours::Neighbours(const scene::Scene& scene, const Rect& area, const std::set<std::uint64_t>& moved) {
    const scene::Items items = scene.itemsIn(area);
    for (const scene::Plate* plate : items.of<scene::Plate>())
        if (!moved.contains(plate->id.value))
            frames_.push_back(plate->frame);
    for (const scene::Tile* tile : items.of<scene::Tile>())
        if (!moved.contains(tile->id.value))
            frames_.push_back(tile->frame);
    for (const scene::NoteCard* note : items.of<scene::NoteCard>())
        if (!moved.contains(note->id.value))
            frames_.push_back(note->frame);
}

Snapped Neighbours::snap(const Rect& moving, PointF by, double tolerance) const {
    const Rect there = moving.moved(by);
    Best x, y;
    for (const Rect& other : frames_) {
        consider(x, {there.x, there.centre().x, there.right()}, {other.x, other.centre().x, other.right()},
                 other, tolerance);
        consider(y, {there.y, there.centre().y, there.bottom()}, {other.y, other.centre().y, other.bottom()},
                 other, tolerance);
    }
    const model::Point rest = onGrid({there.x, there.y});
    const double toX = x.found ? there.x + x.shift : rest.x, toY = y.found ? there.y + y.shift : rest.y;
    Snapped out{
        {static_cast<int>(std::lround(toX - moving.x)), static_cast<int>(std::lround(toY - moving.y))}, {}};
    const Rect final = moving.moved({static_cast<double>(out.by.x), static_cast<double>(out.by.y)});
    if (x.found)
        out.guides.push_back({{x.line, std::min(final.y, x.other.y) - 8},
                              {x.line, std::max(final.bottom(), x.other.bottom()) + 8}});
    if (y.found)
        out.guides.push_back({{std::min(final.x, y.other.x) - 8, y.line},
                              {std::max(final.right(), y.other.right()) + 8, y.line}});
    return out;
}

} // namespace underridge::app

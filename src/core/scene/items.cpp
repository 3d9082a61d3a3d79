// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/items.h"

#include <limits>

namespace underridge::scene {
using namespace model;
namespace {

/// Beyond the frame of a plate or note: its edge, and what stands on it.
constexpr double margin = 3;
/// Beside the path of a link: its strands, ticks and marks.
constexpr double besidePath = 8;

} // namespace

bool Plate::operator==(const Plate& o) const {
    return id == o.id && frame == o.frame && role == o.role && name == o.name && subline == o.subline &&
           outside == o.outside && links == o.links && ticks == o.ticks;
}

Anchor Plate::anchor() const {
    return {refTo(id), frame, rail, static_cast<int>(ticks.size())};
}

Rect Rail::tick(int index) const {
    const double pitch = area.w / columns;
    const double width = std::clamp(pitch - 1.6, 1.2, 9.0);
    return {area.x + (index % columns) * pitch, area.y + (index / columns) * rowPitch, width, tickHeight};
}

int Rail::nearest(PointF p) const {
    if (columns == 0)
        return -1;
    const int column = std::clamp(static_cast<int>((p.x - area.x) / (area.w / columns)), 0, columns - 1);
    const int row = std::clamp(static_cast<int>((p.y - area.y) / rowPitch), 0, rows - 1);
    return row * columns + column;
}

Item itemOf(Plate plate) {
    return {refTo(plate.id), plate.frame.grown(margin), Layer::plates, std::move(plate)};
}

Item itemOf(LinkLine line) {
    Rect bounds = boundsOf(line.path).grown(besidePath);
    for (const Label& label : line.labels)
        bounds = bounds.united(label.area);
    return {refTo(line.id), bounds, Layer::links, std::move(line)};
}

Item itemOf(NoteCard note) {
    return {refTo(note.id), note.frame.grown(margin), note.zone ? Layer::ground : Layer::notes,
            std::move(note)};
}

bool meets(const Item& item, const Rect& area) {
    if (!item.bounds.intersects(area))
        return false;
    const LinkLine* line = item.as<LinkLine>();
    if (!line)
        return true;
    const Rect grown = area.grown(besidePath);
    for (std::size_t i = 1; i < line->path.size(); ++i)
        if (segmentMeets(line->path[i - 1], line->path[i], grown))
            return true;
    return std::any_of(line->labels.begin(), line->labels.end(),
                       [&](const Label& label) { return label.area.intersects(area); });
}

double distanceTo(const Item& item, PointF point) {
    if (const LinkLine* line = item.as<LinkLine>()) {
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t i = 1; i < line->path.size(); ++i)
            least = std::min(least, distanceToSegment(point, line->path[i - 1], line->path[i]));
        return least;
    }
    const Rect frame = item.bounds.grown(-margin);
    if (frame.contains(point))
        return 0;
    return std::hypot(std::max({frame.x - point.x, 0.0, point.x - frame.right()}),
                      std::max({frame.y - point.y, 0.0, point.y - frame.bottom()}));
}

Hit hitOn(const Item& item, PointF point) {
    const Plate* plate = item.as<Plate>();
    if (!plate || plate->rail.columns == 0 || !plate->rail.area.grown(2).contains(point))
        return {item.object, -1};
    const int port = plate->rail.nearest(point);
    return {item.object, port < static_cast<int>(plate->ticks.size()) ? port : -1};
}

} // namespace underridge::scene

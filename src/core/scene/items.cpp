// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/items.h"

#include "core/scene/text_width.h"

#include <limits>

namespace underridge::scene {
using namespace model;
namespace {

/// Beyond the frame of a plate or note: its edge, and what stands on it.
constexpr double lineMargin = 3;
/// Beside the path of a link: its strands, ticks and marks.
constexpr double besidePath = 8;
/// The border of a frame can be taken by this much on either side.
constexpr double borderReach = 4;
/// What a zone is taken by besides its border: its upper edge with the title.
constexpr double zoneTitle = 24;

} // namespace

bool Plate::operator==(const Plate& o) const {
    return id == o.id && subnet == o.subnet && frame == o.frame && role == o.role && name == o.name &&
           subline == o.subline && outside == o.outside && links == o.links && ticks == o.ticks &&
           tucked == o.tucked;
}

Plate Plate::movedTo(const Rect& place) const {
    Plate plate = *this;
    plate.rail.area = rail.area.moved({place.x - frame.x, place.y - frame.y});
    plate.frame = place;
    return plate;
}

namespace {

double badgeWidth(int number) {
    return badgeGlyph + 2 + textWidth(std::to_string(number), sublineSize, Weight::semiBold) + 5;
}

} // namespace

std::size_t Plate::rolesOnBadge() const {
    double width = 5;
    for (std::size_t i = 0; i < tucked.size(); ++i) {
        width += badgeWidth(tucked[i].second);
        if (width > frame.w / 2 - 10) // the other half is the grip's
            return i == 0 && tucked.size() == 1 ? 1 : 0;
    }
    return tucked.size();
}

Rect Plate::badge() const {
    if (tucked.empty())
        return {};
    constexpr double height = 15, over = 3, beside = 5;
    double width = 5;
    int all = 0;
    const std::size_t roles = rolesOnBadge();
    for (std::size_t i = 0; i < tucked.size(); ++i) {
        all += tucked[i].second;
        if (i < roles)
            width += badgeWidth(tucked[i].second);
    }
    if (roles == 0)
        width += badgeWidth(all);
    return {frame.right() - beside - width, frame.bottom() - over, width, height};
}

Anchor Plate::anchor() const {
    return {object(), frame, rail, static_cast<int>(ticks.size())};
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
    const Rect badge = plate.badge();
    const Rect bounds =
        badge.empty() ? plate.frame.grown(lineMargin) : plate.frame.grown(lineMargin).united(badge.grown(1));
    const ObjectRef object = plate.object();
    return {object, bounds, Layer::plates, std::move(plate)};
}

Item itemOf(LinkLine line) {
    Rect bounds = boundsOf(line.path).grown(besidePath).united(line.reach);
    for (const Label& label : line.labels)
        bounds = bounds.united(label.area);
    const ObjectRef object = line.object();
    return {object, bounds, Layer::links, std::move(line)};
}

Item itemOf(NoteCard note) {
    const bool ground = note.zone || note.behind;
    constexpr int onFrames = 1'000; // a note behind everything is not behind frames
    const int depth = ground && !note.zone ? onFrames : 0;
    return {refTo(note.id), note.frame.grown(lineMargin), ground ? Layer::ground : Layer::notes,
            std::move(note), depth};
}

Item itemOf(Frame frame) {
    const int depth = frame.depth + 1; // on the zones
    return {refTo(frame.id), frame.frame.grown(lineMargin), Layer::ground, std::move(frame), depth};
}

Item itemOf(Tile tile) {
    return {refTo(tile.id), tile.frame.grown(lineMargin), Layer::plates, std::move(tile)};
}

Item itemOf(Doorway doorway) {
    return {doorway.beyond, doorway.frame.grown(lineMargin), Layer::plates, std::move(doorway)};
}

Item itemOf(PlanPicture plan) {
    const Rect covered = plan.covered();
    constexpr int below = -1; // zones and frames
    return {{Kind::asset, plan.asset.value}, covered, Layer::ground, std::move(plan), below};
}

Item itemOf(RouteLine route) {
    constexpr int onFrames = 500; // below notes that are behind everything
    const Rect bounds =
        boundsOf(route.path).grown(route.width / 2 + lineMargin).united(route.labelArea.grown(1));
    return {refTo(route.id), bounds, Layer::ground, std::move(route), onFrames};
}

Rect PlanPicture::covered() const {
    const double radians = turn * std::acos(-1) / 180, c = std::cos(radians), s = std::sin(radians);
    const PointF corners[] = {{0, 0},
                              {frame.w * c, frame.w * s},
                              {-frame.h * s, frame.h * c},
                              {frame.w * c - frame.h * s, frame.w * s + frame.h * c}};
    PointF least = corners[0], most = corners[0];
    for (const PointF p : corners) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    }
    return {frame.x + least.x, frame.y + least.y, most.x - least.x, most.y - least.y};
}

Rect frameOf(const Item& item) {
    return std::visit(
        []<class Shape>(const Shape& shape) {
            if constexpr (std::is_same_v<Shape, LinkLine>)
                return boundsOf(shape.path);
            else if constexpr (std::is_same_v<Shape, RouteLine>)
                return boundsOf(shape.path).grown(shape.width / 2);
            else if constexpr (std::is_same_v<Shape, PlanPicture>)
                return shape.covered();
            else
                return shape.frame;
        },
        item.shape);
}

Rect Frame::tab() const {
    const double most = textWidth(title, nameSize, Weight::semiBold) + 44;
    return {frame.x, frame.y, std::min(frame.w, most), 24};
}

bool isLed(const Item& item) {
    const LinkLine* line = item.as<LinkLine>();
    return line && !line->reach.empty();
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
    const auto toPath = [&](const std::vector<PointF>& path) {
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t i = 1; i < path.size(); ++i)
            least = std::min(least, distanceToSegment(point, path[i - 1], path[i]));
        return least;
    };
    if (const LinkLine* line = item.as<LinkLine>())
        return toPath(line->path);
    if (const RouteLine* route = item.as<RouteLine>())
        return route->labelArea.contains(point)
                   ? 0
                   : std::max(0.0, toPath(route->path) - route->width / 2 - borderReach);
    if (item.as<PlanPicture>()) // it is what one stands on
        return std::numeric_limits<double>::infinity();
    Rect frame = frameOf(item);
    if (const Plate* plate = item.as<Plate>(); plate && plate->badge().contains(point))
        return 0;
    if (const NoteCard* note = item.as<NoteCard>(); note && note->zone) {
        // Inside a zone is the sheet, but for its title.
        if (frame.grown(-borderReach).contains(point))
            frame = {frame.x, frame.y, frame.w, std::min(frame.h, zoneTitle)};
        else
            frame = frame.grown(borderReach);
    }
    if (const Frame* group = item.as<Frame>(); group && frame.grown(-borderReach).contains(point))
        frame = group->tab(); // inside it is the sheet
    else if (group)
        frame = frame.grown(borderReach);
    if (frame.contains(point))
        return 0;
    return std::hypot(std::max({frame.x - point.x, 0.0, point.x - frame.right()}),
                      std::max({frame.y - point.y, 0.0, point.y - frame.bottom()}));
}

Hit hitOn(const Item& item, PointF point) {
    const Plate* plate = item.as<Plate>();
    if (plate && plate->badge().contains(point))
        return {item.object, -1, true};
    if (!plate || plate->rail.columns == 0 || !plate->rail.area.grown(2).contains(point))
        return {item.object, -1};
    const int port = plate->rail.nearest(point);
    return {item.object, port < static_cast<int>(plate->ticks.size()) ? port : -1};
}

} // namespace underridge::scene

// SPDX-License-Identifier: GPL-3.0-or-later
// How groups are drawn: frames, tiles and doorways. Kinds are told apart by their sign,
// their border and their corners, not by colour.
#include "core/model/words.h"
#include "core/scene/rack.h"
#include "core/scene/text_width.h"
#include "paint/glyphs.h"
#include "paint/sheet_painter.h"

namespace underridge::paint {
using model::GroupKind;
using scene::Detail;
using scene::Weight;
namespace {

constexpr double baseline = 16;

double cornerOf(GroupKind kind) {
    switch (kind) {
    case GroupKind::site:
    case GroupKind::cluster:
        return 16;
    case GroupKind::building:
    case GroupKind::floor:
        return 6;
    case GroupKind::room:
    case GroupKind::row:
    case GroupKind::rack:
    case GroupKind::cabinet:
        return 2;
    }
    return 6;
}

double borderOf(GroupKind kind) {
    switch (kind) {
    case GroupKind::site:
    case GroupKind::building:
        return 2;
    case GroupKind::floor:
        return 1.4;
    case GroupKind::room:
    case GroupKind::row:
    case GroupKind::rack:
    case GroupKind::cabinet:
    case GroupKind::cluster:
        return 1;
    }
    return 1;
}

} // namespace

void SheetPainter::glyph(QPainter& painter, const QPainterPath& path, QPointF corner, const QColor& colour,
                         double scale) {
    painter.save();
    painter.translate(corner);
    painter.scale(scale, scale);
    QPen stroke(colour, 1.5);
    stroke.setCapStyle(Qt::RoundCap);
    stroke.setJoinStyle(Qt::RoundJoin);
    painter.setPen(stroke);
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(path);
    painter.restore();
}

/// Beyond the plain border: posts of racks, ends of rows, the door of a cabinet.
void SheetPainter::frameBorder(QPainter& painter, const scene::Frame& item) {
    const QRectF frame = toQt(item.frame);
    constexpr double inset = 5;
    const bool posts = item.kind == GroupKind::rack || item.kind == GroupKind::row;
    if (posts || item.kind == GroupKind::cabinet) {
        painter.drawLine(QPointF(frame.left() + inset, frame.top()),
                         QPointF(frame.left() + inset, frame.bottom()));
        painter.drawLine(QPointF(frame.right() - inset, frame.top()),
                         QPointF(frame.right() - inset, frame.bottom()));
    }
    if (item.kind == GroupKind::cabinet || item.kind == GroupKind::row)
        painter.drawLine(QPointF(frame.left(), frame.bottom() - inset),
                         QPointF(frame.right(), frame.bottom() - inset));
}

/// The units of a rack, front and rear, numbered from the foot.
void SheetPainter::rackUnits(QPainter& painter, const scene::Frame& item) {
    const scene::SheetRack rack{{item.frame.x, item.frame.y}, item.units};
    for (const model::Side side : {model::Side::front, model::Side::rear}) {
        const scene::Rect all = rack.side(side);
        painter.setPen(QPen(theme_.edge, 1));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(toQt(all));
        text(painter, {all.x, all.y - 4}, std::string(titleOf(side)), scene::labelSize, Weight::regular,
             theme_.muted);
        painter.setPen(QPen(theme_.dots, 1));
        for (int unit = 1; unit < item.units; ++unit) {
            const double y = all.bottom() - unit * scene::SheetRack::pitch;
            painter.drawLine(QPointF(all.x, y), QPointF(all.right(), y));
        }
    }
    const scene::Rect front = rack.side(model::Side::front);
    for (int unit = 1; unit <= item.units; ++unit) {
        const std::string number = std::to_string(unit);
        const double y = front.bottom() - (unit - 0.5) * scene::SheetRack::pitch;
        text(painter, {front.x - 5 - scene::textWidth(number, scene::labelSize, Weight::regular), y + 3.2},
             number, scene::labelSize, Weight::regular, theme_.muted);
    }
}

void SheetPainter::frame(QPainter& painter, const scene::Frame& item, Detail detail, double zoom) {
    const QRectF frame = toQt(item.frame);
    QColor fill = theme_.frame; // deeper ones lie on it and are by turns lighter
    if (item.depth % 2 == 1)
        fill = theme_.sheet;
    const QColor border = detail == Detail::far ? theme_.edge : theme_.socket;
    painter.setPen(QPen(border, detail == Detail::far ? 0 : borderOf(item.kind)));
    painter.setBrush(fill);
    if (detail == Detail::far) {
        painter.drawRect(frame);
        return;
    }
    const double corner = cornerOf(item.kind);
    painter.drawRoundedRect(frame, corner, corner);
    frameBorder(painter, item);
    if (item.units > 0)
        rackUnits(painter, item);
    const double size = detail == Detail::middle ? std::min(11 / zoom, 19.0) : scene::nameSize;
    const double scale = size / scene::nameSize;
    const double left = frame.left() + 8 + (item.kind == GroupKind::rack ? 4 : 0);
    glyph(painter, glyphOf(item.kind), {left, frame.top() + 12 - glyphBox / 2 * scale}, theme_.muted, scale);
    const double at = left + (glyphBox + 6) * scale;
    text(painter, {at, frame.top() + 12 + size * 0.36},
         scene::elided(item.title, size, Weight::semiBold, frame.right() - at - 6), size, Weight::semiBold,
         theme_.ink);
    if (item.kind == GroupKind::floor && detail != Detail::middle) {
        const std::string level = "level " + std::to_string(item.level);
        const double width = scene::textWidth(level, scene::sublineSize, Weight::regular) + 12;
        const QRectF badge(frame.right() - width - 6, frame.top() + 4, width, 17);
        if (badge.left() > item.tab().right() + 4) {
            painter.setPen(QPen(theme_.socket, 1));
            painter.setBrush(Qt::NoBrush);
            painter.drawRoundedRect(badge, 4, 4);
            text(painter, {badge.left() + 6, frame.top() + baseline}, level, scene::sublineSize,
                 Weight::regular, theme_.muted);
        }
    }
}

/// How many of each role, as far as there is room; `middle`: left end of their line.
void SheetPainter::counts(QPainter& painter, const scene::Tile& item, QPointF middle, double size) {
    const double scale = size / scene::sublineSize;
    constexpr std::size_t most = 4;
    double x = middle.x();
    for (std::size_t i = 0; i < std::min(most, item.roles.size()); ++i) {
        const auto& [role, count] = item.roles[i];
        const std::string number = std::to_string(count);
        const double width = (glyphBox + 3 + 8) * scale + scene::textWidth(number, size, Weight::semiBold);
        if (x + width > item.frame.right() - 4)
            break;
        glyph(painter, glyphOf(role), {x, middle.y() - glyphBox / 2 * scale}, theme_.ink, scale);
        text(painter, {x + (glyphBox + 3) * scale, middle.y() + size * 0.36}, number, size, Weight::semiBold,
             theme_.ink);
        x += width;
    }
}

void SheetPainter::tile(QPainter& painter, const scene::Tile& item, Detail detail, double zoom) {
    const QRectF frame = toQt(item.frame);
    if (item.closed)
        return closedTile(painter, item, zoom);
    if (detail == Detail::far) {
        painter.setPen(QPen(theme_.muted, 0));
        painter.setBrush(theme_.plate);
        painter.drawRect(frame);
        painter.fillRect(QRectF(frame.left(), frame.top(), frame.width(), frame.height() / 5), theme_.muted);
        return;
    }
    // What lies behind says that there is more within.
    const double corner = std::min(cornerOf(item.kind), 8.0);
    painter.setPen(QPen(theme_.edge, 1));
    painter.setBrush(theme_.frame);
    painter.drawRoundedRect(frame.adjusted(6, 3, -2, 3), corner, corner);
    painter.setPen(QPen(theme_.socket, borderOf(item.kind)));
    painter.setBrush(theme_.plate);
    painter.drawRoundedRect(frame, corner, corner);
    const bool large = detail == Detail::middle;
    const double size = large ? std::min(11 / zoom, 20.0) : scene::nameSize;
    glyph(painter, glyphOf(item.kind), {frame.left() + 8, frame.top() + 6}, theme_.muted);
    const std::string name =
        large ? scene::elided(item.name, size, Weight::semiBold, item.frame.w - glyphBox - 22) : item.name;
    text(painter, {frame.left() + 8 + glyphBox + 6, frame.top() + (large ? 20 : 17)}, name, size,
         Weight::semiBold, theme_.ink);
    const double number = large ? std::min(9 / zoom, 16.0) : scene::sublineSize;
    counts(painter, item, {frame.left() + 8, frame.top() + (large ? 46 : 34)}, number);
    if (large)
        return;
    const std::string total = item.devices == 1 ? "1 device" : std::to_string(item.devices) + " devices";
    text(painter, {frame.left() + 8, frame.bottom() - 8}, total, scene::sublineSize, Weight::regular,
         theme_.muted);
    if (item.failing > 0) {
        const std::string count = std::to_string(item.failing);
        const double width = scene::textWidth(count, scene::sublineSize, Weight::semiBold);
        const QPointF at(frame.right() - width - 8, frame.bottom() - 8);
        text(painter, at, count, scene::sublineSize, Weight::semiBold, theme_.error);
        painter.setPen(QPen(theme_.error, 1.8)); // the notch of links that will not come up
        painter.setBrush(Qt::NoBrush);
        painter.drawPolyline(QPolygonF{at + QPointF(-13, -9), at + QPointF(-8, -4), at + QPointF(-13, 1)});
    }
}

/// A group closed by the zoom: as on a map, its area with its name, which is drawn with the
/// other names, and below that what is in it where there is room.
void SheetPainter::closedTile(QPainter& painter, const scene::Tile& item, double zoom) {
    const QRectF frame = toQt(item.frame);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme_.socket, borderOf(item.kind) / zoom));
    painter.setBrush(theme_.plate);
    const double corner = std::min({cornerOf(item.kind) / 2 / zoom, frame.width() / 4, frame.height() / 4});
    painter.drawRoundedRect(frame, corner, corner);
    constexpr double signPx = 18, countPx = 9, below = 14, fromHeightPx = 44;
    if (frame.height() * zoom < fromHeightPx)
        return;
    const double size = countPx / zoom, scale = size / scene::sublineSize;
    double width = 0;
    for (std::size_t i = 0; i < std::min<std::size_t>(4, item.roles.size()); ++i)
        width += (glyphBox + 3 + 8) * scale +
                 scene::textWidth(std::to_string(item.roles[i].second), size, Weight::semiBold);
    if (width + signPx / zoom < frame.width())
        counts(painter, item, {frame.center().x() - width / 2, frame.center().y() + below / zoom}, size);
}

void SheetPainter::doorway(QPainter& painter, const scene::Doorway& item, Detail detail) {
    const QRectF frame = toQt(item.frame);
    painter.setPen(QPen(theme_.socket, detail == Detail::far ? 0 : 1.4));
    painter.setBrush(theme_.plate);
    if (detail == Detail::far) {
        painter.drawRect(frame);
        return;
    }
    painter.drawRoundedRect(frame, frame.height() / 2, frame.height() / 2);
    const double middle = frame.center().y();
    painter.setPen(QPen(theme_.muted, 1.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(QPolygonF{QPointF(frame.left() + 10, middle - 4), QPointF(frame.left() + 14, middle),
                                   QPointF(frame.left() + 10, middle + 4)});
    text(painter, {frame.left() + 20, middle + 3.2}, item.name, scene::labelSize, Weight::semiBold,
         theme_.ink);
}

} // namespace underridge::paint

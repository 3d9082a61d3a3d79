// SPDX-License-Identifier: GPL-3.0-or-later
// How cable routes lie on a plan: a tray as a band with rungs, a conduit as a pipe. One
// that is too full is hatched.
#include "core/scene/text_width.h"
#include "paint/pens.h"
#include "paint/sheet_painter.h"

namespace underridge::paint {
using scene::Detail;
using scene::PointF;
using scene::RouteLine;
using scene::Weight;
namespace {

QPen edged(const QColor& colour, double width) {
    QPen pen = flat(colour, width);
    pen.setJoinStyle(Qt::MiterJoin);
    return pen;
}

/// Strokes across the path, so far from one another.
void rungs(QPainter& painter, const RouteLine& route, double pitch, double slant) {
    const double whole = scene::pathLength(route.path);
    for (double at = pitch / 2; at < whole; at += pitch) {
        const scene::Along here = scene::alongPath(route.path, at);
        const PointF across{-here.direction.y * route.width / 2, here.direction.x * route.width / 2};
        const PointF lean = here.direction * slant;
        painter.drawLine(toQt(here.at - across - lean), toQt(here.at + across + lean));
    }
}

} // namespace

void SheetPainter::route(QPainter& painter, const RouteLine& item, Detail detail, double zoom) {
    const bool tray = item.type == model::CableRouteKind::tray;
    const QColor edge = item.over ? theme_.error : theme_.muted;
    const QPolygonF path = polygon(item.path);
    painter.setBrush(Qt::NoBrush);
    if (detail == Detail::far) { // a pale band: no line is as broad
        constexpr double leastPx = 5;
        painter.setPen(edged(item.over ? theme_.error : theme_.edge, std::max(item.width, leastPx / zoom)));
        painter.drawPolyline(path);
        return;
    }
    QPen outer = edged(edge, item.width), inner = edged(theme_.frame, item.width - 2);
    if (!tray)
        for (QPen* pen : {&outer, &inner}) {
            pen->setCapStyle(Qt::RoundCap);
            pen->setJoinStyle(Qt::RoundJoin);
        }
    painter.setPen(outer);
    painter.drawPolyline(path);
    painter.setPen(inner);
    painter.drawPolyline(path);
    painter.setPen(flat(edge, 0.8));
    if (item.over)
        rungs(painter, item, 5, item.width / 2);
    else if (tray)
        rungs(painter, item, 12, 0);
}

void SheetPainter::routeLabel(QPainter& painter, const RouteLine& item) {
    painter.setPen(QPen(item.over ? theme_.error : theme_.edge, 1));
    painter.setBrush(theme_.sheet);
    painter.drawRoundedRect(toQt(item.labelArea), 3, 3);
    text(painter, {item.labelArea.x + 4, item.labelArea.y + 10.3}, item.label, scene::labelSize,
         Weight::semiBold, item.over ? theme_.error : theme_.ink);
}

} // namespace underridge::paint

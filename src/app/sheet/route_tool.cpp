// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/route_tool.h"

#include "app/session/session.h"
#include "app/sheet/fields_in_place.h"
#include "app/sheet/route_snapping.h"
#include "app/sheet/surface.h"
#include "app/shown_text.h"
#include "core/edit/cable_routes.h"
#include "core/model/standing.h"
#include "core/scene/routes.h"

namespace underridge::app {
using namespace model;
using scene::PointF;

void RouteTool::press(const Pointer& pointer) {
    if (points_.empty())
        on_ = session_.sheet();
    move(pointer);
    if (points_.empty() || !(points_.back() == next_))
        points_.push_back(next_);
}

void RouteTool::move(const Pointer& pointer) {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    if (!sheet || sheet->mmPerUnit <= 0)
        return;
    next_ = routePoint(session_.scene(), *sheet, pointer, points_.empty() ? nullptr : &points_.back(), {},
                       surface().camera().zoom());
}

void RouteTool::doubleClick(const Pointer&) {
    finish(); // its first press has put the last point
}

bool RouteTool::key(QKeyEvent& event) {
    switch (event.key()) {
    case Qt::Key_Return:
    case Qt::Key_Enter:
        finish();
        return true;
    case Qt::Key_Backspace:
        if (!points_.empty())
            points_.pop_back();
        return true;
    default:
        return false;
    }
}

void RouteTool::finish() {
    const Network& network = session_.network();
    const Sheet* sheet = network.sheet(session_.sheet());
    const Group* floor = sheet ? floorDrawn(network, *sheet) : nullptr;
    std::vector<FloorPoint> points;
    for (const PointF point : std::exchange(points_, {}))
        points.push_back(sheet && sheet->mmPerUnit > 0 ? scene::onFloor(point, *sheet) : FloorPoint{});
    context_.user.endTool();
    if (on_ != session_.sheet())
        return; // another sheet is shown meanwhile
    auto act =
        edit::addCableRoute(network, floor ? floor->id : GroupId{}, type_, std::move(points), session_.ids());
    const edit::Refs made = act ? act->subjects : edit::Refs{};
    if (session_.apply(std::move(act)))
        context_.fields.rename(made); // it is named at once
}

bool RouteTool::cancel() {
    return !std::exchange(points_, {}).empty();
}

void RouteTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    painter.setRenderHint(QPainter::Antialiasing);
    const QColor& accent = sheetPainter.theme().accent;
    painter.setPen(QPen(accent, 2.5 / zoom));
    QPolygonF path;
    for (const PointF point : points_)
        path << paint::toQt(point);
    if (!points_.empty())
        path << paint::toQt(next_);
    painter.drawPolyline(path);
    painter.setBrush(accent);
    for (const QPointF& point : path)
        painter.drawEllipse(point, 3.5 / zoom, 3.5 / zoom);
}

QString RouteTool::hint() const {
    if (points_.empty())
        return tr("Click where it begins; it joins a route that is near; Esc ends");
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    std::vector<PointF> path = points_;
    path.push_back(next_);
    const auto mm = sheet ? std::llround(scene::pathLength(path) * sheet->mmPerUnit) : 0;
    return tr("%1; click at each bend, Enter or a double click ends it, Backspace takes a point back, "
              "Ctrl: freely")
        .arg(shownLength(mm, session_.lengthUnit()));
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/route_shaping.h"

#include "app/session/session.h"
#include "app/sheet/route_snapping.h"
#include "app/sheet/surface.h"
#include "app/shown_text.h"
#include "core/edit/cable_routes.h"
#include "core/scene/routes.h"

namespace underridge::app {
using namespace model;
using scene::PointF;
namespace {

constexpr double routeHandlePixels = 7;
/// Pieces shorter than this on the screen offer no new point.
constexpr double leastPiece = 40;

PointF middleOf(PointF a, PointF b) {
    return (a + b) * 0.5;
}

} // namespace

const scene::RouteLine* RouteShaping::route() const {
    const edit::Refs& selection = session_.selection();
    return selection.size() == 1 ? session_.scene().route({selection.front().id}) : nullptr;
}

const Sheet* RouteShaping::sheet() const {
    const Sheet* held = session_.network().sheet(session_.sheet());
    return held && held->mmPerUnit > 0 ? held : nullptr;
}

std::optional<RouteShaping::Handle> RouteShaping::handleAt(PointF at) const {
    const scene::RouteLine* held = route();
    if (!held)
        return std::nullopt;
    const double zoom = surface_.camera().zoom();
    for (std::size_t i = 0; i < held->path.size(); ++i)
        if (length(held->path[i] - at) <= routeHandlePixels / zoom)
            return Handle{i, false};
    for (std::size_t i = 1; i < held->path.size(); ++i)
        if (length(held->path[i] - held->path[i - 1]) * zoom >= leastPiece &&
            length(middleOf(held->path[i - 1], held->path[i]) - at) <= routeHandlePixels / zoom)
            return Handle{i - 1, true};
    return std::nullopt;
}

bool RouteShaping::begin(PointF at) {
    const auto handle = handleAt(at);
    if (!handle)
        return false;
    path_ = route()->path;
    of_ = route()->id;
    held_ = handle->point;
    if (handle->middle) {
        held_ = handle->point + 1;
        path_.insert(path_.begin() + static_cast<std::ptrdiff_t>(*held_), at);
    }
    return true;
}

void RouteShaping::dragTo(const Pointer& pointer) {
    const scene::RouteLine* held = route();
    if (!active() || !held || held->id != of_ || !sheet())
        return;
    const PointF* neighbour = *held_ > 0 ? &path_[*held_ - 1] : &path_[1];
    path_[*held_] =
        routePoint(session_.scene(), *sheet(), pointer, neighbour, held->id, surface_.camera().zoom());
}

std::optional<edit::ActResult> RouteShaping::drop() const {
    const scene::RouteLine* held = route();
    const CableRoute* record = held ? session_.network().cableRoute(held->id) : nullptr;
    if (!active() || !record || record->id != of_ || !sheet() || path_ == held->path)
        return std::nullopt;
    CableRoute changed = *record;
    changed.points.clear();
    for (const PointF point : path_)
        changed.points.push_back(scene::onFloor(point, *sheet()));
    changed.points = edit::straightened(changed.points);
    return edit::changeCableRoute(session_.network(), std::move(changed));
}

void RouteShaping::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const {
    const scene::RouteLine* held = route();
    if (!held)
        return;
    const paint::Theme& theme = sheetPainter.theme();
    const auto& path = active() ? path_ : held->path;
    painter.setPen(QPen(theme.accent, 1.5 / zoom));
    painter.setBrush(Qt::NoBrush);
    QPolygonF line;
    for (const PointF point : path)
        line << paint::toQt(point);
    if (active())
        painter.drawPolyline(line);
    painter.setBrush(theme.plate);
    const double half = 4 / zoom, small = 2.5 / zoom;
    for (const PointF p : path)
        painter.drawRect(QRectF(p.x - half, p.y - half, 2 * half, 2 * half));
    for (std::size_t i = 1; i < path.size() && !active(); ++i)
        if (length(path[i] - path[i - 1]) * zoom >= leastPiece)
            painter.drawEllipse(paint::toQt(middleOf(path[i - 1], path[i])), small, small);
}

QString RouteShaping::hint() const {
    if (!sheet())
        return {};
    return tr("%1; release to put the point there, Ctrl: freely, Esc leaves it as it was")
        .arg(shownLength(std::llround(scene::pathLength(path_) * sheet()->mmPerUnit), session_.lengthUnit()));
}

} // namespace underridge::app

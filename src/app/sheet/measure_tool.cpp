// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/measure_tool.h"

#include "app/session/session.h"
#include "app/shown_text.h"

namespace underridge::app {
using scene::PointF;

PointF MeasureTool::endAt(const Pointer& pointer) const {
    PointF end = pointer.sheet;
    if (from_ && pointer.modifiers.testFlag(Qt::ShiftModifier))
        (std::abs(end.x - from_->x) > std::abs(end.y - from_->y) ? end.y : end.x) =
            std::abs(end.x - from_->x) > std::abs(end.y - from_->y) ? from_->y : from_->x;
    return end;
}

void MeasureTool::press(const Pointer& pointer) {
    from_ = to_ = pointer.sheet;
}

void MeasureTool::move(const Pointer& pointer) {
    if (from_)
        to_ = endAt(pointer);
}

void MeasureTool::release(const Pointer& pointer) {
    if (!from_)
        return;
    const double units = length(endAt(pointer) - *std::exchange(from_, std::nullopt));
    if (units < 1)
        return; // a click measures nothing
    context_.user.endTool();
    context_.user.measured(units);
}

bool MeasureTool::cancel() {
    return std::exchange(from_, std::nullopt).has_value();
}

void MeasureTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    if (!from_)
        return;
    const QColor& accent = sheetPainter.theme().accent;
    const PointF along = to_ - *from_;
    const double whole = length(along), tick = 7 / zoom;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(accent, 2 / zoom));
    painter.drawLine(paint::toQt(*from_), paint::toQt(to_));
    if (whole <= 0)
        return;
    const PointF side{-along.y / whole * tick, along.x / whole * tick};
    for (const PointF end : {*from_, to_})
        painter.drawLine(paint::toQt(end + side), paint::toQt(end - side));
}

QString MeasureTool::hint() const {
    const model::Sheet* sheet = session_.network().sheet(session_.sheet());
    if (!from_ || !sheet || sheet->mmPerUnit <= 0)
        return tr("Draw a line between two points whose distance you know; Shift keeps it straight");
    return tr("%1 as the plan is scaled now")
        .arg(shownLength(std::llround(length(to_ - *from_) * sheet->mmPerUnit), session_.lengthUnit()));
}

} // namespace underridge::app

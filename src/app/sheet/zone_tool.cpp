// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/zone_tool.h"

#include "app/session/session.h"
#include "app/sheet/fields_in_place.h"
#include "app/sheet/snapping.h"
#include "app/shown_text.h"
#include "core/edit/sheets.h"

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {
constexpr double least = 20;
}

Rect ZoneTool::drawn() const {
    if (!from_)
        return {};
    const bool free = to_.modifiers.testFlag(Qt::ControlModifier);
    const PointF a = free ? from_->sheet : scene::toF(onGrid(from_->sheet));
    const PointF b = free ? to_.sheet : scene::toF(onGrid(to_.sheet));
    return {std::min(a.x, b.x), std::min(a.y, b.y), std::abs(a.x - b.x), std::abs(a.y - b.y)};
}

void ZoneTool::press(const Pointer& pointer) {
    from_ = to_ = pointer;
}

void ZoneTool::move(const Pointer& pointer) {
    to_ = pointer;
}

void ZoneTool::release(const Pointer& pointer) {
    if (!from_)
        return;
    to_ = pointer;
    const Rect area = drawn();
    from_.reset();
    if (area.w < least || area.h < least)
        return; // a click marks nothing
    const Point at{static_cast<int>(std::lround(area.x)), static_cast<int>(std::lround(area.y))};
    auto act = edit::addZone(session_.network(), session_.look(), at, static_cast<int>(area.w),
                             static_cast<int>(area.h), said(tr("Zone")), session_.ids());
    context_.user.endTool();
    const NoteId zone = act ? NoteId{act->subjects.front().id} : NoteId{};
    if (session_.apply(std::move(act)))
        context_.fields.editNote(zone); // it is named at once
}

bool ZoneTool::cancel() {
    return std::exchange(from_, std::nullopt).has_value();
}

void ZoneTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    if (!from_)
        return;
    QColor fill = sheetPainter.theme().accent;
    painter.setPen(QPen(fill, 1.5 / zoom));
    fill.setAlphaF(0.08F);
    painter.setBrush(fill);
    painter.drawRect(paint::toQt(drawn()));
}

QString ZoneTool::hint() const {
    return from_ ? tr("%1 by %2").arg(static_cast<int>(drawn().w)).arg(static_cast<int>(drawn().h))
                 : tr("Draw the area to be marked; Esc ends");
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/area_tool.h"

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

Rect AreaTool::area() const {
    if (!from_)
        return {};
    const bool free = to_.modifiers.testFlag(Qt::ControlModifier);
    const PointF a = free ? from_->sheet : scene::toF(onGrid(from_->sheet));
    const PointF b = free ? to_.sheet : scene::toF(onGrid(to_.sheet));
    return scene::rectBetween(a, b);
}

void AreaTool::press(const Pointer& pointer) {
    from_ = to_ = pointer;
}

void AreaTool::move(const Pointer& pointer) {
    to_ = pointer;
}

void AreaTool::release(const Pointer& pointer) {
    if (!from_)
        return;
    to_ = pointer;
    const Rect place = area();
    from_.reset();
    if (place.w >= least && place.h >= least) // else a click, which marks nothing
        drawn(place);
}

bool AreaTool::cancel() {
    return std::exchange(from_, std::nullopt).has_value();
}

void AreaTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    if (!from_)
        return;
    QColor fill = sheetPainter.theme().accent;
    painter.setPen(QPen(fill, 1.5 / zoom));
    fill.setAlphaF(0.08F);
    painter.setBrush(fill);
    painter.drawRect(paint::toQt(area()));
}

QString AreaTool::hint() const {
    return from_ ? tr("%1 by %2").arg(static_cast<int>(area().w)).arg(static_cast<int>(area().h)) : asks();
}

void ZoneTool::drawn(const Rect& area) {
    auto act =
        edit::addZone(session_.network(), session_.look(), scene::rounded({area.x, area.y}),
                      static_cast<int>(area.w), static_cast<int>(area.h), said(tr("Zone")), session_.ids());
    context_.user.endTool();
    const NoteId zone = act ? NoteId{act->subjects.front().id} : NoteId{};
    if (session_.apply(std::move(act)))
        context_.fields.editNote(zone); // it is named at once
}

QString ZoneTool::asks() const {
    return tr("Draw the area to be marked; Esc ends");
}

void ExtentTool::begin(std::vector<Rect> parts, std::function<void(const Rect&)> done) {
    parts_ = std::move(parts);
    whole_ = {};
    for (const Rect& part : parts_)
        whole_ = whole_.united(part);
    done_ = std::move(done);
}

void ExtentTool::drawn(const Rect& area) {
    const auto done = std::exchange(done_, nullptr);
    context_.user.endTool();
    if (done)
        done(area);
}

QString ExtentTool::asks() const {
    return tr("Draw how large it is to be; Esc ends");
}

void ExtentTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    AreaTool::paint(painter, sheetPainter, zoom);
    const Rect place = area();
    if (place.empty() || whole_.empty())
        return;
    painter.setPen(QPen(sheetPainter.theme().accent, 1 / zoom));
    painter.setBrush(sheetPainter.theme().plate);
    constexpr std::size_t most = 400;
    for (std::size_t i = 0; i < parts_.size(); i += 1 + parts_.size() / most) {
        const Rect& part = parts_[i];
        // Its corner from one end of the place to the other, less what the part itself takes.
        const auto along = [](double at, double size, double from, double whole, double start,
                              double length) {
            const double room = whole - size;
            return start +
                   (room > 0 ? (at - from) / room * std::max(0.0, length - size) : (length - size) / 2);
        };
        painter.drawRoundedRect(QRectF(along(part.x, part.w, whole_.x, whole_.w, place.x, place.w),
                                       along(part.y, part.h, whole_.y, whole_.h, place.y, place.h), part.w,
                                       part.h),
                                4, 4);
    }
}

} // namespace underridge::app

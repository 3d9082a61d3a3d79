// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/resizing.h"

#include "app/session/session.h"
#include "app/sheet/snapping.h"
#include "app/sheet/surface.h"
#include "core/edit/sheets.h"

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {
constexpr double handlePixels = 7, least = 20;
}

const scene::NoteCard* Resizing::zone() const {
    const edit::Refs& selection = session_.selection();
    const scene::NoteCard* note =
        selection.size() == 1 ? session_.scene().note({selection.front().id}) : nullptr;
    return note && note->zone ? note : nullptr;
}

std::array<PointF, 8> Resizing::handlesOf(const Rect& f) {
    const double middle = f.x + f.w / 2, centre = f.y + f.h / 2;
    return {{{f.x, f.y},
             {middle, f.y},
             {f.right(), f.y},
             {f.right(), centre},
             {f.right(), f.bottom()},
             {middle, f.bottom()},
             {f.x, f.bottom()},
             {f.x, centre}}};
}

int Resizing::handleAt(PointF at) const {
    const scene::NoteCard* held = zone();
    if (!held)
        return -1;
    const auto handles = handlesOf(held->frame);
    for (std::size_t i = 0; i < handles.size(); ++i)
        if (length(handles[i] - at) <= handlePixels / surface_.camera().zoom())
            return static_cast<int>(i);
    return -1;
}

bool Resizing::begin(PointF at) {
    handle_ = handleAt(at);
    if (handle_ >= 0)
        frame_ = zone()->frame;
    return active();
}

Qt::CursorShape Resizing::cursorAt(PointF at) const {
    switch (handleAt(at)) {
    case 0:
    case 4:
        return Qt::SizeFDiagCursor;
    case 2:
    case 6:
        return Qt::SizeBDiagCursor;
    case 1:
    case 5:
        return Qt::SizeVerCursor;
    case 3:
    case 7:
        return Qt::SizeHorCursor;
    default:
        return Qt::ArrowCursor;
    }
}

void Resizing::dragTo(const Pointer& pointer) {
    const scene::NoteCard* held = zone();
    if (!active() || !held)
        return;
    const PointF to =
        pointer.modifiers.testFlag(Qt::ControlModifier) ? pointer.sheet : scene::toF(onGrid(pointer.sheet));
    double left = held->frame.x, top = held->frame.y, right = held->frame.right(),
           bottom = held->frame.bottom();
    if (handle_ == 0 || handle_ == 6 || handle_ == 7)
        left = std::min(to.x, right - least);
    if (handle_ >= 2 && handle_ <= 4)
        right = std::max(to.x, left + least);
    if (handle_ <= 2)
        top = std::min(to.y, bottom - least);
    if (handle_ >= 4 && handle_ <= 6)
        bottom = std::max(to.y, top + least);
    frame_ = {left, top, right - left, bottom - top};
}

std::optional<edit::ActResult> Resizing::drop() const {
    const scene::NoteCard* held = zone();
    if (!active() || !held || frame_ == held->frame)
        return std::nullopt;
    const auto whole = [](double v) { return static_cast<int>(std::lround(v)); };
    return edit::setZoneFrame(session_.network(), session_.look(), held->id,
                              {whole(frame_.x), whole(frame_.y)}, whole(frame_.w), whole(frame_.h));
}

void Resizing::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const {
    const scene::NoteCard* held = zone();
    if (!held)
        return;
    const paint::Theme& theme = sheetPainter.theme();
    const Rect frame = active() ? frame_ : held->frame;
    painter.setPen(QPen(theme.accent, 1.5 / zoom));
    if (active()) {
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(paint::toQt(frame));
    }
    painter.setBrush(theme.plate);
    const double half = 4 / zoom;
    for (const PointF p : handlesOf(frame))
        painter.drawRect(QRectF(p.x - half, p.y - half, 2 * half, 2 * half));
}

} // namespace underridge::app

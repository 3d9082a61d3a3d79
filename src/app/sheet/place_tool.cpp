// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/place_tool.h"

#include "app/sheet/sheet_view.h"
#include "app/sheet/snapping.h"
#include "app/window/editor.h"
#include "core/edit/devices.h"
#include "core/edit/names.h"

namespace underridge::app {
using namespace model;
using scene::PointF;

void PlaceTool::begin(const DeviceModel& model) {
    model_ = shown_ = &model;
}

std::string PlaceTool::nextName(const DeviceModel& model) const {
    const std::string pattern = edit::defaultPattern(model.role);
    const auto names = edit::seriesNames(pattern, 1, edit::namesLike(editor_.network(), pattern));
    return names ? names->front() : model.name;
}

Point PlaceTool::cornerFor(const DeviceModel& model, PointF middle, bool snapped) {
    const scene::Plate plate = scene::plateFor(model, nextName(model), {0, 0});
    const PointF corner = middle - PointF{plate.frame.w / 2, plate.frame.h / 2};
    if (!snapped)
        return {static_cast<int>(std::lround(corner.x)), static_cast<int>(std::lround(corner.y))};
    return snap(editor_.scene(), plate.frame, corner, view_.camera().visible(), {}, 6 / view_.camera().zoom())
        .by;
}

void PlaceTool::put(const DeviceModel& model, PointF middle, bool snapped) {
    editor_.apply(edit::placeDevices(editor_.network(), editor_.sheet(), model,
                                     {{nextName(model), cornerFor(model, middle, snapped)}}, {},
                                     editor_.ids()));
}

void PlaceTool::preview(const DeviceModel* model, PointF middle, bool snapped) {
    shown_ = model ? model : model_;
    at_ = middle;
    snapped_ = snapped;
}

void PlaceTool::move(const Pointer& pointer) {
    preview(model_, pointer.sheet, !(pointer.modifiers & Qt::ControlModifier));
}

void PlaceTool::release(const Pointer& pointer) {
    if (model_ && pointer.button == Qt::LeftButton)
        put(*model_, pointer.sheet, !(pointer.modifiers & Qt::ControlModifier));
    else if (pointer.button == Qt::RightButton)
        view_.cancelTool();
}

bool PlaceTool::cancel() {
    shown_ = nullptr;
    return std::exchange(model_, nullptr) != nullptr;
}

void PlaceTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    if (!shown_)
        return;
    painter.setRenderHint(QPainter::Antialiasing);
    const scene::Plate plate =
        scene::plateFor(*shown_, nextName(*shown_), scene::toF(cornerFor(*shown_, at_, snapped_)));
    painter.setOpacity(0.75);
    sheetPainter.plate(painter, plate, std::max(scene::detailFor(zoom), scene::Detail::middle));
    painter.setOpacity(1);
    sheetPainter.selection(painter, plate.frame, zoom);
}

QString PlaceTool::hint() const {
    return model_ ? SheetView::tr("Click to put down %1, again for more; Esc ends")
                        .arg(QString::fromStdString(model_->name))
                  : QString();
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/place_tool.h"

#include "app/session/session.h"
#include "app/sheet/fields_in_place.h"
#include "app/sheet/link_flow.h"
#include "app/sheet/snapping.h"
#include "app/sheet/type_to_add.h"
#include "core/edit/groups.h"
#include "core/edit/names.h"
#include "core/scene/plates.h"

namespace underridge::app {
using namespace model;
using scene::PointF;

void PlaceTool::begin(const DeviceModel& model) {
    model_ = shown_ = model.id;
}

const DeviceModel* PlaceTool::model() const {
    return model_.empty() ? nullptr : session_.catalogue().device(model_);
}

std::string PlaceTool::nextName(const DeviceModel& model) const {
    const std::string pattern = edit::defaultPattern(model.role);
    const auto names = edit::seriesNames(pattern, 1, edit::namesLike(session_.network(), pattern));
    return names ? names->front() : model.name;
}

Point PlaceTool::cornerFor(const DeviceModel& model, PointF middle, bool snapped) {
    const scene::Plate plate = scene::plateFor(model, nextName(model), {0, 0});
    const PointF corner = middle - PointF{plate.frame.w / 2, plate.frame.h / 2};
    if (!snapped)
        return {static_cast<int>(std::lround(corner.x)), static_cast<int>(std::lround(corner.y))};
    return Neighbours(session_.scene(), surface().camera().visible(), {})
        .snap(plate.frame, corner, 6 / surface().camera().zoom())
        .by;
}

void PlaceTool::put(const DeviceModel& model, PointF middle, bool snapped) {
    session_.apply(edit::placeShown(session_.network(), session_.look(), model,
                                    {{nextName(model), cornerFor(model, middle, snapped)}},
                                    scene::groupAt(*seen(), middle), session_.ids()));
}

void PlaceTool::preview(const DeviceModel* model, PointF middle, bool snapped) {
    shown_ = model ? model->id : model_;
    at_ = middle;
    snapped_ = snapped;
}

void PlaceTool::move(const Pointer& pointer) {
    preview(model(), pointer.sheet, !(pointer.modifiers & Qt::ControlModifier));
}

void PlaceTool::release(const Pointer& pointer) {
    const DeviceModel* held = model();
    if (!held)
        context_.user.endTool(); // it was removed meanwhile
    else if (pointer.button == Qt::LeftButton)
        put(DeviceModel(*held), pointer.sheet, !(pointer.modifiers & Qt::ControlModifier));
}

bool PlaceTool::cancel() {
    shown_.clear();
    return !std::exchange(model_, {}).empty();
}

void PlaceTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    const DeviceModel* shown = shown_.empty() ? nullptr : session_.catalogue().device(shown_);
    if (!shown)
        return;
    painter.setRenderHint(QPainter::Antialiasing);
    const scene::Plate plate =
        scene::plateFor(*shown, nextName(*shown), scene::toF(cornerFor(*shown, at_, snapped_)));
    painter.setOpacity(0.75);
    sheetPainter.plate(painter, plate, std::max(scene::detailFor(zoom), scene::Detail::middle));
    painter.setOpacity(1);
    sheetPainter.selection(painter, plate.frame, zoom);
}

QString PlaceTool::hint() const {
    const DeviceModel* held = model();
    return held ? tr("Click to put down %1, again for more; Esc ends").arg(QString::fromStdString(held->name))
                : QString();
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// Putting down a chosen model, click after click, until Escape; or dropping it once from
// the catalogue.
#pragma once
#include "app/sheet/tool.h"
#include "core/model/catalogue.h"

namespace underridge::app {

class PlaceTool : public Tool {
public:
    using Tool::Tool;

    void begin(const model::DeviceModel& model);
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool cancel() override;
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) override;
    QString hint() const override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }
    /// The one that is put down click after click; nullptr when there is none, or it has
    /// gone from the catalogue.
    const model::DeviceModel* model() const;

    /// Puts one down with its middle at a point, snapped unless told otherwise.
    void put(const model::DeviceModel& model, scene::PointF middle, bool snapped);
    /// Draws what put() would do; nullptr: nothing.
    void preview(const model::DeviceModel* model, scene::PointF middle, bool snapped);

private:
    model::Point cornerFor(const model::DeviceModel& model, scene::PointF middle, bool snapped);
    std::string nextName(const model::DeviceModel& model) const;

    // By id: the catalogue is made anew when own models are saved or a network brings its
    // own.
    std::string model_, shown_;
    scene::PointF at_;
    bool snapped_ = true;
};

} // namespace underridge::app

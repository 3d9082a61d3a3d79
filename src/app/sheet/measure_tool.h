// SPDX-License-Identifier: GPL-3.0-or-later
// Drawing a line over a plan, from one point to another whose distance is known.
#pragma once
#include "app/sheet/tool.h"

#include <optional>

namespace underridge::app {

class MeasureTool : public Tool {
public:
    using Tool::Tool;

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool cancel() override;
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) override;
    QString hint() const override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }

private:
    /// With Shift along one axis.
    scene::PointF endAt(const Pointer& pointer) const;

    std::optional<scene::PointF> from_;
    scene::PointF to_;
};

} // namespace underridge::app

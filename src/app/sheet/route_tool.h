// SPDX-License-Identifier: GPL-3.0-or-later
// Drawing a tray or conduit on a plan: a click for each point, Enter or a double click at
// the last.
#pragma once
#include "app/sheet/tool.h"

#include <optional>

namespace underridge::app {

class RouteTool : public Tool {
public:
    using Tool::Tool;

    void setType(model::CableRouteKind type) { type_ = type; }

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void doubleClick(const Pointer& pointer) override;
    bool key(QKeyEvent& event) override;
    bool wantsLetters() const override { return !points_.empty(); }
    bool cancel() override;
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) override;
    QString hint() const override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }

private:
    void finish();

    model::CableRouteKind type_ = model::CableRouteKind::tray;
    model::SheetId on_; ///< the sheet the points are on
    std::vector<scene::PointF> points_;
    scene::PointF next_;
};

} // namespace underridge::app

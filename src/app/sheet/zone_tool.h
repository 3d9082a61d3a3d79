// SPDX-License-Identifier: GPL-3.0-or-later
// Marking an area of the sheet: a rectangle is drawn, then its title typed.
#pragma once
#include "app/sheet/tool.h"

#include <optional>

namespace underridge::app {

class ZoneTool : public Tool {
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
    /// From corner to corner, on the grid unless Ctrl is held.
    scene::Rect drawn() const;

    std::optional<Pointer> from_;
    Pointer to_;
};

} // namespace underridge::app

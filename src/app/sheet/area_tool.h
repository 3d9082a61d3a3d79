// SPDX-License-Identifier: GPL-3.0-or-later
// Drawing a rectangle on the sheet, for whatever is to come there.
#pragma once
#include "app/sheet/tool.h"

#include <functional>
#include <optional>

namespace underridge::app {

class AreaTool : public Tool {
public:
    using Tool::Tool;

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool cancel() override;
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) override;
    QString hint() const override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }

protected:
    /// A rectangle was drawn, large enough not to be a click.
    virtual void drawn(const scene::Rect& area) = 0;
    virtual QString asks() const = 0;

    /// From corner to corner, on the grid unless Ctrl is held; empty: nothing is being drawn.
    scene::Rect area() const;

private:
    std::optional<Pointer> from_;
    Pointer to_;
};

/// Marks an area: its title is typed at once.
class ZoneTool : public AreaTool {
public:
    using AreaTool::AreaTool;

protected:
    void drawn(const scene::Rect& area) override;
    QString asks() const override;
};

/// Draws the place of something that is as large as its place, and shows where its parts will
/// be.
class ExtentTool : public AreaTool {
public:
    using AreaTool::AreaTool;

    /// `parts`: of the thing as it is by itself; they keep their size and lie as far apart as the
    /// place lets them. `done` is called once with the place.
    void begin(std::vector<scene::Rect> parts, std::function<void(const scene::Rect&)> done);
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) override;

protected:
    void drawn(const scene::Rect& area) override;
    QString asks() const override;

private:
    std::vector<scene::Rect> parts_;
    scene::Rect whole_;
    std::function<void(const scene::Rect&)> done_;
};

} // namespace underridge::app

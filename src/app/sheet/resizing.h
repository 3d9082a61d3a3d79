// SPDX-License-Identifier: GPL-3.0-or-later
// The handles of the zone that is selected, and its frame while one is dragged. The network
// changes once, when it is let go.
#pragma once
#include "app/sheet/tool.h"
#include "core/edit/act.h"

#include <array>

namespace underridge::app {

class Resizing {
public:
    Resizing(Session& session, Surface& surface) : session_(session), surface_(surface) {}

    /// Whether a handle is there; a drag from there begins.
    bool begin(scene::PointF at);
    /// The cursor for a handle at a point; an arrow where there is none.
    Qt::CursorShape cursorAt(scene::PointF at) const;
    void dragTo(const Pointer& pointer);
    std::optional<edit::ActResult> drop() const;
    void end() { handle_ = -1; }
    bool active() const { return handle_ >= 0; }
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const;

private:
    /// The zone selected alone; null: none.
    const scene::NoteCard* zone() const;
    static std::array<scene::PointF, 8> handlesOf(const scene::Rect& frame);
    int handleAt(scene::PointF at) const;

    Session& session_;
    Surface& surface_;
    int handle_ = -1; ///< clockwise from the upper left corner
    scene::Rect frame_;
};

} // namespace underridge::app

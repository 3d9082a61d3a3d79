// SPDX-License-Identifier: GPL-3.0-or-later
// The tool at rest: pointing, selecting, moving, the rubber band, bending links. What a
// press starts, first match wins: a bend of the selected link; grip or port; plate or
// note; link; rubber band.
#pragma once
#include "app/sheet/moving.h"
#include "app/sheet/nudging.h"
#include "app/sheet/rail_lens.h"
#include "app/sheet/resizing.h"
#include "app/sheet/route_shaping.h"
#include "app/sheet/tool.h"
#include "core/edit/act.h"

#include <optional>

namespace underridge::app {

class SelectTool : public Tool {
public:
    using Tool::Tool;

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void doubleClick(const Pointer& pointer) override;
    bool key(QKeyEvent& event) override;
    bool cancel() override;
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) override;
    QString hint() const override;
    Qt::CursorShape cursor() const override;

    scene::Hit hovered() const { return hovered_; }
    /// The item the keyboard is at.
    model::ObjectRef focused() const { return focused_; }
    void setFocused(model::ObjectRef ref) { focused_ = ref; }
    /// Goes to the next of what has a place of its own, in reading order.
    void focusNext(bool backwards);
    /// Selects the next link of the device the keyboard is at.
    void selectNextLink(bool backwards);
    bool isMoving() const { return gesture_ == Gesture::moving; }
    /// The folded group that what is dragged is held over; none: over none.
    model::GroupId heldOver() const;
    /// Unfolds that group while the drag goes on.
    void openHeld();
    bool isOpening() const { return opening_; }
    bool inGesture() const { return gesture_ != Gesture::none && gesture_ != Gesture::pressed; }
    /// The pointer left the sheet.
    void leave();

    /// The grip of a plate on the screen: at least 16 pixels.
    static scene::Rect gripOf(const scene::Plate& plate, double zoom);
    /// The same below a tile.
    static scene::Rect gripOf(const scene::Tile& tile, double zoom);
    const std::optional<RailLens>& lens() const { return lens_; }

private:
    enum class Gesture { none, pressed, moving, band, bend, resize, shape };

    /// The drag, after others have made room.
    void goOn();
    void hover(const Pointer& pointer, bool waits = false);
    std::optional<std::size_t> bendAt(const scene::LinkLine& line, scene::PointF p) const;
    void dragBend(const Pointer& pointer);
    void takeBand(bool add);
    /// Whether links are made on the sheet shown.
    bool takesLinks() const;
    bool showsGrip(const scene::Plate& plate) const;
    bool showsGrip(const scene::Tile& tile) const;
    /// Whether a grip of what has that shape is at a point; then it is hovered.
    template <class Shape>
    bool hoversGrip(scene::PointF at, double zoom);
    template <class Shape>
    void paintGrips(QPainter& painter, const paint::Theme& theme, double zoom) const;

    Gesture gesture_ = Gesture::none;
    scene::Hit hovered_, pressed_;
    bool gripHovered_ = false;
    bool wasSelected_ = false; ///< what is pressed, before
    bool dropping_ = false;    ///< what was dropped is still being worked out
    bool opening_ = false;     ///< the scene changes under the drag, which goes on
    model::ObjectRef focused_;
    std::optional<RailLens> lens_;
    int lensPort_ = -1;
    Pointer start_, now_;
    Moving moving_{session_, context_.surface};
    Nudging nudging_{session_, context_.surface};
    Resizing resizing_{session_, context_.surface};
    RouteShaping shaping_{session_, context_.surface};
    // bending
    std::vector<model::Point> bends_;
    std::size_t bend_ = 0;
};

} // namespace underridge::app

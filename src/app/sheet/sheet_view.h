// SPDX-License-Identifier: GPL-3.0-or-later
// The sheet on the screen: it shows the session's scene, gives events to the active tool,
// and has the small things that lie over it.
#pragma once
#include "app/sheet/area_tool.h"
#include "app/sheet/card.h"
#include "app/sheet/edge_scroll.h"
#include "app/sheet/fields_in_place.h"
#include "app/sheet/found_mark.h"
#include "app/sheet/link_flow.h"
#include "app/sheet/link_tool.h"
#include "app/sheet/live_layer.h"
#include "app/sheet/locator.h"
#include "app/sheet/measure_tool.h"
#include "app/sheet/morph.h"
#include "app/sheet/place_tool.h"
#include "app/sheet/route_tool.h"
#include "app/sheet/select_tool.h"
#include "app/sheet/type_to_add.h"
#include "core/edit/objects.h"
#include "paint/overlays/overlay_painter.h"

#include <QElapsedTimer>
#include <QMenu>
#include <QTimer>

namespace underridge::app {

/// The data a drag from the catalogue carries: a model's id.
inline constexpr const char* modelMimeType = "application/x-underridge-model";

class SheetView : public Surface, private ToolUser {
    Q_OBJECT
public:
    SheetView(Session& session, QWidget* parent = nullptr);
    ~SheetView() override;

    Session& session() const { return session_; }
    void setTheme(const paint::Theme& theme);

    void fitAll();
    void fitSelection();
    /// Shows where everything went since another scene of this sheet, and the whole of it if
    /// some of that is out of view now.
    void showMoved(const scene::Scene& before);
    /// Outlines of where things would go, until told otherwise.
    void showGhosts(std::vector<scene::Rect> ghosts) {
        ghosts_ = std::move(ghosts);
        update();
    }
    const std::vector<scene::Rect>& ghosts() const { return ghosts_; }
    bool isMorphing() const { return morph_.isMoving(); }

    // What commands ask for.
    /// A link in hand that is dragged from outside the sheet, such as from a faceplate.
    void dragLink(const model::PortRef& from, QPoint global, bool begins, bool done);
    void linkSelection();
    /// Says so where the sheet shown draws no cables; whether that is so.
    bool refusesLinks();
    void startPlacing(const model::DeviceModel& model);
    /// Puts one down in the middle of what is seen.
    void putInView(const model::DeviceModel& model);
    /// Until a line is drawn or Esc.
    void startMeasuring() { use(measure_); }
    void startZone() { use(zone_); }
    /// See ExtentTool.
    void drawExtent(std::vector<scene::Rect> parts, std::function<void(const scene::Rect&)> done) {
        extent_.begin(std::move(parts), std::move(done));
        use(extent_);
    }
    /// A tray or conduit on the plan of this sheet.
    void startRoute(model::CableRouteKind type);
    void cancelTool();
    /// Draws devices of the network on this sheet, at a point or in the middle of what is
    /// seen.
    /// Asked where devices dragged here are let go outside: whether somebody there, at a
    /// point of the screen, takes them.
    void setTakesDrop(std::function<bool(QPoint)> takes) { takesDrop_ = std::move(takes); }
    void putOn(const std::vector<model::DeviceId>& devices, std::optional<scene::PointF> at = std::nullopt);
    /// Edits the note, shows the faceplate, or opens the port drawer of the link that is
    /// selected.
    void openSelected();
    void addNoteHere() { fields_.addNote(pointerOrMiddle()); }
    /// Puts a clip down at the pointer, or in the middle of what is seen.
    void paste(const edit::Clip& clip, std::optional<scene::PointF> at = std::nullopt);

    /// The menu for a right press; filled by the window.
    QMenu& contextMenu() { return contextMenu_; }

    SelectTool& selectTool() { return select_; }
    LinkTool& linkTool() { return link_; }
    bool isLinking() const { return tool_ == &link_; }
    bool inGesture() const { return tool_ != &select_ || select_.inGesture(); }
    LinkFlow& linking() { return linking_; }
    FieldsInPlace& fields() { return fields_; }
    TypeToAdd& adding() { return adding_; }
    Locator& locator() { return *locator_; }
    Card& card() { return *card_; }
    const FoundMark& mark() const { return mark_; }

Q_SIGNALS:
    void hintChanged(const QString& hint);
    void faceplateWanted();
    /// The selection is being dragged off the sheet.
    void dragOutWanted();
    void placingEnded();
    /// A line of so many sheet units was drawn over the plan.
    void lineMeasured(double units);

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dragLeaveEvent(QDragLeaveEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    // What tools ask for.
    void endTool() override { cancelTool(); }
    void startLink(linking::End from, const Pointer& pointer) override;
    void startLinkOut(model::GroupId group, const Pointer& pointer) override;
    void openFaceplate() override { Q_EMIT faceplateWanted(); }
    void measured(double units) override { Q_EMIT lineMeasured(units); }

    Pointer pointerOf(const QMouseEvent& event) const;
    const model::DeviceModel* draggedModel(const QDropEvent& event) const;
    void showInLocator();
    bool droppedElsewhere(const QMouseEvent& event) const;
    bool bringsClip(const QDropEvent& event) const;
    static bool bringsDevices(const QDropEvent& event);
    void followSession();
    void followNavigation();
    void flyAcross(const scene::Rect& before, const scene::Rect& now);
    void use(Tool& tool);
    void afterEvent();
    /// Whether the view goes on while the pointer is held at the edge.
    bool isDragging(const Pointer& pointer) const;
    void escapeTwice();
    void followHold();
    void scrollAtEdge(QPointF by);
    void showCard();
    /// Puts away what lies over the sheet.
    void hideAll();
    scene::Rect selectionBounds() const;

    Session& session_;
    LiveLayer live_;
    FoundMark mark_{this};
    Morph morph_{this};
    std::vector<scene::Rect> ghosts_;
    LinkFlow linking_;
    FieldsInPlace fields_;
    TypeToAdd adding_;
    ToolContext context_;
    SelectTool select_;
    LinkTool link_;
    PlaceTool place_;
    MeasureTool measure_;
    ZoneTool zone_;
    ExtentTool extent_;
    RouteTool route_;
    Tool* tool_;

    Locator* locator_;
    Card* card_;
    QMenu contextMenu_;
    QTimer cardTimer_;
    QTimer hold_; ///< while something is dragged over a folded group
    model::GroupId heldOver_;
    QElapsedTimer escaped_; ///< since Esc had nothing to give up
    EdgeScroll edge_;
    Pointer dragged_; ///< where the pointer was last while something is dragged
    QString hint_;
    std::function<bool(QPoint)> takesDrop_;
    paint::ShownMarks marks_;              ///< of the overlays, on `marked_`
    const scene::Scene* marked_ = nullptr; ///< none: to be worked out anew
    model::ObjectRef toldFocus_;           ///< a screen reader knows of
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The sheet on the screen: tiles below, what is selected or in hand drawn live on top. It
// forwards events to the active tool and holds the small things that open over the sheet
// (drawer, strip, type-to-add, card).
#pragma once
#include "app/sheet/add_field.h"
#include "app/sheet/card.h"
#include "app/sheet/edge_scroll.h"
#include "app/sheet/link_strip.h"
#include "app/sheet/link_tool.h"
#include "app/sheet/locator.h"
#include "app/sheet/place_tool.h"
#include "app/sheet/port_drawer.h"
#include "app/sheet/select_tool.h"
#include "app/sheet/tile_cache.h"
#include "core/edit/objects.h"

#include <QMenu>
#include <QPlainTextEdit>
#include <QTimer>
#include <QWidget>
#include <functional>

namespace underridge::app {

/// The data a drag from the catalogue carries: a model's id.
inline constexpr const char* modelMimeType = "application/x-underridge-model";

class SheetView : public QWidget {
    Q_OBJECT
public:
    SheetView(Session& session, QWidget* parent = nullptr);
    ~SheetView() override;

    Session& session() const { return session_; }
    const Camera& camera() const { return camera_; }
    bool tilesComplete() const { return tiles_.complete(); }
    void setTheme(const paint::Theme& theme);

    void look(scene::PointF centre, double zoom);
    void pan(QPointF pixels);
    void zoomBy(double factor);
    /// A link in hand that is dragged from outside the sheet, such as from a faceplate.
    void dragLink(const model::PortRef& from, QPoint global, bool begins, bool done);
    void fitAll();
    void fitSelection();
    void reveal(const scene::Rect& rect);

    // What tools and commands ask for.
    void startLink(linking::End from, const Pointer& pointer);
    void linkSelection();
    void startPlacing(const model::DeviceModel& model);
    /// Puts one down in the middle of what is seen.
    void putInView(const model::DeviceModel& model);
    void cancelTool();
    /// Edits the note, shows the faceplate, or opens the port drawer of the link that is
    /// selected.
    void openSelected();
    void makeLink(const linking::Proposal& proposal);
    /// Whether fitting something would give the two a way to be linked.
    bool canSupply(const linking::End& from, model::DeviceId target) const;
    void openDrawerForNew(const linking::End& from, model::DeviceId target);
    void openDrawerForLink(model::LinkId link, int end);
    void openAddField(std::optional<scene::PointF> at, std::optional<linking::End> linkFrom);
    void addNoteHere();
    void editNote(model::NoteId note);
    /// One object in place; several devices by a series, which the window asks for.
    void renameInPlace(edit::Refs objects);
    /// Puts a clip down at the pointer, or in the middle of what is seen.
    void paste(const edit::Clip& clip, std::optional<scene::PointF> at = std::nullopt);
    QString portHint(const model::PortRef& port) const;
    /// Takes what is typed in a field on the sheet, which stays open. False when it
    /// cannot be taken.
    bool commitTyped();

    /// The menu for a right press; filled by the window.
    QMenu& contextMenu() { return contextMenu_; }

    SelectTool& selectTool() { return select_; }
    LinkTool& linkTool() { return link_; }
    bool isLinking() const { return tool_ == &link_; }
    bool inGesture() const { return tool_ != &select_ || select_.inGesture(); }
    PortDrawer& drawer() { return *drawer_; }
    LinkStrip& strip() { return *strip_; }
    AddField& addField() { return *addField_; }
    QLineEdit& nameField() { return *nameField_; }
    QPlainTextEdit& noteField() { return *noteField_; }
    Locator& locator() { return *locator_; }
    Card& card() { return *card_; }

Q_SIGNALS:
    void hintChanged(const QString& hint);
    void zoomChanged(double zoom);
    /// The selection is being dragged off the sheet.
    void faceplateWanted();
    void dragOutWanted();
    void placingEnded();
    /// Several devices are to be named by a series.
    void seriesWanted(const std::vector<underridge::model::DeviceId>& devices);

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
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
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    Pointer pointerOf(const QMouseEvent& event) const;
    const model::DeviceModel* draggedModel(const QDropEvent& event) const;
    bool bringsClip(const QDropEvent& event) const;
    void followSession();
    void use(Tool& tool);
    void cameraMoved();
    void afterEvent();
    /// Whether the view goes on while the pointer is held at the edge.
    bool isDragging(const Pointer& pointer) const;
    void scrollAtEdge(QPointF by);
    void showCard();
    void showStrip(model::LinkId link, const std::string& reason);
    void showDrawer(const linking::End& from, model::DeviceId target, model::LinkId spare);
    void takeRow(const linking::DrawerRow& row);
    void addTyped(const edit::Addition& addition);
    /// The place nearest to the one wanted where a block covers no plate, by whole steps.
    scene::PointF freePlaceNear(scene::PointF wanted, const scene::Rect& block, scene::PointF step) const;
    /// What becomes of a field in place whose text is taken.
    enum class Then { stays, closes };
    /// False when the text cannot be taken; the field stays open then.
    bool finishName(Then then = Then::closes);
    bool finishNote(Then then = Then::closes);
    void closeField(QWidget& field, Then then);
    void paintSelected(QPainter& painter, const scene::Item& item);
    void paintEmptyHelp(QPainter& painter);
    QRectF onScreen(const scene::Rect& rect) const;
    scene::Rect selectionBounds() const;
    void placeStrip(const QRectF& a, const QRectF& b);

    Session& session_;
    Camera camera_;
    TileCache tiles_;
    const paint::Theme* theme_;
    std::unique_ptr<paint::SheetPainter> painter_;
    SelectTool select_;
    LinkTool link_;
    PlaceTool place_;
    Tool* tool_;

    Locator* locator_;
    PortDrawer* drawer_;
    LinkStrip* strip_;
    AddField* addField_;
    Card* card_;
    QLineEdit* nameField_;
    QPlainTextEdit* noteField_;
    QMenu contextMenu_;
    QTimer cardTimer_;
    EdgeScroll edge_;
    Pointer dragged_; ///< where the pointer was last while something is dragged

    bool spaceHeld_ = false, spacePanned_ = false, panning_ = false;
    QPointF lastPan_;
    QString hint_;
    // what the drawer is open for
    linking::End drawerFrom_;
    model::DeviceId drawerTarget_;
    model::LinkId drawerLink_;
    // what the strip tells of, and whether its link was the last step
    model::LinkId stripLink_;
    std::size_t stripStep_ = 0;
    // what type-to-add adds to
    std::optional<scene::PointF> addAt_;
    std::optional<linking::End> addFrom_;
    // what is being renamed or written
    edit::Refs naming_;
    model::NoteId noteEdited_;
    scene::PointF noteAt_;
};

} // namespace underridge::app

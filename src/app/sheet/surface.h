// SPDX-License-Identifier: GPL-3.0-or-later
// Something that is looked at through a camera and drawn in tiles: moved and zoomed by
// wheel, touchpad, middle button and space in the same way, whatever it shows.
#pragma once
#include "app/sheet/flight.h"
#include "app/sheet/tile_cache.h"

#include <QWidget>

class QKeyEvent;

namespace underridge::app {

class Surface : public QWidget {
    Q_OBJECT
public:
    explicit Surface(QWidget* parent);

    const Camera& camera() const { return camera_; }
    /// Whether everything in view is drawn sharp.
    bool tilesComplete() const { return tiles_.complete(); }

    void look(scene::PointF centre, double zoom);
    /// Goes there, so that the eye keeps hold; at once where motion is off.
    void flyTo(scene::PointF centre, double zoom);
    bool isFlying() const { return flight_.state() == QAbstractAnimation::Running; }
    /// Whether the view may move by itself.
    void setMotion(bool on) { motion_ = on; }
    bool hasMotion() const { return motion_; }
    /// By screen pixels.
    void pan(QPointF pixels);
    /// About the pointer, or the middle when it is elsewhere.
    void zoomBy(double factor);
    /// Shows a rectangle with a margin, at 100 % at most.
    void fit(const scene::Rect& rect);
    /// Moves as little as needed to show a rectangle.
    void reveal(const scene::Rect& rect);

    /// What is drawn in an area of the sheet already, again where it is moved to.
    void paintMoved(QPainter& painter, const scene::Rect& area, scene::PointF by) const {
        tiles_.drawMoved(painter, camera_, devicePixelRatioF(), area, by);
    }
    QRectF onScreen(const scene::Rect& rect) const;
    /// The pixel under the pointer, if that is here and not over something that lies on
    /// the surface.
    std::optional<QPoint> pointer() const;
    /// Where that is; else in the middle of what is seen.
    scene::PointF pointerOrMiddle() const;

Q_SIGNALS:
    void cameraMoved();
    void zoomChanged(double zoom);

protected:
    bool event(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;

    TileCache& tiles() { return tiles_; }
    // Moving with the middle button, or with the left one while space is held.
    bool beginPan(const QMouseEvent& event);
    /// False when it is not being moved.
    bool panTo(const QMouseEvent& event);
    bool endPan(const QMouseEvent& event);
    void holdSpace(const QKeyEvent& event);
    /// Whether it was held only to press it, not to move.
    bool releaseSpace();
    bool spaceHeld() const { return spaceHeld_; }
    void forgetSpace() { spaceHeld_ = false; }
    bool isPanning() const { return panning_ || spaceHeld_; }

private:
    void moved();

    Camera camera_;
    Flight flight_;
    bool motion_ = true;
    TileCache tiles_;
    bool spaceHeld_ = false, spacePanned_ = false, panning_ = false;
    QPointF lastPan_;
};

} // namespace underridge::app

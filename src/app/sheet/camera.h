// SPDX-License-Identifier: GPL-3.0-or-later
// Where one looks at the sheet from: the point in the middle of the view and the zoom.
#pragma once
#include "core/scene/geometry.h"

#include <QPointF>
#include <QSizeF>

namespace underridge::app {

class Camera {
public:
    static constexpr double minZoom = 0.01, maxZoom = 8;

    double zoom() const { return zoom_; }
    scene::PointF centre() const { return centre_; }
    QSizeF viewport() const { return viewport_; }
    void setViewport(QSizeF size) { viewport_ = size; }
    void look(scene::PointF centre, double zoom);

    QPointF toScreen(scene::PointF p) const;
    scene::PointF toSheet(QPointF p) const;
    scene::Rect visible() const;

    /// By screen pixels.
    void panBy(QPointF pixels);
    /// The sheet point under `pixel` stays there.
    void zoomAt(QPointF pixel, double factor);
    /// Shows a rectangle with a margin, at 100 % at most.
    void fit(const scene::Rect& rect);
    /// Moves as little as needed to show a rectangle.
    void reveal(const scene::Rect& rect);

private:
    scene::PointF centre_{};
    double zoom_ = 1;
    QSizeF viewport_{800, 600};
};

} // namespace underridge::app

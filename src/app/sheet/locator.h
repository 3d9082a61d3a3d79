// SPDX-License-Identifier: GPL-3.0-or-later
// The small overview of the whole sheet, in its lower right corner. Press or drag to look
// there. It steps aside to the other corner when something is dragged near it.
#pragma once
#include "app/jobs/worker.h"
#include "core/scene/scene.h"
#include "paint/theme.h"

#include <QImage>
#include <QWidget>

namespace underridge::app {

class Locator : public QWidget {
    Q_OBJECT
public:
    explicit Locator(QWidget* parent);

    /// A sheet, and where on it something is wrong. The picture of a large one follows a moment
    /// later, made by a thread.
    void setSheet(const model::Network& network, const scene::Scene& scene,
                  std::shared_ptr<const find::Findings> findings);
    void setTheme(const paint::Theme& theme);
    /// What was gone to; nothing: no longer.
    void setFound(std::optional<scene::PointF> place);
    void setVisibleArea(const scene::Rect& area);
    void stepAside(bool aside);

Q_SIGNALS:
    void lookAt(underridge::scene::PointF centre);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

private:
    struct Order {
        model::Network network;
        scene::Scene scene;
        std::shared_ptr<const find::Findings> findings;
        const paint::Theme* theme;
        QSize size;
        double ratio;
    };
    struct Picture {
        QImage image;
        scene::Rect bounds;
        std::vector<scene::PointF> trouble; ///< where something is wrong
    };
    /// Where the middle of a sheet's bounds is in the middle of the picture.
    struct Scale {
        scene::Rect bounds;
        QSize size;
        double factor() const;
        QPointF to(scene::PointF p) const;
    };
    static Picture drawn(const Order& order);
    /// Has the picture made anew, at once where that is quick.
    void redraw();
    void take(Picture picture);
    void look(QPointF at);

    model::Network network_;
    scene::Scene scene_;
    std::shared_ptr<const find::Findings> findings_;
    scene::Rect seen_;
    const paint::Theme* theme_ = &paint::lightTheme();
    std::optional<scene::PointF> found_;
    Picture picture_;
    bool stale_ = true; ///< the picture is of something shown before
    bool aside_ = false;
    /// Draws a large sheet.
    Latest<Order, Picture> drawer_{this, &drawn, [this](const Picture& picture) { take(picture); }};
};

} // namespace underridge::app

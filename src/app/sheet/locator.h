// SPDX-License-Identifier: GPL-3.0-or-later
// The small overview of the whole sheet, in its lower right corner. Press or drag to look
// there. It steps aside to the other corner when something is dragged near it.
#pragma once
#include "core/scene/scene.h"
#include "paint/theme.h"

#include <QImage>
#include <QWidget>

namespace underridge::app {

class Locator : public QWidget {
    Q_OBJECT
public:
    explicit Locator(QWidget* parent);

    void setScene(const scene::Scene& scene);
    void setTheme(const paint::Theme& theme);
    /// Where something is wrong, in sheet units.
    void setTrouble(std::vector<scene::PointF> places);
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
    void render();
    double scale() const;
    QPointF toHere(scene::PointF p) const;
    void look(QPointF at);

    scene::Scene scene_;
    scene::Rect bounds_, seen_;
    const paint::Theme* theme_ = &paint::lightTheme();
    std::vector<scene::PointF> trouble_;
    std::optional<scene::PointF> found_;
    QImage image_;
    bool aside_ = false;
};

} // namespace underridge::app

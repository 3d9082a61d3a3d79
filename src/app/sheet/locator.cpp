// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/locator.h"

#include "paint/sheet_painter.h"

#include <QMouseEvent>

namespace underridge::app {

Locator::Locator(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("locator"));
    setFixedSize(148, 96);
    setAccessibleName(tr("Locator: overview of the sheet"));
    setCursor(Qt::PointingHandCursor);
}

void Locator::setScene(const scene::Scene& scene) {
    scene_ = scene;
    bounds_ = scene.bounds().grown(60);
    image_ = {};
    setVisible(!scene.empty());
    update();
}

void Locator::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    image_ = {};
    update();
}

void Locator::setVisibleArea(const scene::Rect& area) {
    seen_ = area;
    update();
}

void Locator::stepAside(bool aside) {
    aside_ = aside;
    const QWidget* sheet = parentWidget();
    move(aside ? 10 : sheet->width() - width() - 10, sheet->height() - height() - 10);
}

void Locator::setTrouble(std::vector<scene::PointF> places) {
    trouble_ = std::move(places);
    update();
}

void Locator::setFound(std::optional<scene::PointF> place) {
    found_ = place;
    update();
}

double Locator::scale() const {
    return std::min((width() - 8) / bounds_.w, (height() - 8) / bounds_.h);
}

QPointF Locator::toHere(scene::PointF p) const {
    const scene::PointF c = bounds_.centre();
    return {width() / 2.0 + (p.x - c.x) * scale(), height() / 2.0 + (p.y - c.y) * scale()};
}

void Locator::render() {
    const double ratio = devicePixelRatioF();
    image_ = QImage(size() * ratio, QImage::Format_RGB32);
    image_.setDevicePixelRatio(ratio);
    image_.fill(theme_->panel);
    QPainter painter(&image_);
    const auto box = [&](const scene::Rect& frame) {
        return QRectF(toHere({frame.x, frame.y}),
                      QSizeF(std::max(2.0, frame.w * scale()), std::max(1.5, frame.h * scale())));
    };
    painter.setPen(theme_->edge);
    scene_.forEach<scene::PlanPicture>([&](const scene::PlanPicture& plan) {
        painter.setBrush(theme_->sheet);
        painter.drawRect(box(plan.covered()));
    });
    std::vector<const scene::Frame*> frames;
    scene_.forEach<scene::Frame>([&](const scene::Frame& frame) { frames.push_back(&frame); });
    std::sort(frames.begin(), frames.end(), [](const auto* a, const auto* b) {
        return std::pair(a->depth, a->id) < std::pair(b->depth, b->id);
    });
    painter.setPen(theme_->edge);
    for (const scene::Frame* frame : frames) {
        painter.setBrush(frame->depth % 2 == 0 ? theme_->frame : theme_->sheet);
        painter.drawRect(box(frame->frame));
    }
    scene_.forEach<scene::Tile>(
        [&](const scene::Tile& tile) { painter.fillRect(box(tile.frame), theme_->muted); });
    scene_.forEachPlate(
        [&](const scene::Plate& plate) { painter.fillRect(box(plate.frame), theme_->spine(plate.role)); });
}

void Locator::paintEvent(QPaintEvent*) {
    if (image_.isNull())
        render();
    QPainter painter(this);
    painter.drawImage(0, 0, image_);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme_->plate, 0.8));
    painter.setBrush(theme_->error);
    for (const scene::PointF place : trouble_)
        painter.drawEllipse(toHere(place), 2.4, 2.4);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme_->accent, 2));
    if (found_)
        painter.drawEllipse(toHere(*found_), 5, 5);
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.setPen(QPen(theme_->edge, 1));
    painter.drawRect(rect().adjusted(0, 0, -1, -1));
    painter.setPen(QPen(theme_->accent, 1.4));
    painter.drawRect(QRectF(toHere({seen_.x, seen_.y}), toHere({seen_.right(), seen_.bottom()}))
                         .intersected(QRectF(rect()).adjusted(1, 1, -2, -2)));
}

void Locator::look(QPointF at) {
    const scene::PointF c = bounds_.centre();
    Q_EMIT lookAt({c.x + (at.x() - width() / 2.0) / scale(), c.y + (at.y() - height() / 2.0) / scale()});
}

void Locator::mousePressEvent(QMouseEvent* event) {
    look(event->position());
}

void Locator::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton)
        look(event->position());
}

} // namespace underridge::app

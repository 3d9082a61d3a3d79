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
    setVisible(scene.count<scene::Plate>() + scene.count<scene::NoteCard>() > 0);
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
    scene_.forEachPlate([&](const scene::Plate& plate) {
        const QPointF corner = toHere({plate.frame.x, plate.frame.y});
        painter.fillRect(QRectF(corner, QSizeF(std::max(2.0, plate.frame.w * scale()),
                                               std::max(1.5, plate.frame.h * scale()))),
                         theme_->spine(plate.role));
    });
}

void Locator::paintEvent(QPaintEvent*) {
    if (image_.isNull())
        render();
    QPainter painter(this);
    painter.drawImage(0, 0, image_);
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

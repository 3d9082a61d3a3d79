// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/locator.h"

#include "core/scene/trouble.h"
#include "paint/sheet_painter.h"

#include <QMouseEvent>

namespace underridge::app {

Locator::Locator(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("locator"));
    setFixedSize(148, 96);
    setAccessibleName(tr("Locator: overview of the sheet"));
    setCursor(Qt::PointingHandCursor);
}

void Locator::setSheet(const model::Network& network, const scene::Scene& scene,
                       std::shared_ptr<const find::Findings> findings) {
    network_ = network;
    scene_ = scene;
    findings_ = std::move(findings);
    stale_ = true;
    setVisible(!scene.empty());
    update();
}

void Locator::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    stale_ = true;
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

void Locator::setFound(std::optional<scene::PointF> place) {
    found_ = place;
    update();
}

double Locator::Scale::factor() const {
    return std::min((size.width() - 8) / bounds.w, (size.height() - 8) / bounds.h);
}

QPointF Locator::Scale::to(scene::PointF p) const {
    const scene::PointF c = bounds.centre();
    return {size.width() / 2.0 + (p.x - c.x) * factor(), size.height() / 2.0 + (p.y - c.y) * factor()};
}

Locator::Picture Locator::drawn(const Order& order) {
    const scene::Scene& scene = order.scene;
    const paint::Theme& theme = *order.theme;
    Picture out{QImage(order.size * order.ratio, QImage::Format_RGB32), scene.bounds().grown(60), {}};
    out.trouble = scene::errorsOn(order.network, scene, *order.findings);
    out.image.setDevicePixelRatio(order.ratio);
    out.image.fill(theme.panel);
    QPainter painter(&out.image);
    const Scale scale{out.bounds, order.size};
    const double factor = scale.factor();
    const auto box = [&](const scene::Rect& frame) {
        return QRectF(scale.to({frame.x, frame.y}),
                      QSizeF(std::max(2.0, frame.w * factor), std::max(1.5, frame.h * factor)));
    };
    painter.setPen(theme.edge);
    scene.forEach<scene::PlanPicture>([&](const scene::PlanPicture& plan) {
        painter.setBrush(theme.sheet);
        painter.drawRect(box(plan.covered()));
    });
    std::vector<const scene::Frame*> frames;
    scene.forEach<scene::Frame>([&](const scene::Frame& frame) { frames.push_back(&frame); });
    std::sort(frames.begin(), frames.end(), [](const auto* a, const auto* b) {
        return std::pair(a->depth, a->id) < std::pair(b->depth, b->id);
    });
    painter.setPen(theme.edge);
    for (const scene::Frame* frame : frames) {
        painter.setBrush(frame->depth % 2 == 0 ? theme.frame : theme.sheet);
        painter.drawRect(box(frame->frame));
    }
    scene.forEach<scene::Tile>(
        [&](const scene::Tile& tile) { painter.fillRect(box(tile.frame), theme.muted); });
    scene.forEachPlate(
        [&](const scene::Plate& plate) { painter.fillRect(box(plate.frame), theme.spine(plate.role)); });
    return out;
}

void Locator::redraw() {
    constexpr std::size_t drawnAtOnce = 1500; // plates
    if (!std::exchange(stale_, false))
        return;
    const Order order{network_, scene_, findings_, theme_, size(), devicePixelRatioF()};
    if (scene_.count<scene::Plate>() <= drawnAtOnce) {
        drawer_.forget();
        picture_ = drawn(order);
        return;
    }
    drawer_.ask(order);
}

void Locator::take(Picture picture) {
    picture_ = std::move(picture);
    update();
}

void Locator::paintEvent(QPaintEvent*) {
    redraw();
    QPainter painter(this);
    if (picture_.image.isNull())
        return painter.fillRect(rect(), theme_->panel);
    painter.drawImage(0, 0, picture_.image);
    const Scale scale{picture_.bounds, size()};
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme_->plate, 0.8));
    painter.setBrush(theme_->error);
    for (const scene::PointF place : picture_.trouble)
        painter.drawEllipse(scale.to(place), 2.4, 2.4);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme_->accent, 2));
    if (found_)
        painter.drawEllipse(scale.to(*found_), 5, 5);
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.setPen(QPen(theme_->edge, 1));
    painter.drawRect(rect().adjusted(0, 0, -1, -1));
    painter.setPen(QPen(theme_->accent, 1.4));
    painter.drawRect(QRectF(scale.to({seen_.x, seen_.y}), scale.to({seen_.right(), seen_.bottom()}))
                         .intersected(QRectF(rect()).adjusted(1, 1, -2, -2)));
}

void Locator::look(QPointF at) {
    redraw();
    if (picture_.image.isNull())
        return;
    const scene::PointF c = picture_.bounds.centre();
    const double factor = Scale{picture_.bounds, size()}.factor();
    Q_EMIT lookAt({c.x + (at.x() - width() / 2.0) / factor, c.y + (at.y() - height() / 2.0) / factor});
}

void Locator::mousePressEvent(QMouseEvent* event) {
    look(event->position());
}

void Locator::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton)
        look(event->position());
}

} // namespace underridge::app

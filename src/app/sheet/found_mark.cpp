// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/found_mark.h"

#include "app/sheet/camera.h"

#include <QPainter>
#include <QPainterPath>

namespace underridge::app {
namespace {
constexpr int drawInMs = 900;
constexpr double smallest = 36, ringGap = 8, farRing = 220; // pixels
constexpr float veil = 0.55F;
} // namespace

FoundMark::FoundMark(QObject* parent) : QObject(parent) {
    animation_.setStartValue(0.0);
    animation_.setEndValue(1.0);
    animation_.setDuration(drawInMs);
    animation_.setEasingCurve(QEasingCurve::OutCubic);
    connect(&animation_, &QVariantAnimation::valueChanged, this, &FoundMark::changed);
}

void FoundMark::show(model::ObjectRef object, const QString& name, bool motion) {
    object_ = object;
    name_ = name;
    animation_.stop();
    if (motion)
        animation_.start();
    Q_EMIT changed();
}

void FoundMark::clear() {
    if (object_.kind == model::Kind::unknown)
        return;
    object_ = {};
    animation_.stop();
    Q_EMIT changed();
}

void FoundMark::paint(QPainter& painter, const scene::Scene& scene, const Camera& camera,
                      const paint::Theme& theme, QSize size) const {
    const scene::LinkLine* line = object_.kind == model::Kind::link ? scene.link({object_.id}) : nullptr;
    const scene::Item* item = line ? scene.item(line->object()) : scene.itemFor(object_);
    if (!item)
        return;
    const scene::Rect frame = frameOf(*item);
    QRectF place(camera.toScreen({frame.x, frame.y}), camera.toScreen({frame.right(), frame.bottom()}));
    const double wide = std::max(smallest, place.width()), high = std::max(smallest, place.height());
    place = QRectF(place.center().x() - wide / 2, place.center().y() - high / 2, wide, high);
    const bool moving = isDrawingIn();
    const double left = moving ? 1 - animation_.currentValue().toDouble() : 0;
    const double gap = ringGap + farRing * left;
    const QRectF ring = place.adjusted(-gap, -gap, gap, gap);
    painter.setRenderHint(QPainter::Antialiasing);
    QPainterPath around;
    around.addRoundedRect(ring, 12, 12);
    if (moving) {
        QPainterPath all;
        all.addRect(QRectF(QPointF(), size));
        QColor ground = theme.sheet;
        ground.setAlphaF(veil * static_cast<float>(std::min(1.0, 2 * left)));
        painter.fillPath(all.subtracted(around), ground);
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme.sheet, 6));
    painter.drawPath(around);
    painter.setPen(QPen(theme.accent, 3));
    painter.drawPath(around);
    const bool small = place.width() <= smallest || place.height() <= smallest; // its own name is not seen
    if (!small || name_.isEmpty())
        return;
    QFont bold = painter.font();
    bold.setWeight(QFont::DemiBold);
    painter.setFont(bold);
    const QFontMetrics metrics(bold);
    const QRectF words(ring.center().x() - metrics.horizontalAdvance(name_) / 2.0 - 4, ring.bottom() + 4,
                       metrics.horizontalAdvance(name_) + 8, metrics.height() + 2);
    painter.fillRect(words, theme.sheet);
    painter.setPen(theme.accent);
    painter.drawText(words, Qt::AlignCenter, name_);
}

} // namespace underridge::app

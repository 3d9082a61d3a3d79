// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/camera.h"

namespace underridge::app {
using scene::PointF;
using scene::Rect;

void Camera::look(PointF centre, double zoom) {
    centre_ = centre;
    zoom_ = std::clamp(zoom, minZoom, maxZoom);
}

QPointF Camera::toScreen(PointF p) const {
    return {(p.x - centre_.x) * zoom_ + viewport_.width() / 2,
            (p.y - centre_.y) * zoom_ + viewport_.height() / 2};
}

PointF Camera::toSheet(QPointF p) const {
    return {(p.x() - viewport_.width() / 2) / zoom_ + centre_.x,
            (p.y() - viewport_.height() / 2) / zoom_ + centre_.y};
}

Rect Camera::visible() const {
    const PointF corner = toSheet({0, 0});
    return {corner.x, corner.y, viewport_.width() / zoom_, viewport_.height() / zoom_};
}

void Camera::panBy(QPointF pixels) {
    centre_.x -= pixels.x() / zoom_;
    centre_.y -= pixels.y() / zoom_;
}

void Camera::zoomAt(QPointF pixel, double factor) {
    const PointF before = toSheet(pixel);
    zoom_ = std::clamp(zoom_ * factor, minZoom, maxZoom);
    centre_ = centre_ + (before - toSheet(pixel));
}

void Camera::fit(const Rect& rect) {
    constexpr double margin = 40;
    if (rect.empty()) {
        look({0, 0}, 1);
        return;
    }
    const double zoom = std::min(
        {(viewport_.width() - 2 * margin) / rect.w, (viewport_.height() - 2 * margin) / rect.h, 1.0});
    look(rect.centre(), zoom);
}

void Camera::reveal(const Rect& rect) {
    const Rect seen = visible().grown(-24 / zoom_);
    const auto shift = [](double from, double to, double low, double high) {
        return low < from ? low - from : high > to ? high - to : 0;
    };
    centre_.x += shift(seen.x, seen.right(), rect.x, rect.right());
    centre_.y += shift(seen.y, seen.bottom(), rect.y, rect.bottom());
}

} // namespace underridge::app

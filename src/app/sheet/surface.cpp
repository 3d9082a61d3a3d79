// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/surface.h"

#include <QCursor>
#include <QNativeGestureEvent>
#include <QWheelEvent>

namespace underridge::app {
using scene::PointF;
using scene::Rect;
namespace {
constexpr double wheelStep = 1.2; // zoom of one notch
}

Surface::Surface(QWidget* parent) : QWidget(parent), flight_(this) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAttribute(Qt::WA_OpaquePaintEvent);
    connect(&flight_, &Flight::at, this, [this](const Camera& there) {
        camera_.look(there.centre(), there.zoom());
        moved();
    });
    connect(&tiles_, &TileCache::tileReady, this, qOverload<>(&QWidget::update));
}

void Surface::moved() {
    Q_EMIT cameraMoved();
    Q_EMIT zoomChanged(camera_.zoom());
    update();
}

void Surface::flyTo(PointF centre, double zoom) {
    if (!motion_ || !isVisible())
        return look(centre, zoom);
    Camera there = camera_;
    there.look(centre, zoom);
    flight_.begin(camera_, there);
}

void Surface::look(PointF centre, double zoom) {
    flight_.stop();
    camera_.look(centre, zoom);
    moved();
}

void Surface::pan(QPointF pixels) {
    flight_.stop();
    camera_.panBy(pixels);
    moved();
}

void Surface::zoomBy(double factor) {
    flight_.stop();
    camera_.zoomAt(pointer().value_or(rect().center()), factor);
    moved();
}

void Surface::fit(const Rect& rect) {
    flight_.stop();
    camera_.fit(rect);
    moved();
}

void Surface::reveal(const Rect& rect) {
    flight_.stop();
    camera_.reveal(rect);
    moved();
}

QRectF Surface::onScreen(const Rect& r) const {
    return {camera_.toScreen({r.x, r.y}), camera_.toScreen({r.right(), r.bottom()})};
}

std::optional<QPoint> Surface::pointer() const {
    const QPoint at = mapFromGlobal(QCursor::pos());
    return underMouse() && rect().contains(at) ? std::optional(at) : std::nullopt;
}

PointF Surface::pointerOrMiddle() const {
    const auto at = pointer();
    return at ? camera_.toSheet(*at) : camera_.visible().centre();
}

bool Surface::event(QEvent* event) {
    if (event->type() == QEvent::NativeGesture) {
        const auto* pinch = static_cast<QNativeGestureEvent*>(event);
        if (pinch->gestureType() == Qt::ZoomNativeGesture) {
            camera_.zoomAt(pinch->position(), std::max(0.1, 1 + pinch->value()));
            moved();
            return true;
        }
    }
    return QWidget::event(event);
}

void Surface::resizeEvent(QResizeEvent*) {
    camera_.setViewport(size());
    moved();
}

void Surface::wheelEvent(QWheelEvent* event) {
    event->accept();
    flight_.stop();
    const bool touchpad = event->pointingDevice()->type() == QInputDevice::DeviceType::TouchPad;
    if (touchpad && !(event->modifiers() & Qt::ControlModifier)) {
        constexpr double pixelsADegree = 1.0 / 4;
        return pan(event->pixelDelta().isNull() ? QPointF(event->angleDelta()) * pixelsADegree
                                                : QPointF(event->pixelDelta()));
    }
    if (const double notches = event->angleDelta().y() / 120.0; notches != 0) {
        camera_.zoomAt(event->position(), std::pow(wheelStep, notches));
        moved();
    }
}

bool Surface::beginPan(const QMouseEvent& event) {
    if (event.button() != Qt::MiddleButton && !(event.button() == Qt::LeftButton && spaceHeld_))
        return false;
    panning_ = true;
    spacePanned_ = spaceHeld_;
    lastPan_ = event.position();
    return true;
}

bool Surface::panTo(const QMouseEvent& event) {
    if (!panning_)
        return false;
    pan(event.position() - lastPan_);
    lastPan_ = event.position();
    return true;
}

bool Surface::endPan(const QMouseEvent& event) {
    return event.button() != Qt::RightButton && std::exchange(panning_, false);
}

void Surface::holdSpace(const QKeyEvent& event) {
    if (event.isAutoRepeat())
        return;
    spaceHeld_ = true;
    spacePanned_ = false;
}

bool Surface::releaseSpace() {
    spaceHeld_ = panning_ = false;
    return !spacePanned_;
}

} // namespace underridge::app

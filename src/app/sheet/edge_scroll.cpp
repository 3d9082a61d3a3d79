// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/edge_scroll.h"

#include <algorithm>

namespace underridge::app {
namespace {

constexpr double zone = 24;    ///< pixels from the edge
constexpr double fastest = 18; ///< pixels a step
/// A drag that only passes the edge does not scroll.
constexpr int patienceMs = 200, stepMs = 16;

double along(double at, double length) {
    const double before = std::clamp((zone - at) / zone, 0.0, 1.0);
    const double behind = std::clamp((at - (length - zone)) / zone, 0.0, 1.0);
    return (behind - before) * fastest;
}

} // namespace

EdgeScroll::EdgeScroll(QObject* parent) : QObject(parent) {
    connect(&timer_, &QTimer::timeout, this, [this] {
        timer_.start(stepMs);
        Q_EMIT step(by_);
    });
}

QPointF EdgeScroll::speedAt(QPointF at, QSize sheet) {
    return {along(at.x(), sheet.width()), along(at.y(), sheet.height())};
}

void EdgeScroll::follow(QPointF at, QSize sheet) {
    by_ = speedAt(at, sheet);
    if (by_.isNull())
        timer_.stop();
    else if (!timer_.isActive())
        timer_.start(patienceMs);
}

} // namespace underridge::app

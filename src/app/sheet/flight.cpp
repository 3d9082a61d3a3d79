// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/flight.h"

#include <cmath>

namespace underridge::app {
namespace {
constexpr int flightMs = 260;
}

Flight::Flight(QObject* parent) : QVariantAnimation(parent) {
    setStartValue(0.0);
    setEndValue(1.0);
    setDuration(flightMs);
    setEasingCurve(QEasingCurve::InOutCubic);
    connect(this, &QVariantAnimation::valueChanged, this,
            [this](const QVariant& part) { Q_EMIT at(between(from_, to_, part.toDouble())); });
}

void Flight::begin(const Camera& from, const Camera& to) {
    stop();
    from_ = from;
    to_ = to;
    start();
}

Camera Flight::between(const Camera& from, const Camera& to, double part) {
    const double z0 = from.zoom(), z1 = to.zoom(), z = z0 * std::pow(z1 / z0, part);
    // Of the way between the middles as much as of the change of scale.
    const double change = 1 / z0 - 1 / z1;
    const double gone = std::abs(change) < 1e-9 ? part : (1 / z0 - 1 / z) / change;
    Camera out = to;
    out.look(from.centre() + (to.centre() - from.centre()) * gone, part >= 1 ? z1 : z);
    return out;
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// A camera going from one view to another so that the eye keeps hold: zoom by equal
// factors, about the point that is the same in both.
#pragma once
#include "app/sheet/camera.h"

#include <QVariantAnimation>

namespace underridge::app {

class Flight : public QVariantAnimation {
    Q_OBJECT
public:
    explicit Flight(QObject* parent);

    void begin(const Camera& from, const Camera& to);
    /// Where it is on its way, 0 at the beginning to 1.
    static Camera between(const Camera& from, const Camera& to, double part);

Q_SIGNALS:
    void at(const underridge::app::Camera& camera);

private:
    Camera from_, to_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// Leads the eye to what was asked for: for a moment everything else is veiled and a ring
// draws in on it; then the ring stays until something else is selected.
#pragma once
#include "core/scene/scene.h"
#include "paint/sheet_painter.h"

#include <QVariantAnimation>

class QPainter;

namespace underridge::app {

class Camera;

class FoundMark : public QObject {
    Q_OBJECT
public:
    explicit FoundMark(QObject* parent);

    /// `name`: written beside it where it is too small to be read.
    void show(model::ObjectRef object, const QString& name, bool motion);
    void clear();
    model::ObjectRef object() const { return object_; }
    bool isDrawingIn() const { return animation_.state() == QAbstractAnimation::Running; }
    /// In pixels.
    void paint(QPainter& painter, const scene::Scene& scene, const Camera& camera, const paint::Theme& theme,
               QSize size) const;

Q_SIGNALS:
    void changed();

private:
    model::ObjectRef object_;
    QString name_;
    QVariantAnimation animation_;
};

} // namespace underridge::app

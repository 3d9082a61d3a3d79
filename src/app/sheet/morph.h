// SPDX-License-Identifier: GPL-3.0-or-later
// Plates on their way from where they stood to where they stand, so that the eye can
// follow each.
#pragma once
#include "core/scene/scene.h"
#include "paint/theme.h"

#include <QVariantAnimation>

class QPainter;

namespace underridge::app {

class Morph : public QVariantAnimation {
    Q_OBJECT
public:
    explicit Morph(QObject* parent);

    /// From one scene to another of the same sheet. Where too many would move at once, or
    /// none does, nothing is begun.
    void begin(const scene::Scene& before, const scene::Scene& after);
    bool isMoving() const { return state() == Running; }
    /// Instead of the scene; the painter is in sheet units.
    void paint(QPainter& painter, const paint::Theme& theme, double zoom) const;

private:
    struct Way {
        scene::Rect from, to;
        model::Role role;
    };
    std::vector<Way> ways_;
    std::vector<std::pair<std::size_t, std::size_t>> lines_; ///< between which
};

} // namespace underridge::app

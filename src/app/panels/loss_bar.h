// SPDX-License-Identifier: GPL-3.0-or-later
// The light a channel loses as a small bar: its parts one after the other, against what
// is allowed.
#pragma once
#include "core/linking/light.h"
#include "paint/theme.h"

#include <QWidget>

namespace underridge::app {

/// Draws the bar into a rectangle.
void paintLoss(QPainter& painter, const QRectF& into, const linking::LightBudget& budget,
               const paint::Theme& theme);

class LossBar : public QWidget {
    Q_OBJECT
public:
    explicit LossBar(const paint::Theme& theme, QWidget* parent = nullptr);
    /// Hidden when there is no light, or nothing says how much of it may be lost.
    void show(const std::optional<linking::LightBudget>& budget);
    void setTheme(const paint::Theme& theme);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    const paint::Theme* theme_;
    std::optional<linking::LightBudget> budget_;
};

} // namespace underridge::app

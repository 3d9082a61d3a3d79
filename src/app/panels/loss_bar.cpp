// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/loss_bar.h"

#include "app/shown_text.h"

#include <QPainter>

namespace underridge::app {

void paintLoss(QPainter& painter, const QRectF& into, const linking::LightBudget& budget,
               const paint::Theme& theme) {
    const double allowed = budget.limit.lossDb;
    const bool over = budget.lossDb > allowed;
    constexpr double margin = 1.15; // so that the limit is seen with room beyond it
    const double scale = into.width() / (std::max(allowed, budget.lossDb) * margin);
    const QRectF all = into.adjusted(0, 3, -1, -3);
    painter.fillRect(all, theme.sheet);
    double x = into.left();
    int number = 0;
    for (const linking::LightShare& share : budget.shares) {
        const double wide = share.db * scale;
        QColor colour = over ? theme.error : theme.accent;
        colour.setAlphaF(number++ % 2 == 0 ? 0.85F : 0.5F); // neighbours are told apart
        painter.fillRect(QRectF(x, all.top(), wide, all.height()), colour);
        x += wide;
    }
    painter.setPen(theme.edge);
    painter.drawRect(all);
    painter.setPen(QPen(theme.ink, 2));
    const double limit = into.left() + allowed * scale;
    painter.drawLine(QPointF(limit, into.top()), QPointF(limit, into.bottom()));
}

LossBar::LossBar(const paint::Theme& theme, QWidget* parent) : QWidget(parent), theme_(&theme) {
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    setVisible(false);
}

void LossBar::show(const std::optional<linking::LightBudget>& budget) {
    budget_ = budget && budget->limit.lossDb > 0 ? budget : std::nullopt;
    if (budget_) {
        const QString text = shownText(textOf(*budget_));
        setToolTip(text);
        setAccessibleName(tr("Loss: %1").arg(text));
    }
    setVisible(budget_.has_value());
    update();
}

void LossBar::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    update();
}

QSize LossBar::sizeHint() const {
    constexpr int wide = 180, high = 16;
    return {wide, high};
}

void LossBar::paintEvent(QPaintEvent*) {
    if (!budget_)
        return;
    QPainter painter(this);
    paintLoss(painter, rect(), *budget_, *theme_);
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/style/pieces.h"

#include "app/style/drawing.h"

#include <QPainter>
#include <QResizeEvent>

namespace underridge::app {
namespace {

constexpr int edgeAlong = 2;

} // namespace

QLabel* plainLabel(const QString& text) {
    auto* label = new QLabel(text);
    label->setTextFormat(Qt::PlainText);
    label->setWordWrap(true);
    return label;
}

QLabel* errorLabel() {
    QLabel* label = plainLabel();
    label->setObjectName(QStringLiteral("wrong"));
    label->setForegroundRole(QPalette::BrightText);
    return label;
}

void embolden(QWidget* widget) {
    QFont bold = widget->font();
    bold.setBold(true);
    widget->setFont(bold);
}

FloatingBox::FloatingBox(const QString& name, QWidget* parent) : QFrame(parent) {
    setObjectName(name);
}

void FloatingBox::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    roundedBox(painter, rect(), palette().color(QPalette::Base), palette().color(QPalette::Highlight));
}

TextButton::TextButton(const QString& words, Width width, QWidget* parent)
    : QAbstractButton(parent), width_(width) {
    setText(words);
    setAttribute(Qt::WA_Hover);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(width == Width::room ? QSizePolicy::Ignored : QSizePolicy::Preferred, QSizePolicy::Fixed);
}

QSize TextButton::sizeHint() const {
    return {fontMetrics().horizontalAdvance(text()), fontMetrics().height() + 2 * edgeAlong};
}

QSize TextButton::minimumSizeHint() const {
    return sizeHint();
}

QString TextButton::shown() const {
    return width_ == Width::hugs ? text() : fontMetrics().elidedText(text(), Qt::ElideRight, width());
}

void TextButton::resizeEvent(QResizeEvent* event) {
    setToolTip(shown() == text() ? QString() : text());
    QAbstractButton::resizeEvent(event);
}

void TextButton::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    QFont underlined = font();
    underlined.setUnderline(isEnabled() && (underMouse() || hasFocus()));
    painter.setFont(underlined);
    painter.setPen(palette().color(isEnabled() ? QPalette::Link : QPalette::PlaceholderText));
    painter.drawText(rect(), Qt::AlignVCenter | Qt::AlignLeft, shown());
}

} // namespace underridge::app

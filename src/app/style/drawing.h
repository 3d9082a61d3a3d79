// SPDX-License-Identifier: GPL-3.0-or-later
// What widgets are drawn of, in the colours of a palette.
#pragma once
#include <QIcon>
#include <QPainter>
#include <QStyleOption>

namespace underridge::app {

/// Colours of a palette by what they are for.
QColor edgeOf(const QPalette& palette);
QColor accentOf(const QPalette& palette);

/// A colour a share of the way from one to another.
QColor mixed(const QColor& a, const QColor& b, double share);

/// What lies under a pointer or is chosen: a tint, so that ink stays legible on it.
QColor tint(const QPalette& palette, double share);

/// A filled box with round corners and, where its colour is valid, an edge.
void roundedBox(QPainter& painter, const QRect& rect, const QColor& fill, const QColor& edge,
                double width = 1);

/// A field's frame: accent while it has the focus.
void fieldBox(QPainter& painter, const QRect& rect, const QStyleOption& option);

/// An arrow head of two strokes.
void chevron(QPainter& painter, const QRect& rect, const QColor& colour, bool up);

/// A check box, or the round sign of one of several.
void indicator(QPainter& painter, const QStyleOption& option, bool round);

/// A button without its words: filled when it is the main one, a row when it is flat.
void pushButton(QPainter& painter, const QStyleOption& option);

/// A flat button is a row of a list: its picture and its words from the left.
void rowLabel(QPainter& painter, const QStyleOptionButton& button);

/// What lies under a tool button: nothing, unless it is pointed at, held or has the
/// focus.
void toolButton(QPainter& painter, const QStyleOption& option);

/// Signs of dock titles and of the button that empties a field, in a grey that stands out
/// in both themes.
QIcon titleSign(bool cross);

/// A slim bar without arrows.
void scrollBar(QPainter& painter, const QStyleOptionSlider& option, const QRect& slider);

/// A line under the chosen tab.
void tab(QPainter& painter, const QStyleOptionTab& option);

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The look of all widgets: flat, without gradients or bevels, 6 px corners, distances in
// steps of 4, table rows with room, quiet headers, slim scroll bars. Colours come from
// the palette, which is made of the theme's tokens.
#pragma once
#include <QProxyStyle>

namespace underridge::app {

class FlatStyle : public QProxyStyle {
    Q_OBJECT
public:
    FlatStyle();

    int pixelMetric(PixelMetric metric, const QStyleOption* option, const QWidget* widget) const override;
    int styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                  QStyleHintReturn* returned) const override;
    QSize sizeFromContents(ContentsType type, const QStyleOption* option, const QSize& size,
                           const QWidget* widget) const override;
    QRect subElementRect(SubElement element, const QStyleOption* option,
                         const QWidget* widget) const override;
    QIcon standardIcon(StandardPixmap which, const QStyleOption* option,
                       const QWidget* widget) const override;
    QRect subControlRect(ComplexControl control, const QStyleOptionComplex* option, SubControl part,
                         const QWidget* widget) const override;
    void drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                       const QWidget* widget) const override;
    void drawControl(ControlElement element, const QStyleOption* option, QPainter* painter,
                     const QWidget* widget) const override;
    void drawComplexControl(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter,
                            const QWidget* widget) const override;
};

/// Gives the application this style, unless it has it already.
void useFlatStyle();

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/style/drawing.h"

#include <QStyle>

namespace underridge::app {
namespace {

constexpr double corner = 6;

} // namespace

QColor edgeOf(const QPalette& palette) {
    return palette.color(QPalette::Mid);
}

QColor accentOf(const QPalette& palette) {
    return palette.color(QPalette::Active, QPalette::Highlight);
}

QColor mixed(const QColor& a, const QColor& b, double share) {
    const auto mix = [&](int x, int y) { return static_cast<int>(x + (y - x) * share); };
    return {mix(a.red(), b.red()), mix(a.green(), b.green()), mix(a.blue(), b.blue())};
}

QColor tint(const QPalette& palette, double share) {
    return mixed(palette.color(QPalette::Base), accentOf(palette), share);
}

void fieldBox(QPainter& painter, const QRect& rect, const QStyleOption& option) {
    const bool enabled = option.state & QStyle::State_Enabled;
    const bool focused = enabled && option.state & QStyle::State_HasFocus;
    roundedBox(painter, rect, option.palette.color(enabled ? QPalette::Base : QPalette::Window),
               focused ? accentOf(option.palette) : edgeOf(option.palette), focused ? 1.5 : 1);
}

void chevron(QPainter& painter, const QRect& rect, const QColor& colour, bool up) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(colour, 1.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    const QPointF c = QRectF(rect).center();
    const double dy = up ? -2 : 2;
    painter.drawPolyline(QPolygonF{{c.x() - 4, c.y() - dy}, {c.x(), c.y() + dy}, {c.x() + 4, c.y() - dy}});
    painter.restore();
}

void indicator(QPainter& painter, const QStyleOption& option, bool round) {
    const bool enabled = option.state & QStyle::State_Enabled;
    const bool on = option.state & (QStyle::State_On | QStyle::State_NoChange);
    const QColor accent = enabled ? accentOf(option.palette) : edgeOf(option.palette);
    const bool focused = option.state & QStyle::State_HasFocus;
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const int side = std::min(option.rect.width(), option.rect.height());
    QRectF box(0, 0, side, side);
    box.moveCenter(QRectF(option.rect).center());
    box.adjust(0.75, 0.75, -0.75, -0.75);
    painter.setPen(QPen(on || focused ? accent : option.palette.color(QPalette::PlaceholderText), 1.5));
    painter.setBrush(on && !round ? accent : option.palette.color(QPalette::Base));
    round ? painter.drawEllipse(box) : painter.drawRoundedRect(box, 4, 4);
    if (on && round) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(accent);
        painter.drawEllipse(box.adjusted(4, 4, -4, -4));
    } else if (option.state & QStyle::State_NoChange) {
        painter.setPen(QPen(option.palette.color(QPalette::Base), 2));
        painter.drawLine(QPointF(box.left() + 4, box.center().y()),
                         QPointF(box.right() - 4, box.center().y()));
    } else if (on) {
        painter.setPen(
            QPen(option.palette.color(QPalette::Base), 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(QPolygonF{{box.left() + 3.5, box.center().y()},
                                       {box.left() + 6.5, box.bottom() - 4},
                                       {box.right() - 3.5, box.top() + 4}});
    }
    painter.restore();
}

void pushButton(QPainter& painter, const QStyleOption& option) {
    const auto* button = qstyleoption_cast<const QStyleOptionButton*>(&option);
    const bool enabled = option.state & QStyle::State_Enabled;
    const bool hovered = enabled && option.state & QStyle::State_MouseOver;
    const bool pressed = option.state & (QStyle::State_Sunken | QStyle::State_On);
    const bool flat = button && button->features & QStyleOptionButton::Flat;
    const bool main = enabled && button && button->features & QStyleOptionButton::DefaultButton && !flat;
    const bool focused =
        option.state & QStyle::State_HasFocus && option.state & QStyle::State_KeyboardFocusChange;
    const QPalette& palette = option.palette;
    if (flat) {
        if (hovered || pressed || focused)
            roundedBox(painter, option.rect, tint(palette, pressed ? 0.2 : 0.08),
                       focused ? accentOf(palette) : QColor());
        return;
    }
    const QColor accent = accentOf(palette);
    const QColor ink = palette.color(QPalette::WindowText);
    if (main)
        roundedBox(painter, option.rect,
                   pressed   ? mixed(accent, ink, 0.25)
                   : hovered ? mixed(accent, ink, 0.12)
                             : accent,
                   focused ? ink : QColor(), 1.5);
    else
        roundedBox(painter, option.rect,
                   pressed   ? tint(palette, 0.2)
                   : hovered ? tint(palette, 0.08)
                             : palette.color(enabled ? QPalette::Base : QPalette::Window),
                   focused ? accent : edgeOf(palette), focused ? 1.5 : 1);
}

void rowLabel(QPainter& painter, const QStyleOptionButton& button) {
    QRect room = button.rect.adjusted(4, 0, -4, 0);
    if (!button.icon.isNull()) {
        QRect picture(room.topLeft(), QSize(button.iconSize.width(), room.height()));
        button.icon.paint(&painter, picture, Qt::AlignCenter);
        room.setLeft(picture.right() + 5);
    }
    painter.setPen(button.palette.color(QPalette::ButtonText));
    painter.drawText(room, Qt::AlignVCenter | Qt::AlignLeft | Qt::TextShowMnemonic | Qt::TextSingleLine,
                     button.text);
}

void toolButton(QPainter& painter, const QStyleOption& option) {
    const bool enabled = option.state & QStyle::State_Enabled;
    const bool active = option.state & (QStyle::State_Sunken | QStyle::State_On);
    const bool focused =
        option.state & QStyle::State_HasFocus && option.state & QStyle::State_KeyboardFocusChange;
    if (enabled && (active || focused || option.state & QStyle::State_MouseOver))
        roundedBox(painter, option.rect, tint(option.palette, active ? 0.2 : 0.08),
                   focused ? accentOf(option.palette) : QColor());
}

QIcon titleSign(bool cross) {
    QPixmap pixmap(32, 32);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(QColor(0x85, 0x8B, 0x94), 1.5, Qt::SolidLine, Qt::RoundCap));
    if (cross) {
        painter.drawLine(QPointF(4.5, 4.5), QPointF(11.5, 11.5));
        painter.drawLine(QPointF(4.5, 11.5), QPointF(11.5, 4.5));
    } else {
        painter.drawRoundedRect(QRectF(4, 6.5, 6, 6), 1, 1);
        painter.drawPolyline(QPolygonF{{6.5, 4}, {12.5, 4}, {12.5, 10}});
    }
    painter.end();
    return pixmap;
}

void scrollBar(QPainter& painter, const QStyleOptionSlider& option, const QRect& slider) {
    painter.fillRect(option.rect, option.palette.color(QPalette::Window));
    if (option.maximum <= option.minimum)
        return;
    const bool held =
        option.activeSubControls & QStyle::SC_ScrollBarSlider && option.state & QStyle::State_Sunken;
    const bool hovered = option.state & QStyle::State_MouseOver;
    QColor colour = option.palette.color(QPalette::PlaceholderText);
    colour.setAlphaF(held ? 0.9F : hovered ? 0.7F : 0.4F);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    const QRectF bar = QRectF(slider).adjusted(2, 2, -2, -2);
    const double round = std::min(bar.width(), bar.height()) / 2;
    painter.drawRoundedRect(bar, round, round);
    painter.restore();
}

void tab(QPainter& painter, const QStyleOptionTab& option) {
    const bool chosen = option.state & QStyle::State_Selected;
    QRect rect = option.rect;
    if (!chosen && option.state & QStyle::State_MouseOver && option.state & QStyle::State_Enabled)
        painter.fillRect(rect, tint(option.palette, 0.06));
    if (chosen)
        painter.fillRect(QRect(rect.left() + 8, rect.bottom() - 1, rect.width() - 16, 2),
                         accentOf(option.palette));
}

void roundedBox(QPainter& painter, const QRect& rect, const QColor& fill, const QColor& edge, double width) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(fill);
    painter.setPen(edge.isValid() ? QPen(edge, width) : QPen(Qt::NoPen));
    const double inset = edge.isValid() ? width / 2 : 0;
    painter.drawRoundedRect(QRectF(rect).adjusted(inset, inset, -inset, -inset), corner, corner);
    painter.restore();
}

} // namespace underridge::app

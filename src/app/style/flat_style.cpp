// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/style/flat_style.h"

#include <QAbstractSpinBox>
#include <QApplication>
#include <QPainter>
#include <QPainterPath>
#include <QStyleFactory>
#include <QStyleOption>

namespace underridge::app {
namespace {

constexpr double corner = 6;
constexpr int fieldPadding = 6, menuArrow = 16;
constexpr int fieldHeight = 28, buttonHeight = 30, rowHeight = 26, headerHeight = 28, tabHeight = 32;

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

/// What lies under a pointer or is chosen: a tint, so that ink stays legible on it.
QColor tint(const QPalette& palette, double share) {
    return mixed(palette.color(QPalette::Base), accentOf(palette), share);
}

/// A field's frame: accent while it has the focus.
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

/// A flat button is a row of a list: its picture and its words from the left.
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

bool hasMenuArrow(const QStyleOption* option) {
    const auto* button = qstyleoption_cast<const QStyleOptionToolButton*>(option);
    return button && button->features & QStyleOptionToolButton::HasMenu &&
           !(button->features & QStyleOptionToolButton::MenuButtonPopup) && !button->text.isEmpty();
}

/// Signs of dock titles and of the button that empties a field, in a grey that stands out in both themes.
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

} // namespace

void roundedBox(QPainter& painter, const QRect& rect, const QColor& fill, const QColor& edge, double width) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(fill);
    painter.setPen(edge.isValid() ? QPen(edge, width) : QPen(Qt::NoPen));
    const double inset = edge.isValid() ? width / 2 : 0;
    painter.drawRoundedRect(QRectF(rect).adjusted(inset, inset, -inset, -inset), corner, corner);
    painter.restore();
}

FlatStyle::FlatStyle() : QProxyStyle(QStyleFactory::create(QStringLiteral("fusion"))) {}

int FlatStyle::pixelMetric(PixelMetric metric, const QStyleOption* option, const QWidget* widget) const {
    switch (metric) {
    case PM_ScrollBarExtent:
        return 10;
    case PM_ScrollBarSliderMin:
        return 28;
    case PM_DefaultFrameWidth:
        return 1;
    case PM_ButtonMargin:
        return 16;
    case PM_ButtonDefaultIndicator:
    case PM_ButtonShiftHorizontal:
    case PM_ButtonShiftVertical:
    case PM_TabBarBaseOverlap:
    case PM_TabBarTabShiftVertical:
    case PM_TabBarTabShiftHorizontal:
        return 0;
    case PM_IndicatorWidth:
    case PM_IndicatorHeight:
    case PM_ExclusiveIndicatorWidth:
    case PM_ExclusiveIndicatorHeight:
        return 16;
    case PM_CheckBoxLabelSpacing:
    case PM_RadioButtonLabelSpacing:
        return 8;
    case PM_LayoutLeftMargin:
    case PM_LayoutTopMargin:
    case PM_LayoutRightMargin:
    case PM_LayoutBottomMargin:
        return 12;
    case PM_LayoutHorizontalSpacing:
    case PM_LayoutVerticalSpacing:
        return 8;
    case PM_DockWidgetSeparatorExtent:
    case PM_SplitterWidth:
        return 4;
    case PM_HeaderMargin:
        return 8;
    case PM_FocusFrameHMargin:
    case PM_ToolBarItemMargin:
    case PM_ToolBarItemSpacing:
        return 6;
    default:
        return QProxyStyle::pixelMetric(metric, option, widget);
    }
}

int FlatStyle::styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                         QStyleHintReturn* returned) const {
    switch (hint) {
    case SH_Table_GridLineColor:
        return option ? static_cast<int>(
                            mixed(option->palette.color(QPalette::Base), edgeOf(option->palette), 0.4).rgb())
                      : 0;
    case SH_EtchDisabledText:
    case SH_DitherDisabledText:
    case SH_ComboBox_Popup:
    case SH_ScrollBar_Transient:
        return 0;
    case SH_DialogButtonBox_ButtonsHaveIcons:
        return 0;
    default:
        return QProxyStyle::styleHint(hint, option, widget, returned);
    }
}

void FlatStyle::polish(QWidget* widget) {
    QProxyStyle::polish(widget);
    // A spin box does not ask for its size here.
    if (qobject_cast<QAbstractSpinBox*>(widget) && widget->minimumHeight() == 0)
        widget->setMinimumHeight(fieldHeight);
}

QSize FlatStyle::sizeFromContents(ContentsType type, const QStyleOption* option, const QSize& size,
                                  const QWidget* widget) const {
    QSize out = QProxyStyle::sizeFromContents(type, option, size, widget);
    const auto atLeast = [&](int height) { out.setHeight(std::max(out.height(), height)); };
    switch (type) {
    case CT_PushButton:
        if (const auto* button = qstyleoption_cast<const QStyleOptionButton*>(option);
            !button || !(button->features & QStyleOptionButton::Flat))
            atLeast(buttonHeight);
        break;
    case CT_LineEdit:
    case CT_ComboBox:
    case CT_SpinBox:
        atLeast(fieldHeight);
        break;
    case CT_ItemViewItem:
        atLeast(rowHeight);
        break;
    case CT_HeaderSection:
        atLeast(headerHeight);
        break;
    case CT_TabBarTab:
        atLeast(tabHeight);
        break;
    case CT_ToolButton:
        if (hasMenuArrow(option))
            out.rwidth() += menuArrow;
        break;
    default:
        break;
    }
    return out;
}

QRect FlatStyle::subElementRect(SubElement element, const QStyleOption* option, const QWidget* widget) const {
    const QRect rect = QProxyStyle::subElementRect(element, option, widget);
    if (element == SE_LineEditContents)
        if (const auto* frame = qstyleoption_cast<const QStyleOptionFrame*>(option);
            frame && frame->lineWidth > 0)
            return rect.adjusted(fieldPadding, 0, -fieldPadding, 0);
    return rect;
}

QIcon FlatStyle::standardIcon(StandardPixmap which, const QStyleOption* option, const QWidget* widget) const {
    if (which == SP_TitleBarCloseButton || which == SP_TitleBarNormalButton ||
        which == SP_LineEditClearButton)
        return titleSign(which != SP_TitleBarNormalButton);
    return QProxyStyle::standardIcon(which, option, widget);
}

QRect FlatStyle::subControlRect(ComplexControl control, const QStyleOptionComplex* option, SubControl part,
                                const QWidget* widget) const {
    if (control == CC_ScrollBar) {
        const auto* bar = qstyleoption_cast<const QStyleOptionSlider*>(option);
        if (!bar)
            return QProxyStyle::subControlRect(control, option, part, widget);
        const bool across = bar->orientation == Qt::Horizontal;
        const int length = across ? bar->rect.width() : bar->rect.height();
        const int range = bar->maximum - bar->minimum;
        int slider = length;
        if (range > 0)
            slider = std::max(pixelMetric(PM_ScrollBarSliderMin, option, widget),
                              static_cast<int>(static_cast<qint64>(bar->pageStep) * length /
                                               (static_cast<qint64>(range) + bar->pageStep)));
        slider = std::min(slider, length);
        const int start = sliderPositionFromValue(bar->minimum, bar->maximum, bar->sliderPosition,
                                                  length - slider, bar->upsideDown);
        const auto along = [&](int from, int size) {
            const QRect rect =
                across ? QRect(from, 0, size, bar->rect.height()) : QRect(0, from, bar->rect.width(), size);
            return visualRect(bar->direction, bar->rect, rect.translated(bar->rect.topLeft()));
        };
        switch (part) {
        case SC_ScrollBarSlider:
            return along(start, slider);
        case SC_ScrollBarGroove:
            return bar->rect;
        case SC_ScrollBarSubPage:
            return along(0, start);
        case SC_ScrollBarAddPage:
            return along(start + slider, length - start - slider);
        default:
            return {}; // no arrows
        }
    }
    return QProxyStyle::subControlRect(control, option, part, widget);
}

void FlatStyle::drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                              const QWidget* widget) const {
    switch (element) {
    case PE_PanelButtonCommand:
        return pushButton(*painter, *option);
    case PE_PanelButtonTool:
        return toolButton(*painter, *option);
    case PE_PanelLineEdit:
    case PE_FrameLineEdit:
        if (const auto* frame = qstyleoption_cast<const QStyleOptionFrame*>(option);
            frame && frame->lineWidth > 0)
            fieldBox(*painter, option->rect, *option);
        else if (element == PE_PanelLineEdit)
            painter->fillRect(option->rect, option->palette.color(QPalette::Base));
        return;
    case PE_Frame:
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        painter->setBrush(Qt::NoBrush);
        painter->setPen(option->state & State_HasFocus && option->state & State_KeyboardFocusChange
                            ? accentOf(option->palette)
                            : edgeOf(option->palette));
        painter->drawRoundedRect(QRectF(option->rect).adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
        painter->restore();
        return;
    case PE_FrameTabBarBase:
    case PE_FrameTabWidget:
        painter->fillRect(QRect(option->rect.left(), option->rect.top(), option->rect.width(), 1),
                          edgeOf(option->palette));
        return;
    case PE_FrameFocusRect:
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        painter->setBrush(Qt::NoBrush);
        painter->setPen(accentOf(option->palette));
        painter->drawRoundedRect(QRectF(option->rect).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
        painter->restore();
        return;
    case PE_IndicatorCheckBox:
        return indicator(*painter, *option, false);
    case PE_IndicatorItemViewItemCheck:
        return indicator(*painter, *option, false);
    case PE_IndicatorRadioButton:
        return indicator(*painter, *option, true);
    case PE_IndicatorDockWidgetResizeHandle:
    case PE_FrameStatusBarItem:
    case PE_PanelStatusBar:
    case PE_FrameDockWidget:
        return;
    case PE_IndicatorHeaderArrow: {
        const auto* header = qstyleoption_cast<const QStyleOptionHeader*>(option);
        if (header && header->sortIndicator != QStyleOptionHeader::None)
            chevron(*painter, option->rect, option->palette.color(QPalette::PlaceholderText),
                    header->sortIndicator == QStyleOptionHeader::SortUp);
        return;
    }
    case PE_IndicatorArrowDown:
        return chevron(*painter, option->rect, option->palette.color(QPalette::PlaceholderText), false);
    case PE_IndicatorArrowUp:
        return chevron(*painter, option->rect, option->palette.color(QPalette::PlaceholderText), true);
    default:
        QProxyStyle::drawPrimitive(element, option, painter, widget);
    }
}

void FlatStyle::drawControl(ControlElement element, const QStyleOption* option, QPainter* painter,
                            const QWidget* widget) const {
    switch (element) {
    case CE_PushButtonLabel:
        if (const auto* button = qstyleoption_cast<const QStyleOptionButton*>(option);
            button && button->features & QStyleOptionButton::Flat)
            return rowLabel(*painter, *button);
        else if (button && button->features & QStyleOptionButton::DefaultButton &&
                 !(button->features & QStyleOptionButton::Flat) && button->state & State_Enabled) {
            QStyleOptionButton main(*button);
            main.palette.setColor(QPalette::ButtonText,
                                  main.palette.color(QPalette::Active, QPalette::HighlightedText));
            QProxyStyle::drawControl(element, &main, painter, widget);
            return;
        }
        break;
    case CE_ItemViewItem:
        if (const auto* item = qstyleoption_cast<const QStyleOptionViewItem*>(option)) {
            QStyleOptionViewItem quiet(*item);
            for (const auto group : {QPalette::Active, QPalette::Inactive}) {
                quiet.palette.setColor(group, QPalette::Highlight, tint(item->palette, 0.2));
                quiet.palette.setColor(group, QPalette::HighlightedText, item->palette.color(QPalette::Text));
            }
            QProxyStyle::drawControl(element, &quiet, painter, widget);
            return;
        }
        break;
    case CE_ComboBoxLabel:
        if (const auto* box = qstyleoption_cast<const QStyleOptionComboBox*>(option); box && !box->editable) {
            const QRect room = subControlRect(CC_ComboBox, box, SC_ComboBoxEditField, widget)
                                   .adjusted(fieldPadding, 0, 0, 0);
            drawItemText(
                painter, room, Qt::AlignVCenter | Qt::AlignLeft, box->palette, box->state & State_Enabled,
                box->fontMetrics.elidedText(box->currentText, Qt::ElideRight, room.width()), QPalette::Text);
            return;
        }
        break;
    case CE_DockWidgetTitle:
        if (const auto* title = qstyleoption_cast<const QStyleOptionDockWidget*>(option)) {
            const QRect room = option->rect.adjusted(12, 0, -48, 0);
            drawItemText(painter, room, Qt::AlignVCenter | Qt::AlignLeft, option->palette, true,
                         option->fontMetrics.elidedText(title->title, Qt::ElideRight, room.width()),
                         QPalette::PlaceholderText);
            return;
        }
        break;
    case CE_HeaderSection:
    case CE_HeaderEmptyArea:
        painter->fillRect(option->rect, option->palette.color(QPalette::Window));
        painter->fillRect(QRect(option->rect.left(), option->rect.bottom(), option->rect.width(), 1),
                          edgeOf(option->palette));
        return;
    case CE_HeaderLabel:
        if (const auto* header = qstyleoption_cast<const QStyleOptionHeader*>(option)) {
            QStyleOptionHeaderV2 quiet;
            if (const auto* second = qstyleoption_cast<const QStyleOptionHeaderV2*>(header))
                quiet = *second;
            else
                static_cast<QStyleOptionHeader&>(quiet) = *header;
            quiet.palette.setColor(QPalette::ButtonText, header->palette.color(QPalette::PlaceholderText));
            QProxyStyle::drawControl(element, &quiet, painter, widget);
            return;
        }
        break;
    case CE_TabBarTabShape:
        if (const auto* shape = qstyleoption_cast<const QStyleOptionTab*>(option))
            return tab(*painter, *shape);
        break;
    case CE_TabBarTabLabel:
        if (const auto* label = qstyleoption_cast<const QStyleOptionTab*>(option);
            label && !(label->state & State_Selected)) {
            QStyleOptionTab quiet(*label);
            quiet.palette.setColor(QPalette::WindowText, label->palette.color(QPalette::PlaceholderText));
            QProxyStyle::drawControl(element, &quiet, painter, widget);
            return;
        }
        break;
    case CE_Splitter:
        return;
    case CE_ToolBar:
        painter->fillRect(QRect(option->rect.left(), option->rect.bottom(), option->rect.width(), 1),
                          edgeOf(option->palette));
        return;
    case CE_MenuBarItem:
    case CE_MenuItem:
        if (const auto* item = qstyleoption_cast<const QStyleOptionMenuItem*>(option)) {
            QStyleOptionMenuItem quiet(*item);
            if (element == CE_MenuBarItem)
                painter->fillRect(option->rect, option->palette.color(QPalette::Window));
            if (item->state & State_Selected && item->menuItemType != QStyleOptionMenuItem::Separator) {
                roundedBox(*painter, option->rect.adjusted(2, 1, -2, -1), tint(item->palette, 0.2), {});
                quiet.state &= ~State_Selected;
                if (element == CE_MenuBarItem)
                    quiet.state &= ~(State_Sunken | State_HasFocus);
            }
            if (element == CE_MenuBarItem) {
                drawItemText(painter, option->rect,
                             Qt::AlignCenter | Qt::TextShowMnemonic | Qt::TextSingleLine, quiet.palette,
                             quiet.state & State_Enabled, quiet.text, QPalette::WindowText);
                return;
            }
            QProxyStyle::drawControl(element, &quiet, painter, widget);
            return;
        }
        break;
    case CE_MenuBarEmptyArea:
        painter->fillRect(option->rect, option->palette.color(QPalette::Window));
        return;
    default:
        break;
    }
    QProxyStyle::drawControl(element, option, painter, widget);
}

void FlatStyle::drawComplexControl(ComplexControl control, const QStyleOptionComplex* option,
                                   QPainter* painter, const QWidget* widget) const {
    switch (control) {
    case CC_ToolButton:
        if (hasMenuArrow(option)) {
            toolButton(*painter, *option);
            QStyleOptionToolButton label(*qstyleoption_cast<const QStyleOptionToolButton*>(option));
            label.features &= ~QStyleOptionToolButton::HasMenu;
            label.rect.adjust(2, 0, -menuArrow, 0);
            QProxyStyle::drawControl(CE_ToolButtonLabel, &label, painter, widget);
            chevron(*painter,
                    QRect(option->rect.right() - menuArrow, option->rect.top(), menuArrow - 4,
                          option->rect.height()),
                    option->palette.color(QPalette::PlaceholderText), false);
            return;
        }
        break;
    case CC_ScrollBar:
        if (const auto* bar = qstyleoption_cast<const QStyleOptionSlider*>(option))
            return scrollBar(*painter, *bar, subControlRect(control, option, SC_ScrollBarSlider, widget));
        break;
    case CC_ComboBox: {
        fieldBox(*painter, option->rect, *option);
        const QRect arrow = subControlRect(control, option, SC_ComboBoxArrow, widget);
        chevron(*painter, arrow.adjusted(-4, 0, -4, 0), option->palette.color(QPalette::PlaceholderText),
                false);
        return;
    }
    case CC_SpinBox:
        if (const auto* box = qstyleoption_cast<const QStyleOptionSpinBox*>(option)) {
            if (box->frame)
                fieldBox(*painter, option->rect, *option);
            for (const auto& [part, up] : {std::pair(SC_SpinBoxUp, true), std::pair(SC_SpinBoxDown, false)})
                chevron(*painter, subControlRect(control, option, part, widget),
                        option->palette.color(QPalette::PlaceholderText), up);
            return;
        }
        break;
    default:
        break;
    }
    QProxyStyle::drawComplexControl(control, option, painter, widget);
}

void useFlatStyle() {
    if (!qobject_cast<FlatStyle*>(QApplication::style()))
        QApplication::setStyle(new FlatStyle);
}

} // namespace underridge::app

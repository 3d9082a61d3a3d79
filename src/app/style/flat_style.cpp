// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/style/flat_style.h"

#include "app/style/drawing.h"

#include <QApplication>
#include <QPainter>
#include <QStyleFactory>
#include <QStyleOption>

namespace underridge::app {
namespace {

constexpr int fieldPadding = 6, menuArrow = 16;
constexpr int fieldHeight = 28, buttonHeight = 30, rowHeight = 26, headerHeight = 28, tabHeight = 32;

bool hasMenuArrow(const QStyleOption* option) {
    const auto* button = qstyleoption_cast<const QStyleOptionToolButton*>(option);
    return button && button->features & QStyleOptionToolButton::HasMenu &&
           !(button->features & QStyleOptionToolButton::MenuButtonPopup) && !button->text.isEmpty();
}

} // namespace

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
        atLeast(fieldHeight);
        break;
    case CT_SpinBox:
        out.setHeight(std::max(fieldHeight, option->fontMetrics.height() + 2 * fieldPadding));
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
    const QRect rect = QProxyStyle::subControlRect(control, option, part, widget);
    return control == CC_SpinBox && part == SC_SpinBoxEditField // its text where that of other fields is
               ? rect.adjusted(fieldPadding - 2, 0, 0, 0)
               : rect;
}

void FlatStyle::drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                              const QWidget* widget) const {
    switch (element) {
    case PE_PanelItemViewRow:
        return; // what is chosen is told by its item, not by the room before it
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

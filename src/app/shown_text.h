// SPDX-License-Identifier: GPL-3.0-or-later
// Texts of the core, which are UTF-8, as Qt's: the one way from there to the screen.
#pragma once
#include "core/model/length.h"

#include <QLocale>
#include <QString>
#include <string_view>

namespace underridge::app {

inline QString shownText(std::string_view utf8) {
    return QString::fromUtf8(utf8.data(), static_cast<qsizetype>(utf8.size()));
}

/// A length as it is written where the person lives: "22,5 m".
inline QString shownLength(std::int64_t mm, model::LengthUnit unit) {
    return shownText(model::lengthText(mm, unit)).replace(QLatin1Char('.'), QLocale().decimalPoint());
}

/// A text for places where & marks a key: menus, buttons, tabs.
inline QString asLabel(QString text) {
    return text.replace(QLatin1Char('&'), QStringLiteral("&&"));
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// Texts of the core, which are UTF-8, as Qt's: the one way from there to the screen; and
// those of app's own, translated, as the core's: names of acts, remarks.
#pragma once
#include "core/base/remark.h"
#include "core/model/length.h"
#include "paint/qt_text.h"

#include <QDate>
#include <QLocale>
#include <QRegularExpression>
#include <QString>
#include <string_view>

namespace underridge::app {

using paint::shownText;

inline std::string said(const QString& text) {
    return text.toStdString();
}

/// A length as it is written where the person lives: "22,5 m".
inline QString shownLength(std::int64_t mm, model::LengthUnit unit) {
    return shownText(model::lengthText(mm, unit)).replace(QLatin1Char('.'), QLocale().decimalPoint());
}

/// A date as it is written in full where the person lives, without the day of the week:
/// "27 November 2026".
inline QString shownDate(const QDate& date) {
    static const QRegularExpression weekday(QStringLiteral("\\s*,?\\s*dddd\\s*,?\\s*"));
    return QLocale().toString(date, QLocale().dateFormat(QLocale::LongFormat).remove(weekday));
}

/// A text for places where & marks a key: menus, buttons, tabs.
inline QString asLabel(QString text) {
    return text.replace(QLatin1Char('&'), QStringLiteral("&&"));
}

// Remarks that app makes say what is translated; a bare literal is refused by the
// compiler.
inline Remark error(const QString& what, const QString& remedy = {}, Where where = {}) {
    return underridge::error(said(what), said(remedy), std::move(where));
}
inline Remark warning(const QString& what, const QString& remedy = {}, Where where = {}) {
    return underridge::warning(said(what), said(remedy), std::move(where));
}
inline Remark advice(const QString& what, const QString& remedy = {}, Where where = {}) {
    return underridge::advice(said(what), said(remedy), std::move(where));
}
Remark error(const char* what, const char* remedy = {}, Where where = {}) = delete;
Remark warning(const char* what, const char* remedy = {}, Where where = {}) = delete;
Remark advice(const char* what, const char* remedy = {}, Where where = {}) = delete;

} // namespace underridge::app

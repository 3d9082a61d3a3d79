// SPDX-License-Identifier: GPL-3.0-or-later
// Texts of the core, which are UTF-8, as Qt's.
#pragma once
#include <QString>
#include <string_view>

namespace underridge::paint {

inline QString shownText(std::string_view utf8) {
    return QString::fromUtf8(utf8.data(), static_cast<qsizetype>(utf8.size()));
}

} // namespace underridge::paint

// SPDX-License-Identifier: GPL-3.0-or-later
// Tables as text: RFC 4180 with comma, semicolon or tab.
#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace underridge::exchange {

struct TextRow {
    int line = 0;                   ///< it begins in, from 1
    std::vector<std::string> cells; ///< at most 1,000
};

/// The rows of a table. An empty line between rows comes out as a row without cells.
std::vector<TextRow> readRows(std::string_view text, char separator);

/// The one of comma, semicolon and tab that is most frequent in the first line with
/// anything in it.
char separatorOf(std::string_view text);

/// A cell as it is written: in quotes where it holds a separator, a quote, a line end or
/// outer blanks.
std::string quoted(const std::string& cell);

} // namespace underridge::exchange

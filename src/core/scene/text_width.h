// SPDX-License-Identifier: GPL-3.0-or-later
// Widths of text in the sheet font, from a table, so that plates and labels are the same
// on every machine.
#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace underridge::scene {

/// The family every sheet is drawn in.
inline constexpr const char* sheetFont = "Inter";

enum class Weight { regular, semiBold };

/// In sheet units, for a font of `size` sheet units to the em.
double textWidth(std::string_view text, double size, Weight weight);

/// The text itself if it is no wider than `width`, else its start with an ellipsis; at
/// least the ellipsis.
std::string elided(std::string_view text, double size, Weight weight, double width);

} // namespace underridge::scene

// SPDX-License-Identifier: GPL-3.0-or-later
// Lengths as people write them. Kept in whole millimetres everywhere; 0: not known.
#pragma once
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace underridge::model {

enum class LengthUnit { metres, feet };

/// "22 m", "0.5 m", "72.2 ft": to a hundredth of a metre, a tenth of a foot.
std::string lengthText(std::int64_t mm, LengthUnit unit);

/// "22", "22 m", "22.5m", "1,5 km", "30 cm", "10 mm", "72 ft", "72'", "6 in" in
/// millimetres; a number without unit is in `plain`, an empty text is 0. Nothing when it
/// is no length from 0 to 1,000 km.
std::optional<std::int64_t> parseLength(std::string_view text, LengthUnit plain);

} // namespace underridge::model

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/length.h"

#include "core/base/text.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace underridge::model {
namespace {

constexpr double mmPerFoot = 304.8;
constexpr double longest = 1e9; // 1,000 km

struct Unit {
    std::string_view suffix;
    double mm;
};
/// Longer suffixes come before those they end with.
constexpr Unit units[] = {{"km", 1e6},       {"cm", 10},       {"mm", 1},    {"m", 1000},
                          {"ft", mmPerFoot}, {"'", mmPerFoot}, {"in", 25.4}, {"\"", 25.4}};

} // namespace

std::string lengthText(std::int64_t mm, LengthUnit unit) {
    const auto rounded = [](double value, double steps) { return std::round(value * steps) / steps; };
    const double value = static_cast<double>(mm);
    return unit == LengthUnit::feet ? fmt::format("{} ft", rounded(value / mmPerFoot, 10))
                                    : fmt::format("{} m", rounded(value / 1000, 100));
}

std::optional<std::int64_t> parseLength(std::string_view text, LengthUnit plain) {
    std::string typed = lowered(trimmed(text));
    if (typed.empty())
        return 0;
    double factor = plain == LengthUnit::feet ? mmPerFoot : 1000;
    for (const Unit& unit : units)
        if (typed.ends_with(unit.suffix)) {
            typed = trimmed(typed.substr(0, typed.size() - unit.suffix.size()));
            factor = unit.mm;
            break;
        }
    std::replace(typed.begin(), typed.end(), ',', '.');
    double value = 0;
    const auto [end, code] = std::from_chars(typed.data(), typed.data() + typed.size(), value);
    if (code != std::errc() || end != typed.data() + typed.size() || !std::isfinite(value) || value < 0 ||
        value * factor > longest)
        return std::nullopt;
    return std::llround(value * factor);
}

} // namespace underridge::model

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/text_width.h"

#include "core/base/text.h"

#include <algorithm>
#include <cstdint>
#include <iterator>

namespace underridge::scene {
namespace {

struct Advance {
    char32_t point;
    std::uint16_t regular, semiBold;
};

constexpr Advance table[] = {
#include "core/scene/advance_table.inc"
};

/// Wide scripts are drawn by a fall-back font at about one em.
constexpr int wideAdvance = 1000, otherAdvance = 600;

int advanceOf(char32_t point, Weight weight) {
    const auto* at = std::lower_bound(std::begin(table), std::end(table), point,
                                      [](const Advance& a, char32_t p) { return a.point < p; });
    if (at != std::end(table) && at->point == point)
        return weight == Weight::regular ? at->regular : at->semiBold;
    return point >= 0x1100 ? wideAdvance : otherAdvance;
}

} // namespace

double textWidth(std::string_view text, double size, Weight weight) {
    int sum = 0;
    forEachCodePoint(text, [&](char32_t point, std::size_t) { sum += advanceOf(point, weight); });
    return sum * size / 1000;
}

std::string elided(std::string_view text, double size, Weight weight, double width) {
    if (textWidth(text, size, weight) <= width)
        return std::string(text);
    const double room = width * 1000 / size - advanceOf(0x2026, weight);
    int sum = 0;
    std::size_t keep = 0;
    bool full = false;
    forEachCodePoint(text, [&](char32_t point, std::size_t offset) {
        if (full)
            return;
        sum += advanceOf(point, weight);
        full = sum > room;
        if (full)
            keep = offset;
    });
    return std::string(text.substr(0, keep)) + "…";
}

} // namespace underridge::scene

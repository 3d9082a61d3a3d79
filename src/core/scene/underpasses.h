// SPDX-License-Identifier: GPL-3.0-or-later
// Where lines of different media cross, one passes under the other: it is left out there for a
// little, so that the eye stays on its line.
#pragma once
#include "core/scene/items.h"

#include <unordered_map>

namespace underridge::scene {

/// Half of what is left out where lines cross at a right angle, in sheet units.
inline constexpr double underpassHalf = 5;

using Pieces = std::vector<std::vector<PointF>>;

/// What is drawn of those lines that pass under others, by id; of one that does not, there is nothing.
/// Lines cross that have neither a device in common nor the same form; the one whose form comes
/// later passes under, whatever order they are given in. At its own ends nothing is left out.
std::unordered_map<std::uint64_t, Pieces> passingUnder(const std::vector<const LinkLine*>& lines);

} // namespace underridge::scene

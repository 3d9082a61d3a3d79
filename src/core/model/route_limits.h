// SPDX-License-Identifier: GPL-3.0-or-later
// How far and how large cable routes may be: what acts refuse, and readers bring nearer.
#pragma once
#include <cstdint>

namespace underridge::model::routeLimits {

inline constexpr std::int64_t farthestMm = 10'000'000, highestMm = 100'000;
inline constexpr int leastMm = 5, mostMm = 5'000; ///< inside

} // namespace underridge::model::routeLimits

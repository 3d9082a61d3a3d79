// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures that go under a floor: what they are and how large, told from their bytes.
// They are kept as they came; decoding them is paint's work.
#pragma once
#include "core/base/result.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace underridge::exchange {

struct Picture {
    std::string media; ///< image/png, image/jpeg or image/svg+xml
    int width = 0;     ///< pixels; of a drawing, units of its view box
    int height = 0;
    std::string bytes;
};

inline constexpr std::size_t maxPictureBytes = 24U << 20U;
inline constexpr int maxPictureSide = 20'000;
inline constexpr std::int64_t maxPicturePixels = 100'000'000;

/// PNG (ISO/IEC 15948), JPEG (ISO/IEC 10918-1) or SVG. Refuses others, what is cut off
/// before its size is told, what is larger than the limits above, and drawings that are
/// no well-formed XML or refer to anything outside themselves.
Result<Picture> readPicture(std::string bytes, const std::string& file);

/// RFC 4648 section 4.
std::string toBase64(std::string_view bytes);
/// Nothing when it is none.
std::optional<std::string> fromBase64(std::string_view text);

} // namespace underridge::exchange

// SPDX-License-Identifier: GPL-3.0-or-later
// Where in a JSON text its values stand. The parser tells places of syntax errors only, so the places of what
// was remarked are found afterwards, in one pass for all of them.
#pragma once
#include "core/exchange/decoding.h"

#include <nlohmann/json.hpp>

namespace underridge::exchange {

/// Refuses text that is not JSON, with line and column, or that is nested deeper than maxJsonDepth.
Result<nlohmann::json> parseJson(std::string_view text, const std::string& file);

/// Line and column of each value named by a JSON pointer (RFC 6901); those not found keep line 0.
std::map<std::string, Where> placesOf(std::string_view text, const std::string& file,
                                      const std::vector<std::string>& pointers);

} // namespace underridge::exchange

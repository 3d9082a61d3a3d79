// SPDX-License-Identifier: GPL-3.0-or-later
// JSON to be written that holds numbers exactly as they were read, of whatever size.
#pragma once
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

namespace underridge::exchange {

/// In it, a number that its library would not give back digit by digit is a marked text.
using ExactJson = nlohmann::ordered_json;

/// Null for what is not JSON, and for nothing.
ExactJson exactJson(std::string_view text);
/// Indented by one, with the numbers as they were. Text that is not UTF-8 is replaced.
std::string exactText(const ExactJson& json);

} // namespace underridge::exchange

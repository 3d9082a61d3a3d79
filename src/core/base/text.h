// SPDX-License-Identifier: GPL-3.0-or-later
// Small helpers on UTF-8 text.
#pragma once
#include <cstdint>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace underridge {

/// Calls `each` with every code point of `text`; a byte that is not valid UTF-8 counts as
/// U+FFFD.
void forEachCodePoint(std::string_view text, const std::function<void(char32_t, std::size_t offset)>& each);

bool isValidUtf8(std::string_view text);

std::string trimmed(std::string_view text);

/// ASCII letters in lower case; other characters as they are.
std::string lowered(std::string_view text);

std::vector<std::string> splitWords(std::string_view text);

/// Whether every word of `query` occurs somewhere in `text`, not regarding case. An empty
/// query matches.
bool matchesWords(std::string_view text, std::string_view query);

/// Appends a text so that texts put together this way are the same only when each of them
/// is: its length goes before it.
void appendCounted(std::string& whole, std::string_view text);

/// Order of names as people sort them: digits by value, letters not regarding case
/// ("acc-2" before "acc-10").
bool naturalLess(std::string_view a, std::string_view b);

/// FNV-1a, 64 bits (Fowler, Noll, Vo).
constexpr std::uint64_t fnv1a(std::string_view text) {
    std::uint64_t hash = 14695981039346656037ULL;
    for (const char c : text)
        hash = (hash ^ static_cast<unsigned char>(c)) * 1099511628211ULL;
    return hash;
}

} // namespace underridge

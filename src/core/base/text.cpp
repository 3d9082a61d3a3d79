// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"

#include <algorithm>
#include <simdjson.h>

namespace underridge {
namespace {

/// One character; of what is not UTF-8, one byte as U+FFFD.
struct Decoded {
    char32_t point = 0xFFFD;
    std::size_t length = 1;
};

Decoded decode(std::string_view text, std::size_t at) {
    const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[i]); };
    const unsigned char first = byte(at);
    if (first < 0x80)
        return {first, 1};
    const std::size_t length = first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : 2;
    if (first < 0xC2 || first > 0xF4 || at + length > text.size())
        return {};
    char32_t point = first & (0xFF >> (length + 1));
    for (std::size_t i = 1; i < length; ++i) {
        if ((byte(at + i) & 0xC0) != 0x80)
            return {};
        point = (point << 6) | (byte(at + i) & 0x3F);
    }
    const char32_t smallest[] = {0, 0, 0x80, 0x800, 0x10000};
    if (point < smallest[length] || point > 0x10FFFF || (point >= 0xD800 && point <= 0xDFFF))
        return {};
    return {point, length};
}

bool isDigit(char c) {
    return c >= '0' && c <= '9';
}

} // namespace

void forEachCodePoint(std::string_view text, const std::function<void(char32_t, std::size_t)>& each) {
    for (std::size_t at = 0; at < text.size();) {
        const Decoded d = decode(text, at);
        each(d.point, at);
        at += d.length;
    }
}

bool isValidUtf8(std::string_view text) {
    return simdjson::validate_utf8(text.data(), text.size());
}

std::string trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos)
        return {};
    return std::string(text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1));
}

std::string lowered(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        if (c >= 'A' && c <= 'Z')
            c = static_cast<char>(c - 'A' + 'a');
    return out;
}

std::vector<std::string> splitWords(std::string_view text) {
    std::vector<std::string> words;
    for (std::size_t at = text.find_first_not_of(" \t"); at != std::string_view::npos;) {
        const std::size_t end = text.find_first_of(" \t", at);
        words.emplace_back(text.substr(at, end - at));
        at = end == std::string_view::npos ? end : text.find_first_not_of(" \t", end);
    }
    return words;
}

bool matchesWords(std::string_view text, std::string_view query) {
    const std::string low = lowered(text);
    const auto words = splitWords(lowered(query));
    return std::all_of(words.begin(), words.end(),
                       [&](const std::string& word) { return low.find(word) != std::string::npos; });
}

void appendCounted(std::string& whole, std::string_view text) {
    whole += std::to_string(text.size());
    whole += ':';
    whole += text;
}

bool naturalLess(std::string_view a, std::string_view b) {
    std::size_t i = 0, j = 0;
    const std::string x = lowered(a), y = lowered(b);
    while (i < x.size() && j < y.size()) {
        if (isDigit(x[i]) && isDigit(y[j])) {
            const auto skipZeros = [](const std::string& s, std::size_t at) {
                while (at + 1 < s.size() && s[at] == '0' && isDigit(s[at + 1]))
                    ++at;
                return at;
            };
            const std::size_t i0 = skipZeros(x, i), j0 = skipZeros(y, j);
            std::size_t i1 = i0, j1 = j0;
            while (i1 < x.size() && isDigit(x[i1]))
                ++i1;
            while (j1 < y.size() && isDigit(y[j1]))
                ++j1;
            if (i1 - i0 != j1 - j0)
                return i1 - i0 < j1 - j0;
            if (const int order = x.compare(i0, i1 - i0, y, j0, j1 - j0); order != 0)
                return order < 0;
            i = i1;
            j = j1;
        } else {
            if (x[i] != y[j])
                return static_cast<unsigned char>(x[i]) < static_cast<unsigned char>(y[j]);
            ++i;
            ++j;
        }
    }
    if (x.size() - i != y.size() - j)
        return x.size() - i < y.size() - j;
    return a < b;
}

} // namespace underridge

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/decoding.h"

#include "core/base/text.h"

#include <algorithm>
#include <cerrno>
#include <fmt/format.h>
#include <iconv.h>

namespace underridge::exchange {
namespace {

struct Bom {
    std::string_view bytes;
    const char* encoding;
};

/// The longer marks come first: UTF-32LE begins as UTF-16LE does.
const Bom boms[] = {{{"\xFF\xFE\x00\x00", 4}, "UTF-32LE"},
                    {{"\x00\x00\xFE\xFF", 4}, "UTF-32BE"},
                    {{"\xEF\xBB\xBF", 3}, "UTF-8"},
                    {{"\xFF\xFE", 2}, "UTF-16LE"},
                    {{"\xFE\xFF", 2}, "UTF-16BE"}};

/// What begins with '<' and no byte order mark shows its width by the zero bytes around
/// it (XML 1.0, appendix F).
const Bom bareStarts[] = {{{"<\0\0\0", 4}, "UTF-32LE"},
                          {{"\0\0\0<", 4}, "UTF-32BE"},
                          {{"<\0", 2}, "UTF-16LE"},
                          {{"\0<", 2}, "UTF-16BE"}};

int lineOf(std::string_view text, std::size_t offset) {
    return 1 + static_cast<int>(std::count(
                   text.begin(), text.begin() + static_cast<std::ptrdiff_t>(std::min(offset, text.size())),
                   '\n'));
}

Result<std::string> convert(std::string_view bytes, const std::string& encoding, const std::string& file) {
    const iconv_t converter = iconv_open("UTF-8", encoding.c_str());
    if (converter == reinterpret_cast<iconv_t>(-1))
        return error(fmt::format("the encoding {} is not known", encoding.substr(0, 40)),
                     "save the file as UTF-8", {file, 1, 1, {}});
    std::string out;
    std::string chunk(1 << 16, '\0');
    char* in = const_cast<char*>(bytes.data()); // iconv's signature; it does not write there
    std::size_t left = bytes.size();
    while (left > 0) {
        char* to = chunk.data();
        std::size_t room = chunk.size();
        const auto done = iconv(converter, &in, &left, &to, &room);
        out.append(chunk.data(), chunk.size() - room);
        if (done == static_cast<std::size_t>(-1) && errno != E2BIG) {
            iconv_close(converter);
            return error(fmt::format("the text is not valid {}", encoding), "save the file as UTF-8",
                         {file, lineOf(out, out.size()), 1, {}});
        }
    }
    iconv_close(converter);
    return out;
}

Result<std::string> asUtf8(std::string_view bytes, const std::string& encoding, const std::string& file) {
    if (encoding != "UTF-8")
        return convert(bytes, encoding, file);
    if (isValidUtf8(bytes))
        return std::string(bytes);
    const std::size_t bad = [&] {
        std::size_t at = bytes.size();
        forEachCodePoint(bytes, [&](char32_t c, std::size_t offset) {
            if (c == 0xFFFD && at == bytes.size() && bytes.substr(offset, 3) != "\xEF\xBF\xBD")
                at = offset;
        });
        return at;
    }();
    return error("the text is not valid UTF-8", "save the file as UTF-8, or state its encoding",
                 {file, lineOf(bytes, bad), 1, {}});
}

std::string upper(std::string text) {
    for (char& c : text)
        if (c >= 'a' && c <= 'z')
            c = static_cast<char>(c - 'a' + 'A');
    return text;
}

/// What the XML declaration says, in upper case; UTF-8 when it says nothing.
std::string declaredEncoding(std::string_view bytes) {
    if (!bytes.starts_with("<?xml"))
        return "UTF-8";
    const auto declaration = bytes.substr(0, std::min(bytes.find("?>"), std::size_t{400}));
    auto at = declaration.find("encoding");
    if (at == std::string_view::npos)
        return "UTF-8";
    at = declaration.find_first_of("\"'", at);
    if (at == std::string_view::npos)
        return "UTF-8";
    const auto end = declaration.find(declaration[at], at + 1);
    if (end == std::string_view::npos)
        return "UTF-8";
    return upper(std::string(declaration.substr(at + 1, end - at - 1)));
}

Result<std::string> checkSize(std::string_view bytes, const std::string& file) {
    if (bytes.size() > maxForeignBytes)
        return error(fmt::format("the file is larger than {} MB", maxForeignBytes >> 20), "split it",
                     {file, 0, 0, {}});
    return std::string();
}

} // namespace

Result<std::string> decodeXml(std::string_view bytes, const std::string& file) {
    if (auto fits = checkSize(bytes, file); !fits)
        return fits.refusal();
    for (const Bom& bom : boms)
        if (bytes.starts_with(bom.bytes))
            return asUtf8(bytes.substr(bom.bytes.size()), bom.encoding, file);
    for (const Bom& start : bareStarts)
        if (bytes.starts_with(start.bytes))
            return asUtf8(bytes, start.encoding, file);
    return asUtf8(bytes, declaredEncoding(bytes), file);
}

Result<std::string> decodeText(std::string_view bytes, const std::string& file,
                               std::vector<Remark>& remarks) {
    if (auto fits = checkSize(bytes, file); !fits)
        return fits.refusal();
    for (const Bom& bom : boms)
        if (bytes.starts_with(bom.bytes))
            return asUtf8(bytes.substr(bom.bytes.size()), bom.encoding, file);
    if (isValidUtf8(bytes))
        return std::string(bytes);
    auto text = convert(bytes, "WINDOWS-1252", file);
    if (text)
        remarks.push_back(
            advice("the text is not UTF-8 and was read as Windows-1252", "check names with accents", {file}));
    return text;
}

Lines::Lines(std::string_view text) {
    starts_.push_back(0);
    for (std::size_t at = text.find('\n'); at != std::string_view::npos; at = text.find('\n', at + 1))
        starts_.push_back(at + 1);
}

Where Lines::at(const std::string& file, std::size_t offset) const {
    const auto after = std::upper_bound(starts_.begin(), starts_.end(), offset);
    const auto line = after - starts_.begin();
    return {file, static_cast<int>(line), static_cast<int>(offset - *(after - 1)) + 1, {}};
}

void Remarks::add(Remark remark) {
    if (out_.size() < maxRemarks)
        out_.push_back(std::move(remark));
    else
        ++passedOver_;
}

Remarks::~Remarks() {
    if (passedOver_ > 0)
        out_.push_back(advice(fmt::format("{} further remarks are not listed", passedOver_)));
}

} // namespace underridge::exchange

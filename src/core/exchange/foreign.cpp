// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/foreign.h"

#include "core/exchange/workbook.h"

#include <array>
#include <fmt/format.h>

namespace underridge::exchange {
namespace {

struct Entry {
    Format format;
    std::string_view text, title;
    std::array<std::string_view, 2> suffixes;
};

constexpr Entry entries[] = {{Format::own, "underridge", "Underridge network", {".underridge", ""}},
                             {Format::rfc8345, "rfc8345", "RFC 8345 JSON", {".json", ""}},
                             {Format::graphml, "graphml", "GraphML", {".graphml", ".xml"}},
                             {Format::csv, "csv", "CSV", {".csv", ".tsv"}},
                             {Format::xlsx, "xlsx", "Spreadsheet workbook", {".xlsx", ""}}};

/// The first byte that says something: past byte order marks, zero bytes of wide
/// encodings and spaces.
char firstSign(std::string_view bytes) {
    for (const char c : bytes.substr(0, 4096)) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte == 0 || byte == 0xEF || byte == 0xBB || byte == 0xBF || byte == 0xFE || byte == 0xFF ||
            c == ' ' || c == '\t' || c == '\r' || c == '\n')
            continue;
        return c;
    }
    return '\0';
}

bool looksLikeTable(std::string_view bytes) {
    const auto start = std::min(bytes.find_first_not_of("\r\n "), bytes.size());
    const auto line = bytes.substr(start, std::min(bytes.find('\n', start), start + 4096) - start);
    return line.find_first_of(",;\t") != std::string_view::npos;
}

} // namespace

std::string_view textOf(Format format) {
    return entries[static_cast<std::size_t>(format)].text;
}

std::string_view titleOf(Format format) {
    return entries[static_cast<std::size_t>(format)].title;
}

std::optional<Format> formatFromText(std::string_view text) {
    for (const Entry& entry : entries)
        if (entry.text == text)
            return entry.format;
    return std::nullopt;
}

std::optional<Format> formatFromSuffix(std::string_view path) {
    const std::string lower = lowered(path);
    for (const Entry& entry : entries)
        for (const std::string_view suffix : entry.suffixes)
            if (!suffix.empty() && lower.ends_with(suffix))
                return entry.format;
    return std::nullopt;
}

std::optional<Format> formatOf(std::string_view bytes) {
    if (isOwn(bytes))
        return Format::own;
    if (isWorkbook(bytes))
        return Format::xlsx;
    switch (firstSign(bytes)) {
    case '{':
        return Format::rfc8345;
    case '<':
        return Format::graphml;
    case '\0':
        return std::nullopt;
    default:
        return looksLikeTable(bytes) ? std::optional(Format::csv) : std::nullopt;
    }
}

Result<Loaded> readAny(std::string_view bytes, const Source& source, std::optional<Format> as) {
    if (bytes.empty())
        return error("the file is empty", "choose another file", {source.file, 1, 1});
    const auto format = as ? as : formatOf(bytes);
    if (!format)
        return error("the format is not known",
                     "give an Underridge network, RFC 8345 JSON, GraphML, CSV or a workbook",
                     {source.file, 1, 1});
    switch (*format) {
    case Format::own:
        return readOwn(bytes, source.file);
    case Format::rfc8345:
        return readRfc8345(bytes, source);
    case Format::graphml:
        return readGraphml(bytes, source);
    case Format::csv:
        return readCsv(bytes, source);
    case Format::xlsx:
        return readXlsx(bytes, source);
    }
    return error("the format is not known");
}

Written write(const model::Network& network, Format format, Tables tables) {
    switch (format) {
    case Format::own:
        return {writeOwn(network), {}};
    case Format::rfc8345:
        return writeRfc8345(network);
    case Format::graphml:
        return writeGraphml(network);
    case Format::csv:
        return writeCsv(network, tables);
    case Format::xlsx:
        return writeXlsx(network, tables);
    }
    return {};
}

} // namespace underridge::exchange

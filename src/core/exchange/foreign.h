// SPDX-License-Identifier: GPL-3.0-or-later
// Networks in open formats, in and out, told by content. docs/exchange.md says what of
// each is understood.
#pragma once
#include "core/exchange/building.h"

#include <optional>
#include <span>

namespace underridge::exchange {

enum class Format { own, rfc8345, graphml, csv, xlsx };

/// "underridge", "rfc8345", "graphml", "csv".
std::string_view textOf(Format format);
/// "RFC 8345 JSON": as shown.
std::string_view titleOf(Format format);
std::optional<Format> formatFromText(std::string_view text);
/// By the suffix of a file name: .underridge, .json, .graphml, .csv.
std::optional<Format> formatFromSuffix(std::string_view path);
/// By content, whatever the file is called; nothing when it is none of them.
std::optional<Format> formatOf(std::string_view bytes);

struct Written {
    std::string bytes;
    std::vector<Remark> remarks; ///< what the format cannot hold
};

struct UpperLayer;

/// RFC 8345 in the JSON encoding of RFC 7951, with RFC 8346 layer 3 and RFC 8944 layer 2
/// attributes. `above`: networks that follow that of a network drawn here; one that was read
/// has its own.
Result<Loaded> readRfc8345(std::string_view bytes, const Source& source);
Written writeRfc8345(const model::Network& network, std::span<const UpperLayer> above = {});

/// GraphML (graphml.graphdrawing.org): keys with types and defaults, nested graphs,
/// ports.
Result<Loaded> readGraphml(std::string_view bytes, const Source& source);
Written writeGraphml(const model::Network& network);

/// Which tables a CSV text holds; both: devices, an empty line, links.
enum class Tables { both, devices, links };

/// RFC 4180 with columns by name, separated by comma, semicolon or tab.
Result<Loaded> readCsv(std::string_view bytes, const Source& source);
/// The same tables as worksheets of a workbook.
Result<Loaded> readXlsx(std::string_view bytes, const Source& source);
Written writeXlsx(const model::Network& network, Tables tables = Tables::both);
Written writeCsv(const model::Network& network, Tables tables = Tables::both);

/// Reads whatever it is. Refuses bytes of no known format, and those of another format
/// than `as`.
Result<Loaded> readAny(std::string_view bytes, const Source& source, std::optional<Format> as = std::nullopt);
/// Of what is drawn alone; analysis::written() adds what follows from it.
Written write(const model::Network& network, Format format, Tables tables = Tables::both);

} // namespace underridge::exchange

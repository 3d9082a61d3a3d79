// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/own_format.h"

#include "core/base/text.h"
#include "core/exchange/mending.h"
#include "core/exchange/record_json.h"

#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
namespace {

constexpr std::string_view signature = "{\"underridge\":";

Result<Done> checkHeader(std::string_view line, const std::string& file) {
    const Where where{file, 1, 1, {}};
    const auto json = JsonText::parse(std::string(line), file);
    const auto version = json ? json->root()["underridge"].integer() : std::nullopt;
    if (!version)
        return error("the file is not an Underridge network", "choose another file", where);
    if (*version < 1 || *version > formatVersion)
        return error(fmt::format("the file has format version {}, this program reads up to {}", *version,
                                 formatVersion),
                     "open it with a newer version", where);
    return Done{};
}

} // namespace

std::string writeOwn(const Network& network) {
    std::string out = fmt::format("{}{}}}\n", signature, formatVersion);
    network.forEachTable([&]<class Record, std::size_t n>(const Table<Record, n>& table) {
        table.forEach([&](const Record& record) {
            out += lineOf(record);
            out += '\n';
        });
    });
    return out;
}

bool isOwn(std::string_view bytes) {
    return bytes.starts_with(signature);
}

Result<Loaded> readOwn(std::string_view given, const std::string& file) {
    std::string padded;
    padded.reserve(given.size() + JsonReader::padding);
    const std::string_view bytes = padded = given;
    JsonReader reader(maxOwnDepth);
    Loaded loaded;
    int number = 0;
    std::size_t at = 0;
    while (at < bytes.size()) {
        const std::size_t end = std::min(bytes.find('\n', at), bytes.size());
        std::string_view line = bytes.substr(at, end - at);
        at = end + 1;
        ++number;
        if (line.ends_with('\r'))
            line.remove_suffix(1);
        const Where where{file, number, 1, {}};
        if (number == 1) {
            if (auto header = checkHeader(line, file); !header)
                return header.refusal();
            continue;
        }
        if (line.empty())
            continue;
        if (auto put = putLine(loaded.network, reader, line, where); !put)
            return put.refusal();
    }
    if (number == 0)
        return error("the file is empty", "choose another file", {file, 1, 1, {}});
    if (!loaded.network.info().id)
        return error("the file has no network record; it may have been cut off", "restore it from a copy",
                     {file, number, 1, {}});
    mend(loaded.network, file, loaded.remarks);
    return loaded;
}

} // namespace underridge::exchange

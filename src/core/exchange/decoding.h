// SPDX-License-Identifier: GPL-3.0-or-later
// Bytes of a foreign file to UTF-8 text, and the limits every reader keeps.
// docs/exchange.md states them.
#pragma once
#include "core/base/result.h"

#include <string>
#include <string_view>
#include <vector>

namespace underridge::exchange {

inline constexpr std::size_t maxForeignBytes = 256 << 20;
inline constexpr int maxJsonDepth = 500;
inline constexpr int maxXmlDepth = 500;
/// Past this many a reader goes on, but counts the remarks instead of keeping them.
inline constexpr std::size_t maxRemarks = 1000;

/// Names of encodings are those of IANA. XML states its own in the declaration; UTF-8 and
/// UTF-16 are told by their byte order mark. Refuses bytes that the encoding cannot hold,
/// with the line.
Result<std::string> decodeXml(std::string_view bytes, const std::string& file);

/// Text without a declaration: a byte order mark decides, else UTF-8, else Windows-1252
/// with a remark.
Result<std::string> decodeText(std::string_view bytes, const std::string& file, std::vector<Remark>& remarks);

/// Line and column (from 1, in bytes) of offsets in a text.
class Lines {
public:
    explicit Lines(std::string_view text);
    Where at(const std::string& file, std::size_t offset) const;

private:
    std::vector<std::size_t> starts_;
};

/// Collects remarks and stops keeping them after maxRemarks.
class Remarks {
public:
    explicit Remarks(std::vector<Remark>& out) : out_(out) {}
    ~Remarks();
    Remarks(const Remarks&) = delete;
    Remarks& operator=(const Remarks&) = delete;
    void add(Remark remark);

private:
    std::vector<Remark>& out_;
    std::size_t passedOver_ = 0;
};

} // namespace underridge::exchange

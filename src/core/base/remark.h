// SPDX-License-Identifier: GPL-3.0-or-later
// What was noticed while reading, editing or checking: a value with a place, never an
// exception.
#pragma once
#include <cstdint>
#include <string>

namespace underridge {

enum class Severity { error, warning, advice };

/// Where a remark points: a place in a file, an object of the network, or both. Lines and
/// columns count from 1; 0 means not known.
struct Where {
    std::string file = {};
    int line = 0;
    int column = 0;
    std::string object = {};
    std::uint64_t id = 0; ///< of that object, when it has one in the network; not shown

    bool operator==(const Where&) const = default;
};

struct Remark {
    Severity severity = Severity::error;
    std::string what;   ///< What is wrong, as the start of a sentence without a full stop.
    std::string remedy; ///< What to do about it; may be empty.
    Where where;

    bool operator==(const Remark&) const = default;

    /// "FILE:LINE:COLUMN: what is wrong; what to do", leaving out what is not known.
    std::string text() const;
};

Remark error(std::string what, std::string remedy = {}, Where where = {});
Remark warning(std::string what, std::string remedy = {}, Where where = {});
Remark advice(std::string what, std::string remedy = {}, Where where = {});

} // namespace underridge

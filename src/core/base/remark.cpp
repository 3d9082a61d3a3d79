// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/remark.h"

namespace underridge {

std::string Remark::text() const {
    std::string out = where.file;
    if (where.line > 0)
        out += ":" + std::to_string(where.line);
    if (where.column > 0)
        out += ":" + std::to_string(where.column);
    if (!out.empty())
        out += ": ";
    if (!where.object.empty())
        out += where.object + ": ";
    out += what;
    if (!remedy.empty())
        out += "; " + remedy;
    return out;
}

Remark error(std::string what, std::string remedy, Where where) {
    return {Severity::error, std::move(what), std::move(remedy), std::move(where)};
}

Remark warning(std::string what, std::string remedy, Where where) {
    return {Severity::warning, std::move(what), std::move(remedy), std::move(where)};
}

Remark advice(std::string what, std::string remedy, Where where) {
    return {Severity::advice, std::move(what), std::move(remedy), std::move(where)};
}

} // namespace underridge

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_remarks.h"

#include "core/exchange/rfc8345_members.h"

#include <algorithm>
#include <fmt/format.h>

namespace underridge::exchange::rfc8345 {

void DocumentRemarks::warn(std::string what, std::string remedy, JsonView at, std::string object) {
    Where where = this->where(at);
    where.object = std::move(object);
    remarks_.add({Severity::warning, std::move(what), std::move(remedy), std::move(where)});
}

void DocumentRemarks::strangers(JsonView object, std::initializer_list<std::string_view> names) {
    object.forEachMember([&](std::string_view key, JsonView value) {
        const auto colon = key.find(':');
        if (colon == std::string_view::npos)
            return;
        const std::string_view module = key.substr(0, colon), name = key.substr(colon + 1);
        if (std::find(names.begin(), names.end(), name) != names.end() && !isMember(key, nw, name) &&
            !isMember(key, nt, name))
            warn(fmt::format("\"{}\" is of the module {}; it is kept, not read", name, module.substr(0, 60)),
                 "correct its prefix if the standard's is meant", value);
    });
}

} // namespace underridge::exchange::rfc8345

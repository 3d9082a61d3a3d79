// SPDX-License-Identifier: GPL-3.0-or-later
// What `underridge list` prints.
#pragma once
#include "core/edit/script/script.h"
#include "core/model/network.h"

#include <nlohmann/json.hpp>

namespace underridge::cli {

using Json = nlohmann::ordered_json;

const std::vector<std::string>& listable();

/// What is asked of `list`.
struct Listed {
    std::string what;
    std::string sheet; ///< by name, for positions; empty: the first
    std::string where; ///< a filter; empty: everything
};

/// Refuses what cannot be listed, sheets that are not there, and filters that cannot be
/// read. `catalogue`: for what the checks report.
Result<Json> listing(const model::Network& network, const model::Catalogue& catalogue, const Listed& wanted);

/// The same as lines of text, columns separated by tabs.
std::string asText(const Json& listed);

Json remarksJson(const std::vector<Remark>& remarks);

/// What acts made, line by line.
Json appliedJson(const edit::Script& script);
std::string appliedText(const edit::Script& script);

/// A group by name or id. Refuses a name that several have.
Result<model::GroupId> groupNamed(const model::Network& network, const std::string& name);

/// A sheet by name; the first when the name is empty.
Result<model::SheetId> sheetNamed(const model::Network& network, const std::string& name);

} // namespace underridge::cli

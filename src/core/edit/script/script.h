// SPDX-License-Identifier: GPL-3.0-or-later
// Acts written as text, one JSON object a line: what scripts and `underridge apply` do by
// the same functions as the window. docs/acts.md describes every one.
#pragma once
#include "core/edit/act.h"

#include <functional>

namespace underridge::edit {

/// What one line made or changed.
struct Applied {
    int line = 0; ///< from 1
    std::string act;
    Refs objects;
};

struct Script {
    model::Network network;
    std::vector<Applied> lines;
};

/// How acts get at a file they name.
using ReadFile = std::function<Result<std::string>(const std::string& path)>;

/// Does all acts of a text, in order; all or nothing. Empty lines count but do nothing. A
/// refusal names `file`, line and column, what is wrong and what to do. Without `readFile`
/// acts that name a file are refused.
Result<Script> applyActs(const model::Network& network, const model::Catalogue& catalogue,
                         std::string_view text, const std::string& file, model::IdSource& ids,
                         const ReadFile& readFile = {});

/// The names of all acts, in the order they are documented.
std::vector<std::string> actNames();

} // namespace underridge::edit

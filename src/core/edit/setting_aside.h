// SPDX-License-Identifier: GPL-3.0-or-later
// Leaving findings as they are, with a reason.
#pragma once
#include "core/edit/act.h"
#include "core/linking/rules.h"

#include <span>

namespace underridge::edit {

/// Why findings are set aside, and how long.
struct Aside {
    std::string reason;
    std::string date;  ///< today, ISO 8601: 2026-11-29
    std::string until; ///< the last day; empty: no end
};

/// Whether it is a day as ISO 8601 writes it: 2026-11-29.
bool isDay(std::string_view text);

/// Sets findings aside, in the place of a record of the same rule and objects. Refuses
/// when there is no reason, and days that are none or over.
ActResult setAside(const model::Network& network, std::span<const linking::Finding> findings,
                   const Aside& aside, model::IdSource& ids);
/// The same of one rule and what it is about; objects that are not there are refused.
ActResult setAside(const model::Network& network, const std::string& rule,
                   std::vector<model::ObjectRef> subjects, const Aside& aside, model::IdSource& ids);

/// The records that set what a rule finds of these objects aside, in whatever order these
/// stand: an import gives them other ids.
std::vector<model::SetAsideId> setAsideOf(const model::Network& network, const std::string& rule,
                                          const std::vector<model::ObjectRef>& subjects);

/// Findings count again. Refuses when one of the records is no longer there.
ActResult countAgain(const model::Network& network, std::span<const model::SetAsideId> records);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// Findings for other programs and for people elsewhere.
#pragma once
#include "core/analysis/set_aside.h"

#include <nlohmann/json.hpp>

namespace underridge::analysis {

/// "error", "warning", "advice".
std::string_view textOf(Severity severity);
/// What an object is called; empty when it has no name.
std::string nameOf(const model::Network& network, const model::ObjectRef& object);

/// {findings: [{code, severity, message, remedy, source, subjects [{kind, id, name}]}],
/// setAside: [the same, and reason, date, until]}.
nlohmann::ordered_json findingsJson(const model::Network& network, const Sifted& findings);
/// RFC 4180, with a line of titles; those set aside last, with the reason.
std::string findingsCsv(const model::Network& network, const Sifted& findings);

} // namespace underridge::analysis

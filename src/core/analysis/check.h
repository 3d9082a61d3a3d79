// SPDX-License-Identifier: GPL-3.0-or-later
// The rules of switching and routing, and all findings of a network: those of linking and
// these.
#pragma once
#include "core/linking/rules.h"

namespace underridge::analysis {

class Forwarding;

/// Of VLANs, trees, addresses, routes, filters and statements, in the order findings are
/// listed.
std::span<const linking::Rule> forwardingRules();
/// Of these or of linking; null when there is none of that code.
const linking::Rule* ruleOf(std::string_view code);

/// What is wrong with switching and routing, by rule, then by name.
std::vector<linking::Finding> checkForwarding(const Forwarding& forwarding);
/// Statements that are not kept.
std::vector<linking::Finding> checkStatements(const Forwarding& forwarding);

/// All findings of a network, those of linking first.
std::vector<linking::Finding> check(const model::Network& network, const model::Catalogue& catalogue);

} // namespace underridge::analysis

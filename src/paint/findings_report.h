// SPDX-License-Identifier: GPL-3.0-or-later
// Findings on paper: counted, then by rule.
#pragma once
#include "core/linking/rules.h"

#include <QByteArray>

namespace underridge::paint {

/// A PDF on A4: how many of each severity, then each rule with what it found, and what to
/// do.
QByteArray findingsPdf(const model::Network& network, const std::vector<linking::Finding>& findings,
                       const std::string& date);

} // namespace underridge::paint

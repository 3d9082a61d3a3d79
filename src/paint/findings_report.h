// SPDX-License-Identifier: GPL-3.0-or-later
// Findings on paper: counted, then by rule.
#pragma once
#include "core/analysis/set_aside.h"

#include <QByteArray>

namespace underridge::paint {

/// A PDF on A4: how many of each severity, then each rule with what it found, and what to
/// do; last those that were set aside, with the reason.
QByteArray findingsPdf(const model::Network& network, const analysis::Sifted& findings,
                       const std::string& date);

} // namespace underridge::paint

// SPDX-License-Identifier: GPL-3.0-or-later
// What `check`, `chain` and `merge-cables` put out.
#pragma once
#include "cli/listing.h"
#include "core/analysis/set_aside.h"
#include "core/edit/schedule.h"
#include "core/linking/rules.h"

namespace underridge::cli {

/// One line each: "error connector: acc-1 1: …; use …".
std::string findingsText(const analysis::Sifted& findings);
/// ISO 8601, where the program runs.
std::string today();

/// "acc-1:17", by name or id of the device; the last colon parts them. Refuses what is
/// not there or names several.
Result<model::PortRef> portFrom(const model::Network& network, const std::string& text);

/// {same, new, changed, wrong, rows: [{line, match, what, why}]}.
Json scheduleJson(const edit::Schedule& schedule);
/// One line for each row that is not the same, and the counts.
std::string scheduleText(const edit::Schedule& schedule);

/// {chain: [{device, port, toDevice, toPort, cable, label, lengthM, lossDb}], ends:
/// [{device, port, end}], lengthM, connections}. Loss is at the wavelength of the
/// transceivers at its ends.
Json chainJson(const model::Network& network, const linking::Chain& chain);
std::string chainText(const model::Network& network, const linking::Chain& chain);

} // namespace underridge::cli

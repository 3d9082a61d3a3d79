// SPDX-License-Identifier: GPL-3.0-or-later
// Results of a cable tester, matched to the drawing by cable label.
#pragma once
#include "core/edit/schedule.h"

namespace underridge::edit {

/// Reads results as a table (CSV as in mergeSchedule, or a workbook) whose first line
/// names the columns: label (or cable), test (or parameter), value, limit, unit; one line
/// for each thing measured. A test named "length" sets the cable's length as measured.
/// What a cable had of the same test is replaced. Refuses a table without label, test and
/// value.
Result<Schedule> mergeResults(const model::Network& network, std::string_view bytes, const std::string& file);

} // namespace underridge::edit

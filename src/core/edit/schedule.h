// SPDX-License-Identifier: GPL-3.0-or-later
// A cable schedule, matched against the drawing: what is there already, what is new, what changes, and what
// cannot be.
#pragma once
#include "core/edit/act.h"
#include "core/model/length.h"

namespace underridge::edit {

enum class Match {
    same,
    added,
    changed,
    wrong ///< left out: an unknown device, a taken port, a row that is there twice, a cable too long for its
          ///< type
};

struct ScheduleRow {
    int line = 0; ///< in the file, from 1
    Match match = Match::same;
    std::string what; ///< "FQ-084: acc-o2 3 to pp-ctrl 3"
    std::string why;  ///< what changes, or what is wrong and what to do
    model::LinkId link;

    bool operator==(const ScheduleRow&) const = default;
};

struct Schedule {
    std::vector<ScheduleRow> rows;
    model::Network network;      ///< with everything done that is not wrong
    std::vector<Remark> remarks; ///< about the file as a whole: columns that are not understood

    int count(Match match) const;
};

/// Reads a schedule as CSV (RFC 4180; comma, semicolon or tab; any quoting; byte order mark) whose first line
/// names the columns, in any order: from, from port, to, to port, and any of label, cable (the type), length,
/// status, colour, note. A length may carry its unit; one in the title ("length ft") holds for the column,
/// and a decimal comma is understood. A row is matched by its label, else by its two ports, in either
/// direction. Refuses a file without the columns of both ends.
Result<Schedule> mergeSchedule(const model::Network& network, const model::Catalogue& catalogue,
                               std::string_view bytes, const std::string& file, model::IdSource& ids);

/// The schedule as one act; refuses one that changes nothing.
ActResult takeSchedule(const model::Network& network, const Schedule& schedule);

std::string_view textOf(Match match);

} // namespace underridge::edit

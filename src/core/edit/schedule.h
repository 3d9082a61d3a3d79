// SPDX-License-Identifier: GPL-3.0-or-later
// A cable schedule, matched against the drawing: what is there already, what is new, what
// changes, and what cannot be.
#pragma once
#include "core/edit/act.h"
#include "core/exchange/table_text.h"
#include "core/model/length.h"

#include <span>

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
    model::Network base;                       ///< what it was matched against
    model::Network network;                    ///< with everything done that is not wrong
    std::string name = "Merge cable schedule"; ///< of the act
    std::vector<Remark> remarks;               ///< about the file as a whole: columns that are not understood

    int count(Match match) const;
};

/// What a column of a schedule can be.
struct ScheduleField {
    std::string_view title; ///< "From port"
};
std::span<const ScheduleField> scheduleFields();

/// A table read in, and what its columns are taken for.
struct ScheduleTable {
    std::vector<exchange::TextRow> rows; ///< the first names the columns
    std::vector<int> fields;             ///< by column: an index into scheduleFields(), -1: not used
    std::vector<Remark> remarks;

    /// Whether both ends are among the columns, and every column with a title is taken
    /// for something.
    bool isSure() const;
};

/// Reads a table, CSV or workbook, and takes its columns for what their titles say.
/// Refuses an empty one.
Result<ScheduleTable> readSchedule(std::string_view bytes, const std::string& file);

/// Matches a table against the drawing as mergeSchedule() below does, with its columns as
/// they are set.
Result<Schedule> mergeSchedule(const model::Network& network, const model::Catalogue& catalogue,
                               const ScheduleTable& table, const std::string& file, model::IdSource& ids);

/// Reads a schedule as CSV (RFC 4180; comma, semicolon or tab; any quoting; byte order
/// mark) whose first line names the columns, in any order: from, from port, to, to port,
/// and any of label, cable (the type), length, status, colour, note. A length may carry
/// its unit; one in the title ("length ft") holds for the column, and a decimal comma is
/// understood. A row is matched by its label, else by its two ports, in either direction.
/// Refuses a file without the columns of both ends.
Result<Schedule> mergeSchedule(const model::Network& network, const model::Catalogue& catalogue,
                               std::string_view bytes, const std::string& file, model::IdSource& ids);

/// The schedule as one act, made from the network it was matched against; refuses one
/// that changes nothing.
ActResult takeSchedule(const Schedule& schedule);

std::string_view textOf(Match match);

} // namespace underridge::edit

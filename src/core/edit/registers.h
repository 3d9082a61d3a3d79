// SPDX-License-Identifier: GPL-3.0-or-later
// The registers: everything of one kind as a table of texts, and what typing into it
// changes.
#pragma once
#include "core/edit/act.h"
#include "core/model/length.h"

#include <span>

namespace underridge::edit {

enum class Register {
    devices,
    ports,
    links,
    cables,
    racks,
    interfaces,
    vlans,
    subnets,
    routes,
    filterRules,
    rings,
    cableRoutes
};
inline constexpr int registerCount = 12;

struct Column {
    std::string_view key;   ///< stable, for files and settings
    std::string_view title; ///< as shown
    bool editable = false;
    bool number = false; ///< sorted by value
    bool shown = true;   ///< unless the person chose otherwise
};

/// In the order they are shown.
std::span<const Column> columnsOf(Register which);
/// "devices" …, as titles and in settings.
std::string_view titleOf(Register which);

/// What a row stands for; for ports the port of the device `object`, for interfaces and
/// routes the id of that of the device; of subnets and filter rules see their files.
struct Row {
    model::ObjectRef object;
    std::string port;

    auto operator<=>(const Row&) const = default;
};

/// All rows, in natural order of their names.
std::vector<Row> rowsOf(const model::Network& network, Register which);

/// The text of a cell; empty when the object is gone.
std::string cellText(const model::Network& network, Register which, const Row& row, std::size_t column,
                     model::LengthUnit unit);

struct CellChange {
    Row row;
    std::size_t column = 0;
    std::string text;
};

/// One change in a network that is being built; a refusal says what is wrong with the
/// text.
Result<Done> setCell(model::Network& network, const model::Catalogue& catalogue, Register which,
                     const CellChange& change, model::LengthUnit unit, model::IdSource& ids);

/// All changes as one act. Refuses all when one is wrong, naming its row and column.
ActResult setCells(const model::Network& network, const model::Catalogue& catalogue, Register which,
                   const std::vector<CellChange>& changes, model::LengthUnit unit, model::IdSource& ids);

/// Whether rows are added and taken away in the register itself: of routes, subnets and
/// filter rules both, of interfaces the latter.
bool takesRows(Register which);
bool losesRows(Register which);

/// Adds a row, like another where `like` names one, else for the device it has. What it
/// stands for does nothing until it is typed into: prefixes are of RFC 5737. Refuses when
/// there is no device to add it to.
ActResult addRow(const model::Network& network, Register which, const Row& like, model::IdSource& ids);
/// Takes rows away. Refuses when one is gone, or stands for nothing that is recorded.
ActResult removeRows(const model::Network& network, Register which, const std::vector<Row>& rows);

/// What changes would do, one line for each: for the preview of a paste.
struct CellPreview {
    CellChange change;
    std::string before;
    std::string wrong; ///< why it cannot be; empty: it can

    bool changes() const { return wrong.empty() && before != change.text; }
};
std::vector<CellPreview> previewCells(const model::Network& network, const model::Catalogue& catalogue,
                                      Register which, const std::vector<CellChange>& changes,
                                      model::LengthUnit unit, model::IdSource ids);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/registers/table.h"

#include <charconv>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

const RegisterTable& tableOf(Register which) {
    switch (which) {
    case Register::devices:
        return devicesTable();
    case Register::ports:
        return portsTable();
    case Register::links:
        return linksTable();
    case Register::racks:
        return racksTable();
    case Register::interfaces:
        return interfacesTable();
    case Register::vlans:
        return vlansTable();
    case Register::subnets:
        return subnetsTable();
    case Register::routes:
        return routesTable();
    case Register::filterRules:
        return filterRulesTable();
    case Register::rings:
        return ringsTable();
    case Register::cableRoutes:
        return cableRoutesTable();
    case Register::cables:
        break;
    }
    return cablesTable();
}

} // namespace

Result<int> numberFrom(const std::string& text, int most) {
    int number = 0;
    const std::string written = trimmed(text);
    const auto [end, fault] = std::from_chars(written.data(), written.data() + written.size(), number);
    if (!written.empty() &&
        (fault != std::errc{} || end != written.data() + written.size() || number < 0 || number > most))
        return error(fmt::format("{} is not a number up to {}", text, most), "write one, or leave it empty");
    return number;
}

Result<std::int64_t> lengthFrom(const std::string& text, LengthUnit unit) {
    const auto mm = parseLength(text, unit);
    if (!mm)
        return error(fmt::format("{} is not a length", text),
                     unit == LengthUnit::feet ? "write it as 72 ft" : "write it as 22 m");
    return *mm;
}

Result<bool> flagFrom(const std::string& text) {
    const std::string word = lowered(trimmed(text));
    if (word == "yes" || word == "true" || word == "1")
        return true;
    if (word == "no" || word == "false" || word == "0" || word.empty())
        return false;
    return error(fmt::format("{} is neither yes nor no", text), "write yes or no");
}

std::string provenanceText(const Provenance& p) {
    return std::string(titleOf(p.origin)) + (p.source.empty() ? std::string() : ", " + p.source);
}

Result<Done> take(Network& network, ActResult act) {
    if (!act)
        return act.refusal();
    network = std::move(act->network);
    return Done{};
}

Remark goneFromRegister() {
    return error("it is no longer there", "look at the register again");
}

Result<Done> setCableLength(Network& network, const Cable& old, const std::string& text, LengthUnit unit) {
    const auto mm = lengthFrom(text, unit);
    if (!mm)
        return mm.refusal();
    Cable cable = old;
    cable.lengthMm = *mm;
    network.put(std::move(cable));
    return Done{};
}

std::span<const Column> columnsOf(Register which) {
    return tableOf(which).columns;
}

std::string_view titleOf(Register which) {
    return tableOf(which).title;
}

std::vector<Row> rowsOf(const Network& network, Register which) {
    std::vector<NamedRow> named = tableOf(which).rows(network);
    std::stable_sort(named.begin(), named.end(),
                     [](const auto& x, const auto& y) { return naturalLess(x.first, y.first); });
    std::vector<Row> rows;
    rows.reserve(named.size());
    for (auto& [name, row] : named)
        rows.push_back(std::move(row));
    return rows;
}

std::string cellText(const Network& network, Register which, const Row& row, std::size_t column,
                     LengthUnit unit) {
    return tableOf(which).text(network, row, column, unit);
}

Result<Done> setCell(Network& network, const Catalogue& catalogue, Register which, const CellChange& change,
                     LengthUnit unit, IdSource& ids) {
    return tableOf(which).set(network, catalogue, change, unit, ids);
}

ActResult setCells(const Network& network, const Catalogue& catalogue, Register which,
                   const std::vector<CellChange>& changes, LengthUnit unit, IdSource& ids) {
    if (changes.empty())
        return advice("nothing is selected that can be typed here", "select cells first");
    const Column& column = columnsOf(which)[changes.front().column];
    const bool oneColumn = std::all_of(changes.begin(), changes.end(), [&](const CellChange& change) {
        return change.column == changes.front().column;
    });
    Act act{changes.size() == 1 ? fmt::format("Set {} of {}", lowered(column.title),
                                              cellText(network, which, changes.front().row, 0, unit))
            : oneColumn         ? fmt::format("Set {} of {} {}", lowered(column.title), changes.size(),
                                              lowered(titleOf(which)))
                        : fmt::format("Change {} cells of {}", changes.size(), lowered(titleOf(which))),
            network,
            {}};
    for (const CellChange& change : changes)
        if (auto set = setCell(act.network, catalogue, which, change, unit, ids); !set) {
            Remark why = set.refusal();
            why.where.object = fmt::format("{}, {}", cellText(network, which, change.row, 0, unit),
                                           columnsOf(which)[change.column].title);
            return why;
        }
    return act;
}

bool takesRows(Register which) {
    return tableOf(which).add != nullptr;
}
bool losesRows(Register which) {
    return tableOf(which).remove != nullptr;
}

ActResult addRow(const Network& network, Register which, const Row& like, IdSource& ids) {
    if (!takesRows(which))
        return error("no rows are added here", "add it on the sheet");
    Act act{fmt::format("Add to {}", lowered(titleOf(which))), network, {}};
    if (auto added = tableOf(which).add(act.network, like, ids); !added)
        return added.refusal();
    return act;
}

ActResult removeRows(const Network& network, Register which, const std::vector<Row>& rows) {
    if (!losesRows(which))
        return error("no rows are taken away here", "delete it on the sheet");
    if (rows.empty())
        return advice("no row is selected", "select one first");
    Act act{rows.size() == 1
                ? fmt::format("Remove {}", cellText(network, which, rows.front(), 0, LengthUnit::metres))
                : fmt::format("Remove {} of {}", rows.size(), lowered(titleOf(which))),
            network,
            {}};
    if (auto removed = tableOf(which).remove(act.network, rows); !removed)
        return removed.refusal();
    return act;
}

std::vector<CellPreview> previewCells(const Network& network, const Catalogue& catalogue, Register which,
                                      const std::vector<CellChange>& changes, LengthUnit unit, IdSource ids) {
    std::vector<CellPreview> out;
    Network next = network;
    for (const CellChange& change : changes) {
        CellPreview preview{change, cellText(network, which, change.row, change.column, unit), {}};
        if (preview.before != change.text) {
            if (!columnsOf(which)[change.column].editable)
                preview.wrong = fmt::format("{} cannot be typed here", columnsOf(which)[change.column].title);
            else if (auto set = setCell(next, catalogue, which, change, unit, ids); !set)
                preview.wrong = set.refusal().text();
        }
        out.push_back(std::move(preview));
    }
    return out;
}

} // namespace underridge::edit

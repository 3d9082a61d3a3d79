// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/registers/table.h"

#include "core/edit/devices.h"
#include "core/edit/places.h"
#include "core/model/group_tree.h"
#include "core/model/racks.h"

#include <array>
#include <charconv>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

enum RackColumn : std::size_t { kName, kIn, kKind, kUnits, kFree, kGap, kWatts, kWeight, kNote };
constexpr std::array<Column, 9> rackColumns{{{"name", "Name", true},
                                             {"in", "In"},
                                             {"kind", "Kind", false, false, false},
                                             {"units", "Units", true, true},
                                             {"free", "Free", false, true},
                                             {"gap", "Free in one piece", false, true},
                                             {"watts", "Draws, W", false, true},
                                             {"weight", "Weighs, kg", false, true},
                                             {"note", "Note", true}}};

/// Nothing where it is not known.
std::string knownNumber(double number) {
    return number > 0 ? fmt::format("{:.0f}", number) : std::string();
}

std::string rackCell(const Network& network, const Group& rack, std::size_t column) {
    switch (column) {
    case kName:
        return rack.name;
    case kIn:
        return pathText(network, rack.parent);
    case kKind:
        return std::string(model::titleOf(rack.type));
    case kUnits:
        return std::to_string(rack.rackUnits);
    case kFree:
        return std::to_string(useOf(network, rack).free());
    case kGap:
        return std::to_string(useOf(network, rack).largestGap);
    case kWatts:
        return knownNumber(useOf(network, rack).watts);
    case kWeight:
        return knownNumber(useOf(network, rack).kg);
    default:
        return rack.note;
    }
}

std::vector<NamedRow> rows(const Network& network) {
    std::vector<NamedRow> out;
    for (const GroupId id : racksOf(network))
        out.push_back({network.group(id)->name, {refTo(id), {}}});
    return out;
}

std::string text(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const Group* rack = network.group({row.object.id});
    return rack ? rackCell(network, *rack, column) : std::string();
}

Result<Done> set(Network& network, const Catalogue&, const CellChange& change, LengthUnit, IdSource&) {
    const Group* rack = network.group({change.row.object.id});
    if (!rack)
        return goneFromRegister();
    switch (change.column) {
    case kName:
        return take(network, rename(network, {refTo(rack->id)}, {change.text}));
    case kUnits: {
        const std::string typed = trimmed(change.text);
        int units = 0;
        const auto [end, fault] = std::from_chars(typed.data(), typed.data() + typed.size(), units);
        if (fault != std::errc{} || end != typed.data() + typed.size())
            return error(fmt::format("{} is not a number of units", change.text), "write 42");
        return take(network, setRackUnits(network, rack->id, units));
    }
    case kNote: {
        Group changed = *rack;
        changed.note = change.text;
        network.put(std::move(changed));
        return Done{};
    }
    default:
        return error("this cannot be typed here");
    }
}

} // namespace

const RegisterTable& racksTable() {
    static constexpr RegisterTable table{"Racks", rackColumns, rows, text, set};
    return table;
}

} // namespace underridge::edit

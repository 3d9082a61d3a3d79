// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/registers/table.h"

#include "core/edit/cables.h"
#include "core/linking/rules.h"

#include <array>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

enum CableColumn : std::size_t {
    cLabel,
    cType,
    cA,
    cB,
    cLength,
    cMeasured,
    cStrands,
    cTested,
    cStatus,
    cJacket,
    cNote
};
constexpr std::array<Column, 11> cableColumns{{{"label", "Label", true},
                                               {"type", "Type", true},
                                               {"a", "End A"},
                                               {"b", "End B"},
                                               {"length", "Length", true, true},
                                               {"measured", "Measured", true, false, false},
                                               {"strands", "Strands used", false, false, false},
                                               {"tested", "Tested", false, false, false},
                                               {"status", "Status", true},
                                               {"jacket", "Colour", true, false, false},
                                               {"note", "Note", true}}};

/// "passes", or the result that does not.
std::string testedText(const Network& network, const Cable& cable) {
    if (cable.measured.empty())
        return {};
    for (const linking::Finding& finding : linking::checkCable(network, cable))
        if (finding.rule->code == "measured")
            return finding.message;
    return "passes";
}

std::string cableCell(const Network& network, const Cable& cable, std::size_t column, LengthUnit unit) {
    const CableType* type = network.typeOf(cable);
    const auto end = [&](std::size_t n) {
        return n < cable.ends.size() ? portText(network, cable.ends[n].at) : std::string();
    };
    switch (column) {
    case cLabel:
        return cable.label;
    case cType:
        return type ? type->name : cable.type;
    case cA:
        return end(0);
    case cB:
        return end(1);
    case cLength:
        return cable.lengthMm > 0 ? lengthText(cable.lengthMm, unit) : std::string();
    case cMeasured:
        return std::string(cable.lengthMeasured ? yes : no);
    case cStrands: {
        const Strands strands = strandsOf(network, cable);
        return strands.all > 1 ? fmt::format("{} of {}", strands.all - static_cast<int>(strands.spare.size()),
                                             strands.all)
                               : std::string();
    }
    case cTested:
        return testedText(network, cable);
    case cStatus:
        return std::string(model::titleOf(cable.status));
    case cJacket:
        return cable.jacket;
    default:
        return cable.note;
    }
}

Result<Done> setCable(Network& network, const Catalogue& catalogue, Cable cable, std::size_t column,
                      const std::string& text, LengthUnit unit) {
    switch (column) {
    case cLabel:
        cable.label = text;
        break;
    case cType: {
        const auto type =
            std::find_if(catalogue.cables.begin(), catalogue.cables.end(), [&](const CableType& t) {
                return t.id == text || lowered(t.name) == lowered(trimmed(text));
            });
        if (type == catalogue.cables.end())
            return error(fmt::format("there is no cable type {}", text),
                         "write its name as in the catalogue");
        network.put(*type);
        cable.type = type->id;
        break;
    }
    case cLength:
        return setCableLength(network, cable, text, unit);
    case cMeasured: {
        const auto flag = flagFrom(text);
        if (!flag)
            return flag.refusal();
        cable.lengthMeasured = *flag;
        break;
    }
    case cStatus: {
        const auto status = wordFrom<CableStatus>(trimmed(text));
        if (!status)
            return status.refusal();
        cable.status = *status;
        break;
    }
    case cJacket: {
        const bool colour = text.size() == 7 && text[0] == '#' &&
                            text.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
        if (!text.empty() && !colour)
            return error(fmt::format("{} is no colour", text), "write it as #51606E, or leave it empty");
        cable.jacket = text;
        break;
    }
    case cNote:
        cable.note = text;
        break;
    default:
        return error("this cannot be typed here");
    }
    network.put(std::move(cable));
    return Done{};
}

std::vector<NamedRow> rows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<Cable>().forEach([&](const Cable& c) { out.push_back({c.label, {refTo(c.id), {}}}); });
    return out;
}

std::string text(const Network& network, const Row& row, std::size_t column, LengthUnit unit) {
    const Cable* cable = network.cable({row.object.id});
    return cable ? cableCell(network, *cable, column, unit) : std::string();
}

Result<Done> set(Network& network, const Catalogue& catalogue, const CellChange& change, LengthUnit unit,
                 IdSource&) {
    const Cable* cable = network.cable({change.row.object.id});
    return cable ? setCable(network, catalogue, *cable, change.column, change.text, unit)
                 : goneFromRegister();
}

} // namespace

const RegisterTable& cablesTable() {
    static constexpr RegisterTable table{"Cables", cableColumns, rows, text, set};
    return table;
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/registers/table.h"

#include "core/edit/links.h"

#include <array>

namespace underridge::edit {
using namespace model;
namespace {

enum LinkColumn : std::size_t { lA, lB, lMedium, lSpeed, lCable, lLength, lNote, lFrom };
constexpr std::array<Column, 8> linkColumns{{{"a", "End A"},
                                             {"b", "End B"},
                                             {"medium", "Medium"},
                                             {"speed", "Speed"},
                                             {"cable", "Cable"},
                                             {"length", "Length", true, true},
                                             {"note", "Note", true},
                                             {"provenance", "From", false, false, false}}};
std::string linkCell(const Network& network, const Link& link, std::size_t column, LengthUnit unit) {
    const Cable* cable = network.cable(link.cable);
    const CableType* type = cable ? network.typeOf(*cable) : nullptr;
    switch (column) {
    case lA:
        return portText(network, link.a);
    case lB:
        return portText(network, link.b);
    case lMedium:
        return std::string(link.console     ? "console"
                           : link.isUpper() ? "upper layer"
                                            : model::titleOf(mediumOf(network, link)));
    case lSpeed: {
        const int speed = link.console ? 0 : speedOf(network, link);
        return speed > 0 ? speedText(speed) : std::string();
    }
    case lCable:
        return type ? type->name + (cable->label.empty() ? "" : ", " + cable->label) : std::string();
    case lLength:
        return cable && cable->lengthMm > 0 ? lengthText(cable->lengthMm, unit) : std::string();
    case lNote:
        return link.note;
    default:
        return provenanceText(link.provenance);
    }
}

Result<Done> setLink(Network& network, const Link& old, const CellChange& change, LengthUnit unit) {
    if (change.column == lLength) {
        const Cable* cable = network.cable(old.cable);
        if (!cable)
            return error("this link has no cable");
        return setCableLength(network, *cable, change.text, unit);
    }
    if (change.column != lNote)
        return error("this cannot be typed here");
    Link link = old;
    link.note = change.text;
    network.put(std::move(link));
    return Done{};
}

std::vector<NamedRow> rows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<Link>().forEach([&](const Link& l) {
        out.push_back({linkText(network, l), {refTo(l.id), {}}});
    });
    return out;
}

std::string text(const Network& network, const Row& row, std::size_t column, LengthUnit unit) {
    const Link* link = network.link({row.object.id});
    return link ? linkCell(network, *link, column, unit) : std::string();
}

Result<Done> set(Network& network, const Catalogue&, const CellChange& change, LengthUnit unit, IdSource&) {
    const Link* link = network.link({change.row.object.id});
    return link ? setLink(network, *link, change, unit) : goneFromRegister();
}

} // namespace

const RegisterTable& linksTable() {
    static constexpr RegisterTable table{"Links", linkColumns, rows, text, set};
    return table;
}

} // namespace underridge::edit

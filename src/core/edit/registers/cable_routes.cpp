// SPDX-License-Identifier: GPL-3.0-or-later
// The register of cable routes: trays and conduits, how large and how full they are.
#include "core/edit/cable_routes.h"
#include "core/edit/registers/table.h"
#include "core/linking/route_loads.h"
#include "core/model/group_tree.h"

#include <array>
#include <cmath>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

enum CableRouteColumn : std::size_t {
    tName,
    tFloor,
    tKind,
    tWidth,
    tDepth,
    tHeight,
    tLength,
    tCables,
    tFilled,
    tLimit,
    tNote
};
constexpr std::array<Column, 11> cableRouteColumns{{{"name", "Name", true},
                                                    {"floor", "Floor"},
                                                    {"kind", "Kind", true},
                                                    {"width", "Width inside", true, true},
                                                    {"depth", "Depth inside", true, true},
                                                    {"height", "Above the floor", true, true},
                                                    {"length", "Length", false, true},
                                                    {"cables", "Cables", false, true},
                                                    {"filled", "Filled, %", false, true},
                                                    {"limit", "At most, %", true, true},
                                                    {"note", "Note", true}}};

/// The loads of a floor, worked out once for the cells of all its routes: a table asks cell by
/// cell, and each asks for the whole floor.
const linking::RouteLoad* loadOf(const Network& network, const CableRoute& route) {
    struct Known {
        Network network;
        GroupId floor;
        std::vector<linking::RouteLoad> loads;
    };
    thread_local std::optional<Known> known;
    if (!known || known->floor != route.floor || !(known->network == network))
        known = Known{network, route.floor, linking::loadsOn(network, route.floor)};
    const auto at = std::find_if(known->loads.begin(), known->loads.end(),
                                 [&](const linking::RouteLoad& load) { return load.route == route.id; });
    return at == known->loads.end() ? nullptr : &*at;
}

std::int64_t lengthOf(const CableRoute& route) {
    double sum = 0;
    for (std::size_t i = 1; i < route.points.size(); ++i)
        sum += std::hypot(static_cast<double>(route.points[i].xMm - route.points[i - 1].xMm),
                          static_cast<double>(route.points[i].yMm - route.points[i - 1].yMm));
    return std::llround(sum);
}

std::vector<NamedRow> cableRouteRows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<CableRoute>().forEach([&](const CableRoute& route) {
        out.push_back({route.name, {refTo(route.id), {}}});
    });
    return out;
}

std::string cableRouteText(const Network& network, const Row& row, std::size_t column, LengthUnit unit) {
    const CableRoute* route = network.cableRoute({row.object.id});
    if (!route)
        return {};
    switch (column) {
    case tName:
        return route->name;
    case tFloor:
        return pathText(network, route->floor);
    case tKind:
        return std::string(model::titleOf(route->type));
    case tWidth:
        return lengthText(route->widthMm, unit);
    case tDepth: // a conduit is round
        return route->type == CableRouteKind::tray ? lengthText(route->depthMm, unit) : std::string();
    case tHeight:
        return lengthText(route->heightMm, unit);
    case tLength:
        return lengthText(lengthOf(*route), unit);
    case tCables: {
        const linking::RouteLoad* load = loadOf(network, *route);
        return load ? std::to_string(load->cables.size()) : std::string();
    }
    case tFilled: {
        const linking::RouteLoad* load = loadOf(network, *route);
        return load ? std::to_string(load->percent) : std::string();
    }
    case tLimit:
        return route->limitPercent > 0 ? std::to_string(route->limitPercent) : std::string();
    default:
        return route->note;
    }
}

Result<Done> setCableRoute(Network& network, const Catalogue&, const CellChange& change, LengthUnit unit,
                           IdSource&) {
    const CableRoute* held = network.cableRoute({change.row.object.id});
    if (!held)
        return goneFromRegister();
    CableRoute route = *held;
    const std::string typed = trimmed(change.text);
    switch (change.column) {
    case tName:
        route.name = typed;
        break;
    case tKind: {
        const auto kind = wordFrom<CableRouteKind>(typed);
        if (!kind)
            return kind.refusal();
        route.type = *kind;
        break;
    }
    case tWidth:
    case tDepth:
    case tHeight: {
        const auto mm = lengthFrom(typed, unit);
        if (!mm)
            return mm.refusal();
        constexpr std::int64_t most = 1'000'000; // is refused all the same
        if (change.column == tHeight)
            route.heightMm = *mm;
        else
            (change.column == tWidth ? route.widthMm : route.depthMm) = static_cast<int>(std::min(*mm, most));
        break;
    }
    case tLimit: {
        const auto percent = numberFrom(typed, 100);
        if (!percent)
            return percent.refusal();
        route.limitPercent = *percent;
        break;
    }
    case tNote:
        route.note = typed;
        break;
    default:
        return error("this cannot be typed here", "it follows from what runs in it, and where it lies");
    }
    return take(network, changeCableRoute(network, std::move(route)));
}

} // namespace

const RegisterTable& cableRoutesTable() {
    static constexpr RegisterTable table{"Cable routes", cableRouteColumns, cableRouteRows, cableRouteText,
                                         setCableRoute,  nullptr,           nullptr};
    return table;
}

} // namespace underridge::edit

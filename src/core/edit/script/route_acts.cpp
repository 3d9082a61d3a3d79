// SPDX-License-Identifier: GPL-3.0-or-later
// The act on trays and conduits: cable-route draws one, or changes the one of that name.
#include "core/edit/cable_routes.h"
#include "core/edit/script/line.h"

#include <cmath>

namespace underridge::edit {
using namespace model;
using exchange::JsonView;
namespace {

constexpr std::int64_t mostMm = 5'000;

Result<std::vector<FloorPoint>> pointsOf(const Line& line) {
    std::vector<FloorPoint> points;
    bool sound = line.member("points").isArray();
    line.member("points").forEach([&](JsonView each) {
        const auto x = each["x"].number(), y = each["y"].number();
        const auto fits = [](const std::optional<double>& metres) {
            return metres && std::abs(*metres) <= 100'000;
        };
        sound &= fits(x) && fits(y);
        if (sound)
            points.push_back({std::llround(*x * 1000), std::llround(*y * 1000)});
    });
    if (!sound)
        return line.wrong("points", "\"points\" is not a list of spots in metres",
                          "write it as [{\"x\":2,\"y\":1.5},{\"x\":14,\"y\":1.5}]");
    return points;
}

/// What a line says of a route.
Result<CableRoute> described(const Line& line, CableRoute route) {
    const auto kind = line.textOr("kind", std::string(textOf(route.type)));
    if (!kind)
        return kind.refusal();
    const auto type = fromText<CableRouteKind>(*kind);
    if (!type)
        return line.wrong("kind", "there is no such kind of cable route", "write tray or conduit");
    const auto width = line.wholeOr("widthMm", route.widthMm, 0, mostMm),
               depth = line.wholeOr("depthMm", route.depthMm, 0, mostMm),
               limit = line.wholeOr("limitPercent", route.limitPercent, 0, 100);
    for (const auto* number : {&width, &depth, &limit})
        if (!*number)
            return number->refusal();
    route.type = *type;
    route.widthMm = static_cast<int>(*width);
    route.depthMm = static_cast<int>(*depth);
    route.limitPercent = static_cast<int>(*limit);
    if (line.has("heightM")) {
        const auto height = line.metres("heightM");
        if (!height)
            return height.refusal();
        route.heightMm = *height;
    }
    if (line.has("points")) {
        auto points = pointsOf(line);
        if (!points)
            return points.refusal();
        route.points = straightened(*points);
    }
    return route;
}

ActResult cableRoute(const Line& line) {
    const Bench& bench = line.bench();
    const auto name = line.text("name");
    if (!name)
        return name.refusal();
    const Refs& named = bench.names.named(*name);
    const auto held = std::find_if(named.begin(), named.end(),
                                   [](ObjectRef each) { return each.kind == Kind::cableRoute; });
    if (held != named.end()) {
        auto changed = described(line, *bench.network.cableRoute({held->id}));
        return changed ? changeCableRoute(bench.network, *std::move(changed)) : ActResult(changed.refusal());
    }
    const auto floor = line.group("floor");
    auto route = described(line, {});
    if (!floor || !route)
        return floor ? route.refusal() : floor.refusal();
    auto act = addCableRoute(bench.network, *floor, route->type, route->points, bench.ids);
    if (!act)
        return act;
    const CableRoute& made = *act->network.cableRoute({act->subjects.front().id});
    route->id = made.id;
    route->floor = made.floor;
    route->name = *name;
    if (!line.has("widthMm"))
        route->widthMm = made.widthMm;
    auto whole = changeCableRoute(act->network, *std::move(route));
    if (whole)
        whole->name = "Draw " + *name;
    return whole;
}

} // namespace

std::span<const ActWord> routeActs() {
    static const std::vector<ActWord> acts{
        {"cable-route",
         {"name", "floor", "kind", "points", "widthMm", "depthMm", "heightM", "limitPercent"},
         cableRoute}};
    return acts;
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/route_loads.h"

#include "core/model/group_tree.h"

#include <cmath>
#include <numbers>
#include <set>

namespace underridge::linking {
using namespace model;
namespace {

/// A cable in a route, from one distance to another.
struct Lain {
    CableId cable;
    double area = 0;
    std::int64_t fromMm = 0, toMm = 0;
};

std::set<CableId> cablesOn(const Network& network, GroupId floor) {
    std::set<CableId> out;
    const auto take = [&](GroupId place) {
        network.forEachPlacedIn(place, [&](const Device& device) {
            network.forEachCableOf(device.id, [&](const Cable& cable) {
                // Mains and data are not laid in one route (IEC 60364-5-52).
                if (const CableType* type = network.typeOf(cable); !type || type->medium != Medium::mains)
                    out.insert(cable.id);
            });
        });
    };
    take(floor);
    for (const GroupId inner : groupsWithin(network, floor))
        take(inner);
    return out;
}

/// The stretches a cable lies in, from its first end to each of the devices it goes to;
/// where two of them share a stretch it is there once.
std::vector<Run> runsOf(CableWays& ways, const Cable& cable) {
    std::vector<Run> out;
    std::set<DeviceId> reached;
    for (const CableEnd& end : cable.ends) {
        if (end.at.device == cable.ends.front().at.device || !reached.insert(end.at.device).second)
            continue;
        const auto way = ways.between(cable.ends.front().at, end.at);
        if (!way)
            continue;
        for (Run run : way->runs) {
            if (run.fromMm > run.toMm)
                std::swap(run.fromMm, run.toMm);
            out.push_back(run);
        }
    }
    std::sort(out.begin(), out.end(), [](const Run& a, const Run& b) {
        return std::tuple(a.route, a.fromMm, a.toMm) < std::tuple(b.route, b.fromMm, b.toMm);
    });
    std::vector<Run> joined;
    for (const Run& run : out)
        if (!joined.empty() && joined.back().route == run.route && run.fromMm <= joined.back().toMm)
            joined.back().toMm = std::max(joined.back().toMm, run.toMm);
        else
            joined.push_back(run);
    return joined;
}

/// Where what lies in a route takes most of it.
RouteLoad fullest(const CableRoute& route, const std::vector<Lain>& lain) {
    struct Step {
        std::int64_t at = 0;
        int cables = 0; ///< that begin, or less those that end
        double area = 0;
    };
    std::vector<Step> steps;
    RouteLoad load;
    load.route = route.id;
    for (const Lain& each : lain) {
        steps.push_back({each.fromMm, 1, each.area});
        steps.push_back({each.toMm, -1, -each.area});
        if (load.cables.empty() || load.cables.back() != each.cable)
            load.cables.push_back(each.cable);
    }
    std::sort(steps.begin(), steps.end(), [](const Step& a, const Step& b) {
        return std::tuple(a.at, a.cables) < std::tuple(b.at, b.cables); // ends before beginnings
    });
    const double whole = std::max(1.0, areaOf(route));
    load.limit = limitOf(route, 0);
    const auto worse = [&](double percent, int limit) { return percent * load.limit > load.percent * limit; };
    int cables = 0;
    double area = 0;
    for (const Step& step : steps) {
        cables += step.cables;
        area += step.area;
        const double percent = std::ceil(area / whole * 100 - 1e-6);
        if (const int limit = limitOf(route, cables); cables > 0 && worse(percent, limit)) {
            load.percent = static_cast<int>(std::min(percent, 9'999.0));
            load.limit = limit;
            load.there = cables;
            load.atMm = step.at;
            load.filledMm2 = area;
        }
    }
    return load;
}

} // namespace

double areaOf(const CableRoute& route) {
    return route.type == CableRouteKind::conduit ? std::numbers::pi * route.widthMm * route.widthMm / 4.0
                                                 : static_cast<double>(route.widthMm) * route.depthMm;
}

int limitOf(const CableRoute& route, int cables) {
    constexpr int tray = 50, single = 53, two = 31, more = 40;
    if (route.limitPercent > 0)
        return route.limitPercent;
    if (route.type == CableRouteKind::tray)
        return tray;
    return cables == 1 ? single : cables == 2 ? two : more;
}

std::vector<RouteLoad> loadsOn(const Network& network, GroupId floor) {
    std::map<CableRouteId, std::vector<Lain>> lain;
    network.all<CableRoute>().forEach([&](const CableRoute& route) {
        if (route.floor == floor)
            lain[route.id];
    });
    if (lain.empty())
        return {};
    CableWays ways(network);
    for (const CableId id : cablesOn(network, floor)) {
        const Cable& cable = *network.cable(id);
        if (cable.status == CableStatus::spare || cable.status == CableStatus::toRemove)
            continue;
        const CableType* type = network.typeOf(cable);
        const double diameter = diameterOf(type ? *type : CableType{});
        for (const Run& run : runsOf(ways, cable))
            if (const auto held = lain.find(run.route); held != lain.end())
                held->second.push_back(
                    {id, std::numbers::pi * diameter * diameter / 4, run.fromMm, run.toMm});
    }
    std::vector<RouteLoad> out;
    for (const auto& [id, cables] : lain)
        out.push_back(fullest(*network.cableRoute(id), cables));
    return out;
}

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/route.h"

#include "core/model/standing.h"

#include <cmath>
#include <fmt/format.h>

namespace underridge::linking {
using namespace model;

namespace {
/// 1,000 km: no way is longer.
constexpr std::int64_t farthestMm = 1'000'000'000;

bool isFar(std::int64_t mm) {
    return mm > farthestMm || mm < -farthestMm;
}
} // namespace

/// A place worked out: where in the building, and how high above its floor.
struct CableWays::Spot {
    const Group* rack = nullptr;
    const Group* floor = nullptr;
    const Group* building = nullptr;
    std::int64_t x = 0, y = 0, height = 0;

    FloorRoutes::Spot onFloor() const { return {x, y, height}; }
};

Result<CableWays::Spot> CableWays::spotOf(const PortRef& port) const {
    const Device* device = network_.device(port.device);
    if (!device)
        return error("the device is no longer there", "select again");
    const Place place = placeOf(network_, port);
    const Group* in = network_.group(place.in);
    if (!in)
        return error(fmt::format("{} has no place", device->name), "give it one in the details");
    Spot spot;
    if (isRack(in->type)) {
        spot.rack = in;
        spot.x = in->xMm;
        spot.y = in->yMm;
        spot.height = isFar(in->heightMm)
                          ? in->heightMm
                          : in->heightMm + std::llround((std::max(1, place.unit) - 0.5) * rackUnitMm);
    } else {
        spot.x = place.xMm;
        spot.y = place.yMm;
        spot.height = place.heightMm;
    }
    if (isFar(spot.x) || isFar(spot.y) || isFar(spot.height))
        return error(fmt::format("{} stands further away than any building is large", device->name),
                     "correct its place");
    spot.floor = groupAbove(network_, in, GroupKind::floor);
    spot.building = groupAbove(network_, in, GroupKind::building);
    if (!spot.floor)
        return error(fmt::format("{} is in {}, which is on no floor", device->name, in->name),
                     "put that on a floor");
    return spot;
}

const FloorRoutes& CableWays::routesOf(GroupId floor) {
    const auto held = floors_.find(floor);
    return held != floors_.end() ? held->second
                                 : floors_.emplace(floor, FloorRoutes(network_, floor)).first->second;
}

CableWay CableWays::byRisers(const Spot& from, const Spot& to) {
    std::optional<CableWay> best;
    for (const Riser& riser : from.building->risers) {
        const FloorRoutes::Spot shaft{riser.xMm, riser.yMm, std::nullopt};
        const auto out = routesOf(from.floor->id).between(from.onFloor(), shaft);
        const auto in = routesOf(to.floor->id).between(shaft, to.onFloor());
        const std::int64_t up =
            std::abs(from.floor->heightMm + out.heightB - (to.floor->heightMm + in.heightA));
        CableWay way{out.mm + in.mm + up, out.runs};
        way.runs.insert(way.runs.end(), in.runs.begin(), in.runs.end());
        if (!best || way.mm < best->mm)
            best = std::move(way);
    }
    return *std::move(best);
}

Result<CableWay> CableWays::between(const PortRef& a, const PortRef& b) {
    const auto from = spotOf(a);
    if (!from)
        return from.refusal();
    const auto to = spotOf(b);
    if (!to)
        return to.refusal();
    if (from->rack && from->rack == to->rack)
        return CableWay{2 * rackSideMm + std::abs(from->height - to->height), {}};
    if (from->floor == to->floor) {
        auto way = routesOf(from->floor->id).between(from->onFloor(), to->onFloor());
        return CableWay{way.mm, std::move(way.runs)};
    }
    if (!from->building || from->building != to->building)
        return error(fmt::format("{} and {} are in different buildings", network_.device(a.device)->name,
                                 network_.device(b.device)->name),
                     "enter the length of the cable between them");
    if (isFar(from->floor->heightMm) || isFar(to->floor->heightMm) ||
        std::any_of(from->building->risers.begin(), from->building->risers.end(),
                    [&](const Riser& riser) { return isFar(riser.xMm) || isFar(riser.yMm); }))
        return error(fmt::format("a height or riser of {} is beyond any building", from->building->name),
                     "correct it under Floors, racks and risers");
    if (from->floor->heightMm == to->floor->heightMm)
        return error(fmt::format("the heights of {} and {} are the same", from->floor->name, to->floor->name),
                     "give the floors their heights above the ground");
    if (!from->building->risers.empty())
        return byRisers(*from, *to);
    const std::int64_t up =
        std::abs(from->floor->heightMm + from->height - (to->floor->heightMm + to->height));
    return CableWay{std::abs(from->x - to->x) + std::abs(from->y - to->y) + up, {}};
}

Result<std::int64_t> wayBetween(const Network& network, const PortRef& a, const PortRef& b) {
    const auto way = CableWays(network).between(a, b);
    return way ? Result<std::int64_t>(way->mm) : way.refusal();
}

Result<std::int64_t> lengthFor(const Network& network, CableWays& ways, const CableType& type,
                               const PortRef& a, const PortRef& b) {
    const auto way = ways.between(a, b);
    if (!way)
        return way.refusal();
    return lengthFor(network, type, way->mm);
}

std::int64_t lengthFor(const Network& network, const CableType& type, std::int64_t wayMm) {
    const NetworkInfo& info = network.info();
    // Slack is for terminating anew, which nobody does with a mains cord.
    const std::int64_t slack = type.medium == Medium::mains ? 0 : 2 * info.slackMm;
    const std::int64_t wanted = wayMm + wayMm * info.marginPercent / 100 + slack;
    return stockLength(type, (wanted + 99) / 100 * 100);
}

Result<std::int64_t> lengthFor(const Network& network, const CableType& type, const PortRef& a,
                               const PortRef& b) {
    CableWays ways(network);
    return lengthFor(network, ways, type, a, b);
}

} // namespace underridge::linking

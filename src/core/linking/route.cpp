// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/route.h"

#include "core/model/standing.h"

#include <cmath>
#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

/// A place worked out: where in the building, and how high above its floor.
struct Spot {
    const Group* rack = nullptr;
    const Group* floor = nullptr;
    const Group* building = nullptr;
    std::int64_t x = 0, y = 0, height = 0;
};

Result<Spot> spotOf(const Network& network, const PortRef& port) {
    const Device* device = network.device(port.device);
    if (!device)
        return error("the device is no longer there", "select again");
    const Place place = placeOf(network, port);
    const Group* in = network.group(place.in);
    if (!in)
        return error(fmt::format("{} has no place", device->name), "give it one in the details");
    Spot spot;
    if (isRack(in->type)) {
        spot.rack = in;
        spot.x = in->xMm;
        spot.y = in->yMm;
        spot.height = in->heightMm + std::llround((std::max(1, place.unit) - 0.5) * rackUnitMm);
    } else {
        spot.x = place.xMm;
        spot.y = place.yMm;
        spot.height = place.heightMm;
    }
    spot.floor = groupAbove(network, in, GroupKind::floor);
    spot.building = groupAbove(network, in, GroupKind::building);
    if (!spot.floor)
        return error(fmt::format("{} is in {}, which is on no floor", device->name, in->name),
                     "put that on a floor");
    return spot;
}

std::int64_t apart(std::int64_t a, std::int64_t b) {
    return a > b ? a - b : b - a;
}

} // namespace

Result<std::int64_t> wayBetween(const Network& network, const PortRef& a, const PortRef& b) {
    const auto from = spotOf(network, a);
    if (!from)
        return from.refusal();
    const auto to = spotOf(network, b);
    if (!to)
        return to.refusal();
    if (from->rack && from->rack == to->rack)
        return 2 * rackSideMm + apart(from->height, to->height);
    if (from->floor == to->floor)
        return apart(from->x, to->x) + apart(from->y, to->y) + apart(from->height, to->height);
    if (!from->building || from->building != to->building)
        return error(fmt::format("{} and {} are in different buildings", network.device(a.device)->name,
                                 network.device(b.device)->name),
                     "enter the length of the cable between them");
    if (from->floor->heightMm == to->floor->heightMm)
        return error(fmt::format("the heights of {} and {} are the same", from->floor->name, to->floor->name),
                     "give the floors their heights above the ground");
    const std::int64_t up = apart(from->floor->heightMm + from->height, to->floor->heightMm + to->height);
    if (from->building->risers.empty())
        return apart(from->x, to->x) + apart(from->y, to->y) + up;
    std::int64_t best = INT64_MAX;
    for (const Riser& riser : from->building->risers)
        best = std::min(best, apart(from->x, riser.xMm) + apart(from->y, riser.yMm) +
                                  apart(to->x, riser.xMm) + apart(to->y, riser.yMm));
    return best + up;
}

Result<std::int64_t> lengthFor(const Network& network, const CableType& type, const PortRef& a,
                               const PortRef& b) {
    const auto way = wayBetween(network, a, b);
    if (!way)
        return way.refusal();
    const NetworkInfo& info = network.info();
    const std::int64_t wanted = *way + *way * info.marginPercent / 100 + 2 * info.slackMm;
    return stockLength(type, (wanted + 99) / 100 * 100);
}

} // namespace underridge::linking

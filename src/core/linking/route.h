// SPDX-License-Identifier: GPL-3.0-or-later
// How long a cable must be to go from one place to another, and what it runs in.
#pragma once
#include "core/base/result.h"
#include "core/linking/floor_routes.h"

#include <map>

namespace underridge::linking {

/// One rack unit: IEC 60297-3-100.
inline constexpr double rackUnitMm = 44.45;
/// From the middle of a rack to its side, where cables run up and down.
inline constexpr std::int64_t rackSideMm = 300;

struct CableWay {
    std::int64_t mm = 0;
    std::vector<Run> runs; ///< in cable routes, in the order they are gone through
};

/// CableWays between places of one network; what was learned of a floor is kept for the next.
class CableWays {
public:
    explicit CableWays(const model::Network& network) : network_(network) {}

    /// The way between the places of the devices of two ports (of a stack: of the chassis;
    /// the port may be left out): on one floor by its cable routes where it has some, else
    /// along the axes; between floors of one building by the riser that makes it shortest,
    /// or straight up when the building names none; within one rack by its side. Refuses
    /// with a clause when an end has no place, when they are in different buildings, or when
    /// two floors are not told apart by their heights.
    Result<CableWay> between(const model::PortRef& a, const model::PortRef& b);

private:
    struct Spot;
    Result<Spot> spotOf(const model::PortRef& port) const;
    const FloorRoutes& routesOf(model::GroupId floor);
    CableWay byRisers(const Spot& from, const Spot& to);

    const model::Network& network_;
    std::map<model::GroupId, FloorRoutes> floors_;
};

/// The length of a single way, in millimetres.
Result<std::int64_t> wayBetween(const model::Network& network, const model::PortRef& a,
                                const model::PortRef& b);

/// The length of cable for that way: with the project's margin, and its slack at each
/// end, rounded up to whole decimetres, and from there to the next length the type can be
/// had in.
Result<std::int64_t> lengthFor(const model::Network& network, const model::CableType& type,
                               const model::PortRef& a, const model::PortRef& b);
/// The same for a way that is known, in millimetres.
std::int64_t lengthFor(const model::Network& network, const model::CableType& type, std::int64_t wayMm);
/// The same where many are asked for.
Result<std::int64_t> lengthFor(const model::Network& network, CableWays& ways, const model::CableType& type,
                               const model::PortRef& a, const model::PortRef& b);

} // namespace underridge::linking

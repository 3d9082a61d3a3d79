// SPDX-License-Identifier: GPL-3.0-or-later
// The cable routes of one floor as ways a cable can go.
#pragma once
#include "core/model/network.h"

#include <optional>

namespace underridge::linking {

/// Routes that come this near each other in the plan are joined there, in millimetres.
inline constexpr std::int64_t joinMm = 500;
/// A metre beside the routes counts as so many in choosing the way: cables keep to their
/// routes unless their ends are close to one another.
inline constexpr std::int64_t besideFactor = 5;

/// A stretch of a cable in a route, by the distance from the route's first point.
struct Run {
    model::CableRouteId route;
    std::int64_t fromMm = 0, toMm = 0;

    bool operator==(const Run&) const = default;
};

class FloorRoutes {
public:
    /// Where a cable begins or ends on the floor; without a height, as at a riser, it is at
    /// that of whatever leads there.
    struct Spot {
        std::int64_t x = 0, y = 0;
        std::optional<std::int64_t> height;
    };
    struct Way {
        std::int64_t mm = 0;
        std::int64_t heightA = 0, heightB = 0; ///< above the floor, where it begins and ends
        std::vector<Run> runs;                 ///< in the order they are gone through
    };

    FloorRoutes(const model::Network& network, model::GroupId floor);

    bool empty() const { return routes_.empty(); }
    /// The cheapest way: along the axes to a route, along routes, and along the axes to the
    /// other end; or along the axes alone where that is less. Trays are entered anywhere,
    /// conduits at their ends. Dijkstra (1959) over the points where routes begin, bend and
    /// meet.
    Way between(const Spot& a, const Spot& b) const;

private:
    struct Station {
        std::size_t route = 0;
        std::int64_t along = 0; ///< from the first point
        double x = 0, y = 0;
    };
    struct Edge {
        std::size_t to = 0;
        std::int64_t mm = 0;
    };
    /// Where an end of a cable may come onto a route.
    struct Access {
        std::size_t route = 0;
        std::int64_t along = 0;
        std::int64_t besideMm = 0;
    };
    struct Search;

    void addStations();
    void join(std::size_t a, std::size_t b);
    void connect();
    std::vector<Access> accessesOf(const Spot& spot) const;
    /// Calls `each(station, distance)` for those next to a point of a route.
    template <class Each>
    void forEachNextTo(const Access& access, Each&& each) const;
    Station at(std::size_t route, std::int64_t along) const;

    std::vector<model::CableRoute> routes_;
    std::vector<std::vector<std::int64_t>> alongs_;   ///< of each route, of its points
    std::vector<Station> stations_;                   ///< sorted by route, then along it
    std::vector<std::pair<Station, Station>> joints_; ///< of two routes
    std::vector<std::vector<Edge>> edges_;
};

} // namespace underridge::linking

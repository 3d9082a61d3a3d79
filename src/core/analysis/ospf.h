// SPDX-License-Identifier: GPL-3.0-or-later
// OSPFv2 and OSPFv3 in steady state: neighbours, shortest paths in each area, summaries
// over area border routers, external routes of type 2. RFC 2328 sections 10.5, 16.1 to
// 16.4; RFC 5340.
#pragma once
#include "core/analysis/routing.h"

namespace underridge::analysis {

/// One address of an interface that takes part.
struct OspfPort {
    int interface = -1; ///< index in Bridging
    int router = -1;
    Ip address;
    Prefix subnet;
    std::uint32_t area = 0;
    std::int64_t cost = 1;
    bool passive = false, pointToPoint = false, loopback = false;
    std::vector<int> neighbours; ///< indices of others
};

/// One process: a device in one VRF.
struct OspfRouter {
    int station = -1;
    std::string vrf;
    std::uint32_t id = 0; ///< router id
    std::vector<int> ports;
    std::set<std::uint32_t> areas;
};

/// Why two that hear each other are no neighbours.
enum class OspfRift { none, area, subnet, routerId, mtu, network };

class Ospf {
public:
    Ospf(const Routing& routing, const Wiring& wiring, const Bridging& bridging);

    /// What a station learns, without what it is connected to.
    std::vector<RouteEntry> routes(int station, const std::string& vrf) const;

    const std::vector<OspfRouter>& routers() const { return routers_; }
    const std::vector<OspfPort>& ports() const { return ports_; }
    /// Why two ports, of different routers and heard by each other, are no neighbours.
    OspfRift riftBetween(int a, int b) const;

private:
    struct Cost {
        std::int64_t metric = 0;
        std::vector<NextHop> hops;
        /// Takes the better of two, or both when they are equal.
        void take(std::int64_t metric, const std::vector<NextHop>& hops);
        bool set = false;
    };
    struct Edge {
        int to = -1;
        std::int64_t cost = 0;
        int port = -1;      ///< left by
        int neighbour = -1; ///< port of the router met; -1: a network
    };
    /// Routers first, then networks that several share.
    struct Area {
        std::vector<int> routers;
        std::unordered_map<int, int> nodeOf; ///< of a router
        std::vector<std::vector<Edge>> edges;
        std::vector<std::tuple<int, Prefix, std::int64_t>> prefixes; ///< node, what hangs on it, cost
    };
    using Prefixes = std::map<Prefix, Cost>;
    struct Tree {
        std::vector<Cost> nodes;
        Prefixes prefixes;
    };

    void gather();
    void meetNeighbours();
    void buildArea(std::uint32_t number);
    std::int64_t costOf(const NetInterface& interface) const;
    const Tree& tree(int router, std::uint32_t area) const;
    /// Calls `each(border, area, way)` for the border routers a router goes over to other areas.
    template <class Each>
    void forEachBorder(int router, Each&& each) const;
    /// What a border router tells an area of the others.
    const std::map<Prefix, std::int64_t>& summary(int router, std::uint32_t into) const;
    /// Over summaries: by routers of the backbone, or of an area that is not theirs.
    const Prefixes& between(int router) const;
    Cost within(int router, int other, std::optional<std::uint32_t> aside = {}) const;
    Cost toRouter(int router, int other) const;
    bool isBorder(int router) const;
    void addExternal(int router, const Prefixes& within, const Prefixes& over,
                     std::vector<RouteEntry>& out) const;

    const Routing& routing_;
    const Wiring& wiring_;
    const Bridging& bridging_;
    std::vector<OspfRouter> routers_;
    std::vector<OspfPort> ports_;
    std::map<std::pair<int, std::string>, std::vector<int>> routerAt_; ///< version 4, version 6
    std::map<std::uint32_t, Area> areas_;
    mutable std::recursive_mutex mutex_;
    mutable std::map<std::pair<int, std::uint32_t>, Tree> trees_;
    mutable std::map<std::pair<int, std::uint32_t>, std::map<Prefix, std::int64_t>> summaries_;
    mutable std::map<int, Prefixes> between_;
};

} // namespace underridge::analysis

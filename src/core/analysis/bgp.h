// SPDX-License-Identifier: GPL-3.0-or-later
// BGP between and within autonomous systems, without policies: which sessions stand, and
// the best path of each prefix at each speaker (RFC 4271 section 9.1).
#pragma once
#include "core/analysis/routing.h"

namespace underridge::analysis {

class Bgp {
public:
    Bgp(const Routing& routing, const Wiring& wiring, const Bridging& bridging, const Addressing& addressing);

    /// What a station learns, in the default VRF. The first call works all of it out.
    std::vector<RouteEntry> routes(int station) const;

    /// A neighbour a device names, and why there is no session with it.
    enum class Rift { none, nobody, unreachable, as, unanswered };
    Rift riftOf(int station, const model::BgpNeighbour& neighbour) const;

private:
    /// Heard by one from another.
    struct Session {
        int hears = -1, from = -1; ///< stations
        Ip fromAddress;            ///< as the hearer names it
        bool external = true;      ///< between systems
    };
    struct Path {
        std::vector<std::int64_t> as;
        Ip next;              ///< none: of its own
        int origin = 0;       ///< 0: said to be told, 2: redistributed (section 5.1.1)
        bool external = true; ///< heard from another system
        std::int64_t igp = 0; ///< metric to the next hop
        std::uint32_t routerId = 0;
        Ip peer;
        int from = -1; ///< station; -1: its own

        bool operator==(const Path&) const = default;
    };
    using Paths = std::map<Prefix, Path>;

    bool speaks(int station) const;
    bool directly(int station, const Ip& address) const;
    std::uint32_t idOf(int station) const;
    void workOut() const;
    Paths own(int station) const;
    std::optional<Path> heard(const Session& session, const Path& path) const;
    /// The less is the better.
    static bool before(const Path& a, const Path& b);

    const Routing& routing_;
    const Wiring& wiring_;
    const Bridging& bridging_;
    const Addressing& addressing_;
    mutable std::once_flag once_;
    mutable std::map<int, Paths> best_; ///< by station
};

} // namespace underridge::analysis

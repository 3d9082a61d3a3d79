// SPDX-License-Identifier: GPL-3.0-or-later
// The routing table of each device as it stands when nothing changes any more: connected,
// static with recursion, OSPF, BGP. One for each VRF.
#pragma once
#include "core/analysis/dhcp.h"

#include <memory>
#include <mutex>

namespace underridge::analysis {

struct NextHop {
    Ip via;             ///< none: the subnet is here
    int interface = -1; ///< index in Bridging

    auto operator<=>(const NextHop&) const = default;
};

/// How OSPF knows a route, in the order they are preferred: RFC 2328 section 11.
enum class OspfPath { intraArea, interArea, external };
std::string_view textOf(OspfPath path);

struct RouteEntry {
    Prefix to;
    model::RouteOrigin origin = model::RouteOrigin::connected;
    OspfPath path = OspfPath::intraArea; ///< of OSPF
    std::int64_t metric = 0;
    std::vector<NextHop> hops; ///< ascending; several: equal cost
    bool discards = false;
    bool within = false; ///< of BGP: heard within the own system

    bool operator==(const RouteEntry&) const = default;
};

/// The best entry of each prefix, sorted by it.
class RoutingTable {
public:
    explicit RoutingTable(std::vector<RouteEntry> entries);
    const std::vector<RouteEntry>& entries() const { return entries_; }
    /// The longest match; null: there is no route.
    const RouteEntry* find(const Ip& to) const;
    const RouteEntry* at(const Prefix& prefix) const;

private:
    std::vector<RouteEntry> entries_;
    std::vector<int> lengths_[2]; ///< that occur, of version 4 and 6, longest first
};

/// A static route that does nothing, and why.
enum class Refusal { none, noNextHop, outside, ownAddress, noPrefix };

class Bgp;
class Ospf;

class Routing {
public:
    Routing(const Wiring& wiring, const Bridging& bridging, const Addressing& addressing);
    /// After frames have come to go other ways that concern no router (`routesAlike`): what
    /// routers know is what they knew `before`, which must outlive this.
    Routing(const Routing& before, const Wiring& wiring, const Bridging& bridging,
            const Addressing& addressing);
    ~Routing();
    Routing(const Routing&) = delete;
    Routing& operator=(const Routing&) = delete;

    /// Worked out when it is first asked for; may be asked from several threads.
    const RoutingTable& table(int station, const std::string& vrf = {}) const;
    /// VRFs a station has interfaces in, the default one "" first.
    std::vector<std::string> vrfsOf(int station) const;
    /// Why a static route of a station is not in its table.
    Refusal refusalOf(const model::Route& route) const;
    const Dhcp& dhcp() const { return dhcp_; }
    const Ospf& ospf() const;
    const Bgp& bgp() const;
    /// The table of the default VRF without BGP, which stands on it.
    const RoutingTable& base(int station) const { return tableOf(station, {}, false); }

private:
    friend class Ospf;
    /// Whether the table of a station may not be that of before: what it is told by DHCP.
    bool mayDiffer(int station) const;
    const RoutingTable& tableOf(int station, const std::string& vrf, bool all) const;
    std::vector<RouteEntry> connected(int station, const std::string& vrf) const;
    /// Static routes whose next hop is in a subnet of the station.
    std::vector<RouteEntry> fixed(int station, const std::string& vrf) const;
    /// Default routes a host is told by DHCP, where none of that version is typed.
    void addTold(int station, const std::string& vrf, std::vector<RouteEntry>& entries) const;
    void recurse(int station, const std::string& vrf, std::vector<RouteEntry>& entries) const;
    std::vector<NextHop> onSubnet(int station, const std::string& vrf, const Ip& via) const;

    const Wiring& wiring_;
    const Bridging& bridging_;
    const Addressing& addressing_;
    Dhcp dhcp_;
    const Routing* before_ = nullptr;
    std::unique_ptr<Ospf> ospf_;
    std::unique_ptr<Bgp> bgp_;
    mutable std::mutex mutex_;
    mutable std::map<std::tuple<int, std::string, bool>, std::unique_ptr<RoutingTable>> tables_;
};

/// Whether all that routers know of frames is the same: which of their interfaces are up, which
/// of them hear each other, who stands for shared addresses.
bool routesAlike(const Wiring& wiring, const Bridging& before, const Addressing& addressingBefore,
                 const Bridging& after, const Addressing& addressingAfter);

} // namespace underridge::analysis

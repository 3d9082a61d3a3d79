// SPDX-License-Identifier: GPL-3.0-or-later
// What the parts of checking forwarding share.
#pragma once
#include "core/analysis/check.h"
#include "core/analysis/forwarding.h"

namespace underridge::analysis {

/// Findings as they are told, one after another.
class Told {
public:
    explicit Told(const Forwarding& forwarding) : f(forwarding), network(forwarding.network()) {}
    /// The network may have gone on in what forwarding does not depend on.
    Told(const Forwarding& forwarding, const model::Network& now) : f(forwarding), network(now) {}

    void tell(std::string_view code, std::vector<model::ObjectRef> subjects, std::string message,
              std::string remedy, std::vector<std::string> acts = {});
    std::vector<linking::Finding> take() { return std::move(found_); }
    /// That what is told follows from the reach of an interface, too.
    void lookAt(int interface);
    /// The reaches of those looked at.
    const std::set<int>& beyond() const { return beyond_; }

    const Forwarding& f;
    const model::Network& network;

    std::string name(int station) const { return f.wiring().nameOf(station); }
    std::string port(int index) const;
    /// "acc-1 vlan20".
    std::string interface(int index) const;
    model::ObjectRef device(int station) const;
    /// The link a port is joined by, else its device.
    model::ObjectRef link(int port) const;

private:
    std::vector<linking::Finding> found_;
    std::set<int> beyond_;
};

/// An island of a VLAN somebody is on.
struct VlanPlace {
    model::VlanId vlan;
    std::size_t interfaces = 0;
    int first = -1; ///< of them
};
/// A subnet somebody is in, on one island.
struct SubnetPlace {
    std::string vrf;
    Prefix subnet;
    int component = -1; ///< of its reach
    int first = -1;     ///< interface
};
/// What there is in one reach, to be compared with that of others.
struct InReach {
    std::vector<VlanPlace> vlans;
    std::set<model::VlanId> carried;
    std::vector<SubnetPlace> subnets;
};

// What one reach decides by itself, with what routers know.
void checkVlans(Told& told, int reach, InReach& there);
void checkSubnets(Told& told, int reach, InReach& there);
void checkRoutes(Told& told, int reach);
void checkDhcp(Told& told, int reach);

// What takes all of them; those that tell of several.
void checkVlansApart(Told& told, const std::vector<const InReach*>& all);
void checkSubnetsApart(Told& told, const std::vector<const InReach*>& all);
/// Of stations that are in several reaches, or in none.
void checkRoutesBetween(Told& told);
void checkRelays(Told& told);
void checkReturns(Told& told);
void checkStatements(Told& told);

void checkTrees(Told& told);

// What does not follow from VLANs and trees.
void checkRings(Told& told);
void checkAddresses(Told& told);
void checkFilters(Told& told);
void checkSessions(Told& told);

// What more of the network than forwarding decides.
void checkResilience(Told& told);
void checkSpares(Told& told);

} // namespace underridge::analysis

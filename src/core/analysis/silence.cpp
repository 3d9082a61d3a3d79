// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/silence.h"

#include <algorithm>
#include <deque>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace underridge::analysis {
using namespace model;
namespace {

/// "acc-1:17", as scripts name ports.
std::string inScript(const Forwarding& forwarding, int port) {
    const LogicalPort& p = forwarding.wiring().port(port);
    return forwarding.wiring().nameOf(p.station) + ":" + p.members.front().port;
}

std::string line(const nlohmann::ordered_json& act) {
    return act.dump();
}

/// Stations from which frames come to an interface over its side of the break.
std::set<int> stationsOf(const Forwarding& forwarding, const std::set<int>& domains) {
    std::set<int> out;
    const int count = static_cast<int>(forwarding.wiring().stations().size());
    for (const int d : domains)
        if (forwarding.bridging().domain(d).station < count)
            out.insert(forwarding.bridging().domain(d).station);
    return out;
}

/// What lets no frame of a VLAN through from a port to its peer.
std::optional<Break> breakAt(const Forwarding& forwarding, int out, int vlan) {
    const Wiring& wiring = forwarding.wiring();
    const LogicalPort& port = wiring.port(out);
    const int in = port.peer;
    if (in < 0 || !port.bridged || !wiring.port(in).bridged)
        return std::nullopt;
    if (!port.up)
        return Break{Break::Kind::down, out, vlan};
    const auto aware = [&](int index) { return wiring.station(wiring.port(index).station).vlanAware; };
    const int tag = aware(out) ? membershipOf(wiring, out).leavesAs(vlan) : vlan;
    if (tag < 0)
        return Break{Break::Kind::vlan, out, vlan};
    const int taken = aware(in) ? membershipOf(wiring, in).takenAs(tag) : tag;
    if (aware(in) && taken != vlan)
        return Break{tag == 0 ? Break::Kind::untagged : Break::Kind::vlan, in, vlan};
    if (!forwarding.trees().forwards(out, vlan))
        return Break{Break::Kind::tree, out, vlan};
    if (!forwarding.trees().forwards(in, vlan))
        return Break{Break::Kind::tree, in, vlan};
    return std::nullopt;
}

} // namespace

std::string portText(const Forwarding& forwarding, int port) {
    const LogicalPort& p = forwarding.wiring().port(port);
    return forwarding.wiring().nameOf(p.station) + " " + p.name;
}

std::optional<Break> breakBetween(const Forwarding& forwarding, int from, int to) {
    const Bridging& bridging = forwarding.bridging();
    const Wiring& wiring = forwarding.wiring();
    const auto mine = bridging.domainsFrom(from);
    // Towards the other as if it sent: VLANs that carry both ways, as nearly all do.
    const auto theirs = bridging.domainsFrom(to);
    const auto theirStations = stationsOf(forwarding, theirs);
    std::optional<Break> tree, other;
    for (const int d : mine) {
        const Domain& here = bridging.domain(d);
        if (here.station >= static_cast<int>(wiring.stations().size()))
            continue;
        for (const int out : wiring.station(here.station).ports) {
            const int peer = wiring.port(out).peer;
            if (peer < 0 || !theirStations.contains(wiring.port(peer).station))
                continue;
            const auto found = breakAt(forwarding, out, here.vlan);
            if (!found)
                continue;
            if (found->kind == Break::Kind::tree)
                tree = found;
            else if (!other || (other->kind == Break::Kind::down && found->kind != Break::Kind::down))
                other = found;
        }
    }
    return other ? other : tree;
}

namespace {

std::string interfaceText(const Forwarding& forwarding, int index) {
    const NetInterface& each = forwarding.bridging().interface(index);
    return fmt::format("{} {}", forwarding.wiring().nameOf(each.station), each.name);
}

/// The far interface is there, on the same subnet, but frames do not come to it.
Cause cutOff(const Forwarding& forwarding, int asking, int other, const std::string& who) {
    const auto broken = breakBetween(forwarding, asking, other);
    if (!broken)
        return {fmt::format("frames do not come from {} to {}", interfaceText(forwarding, asking), who),
                "join their VLANs, or route between them",
                {}};
    const std::string port = portText(forwarding, broken->port);
    switch (broken->kind) {
    case Break::Kind::vlan:
        return {fmt::format("VLAN {} is not on {}, on the way to {}", broken->vlan, port, who),
                fmt::format("carry VLAN {} on {}", broken->vlan, port),
                {line({{"act", "vlan"},
                       {"port", inScript(forwarding, broken->port)},
                       {"tagToo", std::to_string(broken->vlan)}})}};
    case Break::Kind::untagged:
        return {fmt::format("{} takes untagged frames into another VLAN than {}, on the way to {}", port,
                            broken->vlan, who),
                fmt::format("make VLAN {} the untagged one of {}", broken->vlan, port),
                {}};
    case Break::Kind::tree: {
        const RingState* ring = forwarding.rings().at(broken->port);
        return {fmt::format("{} is blocked by {}, and VLAN {} is on no other way to {}", port,
                            ring ? ring->record->name : "the spanning tree", broken->vlan, who),
                ring ? fmt::format("carry VLAN {} on all links of {}", broken->vlan, ring->record->name)
                     : fmt::format("carry VLAN {} on the links the tree leaves open", broken->vlan),
                {}};
    }
    case Break::Kind::down:
        return {fmt::format("{} or its other end is disabled, on the way to {}", port, who),
                fmt::format("enable {}", port),
                {}};
    }
    return {};
}

} // namespace

Cause whySilent(const Forwarding& forwarding, int asking, const Ip& ip) {
    const Bridging& bridging = forwarding.bridging();
    const NetInterface& from = bridging.interface(asking);
    const std::string self = interfaceText(forwarding, asking);
    if (from.sends.empty()) {
        const LogicalPort* port = from.port >= 0 ? &forwarding.wiring().port(from.port) : nullptr;
        if (port && port->up && port->peer >= 0) {
            const std::string peer = portText(forwarding, port->peer);
            return from.vlan
                       ? Cause{fmt::format("{} does not take frames tagged with VLAN {}", peer, from.vlan),
                               fmt::format("tag VLAN {} on {}", from.vlan, peer),
                               {}}
                       : Cause{fmt::format("{} takes no untagged frames", peer),
                               fmt::format("give {} an untagged VLAN", peer),
                               {}};
        }
        return {fmt::format("{} leads nowhere", self), "link it", {}};
    }
    const auto& holders = forwarding.addressing().holders(ip);
    if (holders.empty())
        return {
            fmt::format("nothing has the address {}", ip.text()), "give it to a device, or correct it", {}};
    const int other = holders.front().interface;
    const NetInterface& to = bridging.interface(other);
    const std::string who =
        fmt::format("{} {} ({})", forwarding.wiring().nameOf(to.station), to.name, ip.text());
    if (other == asking)
        return {fmt::format("{} is its own address", ip.text()), "correct the next hop", {}};
    if (to.record->type == InterfaceKind::loopback && to.hears.empty())
        return {fmt::format("the address {} of {} stands on no port and in no VLAN", ip.text(),
                            forwarding.wiring().nameOf(to.station)),
                "say which interface it is of, or route to it",
                {}};
    if (!to.up)
        return {fmt::format("{} is down", who), "enable it, and what it is linked to", {}};
    if (bridging.carries(asking, other))
        return {fmt::format("{} hears the question, but its answer does not come back", who),
                "give the ports between them the same untagged VLAN",
                {}};
    const bool sameSubnet = std::any_of(
        from.record->addresses.begin(), from.record->addresses.end(), [&](const Address& address) {
            return address.prefixLength() >= 0 && prefixOf(address) == holders.front().subnet;
        });
    if (!sameSubnet && !holders.front().shared)
        return {fmt::format("{} is in {}, which {} takes for its own subnet", who,
                            holders.front().subnet.text(), self),
                fmt::format("correct the prefix length of {}", self),
                {}};
    return cutOff(forwarding, asking, other, who);
}

} // namespace underridge::analysis

// SPDX-License-Identifier: GPL-3.0-or-later
// Acts on what is declared of several devices at once: ring, subnet.
#include "core/edit/rings.h"
#include "core/edit/script/line.h"
#include "core/edit/vlans.h"
#include "core/exchange/record_json.h"
#include "core/model/vlans.h"

#include <algorithm>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

const Ring* ringNamed(const Network& network, const std::string& name) {
    const Ring* found = nullptr;
    const auto id = idFromText(name);
    network.all<Ring>().forEach([&](const Ring& each) {
        if (each.name == name || (id && each.id.value == *id))
            found = &each;
    });
    return found;
}

/// The link at a port, or the only one between a device and who blocks.
Result<LinkId> blockedOf(const Line& line, const Ring& ring) {
    const auto end = line.portOrDevice("blocked");
    if (!end)
        return end.refusal();
    const Network& network = line.bench().network;
    std::vector<LinkId> found;
    for (const LinkId id : ring.links) {
        const Link& link = *network.link(id);
        const auto isIt = [&](const PortRef& at, const PortRef& other) {
            return at.device == end->device && (end->known() ? at == *end : other.device == ring.owner);
        };
        if (isIt(link.a, link.b) || isIt(link.b, link.a))
            found.push_back(id);
    }
    if (found.size() != 1)
        return line.wrong(
            "blocked", found.empty() ? "no link of the ring is there" : "several links of the ring are there",
            "name a port of one, as \"s1:23\"");
    return found.front();
}

ActResult ring(const Line& line) {
    const auto name = line.text("name");
    const auto gone = line.flagOr("remove", false);
    if (!name || !gone)
        return name ? gone.refusal() : name.refusal();
    const Network& network = line.bench().network;
    const Ring* held = ringNamed(network, *name);
    if (*gone)
        return held ? dissolveRings(network, {held->id})
                    : line.wrong("name", fmt::format("there is no ring {}", *name),
                                 "see underridge list FILE rings");
    Ring set = held ? *held : Ring{};
    set.name = held ? held->name : *name;
    if (line.has("protocol")) {
        const auto protocol = line.word<RingProtocol>("protocol");
        if (!protocol)
            return protocol.refusal();
        set.protocol = *protocol;
    }
    if (!held || line.has("members")) {
        const auto members = line.objects("members");
        if (!members)
            return members.refusal();
        std::vector<DeviceId> devices;
        for (const ObjectRef member : *members) {
            if (member.kind != Kind::device)
                return line.wrong("members", "only devices are in a ring", "name devices");
            devices.push_back({member.id});
        }
        auto links = ringAmong(network, devices);
        if (!links)
            return line.wrong("members", links.refusal().what, links.refusal().remedy);
        set.links = *std::move(links);
        if (std::find(devices.begin(), devices.end(), set.owner) == devices.end())
            set.owner = devices.front();
        set.blocked = {};
    }
    if (line.has("owner")) {
        const auto owner = line.device("owner");
        if (!owner)
            return owner.refusal();
        if (set.owner != *owner)
            set.blocked = {};
        set.owner = *owner;
    }
    if (line.has("blocked")) {
        const auto blocked = blockedOf(line, set);
        if (!blocked)
            return blocked.refusal();
        set.blocked = *blocked;
    }
    if (line.has("vlans"))
        if (const auto read = exchange::readValue(line.member("vlans"), set.vlans, "vlans"); !read)
            return line.wrong("vlans", read.refusal().what, read.refusal().remedy);
    auto act = declareRing(network, std::move(set), line.bench().ids);
    return act ? std::move(act) : line.wrong("name", act.refusal().what, act.refusal().remedy);
}

ActResult subnet(const Line& line) {
    const auto prefix = line.text("prefix");
    const auto vrf = line.textOr("vrf", "");
    const auto gone = line.flagOr("remove", false);
    for (const auto* refusal : {prefix ? nullptr : &prefix.refusal(), vrf ? nullptr : &vrf.refusal(),
                                gone ? nullptr : &gone.refusal()})
        if (refusal)
            return *refusal;
    const Address written(*prefix);
    if (!written.valid() || written.prefixLength() < 0)
        return line.wrong("prefix", fmt::format("{} is no subnet", *prefix), "write it as 10.84.20.0/24");
    Act act{fmt::format("Set {}", written.network().text()), line.bench().network, {}};
    Subnet set;
    set.prefix = written.network();
    set.vrf = *vrf;
    act.network.all<Subnet>().forEach([&](const Subnet& each) {
        if (each.prefix == set.prefix && each.vrf == set.vrf)
            set = each;
    });
    if (*gone) {
        if (!act.network.erase<Subnet>(set.key()))
            return line.wrong("prefix", fmt::format("{} is not recorded", *prefix), "nothing is to remove");
        return act;
    }
    const auto name = line.textOr("name", set.name);
    const auto vlan = line.wholeOr("vlan", numberOf(act.network, set.vlan), 0, 4094);
    const auto gateway = line.textOr("gateway", set.gateway.text());
    for (const auto* refusal : {name ? nullptr : &name.refusal(), vlan ? nullptr : &vlan.refusal(),
                                gateway ? nullptr : &gateway.refusal()})
        if (refusal)
            return *refusal;
    set.name = *name;
    if (line.has("vlan")) {
        set.vlan = *vlan == 0 ? VlanId{} : vlanFor(act.network, DeviceId{}, static_cast<int>(*vlan));
        if (*vlan != 0 && !set.vlan)
            return line.wrong("vlan", fmt::format("there is no VLAN {}", *vlan), "add it by the act vlan");
    }
    set.gateway = *gateway;
    if (!gateway->empty() && (!set.gateway.valid() || !set.prefix.contains(set.gateway)))
        return line.wrong("gateway", fmt::format("{} is no address of {}", *gateway, set.prefix.text()),
                          "write one that is");
    if (line.has("dhcpServers")) {
        const auto servers = line.objects("dhcpServers");
        if (!servers)
            return servers.refusal();
        set.dhcpServers.clear();
        for (const ObjectRef server : *servers) {
            if (server.kind != Kind::device)
                return line.wrong("dhcpServers", "only devices are DHCP servers", "name devices");
            set.dhcpServers.push_back({server.id});
        }
    }
    if (!set.id)
        set.id = line.bench().ids.make<SubnetId>();
    act.network.put(std::move(set));
    return act;
}

} // namespace

std::span<const ActWord> declaredActs() {
    static const std::vector<ActWord> acts{
        {"ring", {"name", "protocol", "members", "owner", "blocked", "vlans", "remove"}, ring},
        {"subnet", {"prefix", "vrf", "name", "vlan", "gateway", "dhcpServers", "remove"}, subnet}};
    return acts;
}

} // namespace underridge::edit

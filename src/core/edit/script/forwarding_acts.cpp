// SPDX-License-Identifier: GPL-3.0-or-later
// Acts on what devices do with frames and packets: interface, route, forwarding, statement.
// Their members have the words of the file; VLANs go by number, interfaces by name.
#include "core/analysis/forwarding.h"
#include "core/edit/carrying.h"
#include "core/edit/interfaces.h"
#include "core/edit/script/line.h"
#include "core/edit/statements.h"
#include "core/edit/vlans.h"
#include "core/exchange/record_json.h"

#include "core/model/ports.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
using exchange::JsonView;
namespace {

/// Takes members of a line over into a record; the first refusal is kept.
class Taking {
public:
    explicit Taking(const Line& line) : line_(line) {}

    template <class T>
    void value(const char* member, T& into) {
        if (!line_.has(member) || why_)
            return;
        const auto read = exchange::readValue(line_.member(member), into, member);
        if (!read)
            why_ = line_.wrong(member, read.refusal().what, read.refusal().remedy);
    }
    void text(const char* member, std::string& into) { keep(line_.textOr(member, into), into); }
    void flag(const char* member, bool& into) { keep(line_.flagOr(member, into), into); }
    void number(const char* member, int& into, std::int64_t least, std::int64_t most) {
        std::int64_t wide = into;
        keep(line_.wholeOr(member, wide, least, most), wide);
        into = static_cast<int>(wide);
    }
    void address(const char* member, Address& into) {
        std::string written = into.text();
        text(member, written);
        into = written;
    }
    template <class Word>
    void word(const char* member, Word& into) {
        if (line_.has(member))
            keep(line_.word<Word>(member), into);
    }
    void refuse(const char* member, const Remark& why) {
        if (!why_)
            why_ = line_.wrong(member, why.what, why.remedy);
    }
    const std::optional<Remark>& why() const { return why_; }

private:
    template <class T>
    void keep(Result<T> read, T& into) {
        if (why_)
            return;
        if (read)
            into = *std::move(read);
        else
            why_ = read.refusal();
    }

    const Line& line_;
    std::optional<Remark> why_;
};

/// VLAN numbers of a member: "20,30-40", a number, or a list of them.
std::string numbersOf(JsonView member) {
    if (member.isText())
        return member.text();
    if (!member.isArray())
        return std::string(member.raw());
    std::string out;
    member.forEach([&](JsonView each) { out += (out.empty() ? "" : ",") + numbersOf(each); });
    return out;
}

void takeVlans(const Line& line, Taking& taking, Interface& interface) {
    const auto list = [&](const char* member) -> std::optional<VlanList> {
        if (!line.has(member))
            return std::nullopt;
        const auto read = vlansFrom(line.bench().network, interface.device, numbersOf(line.member(member)));
        if (!read) {
            taking.refuse(member, read.refusal());
            return std::nullopt;
        }
        return *read;
    };
    if (const auto tagged = list("tagged")) {
        interface.tagged = tagged->vlans;
        interface.taggedRanges = tagged->ranges;
    }
    if (const auto too = list("untaggedToo"))
        interface.untaggedToo = too->vlans;
    for (const auto& [member, into] :
         {std::pair("untagged", &interface.untagged), std::pair("voice", &interface.voice)})
        if (const auto one = list(member))
            *into = one->vlans.empty() ? VlanId{} : one->vlans.front();
}

/// The interface a line means, if it is there.
const Interface* meant(const Line& line, DeviceId device, const std::string& name, const std::string& port) {
    const Network& network = line.bench().network;
    const auto type = line.textOr("type", "physical");
    if (!name.empty())
        return interfaceNamed(network, device, name);
    return type && *type == "physical" ? interfaceNamed(network, device, port) : nullptr;
}

/// The interface another stands on: one that is there, or a port of which nothing was said
/// yet, which gets one in `network`.
Result<InterfaceId> parentOf(const Line& line, DeviceId device, Network& network) {
    const auto name = line.text("parent");
    if (!name)
        return name.refusal();
    if (const Interface* on = interfaceNamed(network, device, *name))
        return on->id;
    if (!portAt(network, {device, *name}))
        return line.wrong("parent", fmt::format("there is no interface or port {}", *name), "name one");
    Interface bare;
    bare.id = line.bench().ids.make<InterfaceId>();
    bare.device = device;
    bare.port = *name;
    network.put(bare);
    return bare.id;
}

ActResult interface(const Line& line) {
    const auto device = line.device("device");
    const auto name = line.textOr("name", ""), port = line.textOr("port", "");
    const auto gone = line.flagOr("remove", false);
    for (const auto* refusal : {device ? nullptr : &device.refusal(), name ? nullptr : &name.refusal(),
                                port ? nullptr : &port.refusal(), gone ? nullptr : &gone.refusal()})
        if (refusal)
            return *refusal;
    Network network = line.bench().network;
    const Interface* held = meant(line, *device, *name, *port);
    if (*gone)
        return held ? removeInterface(network, *device, held->id)
                    : line.wrong("name", "there is no such interface", "see underridge list FILE interfaces");
    Interface set = held ? *held : Interface{};
    set.device = *device;
    if (line.has("parent")) {
        const auto parent = parentOf(line, *device, network);
        if (!parent)
            return parent.refusal();
        set.parent = *parent;
    }
    Taking taking(line);
    taking.word("type", set.type);
    taking.text("name", set.name);
    taking.text("port", set.port);
    if (!held && set.type == InterfaceKind::physical && set.port.empty())
        set.port = set.name; // a port by its own name
    taking.value("ports", set.members);
    taking.value("addresses", set.addresses);
    taking.text("mac", set.mac);
    taking.text("vrf", set.vrf);
    taking.text("zone", set.zone);
    taking.word("frames", set.frames);
    taking.number("mtu", set.mtu, 0, 65535);
    taking.flag("lacp", set.lacp);
    taking.flag("disabled", set.disabled);
    taking.flag("dhcp", set.dhcp);
    taking.value("dhcpRelay", set.dhcpRelay);
    taking.value("spanningTree", set.spanningTree);
    taking.value("ospf", set.ospf);
    taking.value("vrrp", set.vrrp);
    takeVlans(line, taking, set);
    if (taking.why())
        return *taking.why();
    if (!set.port.empty() && !portAt(network, {set.device, set.port}))
        return line.wrong(line.has("port") ? "port" : "name", fmt::format("there is no port {}", set.port),
                          "see underridge list FILE ports");
    return putInterface(network, std::move(set), line.bench().ids);
}

ActResult carry(const Line& line) {
    const auto device = line.device("device");
    const auto vlan = line.whole("vlan", 1, 4094);
    if (!device || !vlan)
        return device ? vlan.refusal() : device.refusal();
    auto carried = carryVlan(analysis::Forwarding(line.bench().network), *device, static_cast<int>(*vlan),
                             line.bench().ids);
    if (!carried)
        return line.wrong("vlan", carried.refusal().what, carried.refusal().remedy);
    return std::move(carried->act);
}

ActResult route(const Line& line) {
    const auto device = line.device("device");
    const auto to = line.text("to");
    const auto gone = line.flagOr("remove", false);
    for (const auto* refusal : {device ? nullptr : &device.refusal(), to ? nullptr : &to.refusal(),
                                gone ? nullptr : &gone.refusal()})
        if (refusal)
            return *refusal;
    const Network& network = line.bench().network;
    Route set;
    set.device = *device;
    set.to = *to;
    Taking taking(line);
    taking.address("via", set.via);
    taking.text("vrf", set.vrf);
    taking.number("metric", set.metric, 0, 1'000'000);
    taking.flag("discards", set.discards);
    if (taking.why())
        return *taking.why();
    if (!*gone)
        return putRoute(network, std::move(set), line.bench().ids);
    RouteId found;
    network.all<Route>().forEachIn(device->value, [&](const Route& each) {
        if (each.to == set.to && each.vrf == set.vrf && (set.via.empty() || each.via == set.via))
            found = each.id;
    });
    return found ? removeRoute(network, *device, found)
                 : line.wrong("to", "there is no such route", "see underridge list FILE routes");
}

ActResult forwarding(const Line& line) {
    const auto members = line.objects("members");
    if (!members)
        return members.refusal();
    Act act{"Set forwarding", line.bench().network, *members};
    for (const ObjectRef member : *members) {
        const Device* held = member.kind == Kind::device ? act.network.device({member.id}) : nullptr;
        if (!held)
            return line.wrong("members", "only devices forward", "name devices");
        Device device = *held;
        Taking taking(line);
        taking.flag("vlanAware", device.vlanAware);
        taking.flag("routing", device.routing);
        taking.value("spanningTree", device.spanningTree);
        taking.value("ospf", device.ospf);
        taking.value("bgp", device.bgp);
        taking.value("filter", device.filter);
        taking.value("translations", device.translations);
        if (taking.why())
            return *taking.why();
        act.network.put(std::move(device));
    }
    return act;
}

ActResult statement(const Line& line) {
    const auto name = line.text("name");
    const auto gone = line.flagOr("remove", false);
    if (!name || !gone)
        return name ? gone.refusal() : name.refusal();
    const Network& network = line.bench().network;
    if (*gone) {
        auto act = removeStatement(network, *name);
        return act ? std::move(act) : line.wrong("name", act.refusal().what, act.refusal().remedy);
    }
    Statement set;
    network.all<Statement>().forEach([&](const Statement& each) {
        if (each.name == *name)
            set = each;
    });
    set.name = *name;
    Taking taking(line);
    std::string from, to;
    taking.text("from", from);
    taking.text("to", to);
    taking.word("protocol", set.protocol);
    taking.number("port", set.port, 0, 65535);
    taking.flag("never", set.never);
    if (taking.why())
        return *taking.why();
    if (!from.empty())
        set.from = partyOf(network, from);
    if (!to.empty())
        set.to = partyOf(network, to);
    auto act = keepStatement(network, set, line.bench().ids);
    return act ? std::move(act)
               : line.wrong(set.from == Party{} ? "from" : "to", act.refusal().what, act.refusal().remedy);
}

} // namespace

std::span<const ActWord> forwardingActs() {
    static const std::vector<ActWord> acts{
        {"interface",
         {"device", "name",     "type",   "port",        "parent",       "ports",  "addresses", "mac",
          "vrf",    "untagged", "tagged", "untaggedToo", "voice",        "frames", "zone",      "mtu",
          "lacp",   "disabled", "dhcp",   "dhcpRelay",   "spanningTree", "ospf",   "vrrp",      "remove"},
         interface},
        {"carry", {"device", "vlan"}, carry},
        {"route", {"device", "to", "via", "vrf", "metric", "discards", "remove"}, route},
        {"forwarding",
         {"members", "vlanAware", "routing", "spanningTree", "ospf", "bgp", "filter", "translations"},
         forwarding},
        {"statement", {"name", "from", "to", "protocol", "port", "never", "remove"}, statement}};
    return acts;
}

} // namespace underridge::edit

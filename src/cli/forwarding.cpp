// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/forwarding.h"

#include "core/analysis/forwarding.h"
#include "core/linking/chain.h"
#include "core/model/group_tree.h"
#include "core/model/vlans.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

namespace underridge::cli {
using namespace model;
using analysis::Forwarding;
namespace {

/// The cables and panels from one hop to the next.
Json chainOf(const Network& network, const std::vector<LinkId>& links, DeviceId from) {
    Json out = Json::array();
    for (const LinkId id : links) {
        const Link* link = network.link(id);
        if (!link)
            continue;
        for (const auto& stretch : linking::outward(network, link->a.device == from ? link->a : link->b)) {
            const Cable* cable = network.cable(network.link(stretch.link)->cable);
            const auto name = [&](const PortRef& port) {
                const Device* device = network.device(port.device);
                return device ? device->name : std::string();
            };
            out.push_back({{"device", name(stretch.from)},
                           {"port", stretch.from.port},
                           {"toDevice", name(stretch.to)},
                           {"toPort", stretch.to.port},
                           {"cable", cable ? cable->type : ""},
                           {"label", cable ? cable->label : ""},
                           {"lengthM", cable ? static_cast<double>(cable->lengthMm) / 1000 : 0.0}});
        }
    }
    return out;
}

Json textOrNull(const std::string& text) {
    return text.empty() ? Json(nullptr) : Json(text);
}

Json traceJson(const Network& network, const analysis::Trace& trace) {
    Json hops = Json::array();
    for (const analysis::TraceHop& hop : trace.hops)
        hops.push_back({{"device", network.device(hop.device)->name},
                        {"in", textOrNull(hop.in)},
                        {"out", textOrNull(hop.out)},
                        {"layer", hop.layer},
                        {"vlan", hop.vlan ? Json(hop.vlan) : Json(nullptr)},
                        {"decision", hop.decision},
                        {"mtu", hop.mtu ? Json(hop.mtu) : Json(nullptr)},
                        {"equal", hop.equal},
                        {"chain", chainOf(network, hop.links, hop.device)}});
    const Device* stopped = trace.reached() ? nullptr : network.device(trace.stoppedAt);
    Json acts = Json::array();
    for (const std::string& act : trace.acts)
        acts.push_back(Json::parse(act));
    return {{"source", textOrNull(trace.source.text())},
            {"target", textOrNull(trace.target.text())},
            {"reached", trace.reached()},
            {"hops", std::move(hops)},
            {"mtu", trace.mtu() ? Json(trace.mtu()) : Json(nullptr)},
            {"stoppedAt", stopped ? Json(stopped->name) : Json(nullptr)},
            {"stop", trace.reached() ? Json(nullptr) : Json(textOf(trace.stop))},
            {"reason", textOrNull(trace.reason)},
            {"remedy", textOrNull(trace.remedy)},
            {"acts", std::move(acts)}};
}

/// Names on --without: a device, all in a group, or a port whose link has failed.
Result<analysis::Without> withoutOf(const Network& network, const std::vector<std::string>& names) {
    analysis::Without out;
    for (const std::string& name : names) {
        const auto before = out.size();
        network.all<Device>().forEach([&](const Device& device) {
            if (device.name == name || idText(device.id.value) == name)
                out.insert(refTo(device.id));
        });
        network.all<Group>().forEach([&](const Group& group) {
            if (group.name == name || idText(group.id.value) == name)
                for (const DeviceId id : devicesWithin(network, group.id))
                    out.insert(refTo(id));
        });
        network.all<Link>().forEach([&](const Link& link) {
            if (idText(link.id.value) == name)
                out.insert(refTo(link.id));
        });
        if (const auto end = analysis::traceEnd(network, name); end && !end->port.empty())
            if (const Link* link = network.linkAt({end->device, end->port}))
                out.insert(refTo(link->id));
        if (out.size() == before)
            return error(fmt::format("there is no device, group or linked port {}", name),
                         "write a name, DEVICE:PORT or an id");
    }
    return out;
}

Json numbersOf(const Network& network, const std::vector<VlanId>& vlans,
               const std::vector<VlanRange>& ranges) {
    Json out = Json::array();
    for (const VlanId id : vlans)
        if (const int number = numberOf(network, id))
            out.push_back(number);
    for (const VlanRange range : ranges)
        out.push_back(fmt::format("{}-{}", range.first, range.last));
    return out;
}

Json interfaces(const Network& network, const find::Matcher& where) {
    const Forwarding forwarding(network);
    std::map<const Interface*, bool> up;
    const Network& held = forwarding.network();
    for (int i = 0; i < forwarding.bridging().interfaceCount(); ++i)
        up[forwarding.bridging().interface(i).record] = forwarding.bridging().interface(i).up;
    Json rows = Json::array();
    held.all<Interface>().forEach([&](const Interface& each) {
        const Device* device = held.device(each.device);
        if (!device || !where.matches(*device))
            return;
        Json addresses = Json::array(), vrrp = Json::array();
        for (const Address& address : each.addresses)
            addresses.push_back(address.text());
        for (const Vrrp& one : each.vrrp)
            vrrp.push_back(
                {{"group", one.group}, {"address", one.address.text()}, {"priority", one.priority}});
        const int port = forwarding.wiring().portOf(each);
        const auto known = up.find(&each);
        const int untagged = numberOf(held, each.untagged);
        rows.push_back(
            {{"id", idText(each.id.value)},
             {"device", device->name},
             {"name", each.name.empty() ? each.port : each.name},
             {"type", std::string(textOf(each.type))},
             {"port", textOrNull(each.port)},
             {"members", each.members},
             {"up", known != up.end() ? known->second : port >= 0 && forwarding.wiring().port(port).up},
             {"addresses", addresses},
             {"mac", textOrNull(each.mac)},
             {"vrf", textOrNull(each.vrf)},
             {"untagged", untagged ? Json(untagged) : Json(nullptr)},
             {"tagged", numbersOf(held, each.tagged, each.taggedRanges)},
             {"untaggedToo", numbersOf(held, each.untaggedToo, {})},
             {"mtu", each.mtu > 0 ? each.mtu : 1500},
             {"dhcp", each.dhcp},
             {"ospfArea", textOrNull(each.ospf->area.text())},
             {"vrrp", vrrp}});
    });
    return rows;
}

Json routes(const Network& network, const find::Matcher& where) {
    const Forwarding forwarding(network);
    Json rows = Json::array();
    const auto& stations = forwarding.wiring().stations();
    for (int s = 0; s < static_cast<int>(stations.size()); ++s) {
        const Device& device = *stations[static_cast<std::size_t>(s)].device;
        if (forwarding.bridging().interfacesOf(s).empty() || !where.matches(device))
            continue;
        for (const std::string& vrf : forwarding.routing().vrfsOf(s))
            for (const analysis::RouteEntry& entry : forwarding.routing().table(s, vrf).entries()) {
                Json ways = Json::array();
                for (const analysis::NextHop& hop : entry.hops)
                    ways.push_back({{"via", textOrNull(hop.via.text())},
                                    {"interface", forwarding.bridging().interface(hop.interface).name}});
                rows.push_back(
                    {{"device", device.name},
                     {"vrf", textOrNull(vrf)},
                     {"to", entry.to.text()},
                     {"origin", std::string(textOf(entry.origin))},
                     {"path", entry.origin == RouteOrigin::ospf ? Json(textOf(entry.path)) : Json(nullptr)},
                     {"metric", entry.metric},
                     {"discards", entry.discards},
                     {"ways", ways}});
            }
    }
    return rows;
}

Json islands(const Network& network, const find::Matcher& where) {
    const Forwarding forwarding(network);
    const auto& bridging = forwarding.bridging();
    const int count = static_cast<int>(forwarding.wiring().stations().size());
    Json rows = Json::array();
    for (const analysis::Island& island : bridging.islands()) {
        // Of what knows no VLANs one without a number; a cable between two routers is none.
        std::vector<int> vlans = island.vlans;
        const bool switched = std::any_of(island.domains.begin(), island.domains.end(),
                                          [&](int d) { return bridging.domain(d).station < count; });
        if (vlans.empty() && switched)
            vlans.push_back(0);
        for (const int vlan : vlans) {
            std::set<std::string> switches;
            bool wanted = false;
            for (const int d : island.domains) {
                const analysis::Domain& domain = bridging.domain(d);
                if (domain.station >= count || (!domain.tags && domain.vlan != vlan))
                    continue;
                switches.insert(forwarding.wiring().nameOf(domain.station));
                wanted |= where.matches(*forwarding.wiring().station(domain.station).device);
            }
            Json joined = Json::array(), ends = Json::array();
            for (const int other : island.vlans)
                if (other != vlan)
                    joined.push_back(other);
            for (const int i : island.interfaces) {
                const analysis::NetInterface& each = bridging.interface(i);
                ends.push_back(
                    {{"device", forwarding.wiring().nameOf(each.station)}, {"interface", each.name}});
                wanted |= where.matches(*forwarding.wiring().station(each.station).device);
            }
            if (wanted)
                rows.push_back({{"vlan", vlan ? Json(vlan) : Json(nullptr)},
                                {"switches", switches},
                                {"interfaces", ends},
                                {"joinedWith", joined}});
        }
    }
    std::stable_sort(rows.begin(), rows.end(), [](const Json& a, const Json& b) {
        return a["vlan"] < b["vlan"]; // null first
    });
    return rows;
}

Json spanningTree(const Network& network, const find::Matcher& where) {
    const Forwarding forwarding(network);
    const auto& wiring = forwarding.wiring();
    Json instances = Json::array();
    for (const analysis::Tree& tree : forwarding.trees().trees()) {
        Json ports = Json::array(), bridges = Json::array();
        std::set<int> vlans;
        for (int d = 0; d < forwarding.bridging().domainCount(); ++d)
            if (const analysis::Domain& domain = forwarding.bridging().domain(d);
                !forwarding.bridging().isCable(domain) && !domain.tags &&
                forwarding.trees().treeOf(domain.station, domain.vlan) == &tree)
                vlans.insert(domain.vlan);
        for (std::size_t i = 0; i < tree.bridges.size(); ++i)
            bridges.push_back({{"device", wiring.nameOf(tree.bridges[i])}, {"costToRoot", tree.costs[i]}});
        for (const analysis::TreePort& each : tree.ports) {
            const analysis::LogicalPort& port = wiring.port(each.port);
            if (where.matches(*wiring.station(port.station).device))
                ports.push_back(
                    {{"device", wiring.nameOf(port.station)},
                     {"port", port.name},
                     {"role", textOf(each.role)},
                     {"state", each.state(wiring)},
                     {"cost",
                      each.role == analysis::PortRole::disabled ? 0 : forwarding.trees().costOf(each.port)}});
        }
        if (ports.empty() && !tree.ports.empty())
            continue;
        instances.push_back({{"instance", tree.instance},
                             {"vlans", vlans},
                             {"root", tree.root < 0 ? Json(nullptr) : Json(wiring.nameOf(tree.root))},
                             {"rootAddressStated", !tree.guessed},
                             {"bridges", bridges},
                             {"ports", ports}});
    }
    return {{"instances", instances}};
}

Json rings(const Network& network, const find::Matcher& where) {
    const Forwarding forwarding(network);
    Json rows = Json::array();
    for (const analysis::RingState& ring : forwarding.rings().all()) {
        Json devices = Json::array(), links = Json::array();
        bool wanted = false;
        for (const int station : ring.stations) {
            devices.push_back(forwarding.wiring().nameOf(station));
            wanted |= where.matches(*forwarding.wiring().station(station).device);
        }
        const auto end = [&](const PortRef& port) {
            const Device* device = network.device(port.device);
            return Json{{"device", device ? device->name : std::string()}, {"port", port.port}};
        };
        Json blocked = nullptr;
        for (const LinkId id : ring.record->links)
            if (const Link* link = network.link(id)) {
                links.push_back({{"a", end(link->a)}, {"b", end(link->b)}});
                if (id == ring.record->blocked)
                    blocked = links.back();
            }
        const Device* owner = network.device(ring.record->owner);
        Json vlans = Json::array();
        for (const VlanRange range : ring.record->vlans)
            vlans.push_back(range.first == range.last ? Json(range.first)
                                                      : Json(fmt::format("{}-{}", range.first, range.last)));
        if (wanted || ring.stations.empty())
            rows.push_back({{"id", idText(ring.record->id.value)},
                            {"name", ring.record->name},
                            {"protocol", textOf(ring.record->protocol)},
                            {"devices", devices},
                            {"links", links},
                            {"owner", owner ? Json(owner->name) : Json(nullptr)},
                            {"blockedLink", blocked},
                            {"blocks", ring.blocks()},
                            {"closed", ring.closed},
                            {"whole", ring.whole},
                            {"vlans", vlans}});
    }
    return rows;
}

std::string hopsText(const Json& trace) {
    std::string out;
    int n = 0;
    for (const Json& hop : trace["hops"]) {
        const auto port = [&](const char* which) {
            return hop[which].is_null() ? std::string("-") : hop[which].get<std::string>();
        };
        out += fmt::format(
            "{}\t{}\tin {}\tout {}\t{}{}\n", ++n, hop["device"].get<std::string>(), port("in"), port("out"),
            hop["vlan"].is_null() ? std::string() : fmt::format("VLAN {}, ", hop["vlan"].get<int>()),
            hop["decision"].get<std::string>());
    }
    if (trace["reached"].get<bool>())
        return out + "reached\n";
    out += fmt::format("stops: {}\n", trace["reason"].get<std::string>());
    return trace["remedy"].is_null() ? out
                                     : out + fmt::format("remedy: {}\n", trace["remedy"].get<std::string>());
}

} // namespace

void addOptions(CLI::App& app, Tracing& wanted) {
    app.add_option("FILE", wanted.file, "network, - for standard input")->required();
    app.add_option("--from", wanted.from, "DEVICE, DEVICE:PORT or an address")->required();
    app.add_option("--to", wanted.to, "DEVICE, DEVICE:PORT or an address")->required();
    app.add_option("--protocol", wanted.protocol, "icmp, tcp or udp")
        ->check(CLI::IsMember({"icmp", "tcp", "udp"}));
    app.add_option("--port", wanted.port, "destination port")->check(CLI::Range(1, 65535));
    app.add_flag("--both", wanted.both, "the answer too");
    app.add_option("--without", wanted.without, "devices, groups, or DEVICE:PORT whose link has failed");
}

Result<Json> traced(const Network& network, const Tracing& wanted) {
    const auto from = analysis::traceEnd(network, wanted.from), to = analysis::traceEnd(network, wanted.to);
    if (!from || !to)
        return from ? to.refusal() : from.refusal();
    if (!from->device)
        return error(fmt::format("no device has the address {}", wanted.from), "write one that a device has");
    const auto without = withoutOf(network, wanted.without);
    if (!without)
        return without.refusal();
    const Forwarding forwarding(network, *without);
    analysis::Probe probe{*from, *to, fromText<Protocol>(wanted.protocol).value_or(Protocol::any),
                          wanted.port};
    const auto [there, back] = analysis::traceBoth(forwarding, probe);
    Json out{{"from", wanted.from}, {"to", wanted.to}};
    out.update(traceJson(network, there));
    if (wanted.both)
        out["back"] = there.reached() ? traceJson(network, back) : Json(nullptr);
    return out;
}

std::string tracedText(const Json& traced) {
    std::string out = hopsText(traced);
    if (traced.contains("back") && !traced["back"].is_null())
        out += "back:\n" + hopsText(traced["back"]);
    return out;
}

bool isReached(const Json& traced) {
    return traced["reached"].get<bool>() &&
           (!traced.contains("back") || traced["back"]["reached"].get<bool>());
}

bool isOfForwarding(const std::string& what) {
    return what == "interfaces" || what == "routes" || what == "islands" || what == "spanning-tree" ||
           what == "rings";
}

Json forwardingListing(const Network& network, const std::string& what, const find::Matcher& where) {
    if (what == "interfaces")
        return interfaces(network, where);
    if (what == "routes")
        return routes(network, where);
    if (what == "rings")
        return rings(network, where);
    return what == "islands" ? islands(network, where) : spanningTree(network, where);
}

std::string spanningTreeText(const Json& listed) {
    std::string out;
    for (const Json& tree : listed["instances"]) {
        out += fmt::format("instance {}\troot {}\n", tree["instance"].get<int>(),
                           tree["root"].is_null() ? "none" : tree["root"].get<std::string>());
        for (const Json& port : tree["ports"])
            out += fmt::format("{}\t{}\t{}\t{}\tcost {}\n", port["device"].get<std::string>(),
                               port["port"].get<std::string>(), port["role"].get<std::string>(),
                               port["state"].get<std::string>(), port["cost"].get<std::int64_t>());
    }
    return out;
}

} // namespace underridge::cli

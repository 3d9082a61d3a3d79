// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/trace.h"

#include "core/analysis/filtering.h"
#include "core/analysis/forwarding.h"
#include "core/analysis/silence.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;
namespace {

int mtuOf(const Interface& interface) {
    constexpr int ofEthernet = 1500; // RFC 894
    return interface.mtu > 0 ? interface.mtu : ofEthernet;
}

constexpr int mostHops = 255; ///< RFC 1812 section 5.3.1: the greatest time to live

std::string decisionText(const Bridging& bridging, const RouteEntry& entry, const NextHop& hop) {
    const std::string name = bridging.interface(hop.interface).name;
    if (entry.origin == RouteOrigin::connected)
        return fmt::format("{} connected on {}", entry.to.text(), name);
    std::string text = hop.via ? fmt::format("{} via {}", entry.to.text(), hop.via.text())
                               : fmt::format("{} on {}", entry.to.text(), name);
    text += fmt::format(", {}", titleOf(entry.origin));
    if (entry.origin == RouteOrigin::ospf)
        text += fmt::format(" {}, cost {}", textOf(entry.path), entry.metric);
    return text;
}

class Tracing {
public:
    Tracing(const Forwarding& forwarding, const Probe& probe, Conversation& conversation, bool answer)
        : f_(forwarding),
          wiring_(forwarding.wiring()),
          bridging_(forwarding.bridging()),
          probe_(probe),
          conversation_(conversation),
          answer_(answer) {}

    Trace run() {
        if (begin())
            while (step()) {
            }
        trace_.source = packet_.source;
        return std::move(trace_);
    }

private:
    const NetInterface& interface(int index) const { return bridging_.interface(index); }
    std::string name(int station) const { return wiring_.nameOf(station); }

    bool stop(Stop why, std::string reason, std::string remedy, std::vector<std::string> acts = {}) {
        trace_.stop = why;
        trace_.stoppedAt = wiring_.station(station_).device->id;
        trace_.reason = std::move(reason);
        trace_.remedy = std::move(remedy);
        trace_.acts = std::move(acts);
        return false;
    }

    /// The first address of a device: of an interface on no port before those of ports.
    Ip addressOf(int station, const std::string& port, int version) const {
        Ip found;
        bool onPort = false;
        for (const int i : bridging_.interfacesOf(station)) {
            const NetInterface& each = interface(i);
            if (!port.empty() && !standsOn(each, port))
                continue;
            for (const Address& address : each.record->addresses) {
                const Ip ip = ipOf(address);
                if (!ip || (version && ip.version != version))
                    continue;
                const bool better = !found || (onPort && each.record->port.empty());
                if (better) {
                    found = ip;
                    onPort = !each.record->port.empty();
                }
            }
        }
        return found;
    }
    bool standsOn(const NetInterface& each, const std::string& port) const {
        if (each.name == port || each.record->port == port)
            return true;
        if (each.port < 0)
            return false;
        const auto& members = wiring_.port(each.port).members;
        return std::any_of(members.begin(), members.end(),
                           [&](const PortRef& ref) { return ref.port == port; });
    }

    bool begin() {
        station_ = wiring_.stationOf(probe_.from.device);
        const int target = wiring_.stationOf(probe_.to.device);
        packet_.protocol = probe_.protocol;
        packet_.port = probe_.port;
        packet_.target = probe_.to.address;
        if (!packet_.target && target >= 0) { // of a version the source has too
            for (const int version : {4, 6})
                if (!packet_.target && station_ >= 0 && addressOf(station_, {}, version))
                    packet_.target = addressOf(target, probe_.to.port, version);
            if (!packet_.target)
                packet_.target = addressOf(target, probe_.to.port, 0);
        }
        trace_.target = packet_.target;
        if (station_ < 0) {
            trace_.stop = Stop::noAddress;
            trace_.stoppedAt = probe_.from.device;
            trace_.reason = "the device it begins at is not there";
            return false;
        }
        const std::string start = name(station_);
        if (!packet_.target) {
            const Device* device = f_.network().device(probe_.to.device);
            return stop(Stop::noAddress,
                        fmt::format("{} has no address", device ? device->name : "the target"),
                        "give it one");
        }
        packet_.source = probe_.from.address;
        for (const int i : bridging_.interfacesOf(station_)) {
            const NetInterface& each = interface(i);
            const bool holds = std::any_of(each.record->addresses.begin(), each.record->addresses.end(),
                                           [&](const Address& a) { return ipOf(a) == packet_.source; });
            if ((packet_.source && holds) ||
                (!probe_.from.port.empty() && standsOn(each, probe_.from.port))) {
                vrf_ = each.record->vrf;
                if (!packet_.source)
                    packet_.source = addressOf(station_, probe_.from.port, packet_.target.version);
            }
        }
        if (probe_.from.port.empty() && !probe_.from.address && !bridging_.interfacesOf(station_).empty()) {
            const auto vrfs = f_.routing().vrfsOf(station_);
            const bool inDefault =
                std::any_of(bridging_.interfacesOf(station_).begin(), bridging_.interfacesOf(station_).end(),
                            [&](int i) { return interface(i).record->vrf.empty(); });
            vrf_ = inDefault || vrfs.size() < 2 ? "" : vrfs[1];
        }
        if (!addressOf(station_, {}, packet_.target.version))
            return stop(Stop::noAddress,
                        fmt::format("{} has no IPv{} address", start, packet_.target.version), "give it one");
        return true;
    }

    bool holds(const Ip& ip) const {
        for (const Held& held : f_.addressing().holders(ip))
            if (interface(held.interface).station == station_ &&
                interface(held.interface).record->vrf == vrf_)
                return true;
        return false;
    }

    void hopOf(std::string out, int vlan, std::string decision) {
        TraceHop hop;
        hop.device = wiring_.station(station_).device->id;
        if (cameIn_ >= 0)
            hop.enters = interface(cameIn_).record->id;
        hop.in = in_;
        hop.out = std::move(out);
        hop.vlan = vlan;
        hop.decision = std::move(decision);
        trace_.hops.push_back(std::move(hop));
    }

    /// At one device that looks at the packet. False: it ends here.
    bool step() {
        const bool first = trace_.hops.empty();
        if (!first)
            takeIn();
        if (holds(packet_.target)) {
            hopOf({}, cameIn_ >= 0 ? interface(cameIn_).vlan : 0,
                  fmt::format("{} is its own", packet_.target.text()));
            return false;
        }
        if (!first && !wiring_.station(station_).routes) {
            hopOf({}, interface(cameIn_).vlan, "forwards nothing");
            return stop(Stop::notRouter,
                        fmt::format("{} is handed what is for {} and drops it, as it does not route",
                                    name(station_), packet_.target.text()),
                        "correct the gateway or the route that leads here");
        }
        if (!seen_.insert({station_, vrf_, packet_.target}).second || trace_.hops.size() > mostHops) {
            hopOf({}, 0, "was here before");
            return stop(
                Stop::loop,
                fmt::format("it comes back to {} and goes round until its time to live ends", name(station_)),
                "correct the routes that point at each other");
        }
        const RouteEntry* entry = f_.routing().table(station_, vrf_).find(packet_.target);
        if (!entry) {
            hopOf({}, 0, "no route");
            return noRoute();
        }
        if (entry->discards || entry->hops.empty()) {
            hopOf({}, 0, fmt::format("{} is discarded", entry->to.text()));
            return stop(Stop::discarded,
                        fmt::format("{} discards what goes to {}", name(station_), entry->to.text()),
                        "take the route away, or add one that is longer");
        }
        return handOn(*entry, first);
    }

    /// Addresses that are put back or exchanged before the route is looked up.
    void takeIn() {
        const Device& device = *wiring_.station(station_).device;
        if (answer_) {
            for (const auto& [at, before, after] : conversation_.translated)
                if (at == device.id && packet_.target == after)
                    packet_.target = before;
            return;
        }
        for (const Translation& each : device.translations)
            if (each.type == TranslationKind::destination && each.from.valid() &&
                prefixOf(each.from).contains(packet_.target) && ipOf(each.to)) {
                conversation_.translated.push_back({device.id, packet_.target, ipOf(each.to)});
                packet_.target = ipOf(each.to);
                return;
            }
    }

    bool noRoute() {
        const Device& device = *wiring_.station(station_).device;
        std::string reason = fmt::format("{} has no route to {}", name(station_), packet_.target.text());
        std::string remedy = fmt::format("give {} a route there", name(station_));
        f_.network().all<Route>().forEachIn(device.id.value, [&](const Route& route) {
            if (route.vrf != vrf_ || !route.to.valid() || !prefixOf(route.to).contains(packet_.target))
                return;
            switch (f_.routing().refusalOf(route)) {
            case Refusal::none:
            case Refusal::noPrefix:
                return;
            case Refusal::noNextHop:
                reason += fmt::format(": the one to {} has no next hop", route.to.text());
                remedy = "correct that route";
                return;
            case Refusal::outside:
                reason += fmt::format(": the next hop {} of the one to {} is in none of its subnets",
                                      route.via.text(), route.to.text());
                remedy = "correct the next hop, the address or its prefix length";
                return;
            case Refusal::ownAddress:
                reason += fmt::format(": the next hop {} of the one to {} is its own address",
                                      route.via.text(), route.to.text());
                remedy = "correct the next hop";
                return;
            }
        });
        for (const int i : bridging_.interfacesOf(station_))
            if (interface(i).record->dhcp && !wiring_.station(station_).routes) {
                reason += ": DHCP tells it no gateway";
                remedy = "see what the findings say of its DHCP server";
                break;
            }
        return stop(Stop::noRoute, std::move(reason), std::move(remedy));
    }

    bool handOn(const RouteEntry& entry, bool first) {
        const NextHop hop = entry.hops.front();
        const NetInterface& out = interface(hop.interface);
        if (first && !packet_.source)
            packet_.source = sourceOn(out, hop);
        std::string decision = decisionText(bridging_, entry, hop);
        if (!first && !mayPass(out, decision))
            return false;
        const Ip next = hop.via ? hop.via : packet_.target;
        const auto answering = f_.addressing().answering(hop.interface, next);
        std::set<int> stations;
        for (const int each : answering)
            stations.insert(interface(each).station);
        hopOf({}, out.vlan, std::move(decision));
        trace_.hops.back().mtu = mtuOf(*out.record);
        for (std::size_t i = 1; i < entry.hops.size(); ++i)
            trace_.hops.back().equal.push_back(
                entry.hops[i].via ? fmt::format("via {}", entry.hops[i].via.text())
                                  : fmt::format("on {}", interface(entry.hops[i].interface).name));
        if (answering.empty()) {
            if (out.port >= 0)
                trace_.hops.back().out = wiring_.port(out.port).name;
            Cause cause = whySilent(f_, hop.interface, next);
            return stop(Stop::silent, std::move(cause.reason), std::move(cause.remedy),
                        std::move(cause.acts));
        }
        if (stations.size() > 1) {
            std::string who;
            for (const int each : stations)
                who += (who.empty() ? "" : " and ") + name(each);
            return stop(
                Stop::chance,
                fmt::format("{} have the address {}: it is chance which of them gets it", who, next.text()),
                "give each an address of its own");
        }
        cross(hop.interface, answering.front());
        return true;
    }

    /// An address in the subnet of the next hop, else its first of that version.
    static Ip sourceOn(const NetInterface& out, const NextHop& hop) {
        Ip found;
        for (const Address& address : out.record->addresses) {
            const Ip ip = ipOf(address);
            if (!found || (hop.via && prefixOf(address).contains(hop.via)))
                found = ip;
        }
        return found;
    }

    /// Filters, and the translation of what goes out.
    bool mayPass(const NetInterface& out, std::string& decision) {
        const Device& device = *wiring_.station(station_).device;
        const PacketFilter& filter = *device.filter;
        const std::string& from = interface(cameIn_).record->zone;
        if (answer_ && !filter.stateless && conversation_.passed.contains(device.id)) {
            decision += "; an answer to what it let through";
        } else if (!filter.rules.empty()) {
            const Verdict verdict = judge(filter, packet_, from, out.record->zone);
            const std::string rule = verdict.rule < 0
                                         ? std::string("no rule fits")
                                         : fmt::format("rule {}", ruleName(filter, verdict.rule));
            if (!verdict.allowed) {
                hopOf({}, 0, decision + "; " + rule + ": refused");
                std::string reason = verdict.rule < 0
                                         ? fmt::format("no rule of {} lets it through", name(station_))
                                         : fmt::format("{} of {} refuses it", rule, name(station_));
                if (verdict.depends)
                    reason += "; with a protocol and port stated another might decide";
                return stop(Stop::refused, std::move(reason),
                            answer_ ? "let answers through, or keep both ways on one filter"
                                    : "add a rule that allows it before");
            }
            decision += "; " + rule + ": allowed";
            if (!answer_)
                conversation_.passed.insert(device.id);
        }
        translate(device, out, decision);
        return true;
    }

    static std::string ruleName(const PacketFilter& filter, int rule) {
        const std::string& name = filter.rules[static_cast<std::size_t>(rule)].name;
        return name.empty() ? fmt::format("{}", rule + 1) : fmt::format("{} ({})", rule + 1, name);
    }

    void translate(const Device& device, const NetInterface& out, std::string& decision) {
        if (answer_) {
            for (const auto& [at, before, after] : conversation_.translated)
                if (at == device.id && packet_.source == after)
                    packet_.source = before;
            return;
        }
        for (const Translation& each : device.translations) {
            if (each.type != TranslationKind::source || !each.from.valid() ||
                !prefixOf(each.from).contains(packet_.source) || (!each.out.empty() && each.out != out.name))
                continue;
            const Ip to = each.to.valid() ? ipOf(each.to) : sourceOn(out, {});
            conversation_.translated.push_back({device.id, packet_.source, to});
            decision += fmt::format("; {} becomes {}", packet_.source.text(), to.text());
            packet_.source = to;
            return;
        }
    }

    /// Over the switches between two interfaces.
    void cross(int from, int to) {
        const auto way = *bridging_.way(from, to);
        trace_.hops.back().leaves = interface(from).record->id;
        for (std::size_t k = 0; k < way.size(); ++k) {
            const LogicalPort& out = wiring_.port(way[k].out);
            TraceHop& leaving = trace_.hops.back();
            leaving.out = out.name;
            leaving.links = out.links;
            if (out.links.size() > 1)
                leaving.decision += fmt::format("; one of {} links of {}", out.links.size(), out.name);
            const LogicalPort& in = wiring_.port(way[k].in);
            in_ = in.name;
            if (k + 1 == way.size())
                break;
            const Domain& domain = bridging_.domain(way[k].to);
            TraceHop hop;
            hop.device = wiring_.station(in.station).device->id;
            hop.in = in.name;
            hop.layer = 2;
            hop.vlan = domain.vlan;
            hop.decision = domain.tags ? std::string("passes frames as they are")
                                       : fmt::format("switched in VLAN {}", domain.vlan);
            trace_.hops.push_back(std::move(hop));
        }
        cameIn_ = to;
        station_ = interface(to).station;
        vrf_ = interface(to).record->vrf;
    }

    const Forwarding& f_;
    const Wiring& wiring_;
    const Bridging& bridging_;
    const Probe& probe_;
    Conversation& conversation_;
    bool answer_;
    Trace trace_;
    Packet packet_;
    int station_ = -1;
    std::string vrf_;
    std::string in_;  ///< port it came in by
    int cameIn_ = -1; ///< interface
    std::set<std::tuple<int, std::string, Ip>> seen_;
};

} // namespace

std::string_view textOf(Stop stop) {
    constexpr std::array<std::string_view, 9> words{
        "none", "no-address", "no-route", "discarded", "silent", "not-router", "refused", "loop", "chance"};
    return words[static_cast<std::size_t>(stop)];
}

int Trace::mtu() const {
    int least = 0;
    for (const TraceHop& hop : hops)
        if (hop.mtu > 0 && (least == 0 || hop.mtu < least))
            least = hop.mtu;
    return least;
}

Trace trace(const Forwarding& forwarding, const Probe& probe, Conversation& conversation, bool answer) {
    return Tracing(forwarding, probe, conversation, answer).run();
}

Trace trace(const Forwarding& forwarding, const Probe& probe) {
    Conversation conversation;
    return trace(forwarding, probe, conversation);
}

std::pair<Trace, Trace> traceBoth(const Forwarding& forwarding, const Probe& probe) {
    Conversation conversation;
    Trace there = trace(forwarding, probe, conversation);
    if (!there.reached())
        return {std::move(there), {}};
    // The answer goes to where the question seemed to come from.
    Probe back;
    back.from = {there.hops.back().device, {}, there.target};
    for (const auto& [at, before, after] : conversation.translated)
        if (before == there.target)
            back.from.address = after;
    back.to = {probe.from.device, {}, there.source};
    back.protocol = probe.protocol;
    Trace answer = trace(forwarding, back, conversation, true);
    return {std::move(there), std::move(answer)};
}

namespace {

/// The one device that gives a service of this name, else the one with this host name: its own
/// without regard to capitals, its attribute "hostname", or either before a domain. None: there
/// is no such.
Result<DeviceId> namedOtherwise(const Network& network, const std::string& text) {
    const std::string wanted = lowered(text);
    std::vector<DeviceId> found;
    network.all<Service>().forEach([&](const Service& service) {
        if (lowered(service.name) == wanted)
            found.insert(found.end(), service.providers.begin(), service.providers.end());
    });
    if (found.empty())
        network.all<Device>().forEach([&](const Device& device) {
            const auto attribute = device.attributes.find("hostname");
            for (const std::string& name :
                 {lowered(device.name),
                  attribute == device.attributes.end() ? std::string() : lowered(attribute->second)})
                if (!name.empty() && (name == wanted || name == wanted.substr(0, wanted.find('.')) ||
                                      name.substr(0, name.find('.')) == wanted)) {
                    found.push_back(device.id);
                    break;
                }
        });
    if (found.size() < 2)
        return found.empty() ? DeviceId{} : found.front();
    std::string names;
    for (const DeviceId id : found)
        if (const Device* device = network.device(id))
            names += (names.empty() ? "" : ", ") + device->name;
    return error(fmt::format("{} is meant by several devices: {}", text, names), "write one of them");
}

} // namespace

Result<TraceEnd> traceEnd(const Network& network, const std::string& text) {
    const Address address(text);
    TraceEnd end;
    int found = 0;
    if (address.valid() && address.prefixLength() < 0) {
        const Ip ip = ipOf(address);
        network.all<Interface>().forEach([&](const Interface& interface) {
            for (const Address& each : interface.addresses)
                if (ipOf(each) == ip && found++ == 0)
                    end = {interface.device, interface.port, ip};
            for (const Vrrp& vrrp : interface.vrrp)
                if (ipOf(vrrp.address) == ip && found++ == 0)
                    end = {interface.device, {}, ip};
        });
        if (!found) // an address nobody has can still be asked for
            end.address = ip;
        return end;
    }
    const auto named = [&](const std::string& name) {
        found = 0;
        DeviceId id;
        const auto number = idFromText(name);
        network.all<Device>().forEach([&](const Device& device) {
            if (device.name == name || (number && device.id.value == *number)) {
                id = device.id;
                ++found;
            }
        });
        return id;
    };
    end.device = named(text);
    if (!end.device && found == 0)
        if (const auto colon = text.rfind(':'); colon != std::string::npos) {
            end.device = named(text.substr(0, colon));
            end.port = text.substr(colon + 1);
        }
    if (found > 1)
        return error(fmt::format("{} devices are called {}", found, text),
                     "write the id of one, or an address");
    if (!end.device) {
        auto other = namedOtherwise(network, text);
        if (!other)
            return other.refusal();
        end = {*other, {}, {}};
    }
    if (!end.device)
        return error(fmt::format("there is no device or address {}", text),
                     "write a device, device:port, an address, a host name or a service");
    return end;
}

} // namespace underridge::analysis

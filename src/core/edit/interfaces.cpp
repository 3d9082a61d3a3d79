// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/interfaces.h"

#include "core/analysis/prefix.h"
#include "core/edit/devices.h"
#include "core/model/ports.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

std::string nameOf(const Interface& interface) {
    return interface.name.empty() ? interface.port : interface.name;
}

} // namespace

const Interface* interfaceNamed(const Network& network, DeviceId device, const std::string& name) {
    const Interface *byName = nullptr, *byPort = nullptr;
    network.all<Interface>().forEachIn(device.value, [&](const Interface& each) {
        if (each.name == name)
            byName = &each;
        if (each.port == name && each.type == InterfaceKind::physical)
            byPort = &each;
    });
    return byName ? byName : byPort;
}

ActResult putInterface(const Network& network, Interface interface, IdSource& ids) {
    const Device* device = network.device(interface.device);
    if (!device)
        return deviceGone();
    for (const Address& address : interface.addresses)
        if (!address.valid() || address.prefixLength() < 0)
            return error(fmt::format("{} is not an address with its prefix length", address.text()),
                         "write it as 10.84.1.1/24 or fd84:fe::1/64");
    if (interface.type == InterfaceKind::vlan && !interface.untagged)
        return error("a VLAN interface needs its VLAN", "say it as \"untagged\"");
    if (interface.type == InterfaceKind::subinterface && (!interface.parent || interface.tagged.size() != 1))
        return error("a subinterface needs the interface it stands on and the one VLAN it is tagged with",
                     "say them as \"parent\" and \"tagged\"");
    if (interface.type == InterfaceKind::lag && interface.members.empty())
        return error("a LAG needs the ports it is made of", "say them as \"ports\"");
    bool taken = false;
    network.all<Interface>().forEachIn(device->id.value, [&](const Interface& each) {
        taken |= each.id != interface.id && !interface.name.empty() && each.name == interface.name;
    });
    if (taken)
        return error(fmt::format("{} has an interface {} already", device->name, interface.name),
                     "choose another name");
    Act act{fmt::format("Set {} of {}", nameOf(interface), device->name), network, {refTo(device->id)}};
    if (!interface.id)
        interface.id = ids.make<InterfaceId>();
    act.network.put(std::move(interface));
    return act;
}

ActResult removeInterface(const Network& network, DeviceId id, InterfaceId interface) {
    const Device* device = network.device(id);
    const Interface* held = network.find<Interface>({id.value, interface.value});
    if (!device || !held)
        return error("the interface is no longer there", "select again");
    Act act{fmt::format("Remove {} of {}", nameOf(*held), device->name), network, {refTo(id)}};
    std::vector<Key> gone{held->key()};
    network.all<Interface>().forEachIn(id.value, [&](const Interface& each) {
        if (each.parent == interface)
            gone.push_back(each.key());
    });
    for (const Key key : gone)
        act.network.erase<Interface>(key);
    return act;
}

ActResult putRoute(const Network& network, Route route, IdSource& ids) {
    const Device* device = network.device(route.device);
    if (!device)
        return deviceGone();
    if (!route.to.valid() || route.to.prefixLength() < 0)
        return error(fmt::format("{} is not a prefix", route.to.text()),
                     "write it as 10.84.20.0/24 or 0.0.0.0/0");
    if (!route.discards && (!route.via.valid() || route.via.version() != route.to.version()))
        return error(route.via.empty()
                         ? std::string("a route needs its next hop")
                         : fmt::format("{} is no next hop for {}", route.via.text(), route.to.text()),
                     "write an address of the same version");
    Act act{fmt::format("Route of {} to {}", device->name, route.to.text()), network, {refTo(device->id)}};
    if (!route.id)
        route.id = ids.make<RouteId>();
    act.network.put(std::move(route));
    return act;
}

std::vector<Address> addressesFrom(const std::string& text) {
    std::vector<Address> out;
    std::string_view rest = text;
    while (!trimmed(rest).empty()) {
        const std::size_t comma = std::min(rest.find(','), rest.size());
        out.emplace_back(trimmed(rest.substr(0, comma)));
        rest.remove_prefix(std::min(comma + 1, rest.size()));
    }
    return out;
}

const Route* gatewayOf(const Network& network, DeviceId device) {
    const Route* found = nullptr;
    network.all<Route>().forEachIn(device.value, [&](const Route& route) {
        if (route.to.prefixLength() == 0 && route.vrf.empty() &&
            (!found || route.to.version() < found->to.version()))
            found = &route;
    });
    return found;
}

ActResult setGateway(const Network& network, DeviceId device, const std::string& address, IdSource& ids) {
    const Route* held = gatewayOf(network, device);
    const Address via(trimmed(address));
    if (via.empty())
        return held ? removeRoute(network, device, held->id)
                    : Act{"No gateway", network, {refTo(device)}, {}};
    if (!via.valid())
        return error(fmt::format("{} is not an address", address), "write it as 10.84.10.1");
    Route route = held ? *held : Route{};
    route.device = device;
    route.to = via.version() == 6 ? "::/0" : "0.0.0.0/0";
    route.via = via;
    route.discards = false;
    return putRoute(network, std::move(route), ids);
}

ActResult setByDhcp(const Network& network, DeviceId id, bool asks) {
    const Device* device = network.device(id);
    if (!device)
        return deviceGone();
    Act act{fmt::format("{} its address by DHCP",
                        asks ? device->name + " gets" : device->name + " no longer gets"),
            network,
            {refTo(id)}};
    std::vector<Interface> changed;
    network.all<Interface>().forEachIn(id.value, [&](const Interface& each) {
        if (!each.addresses.empty())
            changed.push_back(each);
    });
    if (changed.empty())
        return error(fmt::format("{} has no address", device->name), "give it the one it gets");
    for (Interface& each : changed) {
        each.dhcp = asks;
        act.network.put(std::move(each));
    }
    return act;
}

ActResult removeRoute(const Network& network, DeviceId id, RouteId route) {
    const Device* device = network.device(id);
    const Route* held = network.find<Route>({id.value, route.value});
    if (!device || !held)
        return error("the route is no longer there", "select again");
    Act act{fmt::format("Remove the route of {} to {}", device->name, held->to.text()), network, {refTo(id)}};
    act.network.erase<Route>(held->key());
    return act;
}

std::vector<Address> freeIn(const Network& network, const Address& subnet, std::size_t count,
                            const Address& after, const std::string& vrf) {
    std::vector<Address> out;
    using analysis::Ip;
    if (!subnet.valid() || subnet.prefixLength() < 0)
        return out;
    const analysis::Prefix prefix = analysis::prefixOf(subnet);
    std::set<Ip> taken;
    network.all<Interface>().forEach([&](const Interface& interface) {
        if (interface.vrf != vrf)
            return;
        for (const Address& address : interface.addresses)
            if (const Ip ip = analysis::ipOf(address); prefix.contains(ip))
                taken.insert(ip);
        for (const Vrrp& vrrp : interface.vrrp)
            taken.insert(analysis::ipOf(vrrp.address));
    });
    network.all<Route>().forEach([&](const Route& route) {
        if (route.vrf == vrf)
            taken.insert(analysis::ipOf(route.via));
    });
    const std::size_t bytes = prefix.base.version == 4 ? 4 : 16;
    const auto next = [&](Ip ip) {
        for (std::size_t i = bytes; i-- > 0 && ++ip.bytes[i] == 0;) {
        }
        return ip;
    };
    constexpr int most = 65'536;
    const bool ends = prefix.base.version == 4 && prefix.length < 31; // RFC 3021
    Ip ip = prefix.base;
    if (const Ip start = analysis::ipOf(after); prefix.contains(start))
        ip = next(start);
    else if (ends || prefix.base.version == 6)
        ip = next(ip);
    for (int tries = 0; tries < most && out.size() < count && prefix.contains(ip); ++tries, ip = next(ip))
        if (!taken.contains(ip) && (!ends || prefix.contains(next(ip))))
            out.emplace_back(ip.text() + "/" + std::to_string(prefix.length));
    return out;
}

ActResult addressInSeries(const Network& network, std::vector<DeviceId> devices, const Address& subnet,
                          IdSource& ids) {
    if (!subnet.valid() || subnet.prefixLength() < 0)
        return error(fmt::format("{} is no subnet", subnet.text()), "write it as 10.84.20.0/24");
    const auto name = [&](DeviceId id) {
        const Device* device = network.device(id);
        return device ? device->name : std::string();
    };
    std::stable_sort(devices.begin(), devices.end(),
                     [&](DeviceId a, DeviceId b) { return naturalLess(name(a), name(b)); });
    const auto free = freeIn(network, subnet, devices.size());
    if (free.size() < devices.size())
        return error(fmt::format("{} has {} addresses left for {} devices", subnet.network().text(),
                                 free.size(), devices.size()),
                     "choose another subnet, or fewer devices");
    Act act{
        fmt::format("Address {} devices in {}", devices.size(), subnet.network().text()), network, {}, {}};
    for (std::size_t i = 0; i < devices.size(); ++i) {
        std::string port; // of its only link, where nothing has an address yet
        int links = 0;
        network.forEachLinkOf(devices[i], [&](const Link& link) {
            ++links;
            port = link.a.device == devices[i] ? link.a.port : link.b.port;
        });
        const bool has = addressedInterface(network, devices[i]);
        auto set = setAddress(act.network, devices[i], has || links != 1 ? std::string() : port,
                              free[i].text(), ids);
        if (!set)
            return set;
        act.network = std::move(set->network);
        act.subjects.push_back(refTo(devices[i]));
    }
    return act;
}

} // namespace underridge::edit

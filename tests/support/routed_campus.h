// SPDX-License-Identifier: GPL-3.0-or-later
// A campus of any size with VLANs, trees, OSPF and gateways: for benches, and tests of what
// must not grow with the network.
#pragma once
#include "core/model/network.h"

#include <fmt/format.h>

namespace underridge::tests {

/// Buildings of one switch that routes, eight access switches and endpoints in two VLANs,
/// each behind two routers in the middle. All sound.
inline model::Network routedCampus(int devices) {
    using namespace model;
    IdSource ids(84);
    Records records;
    const auto modelOf = [&](const char* id, Role role) {
        DeviceModel model;
        model.id = id;
        model.name = id;
        model.role = role;
        records.all<DeviceModel>().push_back(std::move(model));
    };
    modelOf("c-router", Role::router);
    modelOf("c-switch", Role::switch_);
    modelOf("c-host", Role::workstation);
    Sheet sheet;
    sheet.id = ids.make<SheetId>();
    sheet.name = "Campus";
    records.all<Sheet>().push_back(sheet);
    int bridges = 0;
    const auto add = [&](const std::string& name, const char* model, int priority = 32768) {
        Device device;
        device.id = ids.make<DeviceId>();
        device.name = name;
        device.model = model;
        if (device.model == "c-switch")
            device.spanningTree =
                SpanningTree{TreeMode::rstp, priority, fmt::format("0284{:08x}", ++bridges), {}, 0, {}};
        records.all<Device>().push_back(device);
        return device.id;
    };
    const auto link = [&](PortRef a, PortRef b) {
        Link made;
        made.id = ids.make<LinkId>();
        made.a = std::move(a);
        made.b = std::move(b);
        made.medium = Medium::twistedPair;
        records.all<Link>().push_back(std::move(made));
    };
    const auto vlan = [&](int number) {
        Vlan made{ids.make<VlanId>(), number, fmt::format("v{}", number), {}, {}};
        records.all<Vlan>().push_back(made);
        return made.id;
    };
    const auto interface = [&](DeviceId device, const std::string& port, auto shape) {
        Interface made;
        made.id = ids.make<InterfaceId>();
        made.device = device;
        made.port = port;
        shape(made);
        records.all<Interface>().push_back(std::move(made));
    };
    const OspfInterface active{OspfArea("0"), 10, false, OspfNetwork::pointToPoint},
        passive{OspfArea("0"), 10, true, OspfNetwork::automatic};
    const DeviceId cores[] = {add("core-1", "c-router"), add("core-2", "c-router")};
    link({cores[0], "x"}, {cores[1], "x"});
    for (const int c : {0, 1})
        interface(cores[c], "x", [&](Interface& i) {
            i.addresses = {fmt::format("10.255.255.{}/31", c)};
            i.ospf = active;
        });
    int made = 2;
    for (int b = 0; made < devices; ++b) {
        // VLANs of a building are its own.
        const VlanId vlans[] = {vlan(1 + (2 * b) % 4000), vlan(2 + (2 * b) % 4000)};
        const DeviceId dist = add(fmt::format("dist-{}", b), "c-switch", 4096);
        records.all<Device>().back().routing = true;
        ++made;
        for (const int c : {0, 1}) {
            const std::string up = fmt::format("up{}", c), down = fmt::format("b{}", b);
            link({dist, up}, {cores[c], down});
            const int net = 2 * b + c;
            for (const int end : {0, 1})
                interface(end ? cores[c] : dist, end ? down : up, [&](Interface& i) {
                    i.addresses = {fmt::format("10.{}.{}.{}/31", 192 + (net >> 15), net >> 7 & 255,
                                               (net & 127) * 2 + end)};
                    i.ospf = active;
                });
        }
        for (const int k : {0, 1})
            interface(dist, "", [&](Interface& i) {
                const int net = 2 * b + k;
                i.type = InterfaceKind::vlan;
                i.name = fmt::format("vlan{}", k);
                i.untagged = vlans[k];
                i.addresses = {fmt::format("10.{}.{}.1/24", net >> 8, net & 255)};
                i.ospf = passive;
            });
        for (int a = 0; a < 8 && made < devices; ++a) {
            const DeviceId access = add(fmt::format("acc-{}-{}", b, a), "c-switch");
            ++made;
            link({access, "up"}, {dist, fmt::format("a{}", a)});
            for (const auto& [device, port] :
                 {std::pair(access, std::string("up")), {dist, fmt::format("a{}", a)}})
                interface(device, port, [&](Interface& i) { i.tagged = {vlans[0], vlans[1]}; });
            for (int h = 0; h < 22 && made < devices; ++h) {
                const DeviceId host = add(fmt::format("host-{}-{}-{}", b, a, h), "c-host");
                ++made;
                const std::string port = std::to_string(h + 1);
                link({host, "1"}, {access, port});
                interface(access, port, [&](Interface& i) { i.untagged = vlans[h % 2]; });
                const int net = 2 * b + h % 2;
                interface(host, "1", [&](Interface& i) {
                    i.addresses = {fmt::format("10.{}.{}.{}/24", net >> 8, net & 255, 2 + a * 11 + h / 2)};
                });
                Route route;
                route.id = ids.make<RouteId>();
                route.device = host;
                route.to = "0.0.0.0/0";
                route.via = fmt::format("10.{}.{}.1", net >> 8, net & 255);
                records.all<Route>().push_back(std::move(route));
            }
        }
    }
    return Network::of(std::move(records));
}

} // namespace underridge::tests

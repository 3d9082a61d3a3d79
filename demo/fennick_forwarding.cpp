// SPDX-License-Identifier: GPL-3.0-or-later
#include "demo/fennick_forwarding.h"

#include "core/model/ports.h"

#include <fmt/format.h>

namespace underridge::demo {
using namespace model;
namespace {

constexpr std::array vlansHere{10, 20, 30, 40, 50, 60, 99};

/// Both cores are in every VLAN; the first answers for the gateways while it is there.
std::string cores() {
    std::string out;
    for (const int core : {1, 2}) {
        const std::string name = fmt::format("core-{}", core);
        out += fmt::format(R"({{"act":"address","at":"{}","address":"10.84.255.{}/32"}})"
                           "\n",
                           name, core + 4);
        const auto add = [&](int vlan, const std::string& more) {
            const char* length = vlan == 70 ? "28" : "24";
            out += fmt::format(
                R"({{"act":"interface","device":"{}","name":"vlan{}","type":"vlan","untagged":{},)"
                R"("addresses":["10.84.{}.{}/{}"],"vrrp":[{{"group":{},"address":"10.84.{}.1",)"
                R"("priority":{}}}],"ospf":{}}})"
                "\n",
                name, vlan, vlan, vlan, core + 1, length, vlan, vlan, core == 1 ? 110 : 100, more);
        };
        for (const int vlan : vlansHere)
            add(vlan, R"({"area":0,"passive":true})");
        add(70, R"({"area":0})");
        out += fmt::format(
            R"({{"act":"forwarding","members":["{}"],"routing":true,"ospf":{{"routerId":"10.84.255.{}"}},)"
            R"("spanningTree":{{"mode":"rstp","priority":{},"address":"02:84:00:00:00:0{}"}},"filter":{{"rules":[)"
            R"({{"name":"visitors keep out","from":["10.84.50.0/24"],"to":["10.84.0.0/16"],"action":"refuse"}},)"
            R"({{"name":"the rest","action":"allow"}}]}}}})"
            "\n",
            name, core + 4, core == 1 ? 4096 : 8192, core + 4);
        out += fmt::format(R"({{"act":"interface","device":"{}","port":"2/1","ospf":{{"area":0,)"
                           R"("network":"point-to-point"}}}})"
                           "\n",
                           name);
    }
    out += R"({"act":"lag","from":"core-1","to":"core-2","name":"lag-cores"}
{"act":"vlan","port":"core-1:S1","untagged":0,"tagged":"10,20,30,40,50,60,70,99"}
{"act":"vlan","port":"core-2:S1","untagged":0,"tagged":"10,20,30,40,50,60,70,99"}
)";
    return out;
}

/// Routers and firewalls: routed links between them, the way out, what may pass.
std::string edge() {
    std::string out = R"({"act":"interface","device":"rtr-1","port":"X1","addresses":["198.51.100.2/30"]}
{"act":"interface","device":"carrier-a","port":"1","addresses":["198.51.100.1/30"]}
{"act":"interface","device":"rtr-2","port":"1","addresses":["203.0.113.2/30"]}
{"act":"interface","device":"carrier-b","port":"1","addresses":["203.0.113.1/30"]}
{"act":"route","device":"rtr-1","to":"0.0.0.0/0","via":"198.51.100.1"}
{"act":"route","device":"rtr-2","to":"0.0.0.0/0","via":"203.0.113.1"}
{"act":"forwarding","members":["rtr-1"],"ospf":{"routerId":"10.84.255.1","tellsDefault":true},"translations":[{"type":"source","from":"10.84.0.0/16","out":"X1"}]}
{"act":"forwarding","members":["rtr-2"],"ospf":{"routerId":"10.84.255.2","tellsDefault":true},"translations":[{"type":"source","from":"10.84.0.0/16","out":"1"}]}
{"act":"interface","device":"fw-1","port":"8","addresses":["10.84.200.12/31"]}
{"act":"interface","device":"fw-2","port":"8","addresses":["10.84.200.13/31"]}
)";
    const auto ospf = [&](const char* device, const char* port, int cost, const char* zone) {
        out += fmt::format(
            R"({{"act":"interface","device":"{}","port":"{}","zone":"{}","ospf":{{"area":0,"cost":{},)"
            R"("network":"point-to-point"}}}})"
            "\n",
            device, port, zone, cost);
    };
    for (const auto& [device, near, far] : {std::tuple("rtr-1", "X2", "1"), std::tuple("rtr-2", "X1", "2")}) {
        ospf(device, near, 1, "");
        ospf(device, far, 10, "");
    }
    for (const char* device : {"fw-1", "fw-2"}) {
        ospf(device, "X1", 1, "outside");
        ospf(device, "1", 10, "outside");
        ospf(device, "X2", 1, "inside");
        ospf(device, "8", 20, "inside");
        out += fmt::format(
            R"({{"act":"forwarding","members":["{}"],"ospf":{{"routerId":"10.84.255.{}"}},"filter":{{"rules":[)"
            R"({{"name":"from inside","fromZone":"inside","action":"allow"}},)"
            R"({{"name":"answers to routers","from":["10.84.200.0/24"],"action":"allow"}}]}}}})"
            "\n",
            device, device[3] - '0' + 2);
    }
    for (const auto& [device, host] : {std::pair("rtr-1", 1), {"rtr-2", 2}, {"fw-1", 3}, {"fw-2", 4}})
        out += fmt::format(R"({{"act":"address","at":"{}","address":"10.84.255.{}/32"}})"
                           "\n",
                           device, host);
    return out;
}

/// Skarn Pier: one router with a subinterface for each VLAN, over the radio link.
std::string skarn() {
    std::string out = R"({"act":"vlan","port":"ind-radar:8","untagged":70}
{"act":"address","at":"rb-mast","address":"10.84.70.8/28"}
{"act":"address","at":"rb-skarn","address":"10.84.70.9/28"}
{"act":"address","at":"rtr-skarn","address":"10.84.255.42/32"}
{"act":"interface","device":"rtr-skarn","port":"W1","addresses":["10.84.70.5/28"],"ospf":{"area":0}}
{"act":"forwarding","members":["rtr-skarn"],"ospf":{"routerId":"10.84.255.42"},"filter":{"rules":[{"name":"visitors keep out","from":["10.84.150.0/24"],"to":["10.84.0.0/16"],"action":"refuse"},{"name":"the rest","action":"allow"}]}}
{"act":"vlan","port":"ind-ramp:1","untagged":99}
{"act":"address","at":"ser-ramp","address":""}
{"act":"address","at":"ser-ramp:E1","address":"10.84.199.45/24"}
)";
    for (const int vlan : vlansHere)
        out += fmt::format(
            R"({{"act":"interface","device":"rtr-skarn","name":"1.{}","type":"subinterface","parent":"1",)"
            R"("tagged":{},"addresses":["10.84.{}.1/24"],"ospf":{{"area":0,"passive":true}}}})"
            "\n",
            vlan, vlan, vlan + 100);
    return out;
}

/// Management addresses of switches move from the device as such into VLAN 99.
std::string management(const Network& network) {
    std::string out;
    network.all<Device>().forEach([&](const Device& device) {
        const bool isCore = device.name.starts_with("core-");
        if (roleOf(network, device) != Role::switch_ || isCore)
            return;
        const Address held = firstAddress(network, device.id);
        if (held.empty())
            return;
        const bool atSkarn = device.name == "acc-s1" || device.name == "ind-ramp";
        const std::string host = held.host().substr(held.host().rfind('.') + 1);
        out += fmt::format(R"({{"act":"address","at":"{}","address":""}})"
                           "\n"
                           R"({{"act":"interface","device":"{}","name":"vlan99","type":"vlan","untagged":99,)"
                           R"("addresses":["10.84.{}.{}/24"]}})"
                           "\n"
                           R"({{"act":"forwarding","members":["{}"],"spanningTree":{{"mode":"rstp",)"
                           R"("address":"02:84:00:00:01:{:02}"}}}})"
                           "\n",
                           device.name, device.name, atSkarn ? 199 : 99, host, device.name, std::stoi(host));
    });
    return out;
}

/// Every device that does not route goes out by the first address of its subnet.
std::string gateways(const Network& network) {
    std::string out;
    const auto add = [&](const std::string& device, const std::string& address) {
        out += fmt::format(R"({{"act":"route","device":"{}","to":"0.0.0.0/0","via":"{}.1"}})"
                           "\n",
                           device, address.substr(0, address.rfind('.')));
    };
    network.all<Device>().forEach([&](const Device& device) {
        const Role role = roleOf(network, device);
        const Address held = firstAddress(network, device.id);
        if (held.empty() || role == Role::router || role == Role::firewall ||
            device.name.starts_with("core-"))
            return;
        const bool atSkarn =
            device.name == "acc-s1" || device.name == "ind-ramp" || device.name == "ser-ramp";
        add(device.name, role == Role::radioBridge ? "10.84.70.0" : atSkarn ? "10.84.199.0" : held.host());
    });
    return out;
}

constexpr std::string_view statements =
    R"({"act":"statement","name":"tills reach tickets","from":"role:terminal vlan:10","to":"srv-tickets","protocol":"tcp","port":443}
{"act":"statement","name":"gates reach tickets","from":"name:gate","to":"srv-tickets","protocol":"tcp","port":443}
{"act":"statement","name":"cameras reach the recorder","from":"role:camera","to":"srv-video"}
{"act":"statement","name":"the radar reaches vessel tracking","from":"radar-head","to":"srv-vessel"}
{"act":"statement","name":"phones reach the directory","from":"role:phone","to":"srv-directory"}
{"act":"statement","name":"visitors never reach plant","from":"vlan:50 role:terminal","to":"role:controller","never":true}
{"act":"statement","name":"offices reach the world","from":"Offices","to":"198.51.100.1","protocol":"tcp","port":443}
{"act":"statement","name":"the world never reaches plant","from":"carrier-a","to":"role:controller","never":true}
)";

} // namespace

std::string fennickForwarding(const Network& network) {
    std::string out = cores() + edge() + management(network) + skarn();
    out += R"({"act":"vlan","port":"acc-c2:5","untagged":99,"tagged":"30"}
{"act":"vlan","port":"acc-c2:6","untagged":99,"tagged":"30"}
)";
    // Tablets are in operations, over the access points' own VLAN.
    for (const char* ap : {"ap-c1", "ap-c2"})
        out += fmt::format(R"({{"act":"interface","device":"{}","port":"1","untagged":99,"tagged":30}})"
                           "\n"
                           R"({{"act":"interface","device":"{}","port":"radio","untagged":30}})"
                           "\n",
                           ap, ap);
    network.all<Link>().forEach([&](const Link& link) { // the standby of the ring
        for (const PortRef& end : {link.a, link.b})
            if (end.port == "X3" && network.device(end.device)->name == "ind-gate")
                out += "{\"act\":\"interface\",\"device\":\"ind-gate\",\"port\":\"X3\",\"spanningTree\":"
                       "{\"cost\":2000000}}\n";
    });
    out += R"({"act":"vlan","port":"acc-q1:4","untagged":60}
{"act":"vlan","port":"acc-q1:5","untagged":60}
)";
    return out + gateways(network) + std::string(statements);
}

std::string fennickMistakes() {
    return R"({"act":"vlan","port":"acc-o1:X1","tagged":"20,30,40,50,60,70,99"}
{"act":"address","at":"print-q2:1","address":"10.84.30.21/24"}
{"act":"address","at":"plc-crane:1","address":"10.84.60.25/23"}
{"act":"route","device":"print-c1","to":"0.0.0.0/0","via":"10.84.30.1","remove":true}
{"act":"route","device":"print-c1","to":"0.0.0.0/0","via":"10.84.31.1"}
{"act":"route","device":"ws-work-1","to":"0.0.0.0/0","remove":true}
{"act":"interface","device":"acc-s1","port":"X1","untagged":50}
{"act":"interface","device":"ind-ramp","port":"X1","untagged":40}
{"act":"cable","from":"cam-quay-2:1","to":"pp-q2","lengthM":97}
{"act":"cable","from":"rtr-1:X2","to":"fw-1:X1","label":"FQ-004"}
{"act":"interface","device":"fw-1","port":"8","ospf":{"area":1}}
{"act":"forwarding","members":["core-2"],"filter":{"rules":[{"name":"the rest","action":"allow"},{"name":"visitors keep out","from":["10.84.50.0/24"],"to":["10.84.0.0/16"],"action":"refuse"}]}}
{"act":"route","device":"rtr-2","to":"10.84.250.0/24","via":"10.84.200.3"}
{"act":"route","device":"fw-2","to":"10.84.250.0/24","via":"10.84.200.2"}
{"act":"interface","device":"print-o1","port":"1","mac":"02:84:00:00:10:01"}
{"act":"interface","device":"print-q1","port":"1","mac":"02:84:00:00:10:01"}
{"act":"vlan","number":80,"name":"cash machines","in":"Fennick Quay"}
)";
}

} // namespace underridge::demo

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/dhcp.h"

#include <algorithm>

namespace underridge::analysis {
using namespace model;

Dhcp::Dhcp(const Wiring& wiring, const Bridging& bridging, const Addressing& addressing)
    : wiring_(wiring), bridging_(bridging), addressing_(addressing) {
    wiring.network().all<Subnet>().forEach([&](const Subnet& subnet) {
        if (subnet.prefix.valid())
            subnets_.try_emplace({subnet.vrf, prefixOf(subnet.prefix)}, &subnet);
    });
    for (int i = 0; i < bridging.interfaceCount(); ++i)
        if (!bridging.interface(i).record->dhcpRelay.empty())
            relays_.push_back(i);
}

const Subnet* Dhcp::subnetOf(const NetInterface& interface, const Address& address) const {
    const auto found = subnets_.find({interface.record->vrf, prefixOf(address)});
    return found == subnets_.end() ? nullptr : found->second;
}

bool Dhcp::isHeard(int interface, const Subnet& subnet) const {
    for (const DeviceId device : subnet.dhcpServers) {
        const int server = wiring_.stationOf(device);
        if (server < 0)
            continue;
        for (const int at : bridging_.interfacesOf(server))
            if (bridging_.meet(interface, at))
                return true;
        for (const int relay : relays_) {
            const NetInterface& each = bridging_.interface(relay);
            if (each.station == bridging_.interface(interface).station || !bridging_.meet(interface, relay))
                continue;
            for (const Address& to : each.record->dhcpRelay)
                for (const Held& held : addressing_.holders(ipOf(to)))
                    if (bridging_.interface(held.interface).station == server &&
                        bridging_.interface(held.interface).up)
                        return true;
        }
    }
    return false;
}

DhcpSilence Dhcp::silenceOf(int interface, const Address& address) const {
    const Subnet* subnet = subnetOf(bridging_.interface(interface), address);
    if (!subnet)
        return DhcpSilence::noSubnet;
    if (subnet->dhcpServers.empty())
        return DhcpSilence::noServer;
    return isHeard(interface, *subnet) ? DhcpSilence::none : DhcpSilence::notHeard;
}

Ip Dhcp::gatewayFor(int interface, int version) const {
    const NetInterface& each = bridging_.interface(interface);
    if (!each.record->dhcp || !each.up)
        return {};
    for (const Address& address : each.record->addresses)
        if (address.valid() && address.version() == version &&
            silenceOf(interface, address) == DhcpSilence::none)
            if (const Ip gateway = ipOf(subnetOf(each, address)->gateway); gateway.version == version)
                return gateway;
    return {};
}

} // namespace underridge::analysis

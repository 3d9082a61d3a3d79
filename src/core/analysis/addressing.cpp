// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/addressing.h"

#include <algorithm>

namespace underridge::analysis {
using namespace model;
namespace {

/// Priority, then primary address: the greater is the master. Who has the address itself
/// is its owner, 255.
std::pair<int, Ip> rank(const NetInterface& interface, const Vrrp& vrrp) {
    const Ip shared = ipOf(vrrp.address);
    int priority = std::clamp(vrrp.priority, 1, 254);
    Ip primary;
    for (const Address& address : interface.record->addresses) {
        const Ip own = ipOf(address);
        if (own == shared)
            priority = 255;
        if (own.version == shared.version && !primary)
            primary = own;
    }
    return {priority, primary};
}

} // namespace

Addressing::Addressing(const Bridging& bridging) : bridging_(bridging) {
    const auto& interfaces = bridging.interfaces();
    struct Backing {
        int interface;
        const Vrrp* vrrp;
    };
    std::map<std::pair<int, Ip>, std::vector<Backing>> groups;
    for (int i = 0; i < static_cast<int>(interfaces.size()); ++i) {
        const NetInterface& each = bridging.interface(i);
        for (const Address& address : each.record->addresses)
            if (address.valid())
                holders_[ipOf(address)].push_back({i, prefixOf(address), false});
        for (const Vrrp& vrrp : each.record->vrrp)
            if (vrrp.address.valid() && each.up)
                groups[{vrrp.group, ipOf(vrrp.address)}].push_back({i, &vrrp});
    }
    for (const auto& [key, backing] : groups)
        for (const Backing& each : backing) {
            const NetInterface& mine = bridging.interface(each.interface);
            const auto own = rank(mine, *each.vrrp);
            const bool beaten = std::any_of(backing.begin(), backing.end(), [&](const Backing& other) {
                return other.interface != each.interface &&
                       rank(bridging.interface(other.interface), *other.vrrp) > own &&
                       bridging.carries(other.interface, each.interface);
            });
            auto& held = holders_[key.second];
            const bool has = std::any_of(held.begin(), held.end(),
                                         [&](const Held& h) { return h.interface == each.interface; });
            if (!beaten && !has)
                held.push_back({each.interface, prefixOf(key.second, key.second.bits()), true});
        }
}

const std::vector<Held>& Addressing::holders(const Ip& ip) const {
    static const std::vector<Held> none;
    const auto at = holders_.find(ip);
    return at == holders_.end() ? none : at->second;
}

std::vector<int> Addressing::answering(int asking, const Ip& ip) const {
    std::vector<int> out;
    for (const Held& each : holders(ip))
        if (each.interface != asking && bridging_.meet(asking, each.interface))
            out.push_back(each.interface);
    return out;
}

std::uint32_t routerIdOf(const Bridging& bridging, int station, const std::string& said) {
    if (const std::uint32_t id = numberOf(ipOf(Address(said))))
        return id;
    std::uint32_t loopback = 0, any = 0;
    for (const int i : bridging.interfacesOf(station))
        for (const Address& address : bridging.interface(i).record->addresses) {
            any = std::max(any, numberOf(ipOf(address)));
            if (bridging.interface(i).record->type == InterfaceKind::loopback)
                loopback = std::max(loopback, numberOf(ipOf(address)));
        }
    return loopback ? loopback : any;
}

} // namespace underridge::analysis

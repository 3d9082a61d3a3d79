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

Addressing::Stated::Stated(const Bridging& bridging) {
    std::vector<std::pair<Ip, Held>> all;
    for (int i = 0; i < bridging.interfaceCount(); ++i) {
        const NetInterface& each = bridging.interface(i);
        for (const Address& address : each.record->addresses)
            if (address.valid())
                all.push_back({ipOf(address), {i, prefixOf(address), false}});
        for (const Vrrp& vrrp : each.record->vrrp)
            if (vrrp.address.valid())
                groups[{vrrp.group, ipOf(vrrp.address)}].push_back({i, &vrrp});
    }
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    ips.reserve(all.size());
    held.reserve(all.size());
    for (const auto& [ip, each] : all) {
        ips.push_back(ip);
        held.push_back(each);
    }
}

Addressing::Addressing(const Bridging& bridging)
    : bridging_(bridging), stated_(std::make_shared<const Stated>(bridging)) {
    decideShared();
}

Addressing::Addressing(const Addressing& before, const Bridging& bridging)
    : bridging_(bridging), stated_(before.stated_) {
    decideShared();
}

void Addressing::decideShared() {
    const auto rankOf = [&](const Backing& each) {
        return rank(bridging_.interface(each.interface), *each.vrrp);
    };
    for (const auto& [key, backing] : stated_->groups)
        for (const Backing& each : backing) {
            if (!bridging_.interface(each.interface).up)
                continue;
            const auto own = rankOf(each);
            const bool beaten = std::any_of(backing.begin(), backing.end(), [&](const Backing& other) {
                return other.interface != each.interface && rankOf(other) > own &&
                       bridging_.carries(other.interface, each.interface);
            });
            auto at = shared_.find(key.second);
            if (at == shared_.end()) {
                const auto stated = holders(key.second);
                at = shared_.emplace(key.second, std::vector<Held>(stated.begin(), stated.end())).first;
            }
            auto& held = at->second;
            const bool has = std::any_of(held.begin(), held.end(),
                                         [&](const Held& h) { return h.interface == each.interface; });
            if (!beaten && !has)
                held.push_back({each.interface, prefixOf(key.second, key.second.bits()), true});
        }
}

std::span<const Held> Addressing::holders(const Ip& ip) const {
    if (const auto at = shared_.find(ip); at != shared_.end())
        return at->second;
    const auto& ips = stated_->ips;
    const auto [first, last] = std::equal_range(ips.begin(), ips.end(), ip);
    return std::span(stated_->held)
        .subspan(static_cast<std::size_t>(first - ips.begin()), static_cast<std::size_t>(last - first));
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

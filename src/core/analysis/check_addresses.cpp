// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of addresses, prefixes and gateways.
#include "core/analysis/checks.h"
#include "core/analysis/silence.h"

#include <algorithm>
#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;
namespace {

void checkTwice(Told& told) {
    const Bridging& bridging = told.f.bridging();
    constexpr std::size_t mostSubjects = 20;
    told.f.addressing().forEach([&](const Ip& ip, std::span<const Held> holders) {
        if (holders.size() < 2)
            return;
        std::map<std::string, std::vector<int>> byVrf;
        for (const Held& held : holders)
            if (!held.shared)
                byVrf[bridging.interface(held.interface).record->vrf].push_back(held.interface);
        for (const auto& [vrf, all] : byVrf) {
            if (all.size() < 2)
                continue;
            std::vector<ObjectRef> subjects;
            for (std::size_t i = 0; i < std::min(all.size(), mostSubjects); ++i)
                subjects.push_back(told.device(bridging.interface(all[i]).station));
            told.tell("address-twice", std::move(subjects),
                      all.size() == 2 ? fmt::format("{} and {} both have {}", told.interface(all[0]),
                                                    told.interface(all[1]), ip.text())
                                      : fmt::format("{}, {} and {} more have {}", told.interface(all[0]),
                                                    told.interface(all[1]), all.size() - 2, ip.text()),
                      "give each an address of its own");
        }
    });
    std::map<std::uint64_t, int> macs;
    for (int i = 0; i < bridging.interfaceCount(); ++i) {
        const std::uint64_t mac = macFrom(bridging.interface(i).record->mac);
        if (!mac || bridging.interface(i).record->type == InterfaceKind::subinterface)
            continue;
        const auto [first, fresh] = macs.try_emplace(mac, i);
        const NetInterface& other = bridging.interface(first->second);
        // One device may use one address on several networks.
        if (!fresh && other.station != bridging.interface(i).station)
            told.tell("mac-twice", {told.device(other.station), told.device(bridging.interface(i).station)},
                      fmt::format("{} and {} both have {}", told.interface(first->second), told.interface(i),
                                  bridging.interface(i).record->mac),
                      "correct the one that was copied");
    }
}

struct OnIsland {
    int interface;
    Prefix subnet;
};

/// What meets on one island: prefix lengths and MTU.
void checkIsland(Told& told, const std::vector<OnIsland>& all) {
    const Bridging& bridging = told.f.bridging();
    std::map<Prefix, std::vector<int>> by;
    for (const OnIsland& each : all)
        by[each.subnet].push_back(each.interface);
    for (const auto& [wide, members] : by)
        for (const auto& [narrow, others] : by) {
            if (wide.length >= narrow.length || !wide.contains(narrow.base))
                continue;
            // The fewer are taken for the mistaken.
            const bool wideIsOdd = members.size() <= others.size();
            const int odd = wideIsOdd ? members.front() : others.front();
            const Prefix& usual = wideIsOdd ? narrow : wide;
            told.tell("prefix-length", {told.device(bridging.interface(odd).station)},
                      fmt::format("{} is in {}, what it meets there in {}", told.interface(odd),
                                  (wideIsOdd ? wide : narrow).text(), usual.text()),
                      fmt::format("give it the prefix length {}", usual.length));
        }
    const auto mtu = [&](int interface) {
        const int said = bridging.interface(interface).record->mtu;
        return said > 0 ? said : 1500;
    };
    for (const auto& [subnet, members] : by) {
        std::map<int, std::vector<int>> sizes;
        for (const int interface : members)
            sizes[mtu(interface)].push_back(interface);
        if (sizes.size() < 2)
            continue;
        const auto odd = std::min_element(sizes.begin(), sizes.end(), [](const auto& a, const auto& b) {
            return a.second.size() < b.second.size();
        });
        told.tell("mtu-step", {told.device(bridging.interface(odd->second.front()).station)},
                  fmt::format("{} has an MTU of {} on {}, others another",
                              told.interface(odd->second.front()), odd->first, subnet.text()),
                  "set one MTU on all of a subnet");
    }
}

} // namespace

void checkSubnets(Told& told, int index, InReach& there) {
    const Reach& reach = *told.f.bridging().all()[at(index)];
    const auto& interfaces = told.f.bridging().reaches().all[at(index)].interfaces;
    std::map<int, std::vector<OnIsland>> byIsland;
    std::map<std::tuple<std::string, Prefix, int>, int> places; ///< an interface there
    for (std::size_t i = 0; i < interfaces.size(); ++i) {
        const NetInterface& each = reach.interfaces()[i];
        const int island = reach.islandOf(static_cast<int>(i));
        if (!each.up || island < 0)
            continue;
        for (const Address& address : each.record->addresses) {
            const Prefix subnet = prefixOf(address);
            if (!address.valid() || address.prefixLength() < 0 || subnet.length == subnet.base.bits())
                continue;
            byIsland[island].push_back({interfaces[i], subnet});
            places.try_emplace({each.record->vrf, subnet, island}, interfaces[i]);
        }
    }
    for (const auto& [island, all] : byIsland)
        checkIsland(told, all);
    for (const auto& [key, interface] : places)
        there.subnets.push_back({std::get<0>(key), std::get<1>(key), std::get<2>(key), interface});
}

void checkSubnetsApart(Told& told, const std::vector<const InReach*>& all) {
    const Bridging& bridging = told.f.bridging();
    /// Reach and component, an interface there.
    std::map<std::pair<std::string, Prefix>, std::map<std::pair<std::size_t, int>, int>> places;
    for (std::size_t reach = 0; reach < all.size(); ++reach)
        for (const SubnetPlace& each : all[reach]->subnets)
            places[{each.vrf, each.subnet}].try_emplace({reach, each.component}, each.first);
    for (const auto& [key, islands] : places) {
        if (islands.size() < 2)
            continue;
        const int a = islands.begin()->second, b = std::next(islands.begin())->second;
        told.tell("subnet-split",
                  {told.device(bridging.interface(a).station), told.device(bridging.interface(b).station)},
                  fmt::format("{} is in {} places that do not reach each other: at {} and at {}",
                              key.second.text(), islands.size(), told.interface(a), told.interface(b)),
                  "join them by their VLAN, or number one of them anew");
    }
    // Subnets that overlap though they do not meet.
    for (auto one = places.begin(); one != places.end(); ++one)
        for (auto other = std::next(one); other != places.end(); ++other) {
            const auto& [vrf, wide] = one->first;
            const auto& [otherVrf, narrow] = other->first;
            if (vrf != otherVrf || !wide.contains(narrow.base))
                break; // sorted: nothing further on lies in it
            const bool meet = std::any_of(one->second.begin(), one->second.end(), [&](const auto& place) {
                return other->second.contains(place.first);
            });
            if (wide.length < narrow.length && !meet)
                told.tell("subnet-overlap",
                          {told.device(bridging.interface(one->second.begin()->second).station)},
                          fmt::format("{} at {} lies in {} at {}", narrow.text(),
                                      told.interface(other->second.begin()->second), wide.text(),
                                      told.interface(one->second.begin()->second)),
                          "number one of them anew, or correct its prefix length");
        }
}

void checkAddresses(Told& told) {
    checkTwice(told);
}

} // namespace underridge::analysis

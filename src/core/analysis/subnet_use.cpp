// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/subnet_use.h"

#include "core/analysis/prefix.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace underridge::analysis {
using namespace model;
namespace {

/// How far into a prefix an address lies, 0 to just under 1.
double positionIn(const Prefix& prefix, const Ip& ip) {
    double position = 0, worth = 0.5;
    constexpr int enough = 53; // bits of a double
    for (int bit = prefix.length; bit < ip.bits() && bit < prefix.length + enough; ++bit, worth /= 2)
        if (ip.bytes[static_cast<std::size_t>(bit / 8)] >> (7 - bit % 8) & 1)
            position += worth;
    return position;
}

/// Whether IPv4 keeps the first and the last address for itself and broadcasts.
bool hasEnds(const Prefix& prefix) {
    return prefix.base.version == 4 && prefix.length < 31;
}

bool isEnd(const Prefix& prefix, const Ip& ip) {
    const std::uint32_t hosts = 0xFFFFFFFFU >> prefix.length, own = numberOf(ip) & hosts;
    return own == 0 || own == hosts;
}

} // namespace

SubnetUse useOf(const Network& network, const Address& subnet, const std::string& vrf, int parts) {
    SubnetUse use;
    if (!subnet.valid() || subnet.prefixLength() < 0 || parts < 1)
        return use;
    const Prefix prefix = prefixOf(subnet);
    const int hostBits = prefix.base.bits() - prefix.length;
    use.size = std::uint64_t{1} << std::min(hostBits, 63);
    if (hasEnds(prefix))
        use.size -= 2;
    std::set<Ip> given;
    const auto add = [&](const Address& address) {
        const Ip ip = ipOf(address);
        if (ip && prefix.contains(ip) && !(hasEnds(prefix) && isEnd(prefix, ip)))
            given.insert(ip);
    };
    network.all<Interface>().forEach([&](const Interface& interface) {
        if (interface.vrf != vrf)
            return;
        for (const Address& address : interface.addresses)
            add(address);
        for (const Vrrp& vrrp : interface.vrrp)
            add(vrrp.address);
    });
    use.used = given.size();
    use.filled.assign(static_cast<std::size_t>(parts), 0);
    const double each = std::max(1.0, std::exp2(hostBits) / parts); // addresses in a part
    for (const Ip& ip : given) {
        double& filled = use.filled[static_cast<std::size_t>(positionIn(prefix, ip) * parts)];
        filled = std::min(1.0, filled + 1 / each);
    }
    return use;
}

std::vector<std::pair<std::string, Address>> subnetsWithoutRecord(const Network& network) {
    std::set<std::pair<std::string, Prefix>> known, found;
    network.all<Subnet>().forEach(
        [&](const Subnet& subnet) { known.emplace(subnet.vrf, prefixOf(subnet.prefix)); });
    network.all<Interface>().forEach([&](const Interface& interface) {
        for (const Address& address : interface.addresses) {
            if (!address.valid() || address.prefixLength() < 0)
                continue;
            const Prefix prefix = prefixOf(address);
            if (prefix.length < prefix.base.bits() && !known.contains({interface.vrf, prefix}))
                found.emplace(interface.vrf, prefix);
        }
    });
    std::vector<std::pair<std::string, Address>> out;
    for (const auto& [vrf, prefix] : found)
        out.emplace_back(vrf, Address(prefix.text()));
    return out;
}

} // namespace underridge::analysis

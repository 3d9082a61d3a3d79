// SPDX-License-Identifier: GPL-3.0-or-later
// How much of a subnet is given away, and where in it.
#pragma once
#include "core/model/network.h"

namespace underridge::analysis {

struct SubnetUse {
    std::uint64_t size = 0;     ///< addresses that can be given to interfaces; at most 2^63
    std::uint64_t used = 0;     ///< of them, those that are
    std::vector<double> filled; ///< of each part, from the first address on: how much is used, 0 to 1
};

/// Counts the addresses of interfaces, and those routers share (VRRP), that lie in a subnet
/// and are of its VRF; an address two have counts once. `parts`: into how many equal parts
/// it is cut. Of IPv4 its own and its broadcast address are left out (RFC 3021). All 0 for
/// what is no subnet.
SubnetUse useOf(const model::Network& network, const model::Address& subnet, const std::string& vrf,
                int parts);

/// The subnets interfaces are in, by VRF, that no record is of; those of one address left
/// out.
std::vector<std::pair<std::string, model::Address>> subnetsWithoutRecord(const model::Network& network);

} // namespace underridge::analysis

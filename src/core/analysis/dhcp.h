// SPDX-License-Identifier: GPL-3.0-or-later
// Who hands an address and a default gateway to whom: DHCP (RFC 2131, RFC 8415) over relays
// (RFC 1542), as subnets say who serves them.
#pragma once
#include "core/analysis/addressing.h"

namespace underridge::analysis {

/// Why an interface that asks gets nothing.
enum class DhcpSilence { none, noSubnet, noServer, notHeard };

class Dhcp {
public:
    Dhcp(const Wiring& wiring, const Bridging& bridging, const Addressing& addressing);

    /// The recorded subnet an address of an interface is of; null: none is recorded.
    const model::Subnet* subnetOf(const NetInterface& interface, const model::Address& address) const;
    /// Whether a server of that subnet hears the interface, itself or over a relay on its
    /// subnet. Whether what a relay sends comes to the server is a finding of its own.
    DhcpSilence silenceOf(int interface, const model::Address& address) const;
    /// The gateway an interface is told for addresses of a version; none: it is told none.
    Ip gatewayFor(int interface, int version) const;

private:
    bool isHeard(int interface, const model::Subnet& subnet) const;

    const Wiring& wiring_;
    const Bridging& bridging_;
    const Addressing& addressing_;
    std::map<std::pair<std::string, Prefix>, const model::Subnet*> subnets_; ///< by VRF
    std::vector<int> relays_;                                                ///< interfaces
};

} // namespace underridge::analysis

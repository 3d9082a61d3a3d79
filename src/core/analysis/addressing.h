// SPDX-License-Identifier: GPL-3.0-or-later
// Who has which address, and who answers for it.
#pragma once
#include "core/analysis/bridging.h"
#include "core/analysis/prefix.h"

#include <map>

namespace underridge::analysis {

/// One address of an interface.
struct Held {
    int interface = -1; ///< index in Bridging::interfaces()
    Prefix subnet;
    bool shared = false; ///< a VRRP address, held while it is the best of its group
};

class Addressing {
public:
    explicit Addressing(const Bridging& bridging);

    /// Interfaces that have an address, up or not; shared ones only where they stand for it.
    const std::vector<Held>& holders(const Ip& ip) const;
    /// Those that answer an interface asking for an address (ARP, RFC 826; neighbour
    /// discovery, RFC 4861): both directions carry. Several: it is chance which.
    std::vector<int> answering(int asking, const Ip& ip) const;
    const std::map<Ip, std::vector<Held>>& all() const { return holders_; }

private:
    const Bridging& bridging_;
    std::map<Ip, std::vector<Held>> holders_;
};

/// The router id of a station: what is said, else the highest address of version 4 of its
/// loopbacks, else of all its interfaces; 0: it has none.
std::uint32_t routerIdOf(const Bridging& bridging, int station, const std::string& said);

} // namespace underridge::analysis

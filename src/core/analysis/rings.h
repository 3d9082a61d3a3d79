// SPDX-License-Identifier: GPL-3.0-or-later
// Declared rings in steady state: ITU-T G.8032 (ERPS), IEC 62439-2 (MRP), IEC 62439-3 (HSR).
#pragma once
#include "core/analysis/wiring.h"

namespace underridge::analysis {

struct RingState {
    const model::Ring* record = nullptr;
    std::vector<std::pair<int, int>> hops; ///< by link of the record: its two ports; -1, -1: it joins none
    std::vector<int> stations;             ///< in it, ascending
    bool closed = false;                   ///< the links go round, once
    bool whole = false;                    ///< closed, and all of them are up
    int blockedHop = -1;                   ///< index in hops; -1: none is said
    /// Whether a link is blocked now: while the ring is whole.
    bool blocks() const { return whole && blockedHop >= 0 && record->protocol != model::RingProtocol::hsr; }
};

class Rings {
public:
    explicit Rings(const Wiring& wiring);

    const std::vector<RingState>& all() const { return all_; }
    /// Whether the port is one of a ring: it is in no spanning tree then.
    bool has(int port) const { return at_.contains(port); }
    bool blocks(int port, int vlan) const;
    /// The ring a port is of, the first by name; null: of none.
    const RingState* at(int port) const;
    /// Whether frames that come round by this port are dropped (HSR): told of the two ports of
    /// one link of each such ring, as a loop is broken by one.
    bool dropsRepeated(int port) const;

private:
    RingState stateOf(const model::Ring& ring, const Wiring& wiring) const;

    std::vector<RingState> all_; ///< by name
    std::unordered_map<int, std::vector<int>> at_;
};

} // namespace underridge::analysis

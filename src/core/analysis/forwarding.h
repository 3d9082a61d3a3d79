// SPDX-License-Identifier: GPL-3.0-or-later
// All that follows from a network for frames and packets, worked out once.
#pragma once
#include "core/analysis/routing.h"

namespace underridge::analysis {

class Forwarding {
public:
    /// `without`: devices and links that are to be thought away.
    explicit Forwarding(model::Network network, const Without& without = {});
    Forwarding(const Forwarding&) = delete;
    Forwarding& operator=(const Forwarding&) = delete;

    const model::Network& network() const { return wiring_.network(); }
    const Wiring& wiring() const { return wiring_; }
    const Rings& rings() const { return rings_; }
    const SpanningTrees& trees() const { return trees_; }
    const Bridging& bridging() const { return bridging_; }
    const Addressing& addressing() const { return addressing_; }
    const Routing& routing() const { return routing_; }

private:
    Wiring wiring_;
    Rings rings_;
    SpanningTrees trees_;
    Bridging bridging_;
    Addressing addressing_;
    Routing routing_;
};

/// Whether two networks differ in anything that forwarding depends on. The cost follows
/// what differs.
bool forwardsAlike(const model::Network& before, const model::Network& after);

} // namespace underridge::analysis

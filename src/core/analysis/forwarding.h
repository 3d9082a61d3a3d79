// SPDX-License-Identifier: GPL-3.0-or-later
// All that follows from a network for frames and packets, worked out once.
#pragma once
#include "core/analysis/routing.h"

namespace underridge::analysis {

class Forwarding {
public:
    /// `without`: devices and links that are to be thought away.
    explicit Forwarding(model::Network network, const Without& without = {});
    /// What follows from a network that was another before; the same as when it is worked out
    /// by itself. Where only VLANs of ports differ, or static routes, wiring and trees are kept, where
    /// settings of trees do, wiring: the stretches of layer 2 whose ports let other frames through are
    /// worked out anew, and routes if they concern any router.
    /// `before` must be of a whole network.
    static std::shared_ptr<const Forwarding> after(const std::shared_ptr<const Forwarding>& before,
                                                   model::Network network);
    Forwarding(const Forwarding&) = delete;
    Forwarding& operator=(const Forwarding&) = delete;

    const model::Network& network() const { return wiring_.network(); }
    const Wiring& wiring() const { return wiring_; }
    const Rings& rings() const { return trunk_->rings; }
    const SpanningTrees& trees() const { return trunk_->trees; }
    const Bridging& bridging() const { return bridging_; }
    const Addressing& addressing() const { return addressing_; }
    const Routing& routing() const { return *routing_; }

    /// Whether what joins whom is the same as in another, but for VLANs on ports and trees.
    bool hasWiringOf(const Forwarding& other) const { return wiring_.hasPlantOf(other.wiring_); }
    bool hasTreesOf(const Forwarding& other) const { return trunk_ == other.trunk_; }
    /// Whether what routers know is that of another.
    bool hasRoutesOf(const Forwarding& other) const { return routed() == other.routed(); }

private:
    /// What does not follow from VLANs.
    struct Trunk {
        explicit Trunk(Wiring held, const Trunk* before = nullptr)
            : wiring(std::move(held)),
              rings(wiring),
              trees(wiring, rings, before ? &before->trees : nullptr) {}
        Wiring wiring;
        Rings rings;
        SpanningTrees trees;
    };
    struct Difference;
    /// Nothing: wiring or trees may be others.
    std::optional<Difference> differenceTo(const model::Network& after) const;
    Forwarding(const std::shared_ptr<const Forwarding>& before, model::Network network,
               const Difference& difference);
    std::vector<int> portsOf(const Forwarding& before, const Difference& difference) const;
    /// The one whose routing was worked out by itself.
    const Forwarding* routed() const { return routed_ ? routed_.get() : this; }

    Wiring wiring_;
    std::shared_ptr<const Trunk> trunk_;
    Bridging bridging_;
    Addressing addressing_;
    std::shared_ptr<const Forwarding> routed_; ///< null: it is this
    std::unique_ptr<const Routing> routing_;
};

/// Whether two networks differ in anything that forwarding depends on. The cost follows
/// what differs.
bool forwardsAlike(const model::Network& before, const model::Network& after);

} // namespace underridge::analysis

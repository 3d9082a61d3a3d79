// SPDX-License-Identifier: GPL-3.0-or-later
// What is wrong with switching and routing in a network that is being edited: what a change
// cannot have touched is kept.
#pragma once
#include "core/analysis/checks.h"

namespace underridge::analysis {

class RunningFindings {
public:
    /// Brings the findings up to a network and what follows from it, by Forwarding::after() of
    /// the one given last. The result is that of checkForwarding(), whatever came before.
    void update(std::shared_ptr<const Forwarding> forwarding, const model::Network& network);

    /// By rule, then by name.
    const std::vector<linking::Finding>& findings() const { return found_; }

private:
    /// Of one reach.
    struct Kept {
        std::shared_ptr<const Reach> of;
        std::vector<linking::Finding> found;
        InReach there;
        std::set<int> beyond; ///< other reaches somebody's silence follows from
    };
    /// Which kinds of what forwarding does not follow from differ.
    struct Differing {
        bool any = false;
        bool equipment = false; ///< devices, ports, links, cables, groups
    };
    Differing differing(const model::Network& network) const;
    void checkReach(int reach, const model::Network& network);
    void gather();

    std::shared_ptr<const Forwarding> of_;
    model::Network network_;
    std::vector<Kept> reaches_;
    /// By what they follow from.
    std::vector<linking::Finding> ofWiring_, ofTrees_, ofRoutes_, ofEquipment_, ofWays_, ofStatements_,
        apart_, found_;
};

} // namespace underridge::analysis

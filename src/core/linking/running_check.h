// SPDX-License-Identifier: GPL-3.0-or-later
// The findings of a network that is being edited: after a change only what it can have
// touched is looked at again.
#pragma once
#include "core/linking/rules.h"

#include <map>
#include <set>

namespace underridge::linking {

class RunningCheck {
public:
    /// Brings the findings up to the network. The cost follows what differs from the one
    /// before.
    void update(const model::Network& network, const model::Catalogue& catalogue);

    /// By rule, then by name.
    std::vector<Finding> findings() const;

private:
    /// What findings are kept by: one check of one object.
    struct Owner {
        enum class Check { link, chain, loop, taken, power, segment, lag, cable, label, routes, feeds } check;
        std::uint64_t id = 0, part = 0;

        auto operator<=>(const Owner&) const = default;
    };
    struct Touched;

    Touched touchedBy(const model::Network& network) const;
    void spread(Touched& touched, const model::Network& network) const;
    /// What is to be kept by an owner from now on.
    using Told = std::vector<std::pair<Owner, std::vector<Finding>>>;
    static Told ofLink(const model::Network& network, Fits& fits, model::LinkId id);
    static Told ofDevice(const model::Network& network, model::DeviceId id);
    void updateCables(const model::Network& network, const std::set<model::CableId>& cables);
    void updateFeeds(const model::Network& network, const Touched& touched);
    void updateRoutes(const model::Network& network, const Touched& touched);
    void put(Owner owner, std::vector<Finding> found);
    void relabel(const model::Cable* before, const model::Cable* after, std::set<std::string>& labels);

    model::Network last_;
    std::map<Owner, std::vector<Finding>> found_;
    std::map<std::string, std::set<model::CableId>> byLabel_;
    std::set<model::DeviceId> fedFrom_; ///< devices others are fed from
};

} // namespace underridge::linking

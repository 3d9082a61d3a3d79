// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/running_findings.h"

#include "core/base/parallel.h"

#include <algorithm>

namespace underridge::analysis {
using namespace model;
using linking::Finding;

namespace {

/// Whether which VLAN a number is follows from groups.
bool hasScopes(const Network& network) {
    bool has = false;
    network.all<Vlan>().forEach([&](const Vlan& vlan) { has |= bool(vlan.scope); });
    return has;
}

} // namespace

RunningFindings::Differing RunningFindings::differing(const Network& network) const {
    Differing out;
    Network::compare(network_, network, [&]<class Record>(const Record* old, const Record* now) {
        out.any = true;
        if constexpr (std::is_same_v<Record, Device>)
            if (old && now) {
                Device alike = *now;
                alike.spanningTree = old->spanningTree;
                if (alike == *old)
                    return;
            }
        if constexpr (std::is_same_v<Record, Device> || std::is_same_v<Record, Port> ||
                      std::is_same_v<Record, Link> || std::is_same_v<Record, Cable> ||
                      std::is_same_v<Record, Group>)
            out.equipment = true;
    });
    return out;
}

void RunningFindings::checkReach(int index, const Network& network) {
    Kept& kept = reaches_[at(index)];
    kept.of = of_->bridging().all()[at(index)];
    kept.there = {};
    Told told(*of_, network);
    checkVlans(told, index, kept.there);
    checkSubnets(told, index, kept.there);
    checkRoutes(told, index);
    checkDhcp(told, index);
    kept.found = told.take();
    kept.beyond = told.beyond();
    kept.beyond.erase(index);
}

void RunningFindings::update(std::shared_ptr<const Forwarding> forwarding, const Network& network) {
    const bool first = !of_;
    const bool sameWiring = of_ && forwarding->hasWiringOf(*of_),
               sameTrees = of_ && forwarding->hasTreesOf(*of_),
               sameRoutes = of_ && forwarding->hasRoutesOf(*of_);
    const bool alike = forwarding == of_;
    const Differing differs = first ? Differing{true, true} : differing(network);
    const bool regrouped = differs.equipment && hasScopes(network);
    of_ = std::move(forwarding);
    network_ = network;
    if (!differs.any && alike)
        return;
    // Those that follow from one thing are told by one.
    const auto tell = [&](std::vector<Finding>& into, std::initializer_list<void (*)(Told&)> checks) {
        Told told(*of_, network);
        for (const auto check : checks)
            check(told);
        into = told.take();
    };
    if (!sameWiring || !sameRoutes || regrouped)
        reaches_.clear();
    reaches_.resize(of_->bridging().all().size());
    const auto differ = [&](int reach) { return reaches_[at(reach)].of != of_->bridging().all()[at(reach)]; };
    std::vector<int> touched;
    for (int i = 0; i < static_cast<int>(reaches_.size()); ++i)
        if (const auto& beyond = reaches_[at(i)].beyond;
            differ(i) || std::any_of(beyond.begin(), beyond.end(), differ))
            touched.push_back(i);
    const auto ofAll = [&] {
        if (!sameWiring)
            tell(ofWiring_, {checkRings, checkAddresses, checkFilters});
        if (!sameTrees)
            tell(ofTrees_, {checkTrees});
        if (!sameWiring || differs.equipment)
            tell(ofEquipment_, {checkResilience, checkSpares});
        if (!sameRoutes)
            tell(ofRoutes_, {checkSessions});
        if (!alike)
            tell(ofWays_, {checkRoutesBetween, checkRelays, checkReturns});
        if (network.all<Statement>().size() > 0 || !ofStatements_.empty())
            tell(ofStatements_, {checkStatements});
    };
    const auto ofReaches = [&] {
        constexpr std::size_t fewest = 64; // most are one cable
        forEachIndex(touched.size(), fewest, [&](std::size_t i) { checkReach(touched[i], network); });
        if (alike && !regrouped)
            return;
        std::vector<const InReach*> all;
        for (const Kept& kept : reaches_)
            all.push_back(&kept.there);
        Told told(*of_, network);
        checkVlansApart(told, all);
        checkSubnetsApart(told, all);
        apart_ = told.take();
    };
    constexpr std::size_t manyReaches = 8, manyDevices = 50;
    const bool much = touched.size() >= manyReaches || !sameWiring;
    inParallel(much && network.all<Device>().size() >= manyDevices, {ofAll, ofReaches});
    gather();
}

void RunningFindings::gather() {
    found_.clear();
    for (const auto* each :
         {&ofWiring_, &ofTrees_, &ofRoutes_, &ofEquipment_, &ofWays_, &ofStatements_, &apart_})
        found_.insert(found_.end(), each->begin(), each->end());
    for (const Kept& kept : reaches_)
        found_.insert(found_.end(), kept.found.begin(), kept.found.end());
    std::stable_sort(found_.begin(), found_.end(), [](const Finding& a, const Finding& b) {
        return std::tie(a.rule, a.message) < std::tie(b.rule, b.message); // the table's order
    });
}

} // namespace underridge::analysis

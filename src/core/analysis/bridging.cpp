// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/bridging.h"

#include "core/base/parallel.h"

#include <algorithm>
#include <deque>
#include <map>

namespace underridge::analysis {
using namespace model;

Bridging::Bridging(const Wiring& wiring, const SpanningTrees& trees)
    : wiring_(wiring), reaches_(std::make_shared<const Reaches>(wiring)), reach_(reaches_->all.size()) {
    constexpr std::size_t fewest = 64; // most are one cable
    forEachIndex(reach_.size(), fewest, [&](std::size_t i) {
        reach_[i] = std::make_shared<const Reach>(wiring, trees, *reaches_, static_cast<int>(i));
    });
    number();
}

Bridging::Bridging(const Bridging& before, const Wiring& wiring, const SpanningTrees& trees,
                   const std::vector<int>& ports)
    : wiring_(wiring), reaches_(before.reaches_), reach_(before.reach_) {
    std::set<int> touched;
    for (const int port : ports)
        touched.insert(reaches_->ofStation[at(wiring.port(port).station)]);
    touched.erase(-1);
    for (const int index : touched)
        reach_[at(index)] = std::make_shared<const Reach>(wiring, trees, *reaches_, index);
    number();
}

void Bridging::number() {
    int domains = 0, components = 0;
    domainBase_.reserve(reach_.size() + 1);
    componentBase_.reserve(reach_.size() + 1);
    for (const auto& reach : reach_) {
        domainBase_.push_back(domains);
        componentBase_.push_back(components);
        domains += static_cast<int>(reach->domains().size());
        components += reach->components();
    }
    domainBase_.push_back(domains);
    componentBase_.push_back(components);
}

std::size_t Bridging::reachOf(int domain) const {
    const auto after = std::upper_bound(domainBase_.begin(), domainBase_.end(), domain);
    return static_cast<std::size_t>(after - domainBase_.begin()) - 1;
}

const Domain& Bridging::domain(int index) const {
    const std::size_t of = reachOf(index);
    return reach_[of]->domains()[at(index - domainBase_[of])];
}

std::vector<Crossing> Bridging::from(int domain) const {
    const std::size_t of = reachOf(domain);
    auto out = reach_[of]->from(domain - domainBase_[of]);
    for (Crossing& crossing : out)
        crossing.to += domainBase_[of];
    return out;
}

bool Bridging::carries(int from, int to) const {
    const int of = reaches_->ofInterface[at(from)];
    return of == reaches_->ofInterface[at(to)] &&
           reach_[at(of)]->carries(reaches_->slotOf[at(from)], reaches_->slotOf[at(to)]);
}

int Bridging::islandOf(int interface) const {
    const auto of = at(reaches_->ofInterface[at(interface)]);
    const int component = reach_[of]->islandOf(reaches_->slotOf[at(interface)]);
    return component < 0 ? -1 : componentBase_[of] + component;
}

std::optional<std::vector<Crossing>> Bridging::way(int from, int to) const {
    if (!carries(from, to))
        return std::nullopt;
    const NetInterface &a = interface(from), &b = interface(to);
    const auto of = at(reaches_->ofInterface[at(from)]);
    std::unordered_map<int, std::pair<int, Crossing>> cameBy; ///< domain → the one before, how
    std::deque<int> queue;
    for (const Joined& out : a.sends)
        if (cameBy.try_emplace(out.domain, std::pair(-1, Crossing{out.domain, out.out, out.in, out.tag}))
                .second)
            queue.push_back(out.domain);
    while (!queue.empty()) {
        const int here = queue.front();
        queue.pop_front();
        const auto in = std::find_if(b.hears.begin(), b.hears.end(),
                                     [&](const Joined& joined) { return joined.domain == here; });
        if (in != b.hears.end()) {
            std::vector<Crossing> way;
            for (int at = here; at >= 0; at = cameBy.at(at).first)
                if (const Crossing& crossing = cameBy.at(at).second; crossing.out >= 0)
                    way.push_back({domainBase_[of] + crossing.to, crossing.out, crossing.in, crossing.tag});
            std::reverse(way.begin(), way.end());
            const bool onCable = !way.empty() && way.back().out == in->out && way.back().in == in->in;
            if (in->out >= 0 && !onCable)
                way.push_back({-1, in->out, in->in, in->tag});
            return way;
        }
        for (const Crossing& crossing : reach_[of]->from(here))
            if (cameBy.try_emplace(crossing.to, std::pair(here, crossing)).second)
                queue.push_back(crossing.to);
    }
    return std::nullopt;
}

std::set<int> Bridging::domainsFrom(int interface) const {
    const auto of = at(reaches_->ofInterface[at(interface)]);
    std::set<int> out;
    std::deque<int> queue;
    const auto come = [&](int domain) {
        if (out.insert(domainBase_[of] + domain).second)
            queue.push_back(domain);
    };
    for (const Joined& start : this->interface(interface).sends)
        come(start.domain);
    while (!queue.empty()) {
        const int here = queue.front();
        queue.pop_front();
        for (const Crossing& crossing : reach_[of]->from(here))
            come(crossing.to);
    }
    return out;
}

std::vector<Island> islandsIn(const Bridging& bridging, int index) {
    const Reach& reach = *bridging.all()[at(index)];
    const auto& domains = reach.domains();
    std::vector<Island> out(at(reach.components()));
    for (std::size_t d = 0; d < domains.size(); ++d) {
        Island& island = out[at(reach.componentOf(static_cast<int>(d)))];
        island.domains.push_back(bridging.indexOf(index, static_cast<int>(d)));
        if (!domains[d].tags && domains[d].vlan && !bridging.isCable(domains[d]))
            island.vlans.push_back(domains[d].vlan);
    }
    const auto& interfaces = bridging.reaches().all[at(index)].interfaces;
    for (std::size_t i = 0; i < interfaces.size(); ++i)
        if (const int component = reach.islandOf(static_cast<int>(i)); component >= 0)
            out[at(component)].interfaces.push_back(interfaces[i]);
    for (Island& island : out) {
        std::sort(island.vlans.begin(), island.vlans.end());
        island.vlans.erase(std::unique(island.vlans.begin(), island.vlans.end()), island.vlans.end());
    }
    return out;
}

std::vector<Island> Bridging::islands() const {
    std::vector<Island> out;
    for (std::size_t i = 0; i < reach_.size(); ++i) {
        auto more = islandsIn(*this, static_cast<int>(i));
        out.insert(out.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
    }
    std::sort(out.begin(), out.end(), [](const Island& a, const Island& b) {
        return std::pair(a.vlans, a.domains) < std::pair(b.vlans, b.domains);
    });
    return out;
}

} // namespace underridge::analysis

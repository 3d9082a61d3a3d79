// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/assign.h"

#include "core/linking/ranking.h"
#include "core/linking/route.h"
#include "core/linking/rules.h"

#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

constexpr std::array<int, 12> speeds{1, 2, 10, 100, 300, 1000, 2500, 5000, 10'000, 25'000, 40'000, 100'000};

std::int64_t stepsBelow(int speed) {
    return speeds.end() - std::upper_bound(speeds.begin(), speeds.end(), speed);
}

/// Ranks of up to a hundred thousand links add up without running into one another.
Cost costOf(const Rank& rank, int speed, std::int64_t distance) {
    constexpr std::int64_t apart = 1 << 20;
    const auto& [console, transceivers, misplaced, faster, packed, unpowered, waste, reserved] = rank;
    return {(console * apart + transceivers) * apart + misplaced, stepsBelow(speed),
            (unpowered * apart + (waste > 0)) * apart + reserved + packed, distance};
}

/// Free ports of one target that are alike in everything.
struct Pool {
    std::size_t target = 0;
    std::vector<PortView> ports; ///< in the order they are given out
    std::vector<std::size_t> users;

    std::size_t capacity() const { return ports.size(); }
};

/// Devices that are alike to every target: of one model, with nothing linked, fitted or
/// set.
struct Way {
    Joint joint;
    std::string port; ///< of the device
    Rank rank{};
    double watts = 0; ///< the target gives
};
using Ways = std::vector<std::optional<Way>>; ///< by pool

class Assigning {
public:
    Assigning(const Network& network, const Catalogue& catalogue, const std::vector<DeviceId>& devices,
              const std::vector<DeviceId>& targets, SheetId sheet, const Habits& habits)
        : network_(network), catalogue_(catalogue), devices_(devices), targets_(targets), habits_(habits) {
        makePools();
        for (const DeviceId device : devices_)
            ways_.push_back(&waysOf(device));
        measure(sheet);
        at_.assign(devices_.size(), none);
        banned_.assign(devices_.size(), std::vector<bool>(targets_.size()));
        moves_.assign(pools_.size() * pools_.size(), std::nullopt);
    }

    Assignment run() {
        for (std::size_t i = 0; i < devices_.size(); ++i)
            place(i);
        keepBudgets();
        return result();
    }

private:
    static constexpr std::size_t none = static_cast<std::size_t>(-1);

    void makePools() {
        for (std::size_t t = 0; t < targets_.size(); ++t) {
            const Device* target = network_.device(targets_[t]);
            if (!target)
                continue;
            const Side side = sideOf(network_, *target, *target, {}, habits_);
            const std::size_t first = pools_.size();
            for (const PortView& port : side.ports) {
                if (side.taken.contains(port.key) || !port.isData())
                    continue;
                auto pool = std::find_if(pools_.begin() + static_cast<std::ptrdiff_t>(first), pools_.end(),
                                         [&](const Pool& p) {
                                             return areAlike(side, p.ports.front(), port) &&
                                                    unitOf(p.ports.front()) == unitOf(port);
                                         });
                if (pool == pools_.end())
                    pool = pools_.insert(pool, Pool{t, {}, {}});
                pool->ports.push_back(port);
            }
        }
        if (habits_.fromHighEnd)
            for (Pool& pool : pools_)
                std::reverse(pool.ports.begin(), pool.ports.end());
    }

    /// What is the same for every device that has no ports, links or fittings of its own.
    std::string kindOf(const Device& device) const {
        bool plain = device.modules.empty() && device.transceivers.empty() && device.stack.empty() &&
                     device.added.empty();
        network_.forEachLinkOf(device.id, [&](const Link&) { plain = false; });
        network_.all<Port>().forEachIn(device.id.value, [&](const Port&) { plain = false; });
        return plain ? device.model : "=" + idText(device.id.value);
    }

    const Ways& waysOf(DeviceId id) {
        const Device* device = network_.device(id);
        const std::string kind = device ? kindOf(*device) : std::string("=");
        const auto [at, fresh] = byKind_.try_emplace(kind);
        if (!fresh)
            return at->second;
        at->second.resize(pools_.size());
        for (std::size_t t = 0; device && t < targets_.size(); ++t) {
            const Device* target = network_.device(targets_[t]);
            if (!target || target == device)
                continue;
            const Side mine = sideOf(network_, *device, *target, {}, habits_);
            const Side theirs = sideOf(network_, *target, *device, {}, habits_);
            const auto firsts = firstsOf(mine, {});
            for (std::size_t p = 0; p < pools_.size(); ++p)
                if (pools_[p].target == t && theirs.isFree(pools_[p].ports.front()))
                    at->second[p] = bestWay(firsts, mine, pools_[p].ports.front(), theirs);
        }
        return at->second;
    }

    std::optional<Way> bestWay(const std::vector<const PortView*>& firsts, const Side& mine,
                               const PortView& port, const Side& theirs) const {
        std::optional<Way> best;
        for (const PortView* own : firsts)
            if (own->isData())
                for (const Joint& joint : fit(*own, port, catalogue_).joints)
                    if (const Rank rank = rankOf(*own, port, joint, mine, theirs, catalogue_);
                        !best || rank < best->rank)
                        best =
                            Way{joint, own->key, rank,
                                own->like->power == PowerSide::load && port.like->power == PowerSide::source
                                    ? classPowerW(std::max(0, own->like->powerClass))
                                    : 0};
        return best;
    }

    void measure(SheetId sheet) {
        distance_.assign(devices_.size(), std::vector<std::int64_t>(targets_.size()));
        CableWays ways(network_);
        const auto byPlaces = [&] {
            for (std::size_t i = 0; i < devices_.size(); ++i)
                for (std::size_t t = 0; t < targets_.size(); ++t) {
                    const auto way = ways.between({devices_[i], {}}, {targets_[t], {}});
                    if (!way)
                        return false;
                    distance_[i][t] = way->mm;
                }
            return true;
        };
        if (byPlaces())
            return;
        for (std::size_t i = 0; i < devices_.size(); ++i)
            for (std::size_t t = 0; t < targets_.size(); ++t) {
                const Position* a = network_.position(sheet, devices_[i].value);
                const Position* b = network_.position(sheet, targets_[t].value);
                distance_[i][t] = a && b ? std::abs(a->at.x - b->at.x) + std::abs(a->at.y - b->at.y) : 0;
            }
    }

    std::optional<Cost> cost(std::size_t device, std::size_t pool) const {
        const auto& way = (*ways_[device])[pool];
        const std::size_t target = pools_[pool].target;
        if (!way || banned_[device][target])
            return std::nullopt;
        return costOf(way->rank, way->joint.speed, distance_[device][target]);
    }

    struct Move {
        Cost cost;
        std::size_t device = none;
    };

    /// What it costs least to move one device from a pool to another.
    void refreshMoves(std::size_t from) {
        for (std::size_t to = 0; to < pools_.size(); ++to) {
            std::optional<Move>& move = moves_[from * pools_.size() + to];
            move.reset();
            if (to == from)
                continue;
            for (const std::size_t device : pools_[from].users)
                if (const auto there = cost(device, to))
                    if (const Cost change = *there - *cost(device, from); !move || change < move->cost)
                        move = Move{change, device};
        }
    }

    /// Gives one more device its place by the cheapest chain of moves. False when there
    /// is none.
    bool place(std::size_t device) {
        const std::size_t n = pools_.size();
        std::vector<std::optional<Cost>> least(n);
        std::vector<std::size_t> before(n, none);
        std::vector<std::size_t> open;
        std::vector<bool> isOpen(n);
        for (std::size_t p = 0; p < n; ++p)
            if ((least[p] = cost(device, p))) {
                open.push_back(p);
                isOpen[p] = true;
            }
        for (std::size_t next = 0; next < open.size(); ++next) { // Bellman and Ford, by queue
            const std::size_t p = open[next];
            isOpen[p] = false;
            if (pools_[p].users.size() < pools_[p].capacity())
                continue; // nobody need move on from here
            for (std::size_t to = 0; to < n; ++to) {
                const auto& move = moves_[p * n + to];
                if (!move)
                    continue;
                const Cost sum = *least[p] + move->cost;
                if (least[to] && !(sum < *least[to]))
                    continue;
                least[to] = sum;
                before[to] = p;
                if (!isOpen[to]) {
                    isOpen[to] = true;
                    open.push_back(to);
                }
            }
        }
        std::size_t end = none;
        for (std::size_t p = 0; p < n; ++p)
            if (least[p] && pools_[p].users.size() < pools_[p].capacity() &&
                (end == none || *least[p] < *least[end]))
                end = p;
        if (end == none)
            return false;
        std::vector<std::size_t> touched{end};
        while (before[end] != none) {
            const std::size_t from = before[end];
            settle(moves_[from * n + end]->device, end);
            touched.push_back(from);
            end = from;
        }
        settle(device, end);
        for (const std::size_t pool : touched)
            refreshMoves(pool);
        return true;
    }

    void settle(std::size_t device, std::size_t pool) {
        if (at_[device] != none)
            std::erase(pools_[at_[device]].users, device);
        at_[device] = pool;
        if (pool != none)
            pools_[pool].users.push_back(device);
    }

    /// Watts a target's own links take already.
    double given(const Device& target) const {
        double watts = 0;
        network_.forEachLinkOf(target.id, [&](const Link& link) {
            const bool isA = link.a.device == target.id;
            const auto source = portAt(network_, isA ? link.a : link.b);
            const auto load = portAt(network_, isA ? link.b : link.a);
            if (source && load && source->like->power == PowerSide::source &&
                load->like->power == PowerSide::load)
                watts += classPowerW(std::max(0, load->like->powerClass));
        });
        return watts;
    }

    double wattsOf(std::size_t device) const {
        return at_[device] == none ? 0 : (*ways_[device])[at_[device]]->watts;
    }

    void keepBudgets() {
        for (bool again = true; again;) {
            again = false;
            for (std::size_t t = 0; t < targets_.size(); ++t) {
                const Device* target = network_.device(targets_[t]);
                const DeviceModel* model = target ? network_.modelOf(*target) : nullptr;
                if (!model || model->powerBudgetW <= 0)
                    continue;
                double asked = given(*target);
                for (std::size_t i = 0; i < devices_.size(); ++i)
                    if (at_[i] != none && pools_[at_[i]].target == t)
                        asked += wattsOf(i);
                if (asked <= model->powerBudgetW)
                    continue;
                again |= moveOn(t);
            }
        }
    }

    /// Sends the device on that loses least by it. False when none here takes power: the
    /// budget was overdrawn before.
    bool moveOn(std::size_t target) {
        std::size_t chosen = none;
        std::optional<Cost> least;
        for (std::size_t i = 0; i < devices_.size(); ++i) {
            if (at_[i] == none || pools_[at_[i]].target != target || wattsOf(i) <= 0)
                continue;
            std::optional<Cost> other;
            for (std::size_t p = 0; p < pools_.size(); ++p)
                if (pools_[p].target != target && pools_[p].users.size() < pools_[p].capacity())
                    if (const auto there = cost(i, p); there && (!other || *there < *other))
                        other = there;
            const auto loss = other ? std::optional(*other - *cost(i, at_[i])) : std::nullopt;
            if (chosen == none || (loss && (!least || *loss < *least))) {
                chosen = i;
                least = loss;
            }
        }
        if (chosen == none)
            return false;
        const std::size_t pool = at_[chosen];
        settle(chosen, none);
        banned_[chosen][target] = true;
        for (std::size_t p = 0; p < pools_.size(); ++p)
            if (p == pool)
                refreshMoves(p);
        if (!place(chosen))
            overBudget_.insert(chosen);
        return true;
    }

    Assignment result() {
        Assignment out;
        for (const DeviceId device : devices_)
            out.rows.push_back({device, std::nullopt, {}});
        for (Pool& pool : pools_) {
            std::sort(pool.users.begin(), pool.users.end());
            for (std::size_t k = 0; k < pool.users.size(); ++k) {
                const std::size_t i = pool.users[k];
                const Way& way = *(*ways_[i])[static_cast<std::size_t>(&pool - pools_.data())];
                out.rows[i].proposal =
                    Proposal{{devices_[i], way.port},
                             {targets_[pool.target], pool.ports[k].key},
                             way.joint,
                             fmt::format("{}, best for all together", titleOf(pool.ports[k].like->block))};
                out.cost = out.cost + *cost(i, at_[i]);
            }
        }
        for (std::size_t i = 0; i < devices_.size(); ++i)
            if (at_[i] == none)
                out.rows[i].why = whyNot(i);
        return out;
    }

    std::string whyNot(std::size_t device) const {
        if (overBudget_.contains(device))
            return "the power budgets are used up";
        const bool fits = std::any_of(ways_[device]->begin(), ways_[device]->end(),
                                      [](const auto& way) { return way.has_value(); });
        return fits ? "all ports that fit are taken" : "no port fits";
    }

    const Network& network_;
    const Catalogue& catalogue_;
    const std::vector<DeviceId>&devices_, &targets_;
    Habits habits_;
    std::vector<Pool> pools_;
    std::map<std::string, Ways> byKind_;
    std::vector<const Ways*> ways_;                   ///< by device
    std::vector<std::vector<std::int64_t>> distance_; ///< by device and target
    std::vector<std::size_t> at_;                     ///< the pool each device has
    std::vector<std::vector<bool>> banned_;           ///< by device and target: its budget forbids it
    std::vector<std::optional<Move>> moves_;          ///< by pool and pool
    std::set<std::size_t> overBudget_;
};

} // namespace

int Assignment::linked() const {
    return static_cast<int>(std::count_if(rows.begin(), rows.end(),
                                          [](const Assigned& row) { return row.proposal.has_value(); }));
}

Assignment assign(const Network& network, const Catalogue& catalogue, const std::vector<DeviceId>& devices,
                  const std::vector<DeviceId>& targets, SheetId sheet, const Habits& habits) {
    return Assigning(network, catalogue, devices, targets, sheet, habits).run();
}

std::vector<DeviceId> targetsAmong(const Network& network, const std::vector<DeviceId>& devices) {
    int highest = 0;
    for (const DeviceId id : devices)
        if (const Device* device = network.device(id))
            highest = std::max(highest, tierOf(network, *device));
    std::vector<DeviceId> out;
    for (const DeviceId id : devices)
        if (const Device* device = network.device(id);
            device && highest > 0 && tierOf(network, *device) == highest)
            out.push_back(id);
    return out;
}

} // namespace underridge::linking

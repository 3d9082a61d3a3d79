// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/assign.h"

#include "core/linking/poe.h"
#include "core/linking/ranking.h"

#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

constexpr std::array<int, 15> speeds{1,      2,      10,     100,    300,     1000,    2500,   5000,
                                     10'000, 25'000, 40'000, 50'000, 100'000, 200'000, 400'000};

std::int64_t stepsBelow(int speed) {
    return speeds.end() - std::upper_bound(speeds.begin(), speeds.end(), speed);
}

/// Ranks of up to a hundred thousand links add up without running into one another.
Cost costOf(const Rank& rank, int speed, std::int64_t distance) {
    constexpr std::int64_t apart = 1 << 20;
    const auto& [console, misplaced, faster, transceivers, packed, unpowered, waste, reserved] = rank;
    return {console * apart + misplaced, stepsBelow(speed),
            (transceivers * apart + unpowered + (waste > 0)) * apart + reserved + packed, distance};
}

/// Free ports of one target that are alike in everything, and behind which, at a panel, is
/// the same.
struct Pool {
    std::size_t target = 0;
    std::vector<PortView> ports; ///< in the order they are given out
    std::vector<std::size_t> users;
    std::string behind;
    DeviceId feeder; ///< whose power budget its ports draw on; none: of no power, or no budget

    std::size_t capacity() const { return ports.size(); }
};

/// One way for devices of a kind to go to a pool, and how long a cable it stands: too long
/// or too short for it is found out once.
struct Way {
    Joint joint;
    std::string port; ///< of the device
    Rank rank{};
    double watts = 0;                               ///< the feeder sets aside
    std::int64_t goodFrom = INT64_MAX, goodTo = -1; ///< known to be in order
    std::int64_t badFrom = INT64_MAX, badTo = -1;   ///< known to be too long; too short
};
using Ways = std::vector<std::vector<Way>>; ///< by pool, best first

class Assigning {
public:
    Assigning(const Network& network, const Catalogue& catalogue, const std::vector<DeviceId>& devices,
              const std::vector<DeviceId>& targets, SheetId sheet, const Habits& habits)
        : network_(network),
          catalogue_(catalogue),
          devices_(devices),
          targets_(targets),
          habits_(habits),
          fits_(catalogue) {
        makePools();
        for (const DeviceId device : devices_)
            ways_.push_back(&waysOf(device));
        measure(sheet);
        choose();
        at_.assign(devices_.size(), none);
        banned_.assign(devices_.size(), {});
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
                if (side.taken.contains(port.key) || !port.isData() || port.disabled())
                    continue;
                // Of a panel the front is linked to, of a midspan what gives power.
                if (side.passive && (port.like->block == Block::rear || port.like->block == Block::uplink))
                    continue;
                const std::string behind = side.passive ? behindOf(*target, port) : std::string();
                auto pool = std::find_if(pools_.begin() + static_cast<std::ptrdiff_t>(first), pools_.end(),
                                         [&](const Pool& p) {
                                             return p.behind == behind &&
                                                    (side.passive || areAlike(side, p.ports.front(), port)) &&
                                                    unitOf(p.ports.front()) == unitOf(port);
                                         });
                if (pool == pools_.end())
                    pool =
                        pools_.insert(pool, Pool{t, {}, {}, behind, feederAt({targets_[t], port.key}, port)});
                pool->ports.push_back(port);
            }
        }
        if (habits_.fromHighEnd)
            for (Pool& pool : pools_)
                std::reverse(pool.ports.begin(), pool.ports.end());
    }

    /// What tells the ports of a panel apart: where they lead and over what.
    std::string behindOf(const Device& panel, const PortView& port) const {
        const auto next = through(network_, panel, {port.key, 1});
        std::string text = std::string(textOf(port.like->connector)) + textOf(port.like->block).data();
        for (const Stretch& stretch :
             next ? outward(network_, {panel.id, next->port}) : std::vector<Stretch>()) {
            const Link* link = network_.link(stretch.link);
            const Cable* cable = link ? network_.cable(link->cable) : nullptr;
            text += fmt::format("|{} {}", cable ? cable->type : std::string(), cable ? cable->lengthMm : 0);
            text += fmt::format(" {}", stretch.to.device.value);
        }
        return text;
    }

    /// Whose budget a load on this port would draw on.
    DeviceId feederAt(const PortRef& ref, const PortView& port) const {
        const auto budgeted = [&](const PortRef& at, const PortView& view) {
            const Device* device = network_.device(at.device);
            const DeviceModel* model = device ? network_.modelOf(*device) : nullptr;
            return view.like->power == PowerSide::source && model && model->powerBudgetW > 0 ? at.device
                                                                                             : DeviceId();
        };
        const Device* device = network_.device(ref.device);
        if (!device || !isPassive(network_, *device) || port.like->power == PowerSide::source)
            return budgeted(ref, port);
        const auto next = through(network_, *device, {ref.port, 1});
        if (!next)
            return {};
        for (const Stretch& stretch : outward(network_, {device->id, next->port}))
            if (const auto view = portAt(network_, stretch.to);
                view && view->like->power == PowerSide::source)
                return budgeted(stretch.to, *view);
        return {};
    }

    /// What is the same for every device that has no ports, links or fittings of its own.
    std::string kindOf(const Device& device) const {
        bool plain = device.modules.empty() && device.transceivers.empty() && device.stack.empty() &&
                     device.added.empty();
        network_.forEachLinkOf(device.id, [&](const Link&) { plain = false; });
        network_.all<Port>().forEachIn(device.id.value, [&](const Port&) { plain = false; });
        return plain ? device.model : "=" + idText(device.id.value);
    }

    Ways& waysOf(DeviceId id) {
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
                    at->second[p] = waysTo(firsts, mine, pools_[p], theirs);
        }
        return at->second;
    }

    std::vector<Way> waysTo(const std::vector<const PortView*>& firsts, const Side& mine, const Pool& pool,
                            const Side& theirs) {
        const PortView& port = pool.ports.front();
        std::vector<Way> ways;
        for (const PortView* own : firsts)
            if (own->isData())
                for (const Joint& joint : fits_.of(*own, port).joints) {
                    Way way;
                    way.joint = joint;
                    way.port = own->key;
                    way.rank = rankOf(*own, port, joint, mine, theirs);
                    ways.push_back(std::move(way));
                }
        std::stable_sort(ways.begin(), ways.end(),
                         [](const Way& x, const Way& y) { return x.rank < y.rank; });
        return ways;
    }

    /// The way each device goes to each pool: the best that leaves nothing to be found at
    /// the length between the two.
    void choose() {
        chosen_.assign(devices_.size(), std::vector<int>(pools_.size(), -1));
        for (std::size_t i = 0; i < devices_.size(); ++i)
            for (std::size_t p = 0; p < pools_.size(); ++p) {
                auto& ways = (*ways_[i])[p];
                for (std::size_t w = 0; w < ways.size() && chosen_[i][p] < 0; ++w)
                    if (isInOrder(i, p, ways[w]))
                        chosen_[i][p] = static_cast<int>(w);
            }
    }

    bool isInOrder(std::size_t device, std::size_t pool, Way& way) {
        const CableType* type = catalogue_.cable(way.joint.cable);
        const std::int64_t mm = type && wayMm_[device][pools_[pool].target] >= 0
                                    ? lengthFor(network_, *type, wayMm_[device][pools_[pool].target])
                                    : 0;
        if (mm >= way.goodFrom && mm <= way.goodTo)
            return true;
        if (mm >= way.badFrom || mm <= way.badTo)
            return false;
        Planned planned;
        planned.a = {devices_[device], way.port};
        planned.b = {targets_[pools_[pool].target], pools_[pool].ports.front().key};
        planned.type = type;
        planned.optics[0] = catalogue_.transceiver(way.joint.transceiverA);
        planned.optics[1] = catalogue_.transceiver(way.joint.transceiverB);
        planned.lengthMm = mm;
        const auto objection = objectionTo(network_, planned);
        if (objection && objection->rule->code != "power-budget") { // budgets are kept over all
            if (objection->rule->code == "overload")
                way.badTo = std::max(way.badTo, mm);
            else
                way.badFrom = std::min(way.badFrom, objection->isOfPorts() ? 0 : mm);
            return false;
        }
        way.goodFrom = std::min(way.goodFrom, mm);
        way.goodTo = std::max(way.goodTo, mm);
        if (pools_[pool].feeder)
            way.watts = wattsOver(planned);
        return true;
    }

    double wattsOver(const Planned& planned) const {
        const Channel channel = channelOf(network_, plannedChain(network_, planned), &planned);
        for (const int end : {0, 1}) {
            const ChannelEnd& load = channel.ends[static_cast<std::size_t>(end)];
            if (!load.port || load.port->like->power != PowerSide::load)
                continue;
            if (const PowerWay way = powerAt(channel, end); way.source)
                return allocatedW(*load.port->like, *way.source->like, channel.pairs);
        }
        return 0;
    }

    void measure(SheetId sheet) {
        distance_.assign(devices_.size(), std::vector<std::int64_t>(targets_.size()));
        wayMm_.assign(devices_.size(), std::vector<std::int64_t>(targets_.size(), -1));
        CableWays ways(network_);
        bool all = true;
        for (std::size_t i = 0; i < devices_.size(); ++i)
            for (std::size_t t = 0; t < targets_.size(); ++t)
                if (const auto way = ways.between({devices_[i], {}}, {targets_[t], {}}))
                    wayMm_[i][t] = way->mm;
                else
                    all = false;
        if (all) {
            distance_ = wayMm_;
            return;
        }
        for (std::size_t i = 0; i < devices_.size(); ++i)
            for (std::size_t t = 0; t < targets_.size(); ++t) {
                const Position* a = network_.position(sheet, devices_[i].value);
                const Position* b = network_.position(sheet, targets_[t].value);
                distance_[i][t] = a && b ? std::abs(a->at.x - b->at.x) + std::abs(a->at.y - b->at.y) : 0;
            }
    }

    const Way* wayOf(std::size_t device, std::size_t pool) const {
        const int chosen = chosen_[device][pool];
        return chosen < 0 ? nullptr : &(*ways_[device])[pool][static_cast<std::size_t>(chosen)];
    }

    std::optional<Cost> cost(std::size_t device, std::size_t pool) const {
        const Way* way = wayOf(device, pool);
        if (!way || banned_[device].contains(pools_[pool].feeder))
            return std::nullopt;
        return costOf(way->rank, way->joint.speed, distance_[device][pools_[pool].target]);
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
    /// is none. A pool is looked at anew at most once for each pool: that many steps has the
    /// longest chain of moves, and moves that a budget forbade may have left a circle that
    /// would go on getting cheaper.
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
        for (std::size_t next = 0; next < std::min(open.size(), n * n + n); ++next) { // Bellman and Ford
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
        std::set<std::size_t> passed{end};
        for (std::size_t at = end; before[at] != none; at = before[at])
            if (!passed.insert(before[at]).second) { // a circle: straight to where there is room
                std::fill(before.begin(), before.end(), none);
                end = cheapestRoom(device);
                if (end == none)
                    return false;
                touched = {end};
                break;
            }
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

    std::size_t cheapestRoom(std::size_t device) const {
        std::size_t best = none;
        std::optional<Cost> least;
        for (std::size_t p = 0; p < pools_.size(); ++p)
            if (pools_[p].users.size() < pools_[p].capacity())
                if (const auto there = cost(device, p); there && (!least || *there < *least)) {
                    least = there;
                    best = p;
                }
        return best;
    }

    void settle(std::size_t device, std::size_t pool) {
        if (at_[device] != none)
            std::erase(pools_[at_[device]].users, device);
        at_[device] = pool;
        if (pool != none)
            pools_[pool].users.push_back(device);
    }

    double wattsOf(std::size_t device) const {
        const Way* way = at_[device] == none ? nullptr : wayOf(device, at_[device]);
        return way ? way->watts : 0;
    }

    /// Each round bans one device from one feeder for good, so there are no more rounds than
    /// pairs of those.
    void keepBudgets() {
        std::map<DeviceId, double> left;
        for (const Pool& pool : pools_)
            if (pool.feeder && !left.contains(pool.feeder))
                left[pool.feeder] = budgetOf(network_, pool.feeder).value_or(Budget{pool.feeder, 0}).leftW;
        for (bool again = true; again;) {
            again = false;
            for (const auto& [feeder, watts] : left) {
                double asked = 0;
                for (std::size_t i = 0; i < devices_.size(); ++i)
                    if (at_[i] != none && pools_[at_[i]].feeder == feeder)
                        asked += wattsOf(i);
                if (asked > 0 && asked > watts)
                    again |= moveOn(feeder);
            }
        }
    }

    /// Sends the device on that loses least by it. False when none here takes power: the
    /// budget was overdrawn before.
    bool moveOn(DeviceId feeder) {
        std::size_t chosen = none;
        std::optional<Cost> least;
        for (std::size_t i = 0; i < devices_.size(); ++i) {
            if (at_[i] == none || pools_[at_[i]].feeder != feeder || wattsOf(i) <= 0)
                continue;
            std::optional<Cost> other;
            for (std::size_t p = 0; p < pools_.size(); ++p)
                if (pools_[p].feeder != feeder && pools_[p].users.size() < pools_[p].capacity())
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
        banned_[chosen].insert(feeder);
        refreshMoves(pool);
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
                const Way& way = *wayOf(i, static_cast<std::size_t>(&pool - pools_.data()));
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
        const auto& chosen = chosen_[device];
        if (std::any_of(chosen.begin(), chosen.end(), [](int way) { return way >= 0; }))
            return "all ports that fit are taken";
        const bool fits = std::any_of(ways_[device]->begin(), ways_[device]->end(),
                                      [](const auto& ways) { return !ways.empty(); });
        return fits ? "no port fits without a fault: too far, or no power" : "no port fits";
    }

    const Network& network_;
    const Catalogue& catalogue_;
    const std::vector<DeviceId>&devices_, &targets_;
    Habits habits_;
    std::vector<Pool> pools_;
    Fits fits_;
    std::map<std::string, Ways> byKind_;
    std::vector<Ways*> ways_;                         ///< by device
    std::vector<std::vector<int>> chosen_;            ///< by device and pool, of the ways there; -1: none
    std::vector<std::vector<std::int64_t>> wayMm_;    ///< by device and target, between places; -1: not known
    std::vector<std::vector<std::int64_t>> distance_; ///< by device and target
    std::vector<std::size_t> at_;                     ///< the pool each device has
    std::vector<std::set<DeviceId>> banned_;          ///< by device: feeders whose budget forbids it
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

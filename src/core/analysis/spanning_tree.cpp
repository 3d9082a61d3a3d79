// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/spanning_tree.h"

#include "core/analysis/prefix.h"
#include "core/base/disjoint_sets.h"

#include <algorithm>
#include <array>
#include <map>
#include <numeric>
#include <queue>

namespace underridge::analysis {
using namespace model;
namespace {

/// Priority and address of a bridge in one number: less is better.
struct BridgeId {
    std::uint64_t value = 0;
    bool guessed = false;
};

BridgeId bridgeIdOf(const Wiring& wiring, int station, int priority) {
    const Device& device = *wiring.station(station).device;
    std::uint64_t address = macFrom(wiring.treeSettingsOf(station).address);
    if (!address)
        wiring.network().all<Interface>().forEachIn(device.id.value, [&](const Interface& each) {
            if (const std::uint64_t mac = macFrom(each.mac); mac && (!address || mac < address))
                address = mac;
        });
    constexpr std::uint64_t addressBits = (1ULL << 48) - 1;
    const bool guessed = !address;
    if (guessed)
        address = device.id.value & addressBits;
    return {static_cast<std::uint64_t>(std::clamp(priority, 0, 0xffff)) << 48 | (address & addressBits),
            guessed};
}

/// Name, revision and which VLAN goes by which instance: clause 13.8. Equal texts are one
/// region.
std::string regionKey(const SpanningTree& set) {
    std::map<int, int> instanceOf; // where the instance changes, by VLAN
    for (auto each = set.instances.rbegin(); each != set.instances.rend(); ++each)
        for (const VlanRange range : each->vlans)
            for (int vlan = std::max(range.first, 1); vlan <= std::min(range.last, 4094); ++vlan)
                instanceOf[vlan] = each->number;
    std::string key = set.region + "\n" + std::to_string(set.revision);
    for (const auto& [vlan, instance] : instanceOf)
        key += " " + std::to_string(vlan) + ":" + std::to_string(instance);
    return key;
}

/// What a bridge says of itself: the first four parts of a priority vector, clause 13.11.
struct Vector {
    std::uint64_t root = 0;
    std::int64_t external = 0;
    std::uint64_t regionalRoot = 0;
    std::int64_t internal = 0;

    auto operator<=>(const Vector&) const = default;
};

/// Which region a bridge is of: equal numbers are one region.
using Region = int;

struct Bridge {
    int station = -1;
    BridgeId id;
    Region region = -1; ///< each bridge without MSTP is a region of its own
    std::vector<int> ports;
};

struct Attached {
    int bridge = -1; ///< index in the list of bridges
    int port = -1;
    std::uint64_t portId = 0;
    std::int64_t cost = 0;
    bool guarded = false; ///< never a root port
};

} // namespace

std::string_view textOf(PortRole role) {
    constexpr std::array<std::string_view, 6> words{"root",   "designated", "alternate",
                                                    "backup", "master",     "disabled"};
    return words[static_cast<std::size_t>(role)];
}

std::string_view TreePort::state(const Wiring& wiring) const {
    if (forwards)
        return "forwarding";
    return wiring.treeOf(wiring.port(port).station) == TreeMode::stp ? "blocking" : "discarding";
}

struct SpanningTrees::Work {
    explicit Work(SpanningTrees& trees) : trees_(trees), wiring_(trees.wiring_) {}

    void run() {
        gatherBridges();
        gatherSegments();
        guardOff();
        common();
        for (const auto& [region, bridges] : regions_)
            instances(bridges);
    }

private:
    bool runs(int station) const { return wiring_.treeOf(station) != TreeMode::off; }
    /// Of a multi-chassis pair the first stands for both.
    int bridgeStation(int station) const {
        const int pair = wiring_.station(station).pair;
        return pair >= 0 ? std::min(station, pair) : station;
    }
    bool live(int port) const {
        const LogicalPort& p = wiring_.port(port);
        return p.up && p.bridged && !trees_.guardedOff_[static_cast<std::size_t>(port)] && !withinPair(p) &&
               !trees_.rings_.has(port);
    }
    bool withinPair(const LogicalPort& port) const {
        return port.peer >= 0 && wiring_.station(port.station).pair == wiring_.port(port.peer).station;
    }

    void gatherBridges() {
        const auto& stations = wiring_.stations();
        bridgeAt_.assign(stations.size(), -1);
        std::map<std::string, Region> named;
        for (int i = 0; i < static_cast<int>(stations.size()); ++i) {
            const Station& station = stations[static_cast<std::size_t>(i)];
            if (!station.bridges || !runs(i))
                continue;
            const int of = bridgeStation(i);
            if (of != i && runs(of)) {
                bridgeAt_[static_cast<std::size_t>(i)] = bridgeAt_[static_cast<std::size_t>(of)];
            } else {
                const SpanningTree& set = wiring_.treeSettingsOf(i);
                Bridge bridge;
                bridge.station = i;
                bridge.id = bridgeIdOf(wiring_, i, set.priority);
                bridge.region = static_cast<Region>(bridges_.size()) + 1'000'000;
                if (wiring_.treeOf(i) == TreeMode::mstp) {
                    bridge.region =
                        named.try_emplace(regionKey(set), static_cast<Region>(named.size())).first->second;
                    regions_[bridge.region].push_back(static_cast<int>(bridges_.size()));
                }
                bridgeAt_[static_cast<std::size_t>(i)] = static_cast<int>(bridges_.size());
                bridges_.push_back(std::move(bridge));
            }
            Bridge& bridge = bridges_[static_cast<std::size_t>(bridgeAt_[static_cast<std::size_t>(i)])];
            for (const int port : station.ports)
                if (wiring_.port(port).bridged && !withinPair(wiring_.port(port)) && !trees_.rings_.has(port))
                    bridge.ports.push_back(port);
        }
        for (Bridge& bridge : bridges_)
            std::sort(bridge.ports.begin(), bridge.ports.end(), [&](int a, int b) {
                const LogicalPort &x = wiring_.port(a), &y = wiring_.port(b);
                return std::pair(x.station, x.rank) < std::pair(y.station, y.rank);
            });
    }

    int root(int port) { return segmentOf_.of(port); }
    void unite(int a, int b) { segmentOf_.join(a, b); }

    /// LANs between bridges that run a tree: what does not run one passes its frames on,
    /// whatever VLANs its ports have.
    void gatherSegments() {
        const int count = static_cast<int>(wiring_.ports().size());
        segmentOf_ = DisjointSets(wiring_.ports().size());
        for (int i = 0; i < count; ++i) {
            const LogicalPort& port = wiring_.port(i);
            if (live(i) && wiring_.port(port.peer).bridged)
                unite(i, port.peer);
        }
        for (std::size_t i = 0; i < wiring_.stations().size(); ++i) {
            if (runs(static_cast<int>(i)))
                continue;
            int first = -1;
            for (const int port : wiring_.station(static_cast<int>(i)).ports)
                if (live(port)) {
                    if (first >= 0)
                        unite(first, port);
                    first = port;
                }
        }
    }

    /// Kept, as it follows from what is wired where it is not set.
    std::int64_t cost(int port) {
        const std::int64_t cost = trees_.costOf(port);
        const Interface* settings = wiring_.settingsOf(port);
        if (!settings || settings->spanningTree->cost <= 0)
            trees_.bySpeed_[at(port)] = cost;
        return cost;
    }

    /// Those attached to each segment that several are attached to, by its first port.
    std::unordered_map<int, std::vector<Attached>> attached() {
        std::vector<int> count(segmentOf_.count());
        for (const Bridge& bridge : bridges_)
            for (const int index : bridge.ports)
                if (live(index))
                    ++count[static_cast<std::size_t>(root(index))];
        std::unordered_map<int, std::vector<Attached>> out;
        for (int b = 0; b < static_cast<int>(bridges_.size()); ++b) {
            int rank = 0;
            for (const int index : bridges_[static_cast<std::size_t>(b)].ports) {
                ++rank;
                if (!live(index) || count[static_cast<std::size_t>(root(index))] < 2)
                    continue;
                const Interface* settings = wiring_.settingsOf(index);
                const PortTree set = settings ? *settings->spanningTree : PortTree{};
                const auto number =
                    static_cast<std::uint64_t>(std::clamp(set.number ? set.number : rank, 0, 0xffff));
                out[root(index)].push_back(
                    {b, index, static_cast<std::uint64_t>(std::clamp(set.priority, 0, 255)) << 16 | number,
                     cost(index), set.rootGuard});
            }
        }
        return out;
    }

    /// BPDU guard: a port goes down where another bridge is heard.
    void guardOff() {
        bool any = false;
        segments_ = attached();
        for (const auto& [segment, ends] : segments_)
            for (const Attached& end : ends) {
                const Interface* settings = wiring_.settingsOf(end.port);
                if (settings && settings->spanningTree->bpduGuard)
                    any = trees_.guardedOff_[static_cast<std::size_t>(end.port)] = true;
            }
        if (any) {
            gatherSegments();
            segments_ = attached();
        }
        segmentsOf_.assign(bridges_.size(), {});
        for (const auto& [segment, ends] : segments_)
            for (const Attached& end : ends)
                segmentsOf_[static_cast<std::size_t>(end.bridge)].push_back({segment, end});
        for (auto& of : segmentsOf_) // the same in every run
            std::sort(of.begin(), of.end(),
                      [](const auto& a, const auto& b) { return a.second.port < b.second.port; });
    }

    /// Label setting over all bridges of `of`: the best is final when it is taken out, as
    /// vectors only grow on their way. `next` is what a bridge has from another by a port.
    template <class Own, class Next, class Passes>
    std::vector<Vector> spread(const std::vector<int>& of, Own own, Next next, Passes passes) {
        std::vector<Vector> best(bridges_.size());
        std::vector<bool> final(bridges_.size(), false);
        using Item = std::pair<Vector, int>;
        std::priority_queue<Item, std::vector<Item>, std::greater<>> queue;
        for (const int bridge : of)
            queue.push({best[static_cast<std::size_t>(bridge)] = own(bridge), bridge});
        while (!queue.empty()) {
            const auto [vector, bridge] = queue.top();
            queue.pop();
            if (final[static_cast<std::size_t>(bridge)])
                continue;
            final[static_cast<std::size_t>(bridge)] = true;
            for (const auto& [segment, mine] : segmentsOf_[static_cast<std::size_t>(bridge)]) {
                if (!passes(segment))
                    continue;
                for (const Attached& other : segments_.at(segment)) {
                    if (other.guarded || final[static_cast<std::size_t>(other.bridge)])
                        continue;
                    const Vector offered = next(vector, bridge, other);
                    Vector& held = best[static_cast<std::size_t>(other.bridge)];
                    if (offered < held) {
                        held = offered;
                        queue.push({offered, other.bridge});
                    }
                }
            }
        }
        return best;
    }

    /// What decides on a segment: vector, bridge and port of who speaks.
    using Spoken = std::tuple<Vector, std::uint64_t, std::uint64_t, int>;
    template <class Id>
    const Attached* designated(const std::vector<Attached>& ends, const std::vector<Vector>& best, Id id) {
        const Attached* found = nullptr;
        Spoken least;
        for (const Attached& end : ends) {
            const Spoken spoken{best[static_cast<std::size_t>(end.bridge)], id(end.bridge), end.portId,
                                end.port};
            if (!found || spoken < least) {
                found = &end;
                least = spoken;
            }
        }
        return found;
    }

    /// Roles of all ports of some bridges, and the trees they make, one for each root.
    template <class Id, class Next, class Passes>
    void decide(int instance, const std::vector<int>& of, const std::vector<Vector>& best, Id id, Next next,
                Passes passes, const std::vector<VlanRange>& vlans) {
        std::map<std::uint64_t, std::size_t> byRoot;
        const bool regional = instance != 0;
        for (const int b : of) {
            const Bridge& bridge = bridges_[static_cast<std::size_t>(b)];
            const Vector& mine = best[static_cast<std::size_t>(b)];
            const std::uint64_t rootId = regional ? mine.regionalRoot : mine.root;
            const auto [at, fresh] = byRoot.try_emplace(rootId, trees_.trees_.size());
            if (fresh) {
                trees_.trees_.push_back({});
                trees_.trees_.back().instance = instance;
                trees_.trees_.back().vlans = vlans;
            }
            Tree& tree = trees_.trees_[at->second];
            if (rootId == id(b)) {
                tree.root = bridge.station;
                tree.guessed = bridge.id.guessed;
            }
            tree.bridges.push_back(bridge.station);
            tree.costs.push_back(regional ? mine.internal : mine.external + mine.internal);
            trees_.treeOf_[static_cast<std::uint64_t>(bridge.station) << 16 |
                           static_cast<std::uint64_t>(instance)] = static_cast<int>(at->second);
            const int rootPort = rootPortOf(b, best, id, next, passes);
            for (const int port : bridge.ports)
                tree.ports.push_back(roleOf(b, port, rootPort, instance, best, id, passes));
        }
    }

    template <class Id, class Next, class Passes>
    int rootPortOf(int b, const std::vector<Vector>& best, Id id, Next next, Passes passes) {
        int found = -1;
        std::tuple<std::uint64_t, std::uint64_t, std::uint64_t> least;
        for (const auto& [segment, mine] : segmentsOf_[static_cast<std::size_t>(b)]) {
            if (!passes(segment) || mine.guarded)
                continue;
            const Attached* from = designated(segments_.at(segment), best, id);
            if (from->bridge == b)
                continue;
            const Vector offered = next(best[static_cast<std::size_t>(from->bridge)], from->bridge, mine);
            if (offered != best[static_cast<std::size_t>(b)])
                continue;
            const std::tuple ids{id(from->bridge), from->portId, mine.portId};
            if (found < 0 || ids < least) {
                found = mine.port;
                least = ids;
            }
        }
        return found;
    }

    template <class Id, class Passes>
    TreePort roleOf(int b, int port, int rootPort, int instance, const std::vector<Vector>& best, Id id,
                    Passes passes) {
        TreePort out;
        out.port = port;
        if (!live(port))
            return out;
        const int segment = root(port);
        if (!passes(segment)) { // the border of a region: as the common tree has it
            const Tree& common = trees_.trees_[static_cast<std::size_t>(trees_.treeOf_.at(
                static_cast<std::uint64_t>(bridges_[static_cast<std::size_t>(b)].station) << 16))];
            const TreePort* there = trees_.portIn(common, port);
            out.role = there->role == PortRole::root ? PortRole::master : there->role;
            out.forwards = there->forwards;
        } else if (!segments_.contains(segment)) { // nobody else is there
            out.role = PortRole::designated;
            out.forwards = true;
        } else if (port == rootPort) {
            out.role = PortRole::root;
            out.forwards = true;
        } else {
            const Attached* from = designated(segments_.at(segment), best, id);
            out.forwards = from->port == port;
            out.role = out.forwards        ? PortRole::designated
                       : from->bridge == b ? PortRole::backup
                                           : PortRole::alternate;
        }
        if (!out.forwards && instance == 0)
            trees_.blocks_[static_cast<std::size_t>(port)] = true;
        else if (!out.forwards)
            trees_.blocked_.insert({port, instance});
        return out;
    }

    /// Instance 0, over all bridges; regions of MSTP are as one bridge to the others.
    void common() {
        std::vector<int> all(bridges_.size());
        std::iota(all.begin(), all.end(), 0);
        const auto id = [&](int b) { return bridges_[static_cast<std::size_t>(b)].id.value; };
        const auto own = [&](int b) { return Vector{id(b), 0, id(b), 0}; };
        const auto next = [&](Vector vector, int from, const Attached& to) {
            if (bridges_[static_cast<std::size_t>(from)].region ==
                bridges_[static_cast<std::size_t>(to.bridge)].region) {
                vector.internal += to.cost;
            } else {
                vector.external += to.cost;
                vector.regionalRoot = id(to.bridge);
                vector.internal = 0;
            }
            return vector;
        };
        const auto passes = [](int) { return true; };
        const auto best = spread(all, own, next, passes);
        decide(0, all, best, id, next, passes, {});
    }

    /// The further instances of one MSTP region.
    void instances(const std::vector<int>& of) {
        const Region region = bridges_[static_cast<std::size_t>(of.front())].region;
        const auto& set = wiring_.treeSettingsOf(bridges_[static_cast<std::size_t>(of.front())].station);
        for (const TreeInstance& instance : set.instances) {
            if (instance.number < 1 || instance.number > 4094)
                continue;
            std::unordered_map<int, std::uint64_t> ids;
            for (const int b : of) {
                const int station = bridges_[static_cast<std::size_t>(b)].station;
                int priority = 32768;
                for (const TreeInstance& each : wiring_.treeSettingsOf(station).instances)
                    if (each.number == instance.number)
                        priority = each.priority;
                ids[b] = bridgeIdOf(wiring_, station, priority).value;
            }
            const auto id = [&](int b) { return ids.at(b); };
            const auto own = [&](int b) { return Vector{0, 0, id(b), 0}; };
            const auto next = [&](Vector vector, int, const Attached& to) {
                vector.internal += to.cost;
                return vector;
            };
            const auto passes = [&](int segment) {
                const auto at = segments_.find(segment);
                if (at == segments_.end())
                    return true;
                const auto& ends = at->second;
                return std::all_of(ends.begin(), ends.end(), [&](const Attached& end) {
                    return bridges_[static_cast<std::size_t>(end.bridge)].region == region;
                });
            };
            const auto best = spread(of, own, next, passes);
            decide(instance.number, of, best, id, next, passes, instance.vlans);
        }
    }

    SpanningTrees& trees_;
    const Wiring& wiring_;
    std::vector<Bridge> bridges_;
    std::vector<int> bridgeAt_; ///< by station
    std::map<Region, std::vector<int>> regions_;
    DisjointSets segmentOf_{0}; ///< of ports
    std::unordered_map<int, std::vector<Attached>> segments_;
    std::vector<std::vector<std::pair<int, Attached>>> segmentsOf_;
};

SpanningTrees::SpanningTrees(const Wiring& wiring, const Rings& rings, const SpanningTrees* before)
    : wiring_(wiring),
      rings_(rings),
      blocks_(wiring.ports().size()),
      guardedOff_(wiring.ports().size()),
      bySpeed_(before ? before->bySpeed_ : std::vector<std::int64_t>(wiring.ports().size())) {
    Work(*this).run();
}

std::int64_t SpanningTrees::costOf(int port) const {
    const Interface* settings = wiring_.settingsOf(port);
    if (const int set = settings ? settings->spanningTree->cost : 0; set > 0)
        return set;
    if (bySpeed_[at(port)] > 0)
        return bySpeed_[at(port)];
    constexpr std::int64_t ofOneMegabit = 20'000'000;
    const int speed = wiring_.speedOf(port);
    return std::max<std::int64_t>(1, ofOneMegabit / (speed > 0 ? speed : 1000));
}

int SpanningTrees::instanceOf(int station, int vlan) const {
    if (wiring_.treeOf(station) != TreeMode::mstp)
        return 0;
    for (const TreeInstance& instance : wiring_.treeSettingsOf(station).instances)
        for (const VlanRange range : instance.vlans)
            if (range.contains(vlan) && instance.number >= 1 && instance.number <= 4094)
                return instance.number;
    return 0;
}

bool SpanningTrees::forwards(int port, int vlan) const {
    if (isGuardedOff(port))
        return false;
    if (rings_.has(port))
        return !rings_.blocks(port, vlan);
    const int station = wiring_.port(port).station;
    if (wiring_.treeOf(station) == TreeMode::off)
        return true;
    const int instance = instanceOf(station, vlan);
    return instance == 0 ? !blocks_[static_cast<std::size_t>(port)] : !blocked_.contains({port, instance});
}

std::vector<int> SpanningTrees::otherThan(const SpanningTrees& before) const {
    std::vector<int> out;
    for (std::size_t i = 0; i < blocks_.size(); ++i)
        if (blocks_[i] != before.blocks_[i] || guardedOff_[i] != before.guardedOff_[i])
            out.push_back(static_cast<int>(i));
    std::vector<std::pair<int, int>> others; // ports and instances
    std::set_symmetric_difference(blocked_.begin(), blocked_.end(), before.blocked_.begin(),
                                  before.blocked_.end(), std::back_inserter(others));
    for (const auto& [port, instance] : others)
        out.push_back(port);
    for (int i = 0; i < static_cast<int>(wiring_.stations().size()); ++i) {
        const bool mstp = wiring_.treeOf(i) == TreeMode::mstp;
        if (wiring_.treeOf(i) != before.wiring_.treeOf(i) ||
            (mstp && !(wiring_.treeSettingsOf(i).instances == before.wiring_.treeSettingsOf(i).instances))) {
            const auto& ports = wiring_.station(i).ports;
            out.insert(out.end(), ports.begin(), ports.end());
        }
    }
    return out;
}

const Tree* SpanningTrees::treeOf(int station, int vlan) const {
    const int pair = wiring_.station(station).pair;
    const int of = pair >= 0 ? std::min(station, pair) : station;
    const auto at = treeOf_.find(static_cast<std::uint64_t>(of) << 16 |
                                 static_cast<std::uint64_t>(instanceOf(station, vlan)));
    return at == treeOf_.end() ? nullptr : &trees_[static_cast<std::size_t>(at->second)];
}

const TreePort* SpanningTrees::portIn(const Tree& tree, int port) const {
    const auto at = std::find_if(tree.ports.begin(), tree.ports.end(),
                                 [&](const TreePort& each) { return each.port == port; });
    return at == tree.ports.end() ? nullptr : &*at;
}

} // namespace underridge::analysis

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/bridging.h"

#include "core/model/vlans.h"

#include <algorithm>
#include <deque>
#include <map>

namespace underridge::analysis {
using namespace model;
namespace {

std::uint64_t keyOf(const Domain& domain) {
    return static_cast<std::uint64_t>(domain.station) << 40 ^
           static_cast<std::uint64_t>(domain.notBackTo + 1) << 13 ^ static_cast<std::uint64_t>(domain.vlan);
}

} // namespace

struct Bridging::Work {
    Work(Bridging& bridging, const SpanningTrees& trees)
        : b_(bridging), wiring_(bridging.wiring_), trees_(trees), memberships_(wiring_.ports().size()) {}

    void run() {
        for (std::size_t i = 0; i < wiring_.ports().size(); ++i)
            if (wiring_.ports()[i].bridged && wiring_.station(wiring_.ports()[i].station).vlanAware)
                memberships_[i] = membershipOf(wiring_, wiring_.ports()[i]);
        gatherInterfaces();
        gatherVlans();
        spreadAll();
        joinInterfaces();
        components();
        decideIslands();
    }

private:
    int rep(int station) const {
        const int pair = wiring_.station(station).pair;
        return pair >= 0 ? std::min(station, pair) : station;
    }
    int domain(Domain domain) {
        if (!isCable(domain))
            domain.station = rep(domain.station);
        const auto [found, fresh] =
            b_.domainAt_.try_emplace(keyOf(domain), static_cast<int>(b_.domains_.size()));
        if (fresh) {
            b_.domains_.push_back(domain);
            b_.crossings_.emplace_back();
        }
        return found->second;
    }
    const Membership& membership(int port) const { return memberships_[at(port)]; }
    bool passes(int port, int vlan) const { return trees_.forwards(port, vlan); }

    void gatherInterfaces() {
        b_.interfacesOf_.resize(wiring_.stations().size());
        wiring_.network().all<Interface>().forEach([&](const Interface& record) {
            const int station = wiring_.stationOf(record.device);
            const bool counts = !record.addresses.empty() || !record.vrrp.empty();
            if (station < 0 || !counts || record.type == InterfaceKind::tunnel)
                return;
            NetInterface out;
            out.record = &record;
            out.station = station;
            if (record.type != InterfaceKind::vlan && record.type != InterfaceKind::loopback)
                out.port = wiring_.portOf(record);
            // An address given to a device as such is on the port it is joined by.
            const Station& where = wiring_.station(station);
            if (record.type == InterfaceKind::loopback && record.name.empty() && !where.routes &&
                !(where.vlanAware && where.bridges)) {
                const auto joined = std::find_if(where.ports.begin(), where.ports.end(),
                                                 [&](int port) { return wiring_.port(port).up; });
                if (joined != where.ports.end())
                    out.port = *joined;
            }
            out.name = !record.name.empty() ? record.name
                       : out.port >= 0      ? wiring_.port(out.port).name
                                            : record.port;
            const Network& network = wiring_.network();
            if (record.type == InterfaceKind::vlan)
                out.vlan = numberOf(network, record.untagged         ? record.untagged
                                             : record.tagged.empty() ? VlanId{}
                                                                     : record.tagged.front());
            if (record.type == InterfaceKind::subinterface && !record.tagged.empty())
                out.vlan = numberOf(network, record.tagged.front());
            b_.interfacesOf_[at(station)].push_back(static_cast<int>(b_.interfaces_.size()));
            b_.interfaces_.push_back(std::move(out));
        });
    }

    /// Every VLAN that ports name, or that a range lets through and somebody uses.
    void gatherVlans() {
        std::set<int> used;
        wiring_.network().all<Vlan>().forEach([&](const Vlan& vlan) { used.insert(vlan.number); });
        for (std::size_t i = 0; i < wiring_.stations().size(); ++i) {
            const Station& station = wiring_.stations()[i];
            if (!station.bridges || !station.vlanAware)
                continue;
            std::set<int> here;
            for (const int port : station.ports) {
                if (!wiring_.port(port).bridged)
                    continue;
                const Membership& of = membership(port);
                if (of.pvid)
                    here.insert(of.pvid);
                here.insert(of.untaggedToo.begin(), of.untaggedToo.end());
                for (const VlanRange range : of.tagged)
                    for (auto each = used.lower_bound(range.first); each != used.end() && *each <= range.last;
                         ++each)
                        here.insert(*each);
            }
            for (const int index : b_.interfacesOf_[i])
                if (b_.interface(index).record->type == InterfaceKind::vlan && b_.interface(index).vlan)
                    here.insert(b_.interface(index).vlan);
            for (const int vlan : here)
                domain({static_cast<int>(i), vlan, false, -1});
        }
    }

    void spreadAll() {
        for (; spread_ < b_.domains_.size(); ++spread_)
            spread(static_cast<int>(spread_));
    }

    /// A cable between two ends is a domain, beyond the stations.
    bool isCable(const Domain& domain) const {
        return domain.station >= static_cast<int>(wiring_.stations().size());
    }

    /// Where frames of a domain go next.
    void spread(int index) {
        const Domain here = b_.domains_[at(index)];
        if (isCable(here))
            return;
        for (const int station : {here.station, wiring_.station(here.station).pair}) {
            if (station < 0)
                continue;
            for (const int out : wiring_.station(station).ports)
                leave(index, here, out);
        }
    }

    void leave(int index, const Domain& here, int out) {
        const LogicalPort& port = wiring_.port(out);
        if (!port.up || !port.bridged || port.peer < 0 ||
            rep(wiring_.port(port.peer).station) == here.station)
            return;
        const bool aware = wiring_.station(port.station).vlanAware;
        const int tag = aware ? membership(out).leavesAs(here.vlan) : here.vlan;
        if (tag < 0 || !passes(out, aware ? here.vlan : 0))
            return;
        arrive(index, here, out, port.peer, tag);
    }

    void arrive(int index, const Domain& here, int out, int in, int tag) {
        const LogicalPort& port = wiring_.port(in);
        if (!port.bridged || in == here.notBackTo)
            return;
        const Station& station = wiring_.station(port.station);
        Domain there{port.station, tag, true, here.notBackTo};
        if (station.vlanAware) {
            there = {port.station, membership(in).takenAs(tag), false, -1};
            if (!there.vlan || !passes(in, there.vlan))
                return;
        } else {
            if (!passes(in, 0))
                return;
            // A frame that leaves untagged in a VLAN its port would not take it back into.
            const Membership* sender = here.tags ? nullptr : &membership(out);
            if (sender && tag == 0 && sender->pvid != here.vlan)
                there.notBackTo = out;
        }
        const int to = domain(there);
        b_.crossings_[at(index)].push_back({to, out, in, tag});
    }

    /// Interfaces that frames come to over a port, by port and tag.
    using Standing = std::unordered_map<std::uint64_t, std::vector<int>>;
    static std::uint64_t placeOf(int port, int tag) {
        return static_cast<std::uint64_t>(port) << 13 | static_cast<std::uint64_t>(tag);
    }

    void joinInterfaces() {
        Standing standing;
        standing.reserve(b_.interfaces_.size());
        for (std::size_t i = 0; i < b_.interfaces_.size(); ++i) {
            NetInterface& each = b_.interfaces_[i];
            if (each.record->disabled)
                continue;
            if (each.record->type == InterfaceKind::loopback && each.port < 0) {
                each.up = true;
                continue;
            }
            const bool inside = each.record->type == InterfaceKind::vlan ||
                                (each.port >= 0 && wiring_.port(each.port).bridged);
            if (inside) {
                joinInside(each);
                continue;
            }
            if (each.port < 0)
                continue;
            const LogicalPort& port = wiring_.port(each.port);
            each.up = port.up;
            standing[placeOf(each.port, each.vlan)].push_back(static_cast<int>(i));
            // A port that is there once more for each that is joined to it.
            for (const int other : wiring_.station(each.station).ports)
                if (other != each.port && wiring_.port(other).members == port.members) {
                    standing[placeOf(other, each.vlan)].push_back(static_cast<int>(i));
                    each.up |= wiring_.port(other).up;
                }
        }
        for (const auto& [place, indices] : standing)
            for (const int index : indices)
                joinOverPort(index, static_cast<int>(place >> 13), static_cast<int>(place & 0x1fff),
                             standing);
        spreadAll(); // what only interfaces send into
        for (std::size_t d = 0; d < b_.domains_.size(); ++d)
            hear(static_cast<int>(d), standing);
    }

    /// An interface of a switch in one of its own VLANs: up while one of its ports forwards.
    void joinInside(NetInterface& each) {
        const bool aware = wiring_.station(each.station).vlanAware;
        int vlan = each.vlan;
        if (aware && each.record->type != InterfaceKind::vlan && !vlan && each.port >= 0)
            vlan = membership(each.port).pvid;
        if (aware && !vlan)
            return;
        const int index = domain({each.station, vlan, !aware, -1});
        each.sends.push_back({index, -1, -1, 0});
        each.hears.push_back({index, -1, -1, 0});
        for (const int station : {rep(each.station), wiring_.station(rep(each.station)).pair}) {
            if (station < 0)
                continue;
            for (const int out : wiring_.station(station).ports) {
                const LogicalPort& port = wiring_.port(out);
                each.up |= port.up && port.bridged && (!aware || membership(out).carries(vlan)) &&
                           passes(out, aware ? vlan : 0);
            }
        }
    }

    void joinOverPort(int index, int out, int tag, const Standing& standing) {
        const LogicalPort& port = wiring_.port(out);
        if (!port.up || port.peer < 0)
            return;
        NetInterface& each = b_.interfaces_[at(index)];
        const LogicalPort& peer = wiring_.port(port.peer);
        if (peer.bridged) {
            const Station& station = wiring_.station(peer.station);
            const int vlan = station.vlanAware ? membership(port.peer).takenAs(tag) : tag;
            if ((station.vlanAware && !vlan) || !passes(port.peer, station.vlanAware ? vlan : 0))
                return;
            each.sends.push_back({domain({peer.station, vlan, !station.vlanAware, -1}), out, port.peer, tag});
            return;
        }
        // Two ends on one cable: it is a domain of its own.
        const auto others = standing.find(placeOf(port.peer, tag));
        if (others == standing.end())
            return;
        const int wire =
            domain({std::min(out, port.peer) + static_cast<int>(wiring_.stations().size()), tag, true, -1});
        each.sends.push_back({wire, out, port.peer, tag});
        for (const int other : others->second)
            b_.interfaces_[at(other)].hears.push_back({wire, out, port.peer, tag});
    }

    /// Interfaces at the far end of the ports a domain leaves by.
    void hear(int index, const Standing& standing) {
        const Domain here = b_.domains_[at(index)];
        if (isCable(here))
            return;
        for (const int station : {here.station, wiring_.station(here.station).pair}) {
            if (station < 0)
                continue;
            for (const int out : wiring_.station(station).ports) {
                const LogicalPort& port = wiring_.port(out);
                if (!port.up || !port.bridged || port.peer < 0 || wiring_.port(port.peer).bridged)
                    continue;
                const bool aware = wiring_.station(station).vlanAware;
                const int tag = aware ? membership(out).leavesAs(here.vlan) : here.vlan;
                if (tag < 0 || !passes(out, aware ? here.vlan : 0))
                    continue;
                const auto there = standing.find(placeOf(port.peer, tag));
                if (there == standing.end())
                    continue;
                for (const int each : there->second)
                    b_.interfaces_[at(each)].hears.push_back({index, out, port.peer, tag});
            }
        }
    }

    /// Tarjan (1972), without recursion: chains of switches can be long.
    void components() {
        const std::size_t count = b_.domains_.size();
        b_.component_.assign(count, -1);
        std::vector<int> low(count, -1), order(count, -1), stack;
        std::vector<bool> onStack(count, false);
        int next = 0, found = 0;
        std::vector<std::pair<int, std::size_t>> walk;
        for (std::size_t start = 0; start < count; ++start) {
            if (order[start] >= 0)
                continue;
            walk.push_back({static_cast<int>(start), 0});
            while (!walk.empty()) {
                auto& [node, step] = walk.back();
                if (step == 0 && order[at(node)] < 0) {
                    order[at(node)] = low[at(node)] = next++;
                    stack.push_back(node);
                    onStack[at(node)] = true;
                }
                if (step < b_.crossings_[at(node)].size()) {
                    const int to = b_.crossings_[at(node)][step++].to;
                    if (order[at(to)] < 0)
                        walk.push_back({to, 0});
                    else if (onStack[at(to)])
                        low[at(node)] = std::min(low[at(node)], order[at(to)]);
                    continue;
                }
                if (low[at(node)] == order[at(node)]) {
                    int member = -1;
                    do {
                        member = stack.back();
                        stack.pop_back();
                        onStack[at(member)] = false;
                        b_.component_[at(member)] = found;
                    } while (member != node);
                    ++found;
                }
                const int done = node;
                walk.pop_back();
                if (!walk.empty())
                    low[at(walk.back().first)] = std::min(low[at(walk.back().first)], low[at(done)]);
            }
        }
        // Components are numbered so that what one leads to has a smaller number.
        b_.onward_.resize(static_cast<std::size_t>(found));
        std::vector<std::vector<int>> byComponent(static_cast<std::size_t>(found));
        for (std::size_t d = 0; d < count; ++d)
            byComponent[at(b_.component_[d])].push_back(static_cast<int>(d));
        for (int c = 0; c < found; ++c)
            for (const int d : byComponent[at(c)])
                for (const Crossing& crossing : b_.crossings_[at(d)])
                    if (const int to = b_.component_[at(crossing.to)]; to != c) {
                        b_.onward_[at(c)].insert(to);
                        b_.onward_[at(c)].insert(b_.onward_[at(to)].begin(), b_.onward_[at(to)].end());
                    }
    }

    void decideIslands() {
        b_.islandOf_.assign(b_.interfaces_.size(), -1);
        for (std::size_t i = 0; i < b_.interfaces_.size(); ++i) {
            const NetInterface& each = b_.interfaces_[i];
            if (each.sends.empty() || each.hears.empty())
                continue;
            const int of = b_.component_[at(each.sends.front().domain)];
            const auto same = [&](const Joined& joined) { return b_.component_[at(joined.domain)] == of; };
            if (std::all_of(each.sends.begin(), each.sends.end(), same) &&
                std::all_of(each.hears.begin(), each.hears.end(), same))
                b_.islandOf_[i] = of;
        }
    }

    Bridging& b_;
    const Wiring& wiring_;
    const SpanningTrees& trees_;
    std::vector<Membership> memberships_;
    std::size_t spread_ = 0; ///< domains before this one have their crossings
};

Bridging::Bridging(const Wiring& wiring, const SpanningTrees& trees)
    : wiring_(wiring), rings_(trees.rings()) {
    Work(*this, trees).run();
}

bool Bridging::carries(int from, int to) const {
    const NetInterface &a = interface(from), &b = interface(to);
    if (!a.up || !b.up)
        return false;
    for (const Joined& out : a.sends)
        for (const Joined& in : b.hears) {
            const int x = component_[at(out.domain)], y = component_[at(in.domain)];
            if (x == y || onward_[at(x)].contains(y))
                return true;
        }
    return false;
}

std::optional<std::vector<Crossing>> Bridging::way(int from, int to) const {
    const NetInterface &a = interface(from), &b = interface(to);
    if (!carries(from, to))
        return std::nullopt;
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
                    way.push_back(crossing);
            std::reverse(way.begin(), way.end());
            const bool onCable = !way.empty() && way.back().out == in->out && way.back().in == in->in;
            if (in->out >= 0 && !onCable)
                way.push_back({-1, in->out, in->in, in->tag});
            return way;
        }
        for (const Crossing& crossing : this->from(here))
            if (cameBy.try_emplace(crossing.to, std::pair(here, crossing)).second)
                queue.push_back(crossing.to);
    }
    return std::nullopt;
}

std::vector<Island> Bridging::islands() const {
    std::map<int, Island> byComponent;
    const int stations = static_cast<int>(wiring_.stations().size());
    for (std::size_t d = 0; d < domains_.size(); ++d) {
        Island& island = byComponent[component_[d]];
        island.domains.push_back(static_cast<int>(d));
        if (domains_[d].station < stations && !domains_[d].tags && domains_[d].vlan)
            island.vlans.push_back(domains_[d].vlan);
    }
    for (std::size_t i = 0; i < interfaces_.size(); ++i)
        if (islandOf_[i] >= 0)
            byComponent[islandOf_[i]].interfaces.push_back(static_cast<int>(i));
    std::vector<Island> out;
    for (auto& [component, island] : byComponent) {
        std::sort(island.vlans.begin(), island.vlans.end());
        island.vlans.erase(std::unique(island.vlans.begin(), island.vlans.end()), island.vlans.end());
        out.push_back(std::move(island));
    }
    std::sort(out.begin(), out.end(), [](const Island& a, const Island& b) {
        return std::pair(a.vlans, a.domains) < std::pair(b.vlans, b.domains);
    });
    return out;
}

std::vector<Storm> Bridging::storms() const {
    // Cables between the domains of each component, each once, whichever way it is crossed.
    std::map<int, std::map<std::pair<int, int>, std::pair<int, int>>> cables;
    // What two of a pair have of one LAG is one cable.
    const auto one = [&](int port) { return wiring_.port(wiring_.port(port).peer).peer; };
    for (std::size_t d = 0; d < domains_.size(); ++d)
        for (const Crossing& crossing : crossings_[d])
            if (component_[at(crossing.to)] == component_[d] && !rings_.dropsRepeated(crossing.out))
                cables[component_[d]].try_emplace(std::minmax(one(crossing.out), one(crossing.in)),
                                                  std::minmax(static_cast<int>(d), crossing.to));
    std::vector<Storm> out;
    for (auto& [component, joined] : cables) {
        std::map<int, std::vector<int>> neighbours;
        for (const auto& [ports, ends] : joined) {
            neighbours[ends.first].push_back(ends.second);
            neighbours[ends.second].push_back(ends.first);
        }
        if (joined.size() < neighbours.size())
            continue; // a tree
        // What hangs on by one cable is not part of the loop.
        std::vector<int> leaves;
        for (const auto& [d, others] : neighbours)
            if (others.size() == 1)
                leaves.push_back(d);
        while (!leaves.empty()) {
            const int leaf = leaves.back();
            leaves.pop_back();
            if (neighbours[leaf].empty())
                continue;
            const int other = neighbours[leaf].front();
            neighbours[leaf].clear();
            auto& back = neighbours[other];
            back.erase(std::find(back.begin(), back.end(), leaf));
            if (back.size() == 1)
                leaves.push_back(other);
        }
        std::set<int> stations, vlans;
        for (const auto& [d, others] : neighbours)
            if (!others.empty()) {
                stations.insert(domains_[at(d)].station);
                if (!domains_[at(d)].tags)
                    vlans.insert(domains_[at(d)].vlan);
            }
        if (!stations.empty())
            out.push_back({{stations.begin(), stations.end()}, {vlans.begin(), vlans.end()}});
    }
    return out;
}

} // namespace underridge::analysis

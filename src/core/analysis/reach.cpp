// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/reach.h"

#include "core/base/disjoint_sets.h"
#include "core/model/vlans.h"

#include <algorithm>
#include <map>

namespace underridge::analysis {
using namespace model;
namespace {

std::uint64_t keyOf(const Domain& domain) {
    return static_cast<std::uint64_t>(domain.station) << 40 ^
           static_cast<std::uint64_t>(domain.notBackTo + 1) << 13 ^ static_cast<std::uint64_t>(domain.vlan);
}

/// Whether frames go between an interface and the switch it is in, not over its port's cable.
bool isInside(const Wiring& wiring, const NetInterface& each) {
    return each.record->type == InterfaceKind::vlan || (each.port >= 0 && wiring.port(each.port).bridged);
}

std::vector<NetInterface> standingOf(const Wiring& wiring, std::vector<std::vector<int>>& interfacesOf) {
    std::vector<NetInterface> standing;
    wiring.network().all<Interface>().forEach([&](const Interface& record) {
        const int station = wiring.stationOf(record.device);
        const bool counts = !record.addresses.empty() || !record.vrrp.empty();
        if (station < 0 || !counts || record.type == InterfaceKind::tunnel)
            return;
        NetInterface out;
        out.record = &record;
        out.station = station;
        if (record.type != InterfaceKind::vlan && record.type != InterfaceKind::loopback)
            out.port = wiring.portOf(record);
        // An address given to a device as such is on the port it is joined by.
        const Station& where = wiring.station(station);
        if (record.type == InterfaceKind::loopback && record.name.empty() && !where.routes &&
            !(where.vlanAware && where.bridges)) {
            const auto joined = std::find_if(where.ports.begin(), where.ports.end(),
                                             [&](int port) { return wiring.port(port).up; });
            if (joined != where.ports.end())
                out.port = *joined;
        }
        out.name = !record.name.empty() ? record.name
                   : out.port >= 0      ? wiring.port(out.port).name
                                        : record.port;
        const Network& network = wiring.network();
        if (record.type == InterfaceKind::vlan)
            out.vlan = numberOf(network, record.untagged         ? record.untagged
                                         : record.tagged.empty() ? VlanId{}
                                                                 : record.tagged.front());
        if (record.type == InterfaceKind::subinterface && !record.tagged.empty())
            out.vlan = numberOf(network, record.tagged.front());
        interfacesOf[at(station)].push_back(static_cast<int>(standing.size()));
        standing.push_back(std::move(out));
    });
    return standing;
}

} // namespace

Reaches::Reaches(const Wiring& wiring) : interfacesOf(wiring.stations().size()) {
    standing = standingOf(wiring, interfacesOf);
    const int stations = static_cast<int>(wiring.stations().size());
    // A switch is one with what is behind its bridged ports; any other port is by itself.
    DisjointSets joining(wiring.stations().size() + wiring.ports().size());
    const auto elementOf = [&](int port) {
        return wiring.port(port).bridged ? wiring.port(port).station : stations + port;
    };
    for (int port = 0; port < static_cast<int>(wiring.ports().size()); ++port)
        if (const int peer = wiring.port(port).peer; peer >= 0)
            joining.join(elementOf(port), elementOf(peer));
    for (int station = 0; station < stations; ++station)
        if (const int pair = wiring.station(station).pair; pair >= 0)
            joining.join(station, pair);
    std::vector<int> elements; // of interfaces
    for (const NetInterface& each : standing) {
        const bool onPort = each.port >= 0 && !isInside(wiring, each);
        elements.push_back(onPort ? elementOf(each.port) : each.station);
        if (onPort) // it may be there once more for each that is joined to it
            for (const int other : wiring.station(each.station).ports)
                if (other != each.port && wiring.port(other).members == wiring.port(each.port).members)
                    joining.join(elementOf(each.port), elementOf(other));
    }
    std::vector<int> reachAt(wiring.stations().size() + wiring.ports().size(), -1);
    const auto reachOf = [&](int element) -> int {
        int& index = reachAt[at(joining.of(element))];
        if (index < 0) {
            index = static_cast<int>(all.size());
            all.emplace_back();
        }
        return index;
    };
    ofStation.assign(wiring.stations().size(), -1);
    slotOfPort.assign(wiring.ports().size(), -1);
    for (int station = 0; station < stations; ++station) {
        if (!wiring.station(station).bridges)
            continue;
        ofStation[at(station)] = reachOf(station);
        Extent& extent = all[at(ofStation[at(station)])];
        extent.stations.push_back(station);
        for (const int port : wiring.station(station).ports)
            slotOfPort[at(port)] = extent.ports++;
    }
    for (std::size_t i = 0; i < standing.size(); ++i) {
        ofInterface.push_back(reachOf(elements[i]));
        auto& here = all[at(ofInterface.back())].interfaces;
        slotOf.push_back(static_cast<int>(here.size()));
        here.push_back(static_cast<int>(i));
    }
    for (int station = 0; station < stations; ++station) {
        const auto& own = interfacesOf[at(station)];
        const bool resides = !own.empty() && std::all_of(own.begin(), own.end(), [&](int i) {
            return ofInterface[at(i)] == ofInterface[at(own.front())];
        });
        (resides ? all[at(ofInterface[at(own.front())])].residents : travellers).push_back(station);
    }
}

struct Reach::Work {
    Work(Reach& reach, const Wiring& wiring, const SpanningTrees& trees, const Reaches& reaches, int index)
        : r_(reach), wiring_(wiring), trees_(trees), reaches_(reaches), extent_(reaches.all[at(index)]) {}

    void run() {
        memberships_.resize(at(extent_.ports));
        for (const int station : extent_.stations)
            for (const int port : wiring_.station(station).ports)
                if (wiring_.port(port).bridged && wiring_.station(station).vlanAware)
                    memberships_[at(reaches_.slotOfPort[at(port)])] = membershipOf(wiring_, port);
        r_.interfaces_.reserve(extent_.interfaces.size());
        for (const int i : extent_.interfaces)
            r_.interfaces_.push_back(reaches_.standing[at(i)]);
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
            domainAt_.try_emplace(keyOf(domain), static_cast<int>(r_.domains_.size()));
        if (fresh) {
            r_.domains_.push_back(domain);
            r_.crossings_.emplace_back();
        }
        return found->second;
    }
    const Membership& membership(int port) const { return memberships_[at(reaches_.slotOfPort[at(port)])]; }
    bool passes(int port, int vlan) const { return trees_.forwards(port, vlan); }

    /// Every VLAN that ports name, or that a range lets through and somebody uses.
    void gatherVlans() {
        std::set<int> used;
        wiring_.network().all<Vlan>().forEach([&](const Vlan& vlan) { used.insert(vlan.number); });
        for (const int index : extent_.stations) {
            const Station& station = wiring_.station(index);
            if (!station.vlanAware)
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
            for (const int i : reaches_.interfacesOf[at(index)])
                if (const NetInterface& each = reaches_.standing[at(i)];
                    each.record->type == InterfaceKind::vlan && each.vlan)
                    here.insert(each.vlan);
            for (const int vlan : here)
                domain({index, vlan, false, -1});
        }
    }

    void spreadAll() {
        for (; spread_ < r_.domains_.size(); ++spread_)
            spread(static_cast<int>(spread_));
    }

    /// A cable between two ends is a domain, beyond the stations.
    bool isCable(const Domain& domain) const {
        return domain.station >= static_cast<int>(wiring_.stations().size());
    }

    /// Where frames of a domain go next.
    void spread(int index) {
        const Domain here = r_.domains_[at(index)];
        if (isCable(here))
            return;
        forEachPort(here.station, [&](int out) { leave(index, here, out); });
    }

    /// Of a multi-chassis pair those of both.
    template <class Each>
    void forEachPort(int station, Each each) const {
        for (const int one : {station, wiring_.station(station).pair})
            if (one >= 0)
                for (const int port : wiring_.station(one).ports)
                    each(port);
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
        r_.crossings_[at(index)].push_back({to, out, in, tag});
    }

    /// Interfaces that frames come to over a port, by port and tag.
    using Standing = std::unordered_map<std::uint64_t, std::vector<int>>;
    static std::uint64_t placeOf(int port, int tag) {
        return static_cast<std::uint64_t>(port) << 13 | static_cast<std::uint64_t>(tag);
    }

    void joinInterfaces() {
        Standing standing;
        standing.reserve(r_.interfaces_.size());
        for (std::size_t i = 0; i < r_.interfaces_.size(); ++i) {
            NetInterface& each = r_.interfaces_[i];
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
        for (std::size_t d = 0; d < r_.domains_.size(); ++d)
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
        forEachPort(rep(each.station), [&](int out) {
            const LogicalPort& port = wiring_.port(out);
            each.up |= port.up && port.bridged && (!aware || membership(out).carries(vlan)) &&
                       passes(out, aware ? vlan : 0);
        });
    }

    void joinOverPort(int index, int out, int tag, const Standing& standing) {
        const LogicalPort& port = wiring_.port(out);
        if (!port.up || port.peer < 0)
            return;
        NetInterface& each = r_.interfaces_[at(index)];
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
            r_.interfaces_[at(other)].hears.push_back({wire, out, port.peer, tag});
    }

    /// Interfaces at the far end of the ports a domain leaves by.
    void hear(int index, const Standing& standing) {
        const Domain here = r_.domains_[at(index)];
        if (isCable(here))
            return;
        forEachPort(here.station, [&](int out) {
            const LogicalPort& port = wiring_.port(out);
            if (!port.up || !port.bridged || port.peer < 0 || wiring_.port(port.peer).bridged)
                return;
            const bool aware = wiring_.station(port.station).vlanAware;
            const int tag = aware ? membership(out).leavesAs(here.vlan) : here.vlan;
            if (tag < 0 || !passes(out, aware ? here.vlan : 0))
                return;
            const auto there = standing.find(placeOf(port.peer, tag));
            if (there == standing.end())
                return;
            for (const int each : there->second)
                r_.interfaces_[at(each)].hears.push_back({index, out, port.peer, tag});
        });
    }

    /// Tarjan (1972), without recursion: chains of switches can be long.
    void components() {
        const std::size_t count = r_.domains_.size();
        r_.component_.assign(count, -1);
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
                if (step < r_.crossings_[at(node)].size()) {
                    const int to = r_.crossings_[at(node)][step++].to;
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
                        r_.component_[at(member)] = found;
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
        r_.onward_.resize(static_cast<std::size_t>(found));
        std::vector<std::vector<int>> byComponent(static_cast<std::size_t>(found));
        for (std::size_t d = 0; d < count; ++d)
            byComponent[at(r_.component_[d])].push_back(static_cast<int>(d));
        for (int c = 0; c < found; ++c)
            for (const int d : byComponent[at(c)])
                for (const Crossing& crossing : r_.crossings_[at(d)])
                    if (const int to = r_.component_[at(crossing.to)]; to != c) {
                        r_.onward_[at(c)].insert(to);
                        r_.onward_[at(c)].insert(r_.onward_[at(to)].begin(), r_.onward_[at(to)].end());
                    }
    }

    void decideIslands() {
        r_.islandOf_.assign(r_.interfaces_.size(), -1);
        for (std::size_t i = 0; i < r_.interfaces_.size(); ++i) {
            const NetInterface& each = r_.interfaces_[i];
            if (each.sends.empty() || each.hears.empty())
                continue;
            const int of = r_.component_[at(each.sends.front().domain)];
            const auto same = [&](const Joined& joined) { return r_.component_[at(joined.domain)] == of; };
            if (std::all_of(each.sends.begin(), each.sends.end(), same) &&
                std::all_of(each.hears.begin(), each.hears.end(), same))
                r_.islandOf_[i] = of;
        }
    }

    Reach& r_;
    const Wiring& wiring_;
    const SpanningTrees& trees_;
    const Reaches& reaches_;
    const Reaches::Extent& extent_;
    std::vector<Membership> memberships_; ///< by Reaches::slotOfPort
    std::unordered_map<std::uint64_t, int> domainAt_;
    std::size_t spread_ = 0; ///< domains before this one have their crossings
};

Reach::Reach(const Wiring& wiring, const SpanningTrees& trees, const Reaches& reaches, int index) {
    Work(*this, wiring, trees, reaches, index).run();
}

bool Reach::carries(int from, int to) const {
    const NetInterface &a = interfaces_[at(from)], &b = interfaces_[at(to)];
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

std::vector<Storm> Reach::storms(const Wiring& wiring, const Rings& rings) const {
    // Cables between the domains of each component, each once, whichever way it is crossed.
    std::map<int, std::map<std::pair<int, int>, std::pair<int, int>>> cables;
    // What two of a pair have of one LAG is one cable.
    const auto one = [&](int port) { return wiring.port(wiring.port(port).peer).peer; };
    for (std::size_t d = 0; d < domains_.size(); ++d)
        for (const Crossing& crossing : crossings_[d])
            if (component_[at(crossing.to)] == component_[d] && !rings.dropsRepeated(crossing.out))
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

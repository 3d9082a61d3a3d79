// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of VLANs and spanning trees.
#include "core/analysis/checks.h"
#include "core/model/vlans.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace underridge::analysis {
using namespace model;
namespace {

std::string listed(const std::vector<int>& numbers) {
    std::string out;
    for (std::size_t i = 0; i < numbers.size(); ++i)
        out += (i == 0 ? "" : i + 1 == numbers.size() ? " and " : ", ") + std::to_string(numbers[i]);
    return out;
}

/// VLANs tagged at one end of a link between switches, and PVIDs that differ.
void checkEnd(Told& told, int a, const std::set<int>& used) {
    const Wiring& wiring = told.f.wiring();
    const LogicalPort& port = wiring.port(a);
    const int b = port.peer;
    if (!port.up || b < a || !port.bridged || !wiring.port(b).bridged)
        return;
    const auto aware = [&](int p) { return wiring.station(wiring.port(p).station).vlanAware; };
    if (!aware(a) || !aware(b))
        return;
    const Membership x = membershipOf(wiring, a), y = membershipOf(wiring, b);
    if (x.pvid && y.pvid && x.pvid != y.pvid)
        told.tell("vlan-native", {told.link(a)},
                  fmt::format("{} takes untagged frames into VLAN {}, {} into VLAN {}", told.port(a), x.pvid,
                              told.port(b), y.pvid),
                  "make the untagged VLAN of both the same");
    for (const int vlan : used) {
        const bool atA = x.leavesAs(vlan) == vlan, atB = y.leavesAs(vlan) == vlan;
        if (atA == atB)
            continue;
        const int lacks = atA ? b : a;
        const int has = atA ? a : b;
        if ((atA ? y : x).carries(vlan))
            continue; // untagged there: told as such, or as a leak
        const LogicalPort& missing = wiring.port(lacks);
        told.tell("vlan-one-end", {told.link(a)},
                  fmt::format("VLAN {} is tagged on {}, not on {}", vlan, told.port(has), told.port(lacks)),
                  fmt::format("tag it on {} too, or take it off {}", told.port(lacks), told.port(has)),
                  {nlohmann::ordered_json{
                      {"act", "vlan"},
                      {"port", wiring.nameOf(missing.station) + ":" + missing.members.front().port},
                      {"tagToo", std::to_string(vlan)}}
                       .dump()});
    }
}

void checkEnds(Told& told, int reach) {
    std::set<int> used;
    for (const Domain& domain : told.f.bridging().all()[at(reach)]->domains())
        if (!domain.tags)
            used.insert(domain.vlan);
    for (const int station : told.f.bridging().reaches().all[at(reach)].stations)
        for (const int port : told.f.wiring().station(station).ports)
            checkEnd(told, port, used);
}

/// Whether it is one because of PVIDs that differ at the ends of a link, which is told.
bool joinsByPvid(const Told& told, const Island& island) {
    const Wiring& wiring = told.f.wiring();
    const Bridging& bridging = told.f.bridging();
    for (const int d : island.domains)
        for (const Crossing& crossing : bridging.from(d))
            if (!bridging.domain(d).tags && !bridging.domain(crossing.to).tags &&
                bridging.domain(d).vlan != bridging.domain(crossing.to).vlan &&
                membershipOf(wiring, crossing.out).pvid == bridging.domain(d).vlan)
                return true;
    return false;
}

void checkIslands(Told& told, int reach, InReach& there) {
    const Bridging& bridging = told.f.bridging();
    const Wiring& wiring = told.f.wiring();
    std::map<std::pair<GroupId, int>, VlanId> known;
    for (const Island& island : islandsIn(bridging, reach)) {
        std::set<VlanId> here;
        for (const int d : island.domains) {
            const Domain& domain = bridging.domain(d);
            if (bridging.isCable(domain) || domain.tags)
                continue;
            const Device* device = told.network.device(wiring.station(domain.station).device->id);
            const auto [found, fresh] = known.try_emplace({device->group, domain.vlan});
            if (fresh)
                found->second = vlanFor(told.network, device->group, domain.vlan);
            here.insert(found->second);
        }
        here.erase(VlanId{});
        there.carried.insert(here.begin(), here.end());
        const bool byPvid = island.vlans.size() > 1 && joinsByPvid(told, island);
        if (island.vlans.size() > 1 && !byPvid) {
            std::vector<ObjectRef> subjects;
            for (const int d : island.domains)
                for (const Crossing& crossing : bridging.from(d))
                    if (bridging.domain(d).vlan != bridging.domain(crossing.to).vlan && subjects.empty())
                        subjects.push_back(told.link(crossing.out));
            const int station = bridging.domain(island.domains.front()).station;
            if (subjects.empty())
                subjects.push_back(told.device(station));
            told.tell("vlan-leak", std::move(subjects),
                      fmt::format("VLANs {} are one broadcast domain", listed(island.vlans)),
                      "give the ports that join them the same untagged VLAN, or none");
        }
        if (!island.interfaces.empty() && !byPvid)
            for (const VlanId vlan : here)
                there.vlans.push_back({vlan, island.interfaces.size(), island.interfaces.front()});
    }
}

} // namespace

void checkVlansApart(Told& told, const std::vector<const InReach*>& all) {
    // Islands with somebody on them, by VLAN of the network.
    std::map<VlanId, std::vector<const VlanPlace*>> parts;
    std::set<VlanId> carried;
    for (const InReach* each : all) {
        carried.insert(each->carried.begin(), each->carried.end());
        for (const VlanPlace& place : each->vlans)
            parts[place.vlan].push_back(&place);
    }
    for (const auto& [id, where] : parts) {
        if (where.size() < 2)
            continue;
        const Vlan& vlan = *told.network.vlan(id);
        const auto smallest =
            *std::min_element(where.begin(), where.end(), [](const VlanPlace* a, const VlanPlace* b) {
                return a->interfaces < b->interfaces;
            });
        const NetInterface& one = told.f.bridging().interface(smallest->first);
        const int others = smallest->interfaces - 1;
        told.tell("vlan-island", {told.device(one.station)},
                  fmt::format("VLAN {} {} is in {} parts; {} apart from the rest", vlan.number, vlan.name,
                              where.size(),
                              others > 0 ? fmt::format("{} and {} more are", told.name(one.station), others)
                                         : told.name(one.station) + " is"),
                  "carry it on the links between them");
    }
    told.network.all<Vlan>().forEach([&](const Vlan& vlan) {
        if (!carried.contains(vlan.id))
            told.tell("vlan-unused", {refTo(vlan.id)},
                      fmt::format("no port is in VLAN {} {}", vlan.number, vlan.name),
                      "use it, or take it away");
    });
}

void checkVlans(Told& told, int reach, InReach& there) {
    checkEnds(told, reach);
    checkIslands(told, reach, there);
    for (const Storm& storm : told.f.bridging().all()[at(reach)]->storms(told.f.wiring(), told.f.rings())) {
        std::vector<ObjectRef> subjects;
        std::string names;
        constexpr std::size_t named = 4;
        for (std::size_t i = 0; i < storm.stations.size(); ++i) {
            subjects.push_back(told.device(storm.stations[i]));
            if (i < named)
                names += (i == 0 ? "" : ", ") + told.name(storm.stations[i]);
        }
        if (storm.stations.size() > named)
            names += fmt::format(" and {} more", storm.stations.size() - named);
        told.tell("storm", std::move(subjects),
                  fmt::format("broadcasts{} go round without end over {}",
                              storm.vlans.empty()
                                  ? std::string()
                                  : fmt::format(" of VLAN{} {}", storm.vlans.size() > 1 ? "s" : "",
                                                listed(storm.vlans)),
                              names),
                  "run a spanning tree on them, or take a link away");
    }
}

void checkTrees(Told& told) {
    const Wiring& wiring = told.f.wiring();
    for (const Tree& tree : told.f.trees().trees()) {
        std::map<int, int> rootPorts; // by station
        std::map<int, int> neighbours;
        for (const TreePort& each : tree.ports) {
            const LogicalPort& port = wiring.port(each.port);
            if (each.role == PortRole::root)
                rootPorts[port.station] = each.port;
            if (port.up && port.peer >= 0 && wiring.port(port.peer).bridged)
                ++neighbours[port.station];
        }
        for (const TreePort& each : tree.ports) {
            if (each.role != PortRole::alternate)
                continue;
            const LogicalPort& port = wiring.port(each.port);
            const auto root = rootPorts.find(port.station);
            const Interface* settings = wiring.settingsOf(each.port);
            const bool guarded = settings && settings->spanningTree->rootGuard;
            if (guarded)
                told.tell("tree-guard", {told.link(each.port)},
                          fmt::format("{} has a root guard and hears a better root", told.port(each.port)),
                          "lower the priority of the root that is meant, or take the guard away");
            if (root == rootPorts.end() || guarded)
                continue;
            const int taken = wiring.speedOf(root->second), blocked = wiring.speedOf(each.port);
            if (taken > 0 && blocked > taken)
                told.tell("tree-slow", {told.link(each.port)},
                          fmt::format("{} is blocked, though faster than {}, which the tree goes by",
                                      told.port(each.port), told.port(root->second)),
                          "leave costs to speed, or set them as meant");
        }
        if (tree.root < 0 || tree.bridges.size() < 3)
            continue;
        const int priority = wiring.treeSettingsOf(tree.root).priority;
        const bool allSame = std::all_of(tree.bridges.begin(), tree.bridges.end(), [&](int station) {
            return wiring.treeSettingsOf(station).priority == priority;
        });
        const auto busiest =
            std::max_element(neighbours.begin(), neighbours.end(),
                             [](const auto& a, const auto& b) { return a.second < b.second; });
        if (allSame && tree.instance == 0 && busiest != neighbours.end() &&
            neighbours[tree.root] < busiest->second)
            told.tell("tree-root", {told.device(tree.root)},
                      fmt::format("{} is the root of {} switches by its address alone", told.name(tree.root),
                                  tree.bridges.size()),
                      fmt::format("give the switch in the middle, such as {}, a lower priority",
                                  told.name(busiest->first)),
                      {nlohmann::ordered_json{{"act", "forwarding"},
                                              {"members", {told.name(busiest->first)}},
                                              {"spanningTree", {{"priority", 4096}}}}
                           .dump()});
    }
    for (int port = 0; port < static_cast<int>(wiring.ports().size()); ++port)
        if (told.f.trees().isGuardedOff(port))
            told.tell("tree-guard", {told.link(port)},
                      fmt::format("{} goes down: a bridge is heard behind its guard", told.port(port)),
                      "take the guard away, or the switch behind it");
}

} // namespace underridge::analysis

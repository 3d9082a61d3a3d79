// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/carrying.h"

#include "core/analysis/forwarding.h"
#include "core/edit/vlans.h"
#include "core/model/ports.h"

#include <deque>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
using analysis::Forwarding;
using analysis::LogicalPort;
namespace {

/// Stations of the part of a VLAN that others are to be joined to.
std::set<int> goalOf(const Forwarding& f, int vlan) {
    std::set<int> best;
    bool routed = false;
    const int count = static_cast<int>(f.wiring().stations().size());
    for (const analysis::Island& island : f.bridging().islands()) {
        if (std::find(island.vlans.begin(), island.vlans.end(), vlan) == island.vlans.end())
            continue;
        std::set<int> stations;
        bool router = false;
        for (const int d : island.domains)
            if (const analysis::Domain& domain = f.bridging().domain(d);
                domain.station < count && !domain.tags && domain.vlan == vlan)
                stations.insert(domain.station);
        for (const int i : island.interfaces)
            router |= f.wiring().station(f.bridging().interface(i).station).routes;
        if ((router && !routed) || (router == routed && stations.size() > best.size())) {
            best = std::move(stations);
            routed = router;
        }
    }
    return best;
}

/// The ports crossed from one station to the nearest of some, two for each link; none when
/// no open link leads there.
std::vector<int> wayTo(const Forwarding& f, int from, const std::set<int>& goal, int vlan) {
    std::unordered_map<int, std::pair<int, int>> cameBy; ///< station: the one before, the port left by
    std::deque<int> queue{from};
    cameBy[from] = {-1, -1};
    while (!queue.empty()) {
        const int here = queue.front();
        queue.pop_front();
        if (goal.contains(here)) {
            std::vector<int> ports;
            for (int at = here; cameBy[at].first >= 0; at = cameBy[at].first) {
                ports.push_back(f.wiring().port(cameBy[at].second).peer);
                ports.push_back(cameBy[at].second);
            }
            std::reverse(ports.begin(), ports.end());
            return ports;
        }
        for (const int out : f.wiring().station(here).ports) {
            const LogicalPort& port = f.wiring().port(out);
            if (!port.up || !port.bridged || port.peer < 0 || !f.wiring().port(port.peer).bridged ||
                !f.trees().forwards(out, vlan) || !f.trees().forwards(port.peer, vlan))
                continue;
            if (cameBy.try_emplace(f.wiring().port(port.peer).station, std::pair(here, out)).second)
                queue.push_back(f.wiring().port(port.peer).station);
        }
    }
    return {};
}

} // namespace

std::string Carrying::portsText(const Network& network) const {
    std::string out;
    for (const PortRef& port : tagged)
        out += (out.empty() ? "" : ", ") + model::portText(network, port);
    return out;
}

Result<Carrying> carryVlan(const Forwarding& f, DeviceId device, int vlan, IdSource& ids) {
    const Network& network = f.network();
    const Device* held = network.device(device);
    if (!held)
        return error("the device is no longer there", "select again");
    int from = f.wiring().stationOf(device);
    Carrying out;
    out.act = {fmt::format("Carry VLAN {} to {}", vlan, held->name), network, {refTo(device)}, {}};
    std::optional<PortRef> endpoint;
    if (from >= 0 && !f.wiring().station(from).bridges) // the switch it is on
        for (const int own : f.wiring().station(from).ports)
            if (const LogicalPort& port = f.wiring().port(own);
                port.up && port.peer >= 0 && f.wiring().port(port.peer).bridged) {
                endpoint = f.wiring().port(port.peer).members.front();
                from = f.wiring().port(port.peer).station;
                break;
            }
    if (from < 0 || !f.wiring().station(from).bridges)
        return error(fmt::format("{} is on no switch", held->name), "link it to one");
    const auto goal = goalOf(f, vlan);
    if (goal.empty())
        return error(fmt::format("VLAN {} is nowhere yet", vlan),
                     "set it on a port, or give a router an interface in it");
    const auto take = [&](ActResult act) -> Result<Done> {
        if (!act)
            return act.refusal();
        out.act.network = std::move(act->network);
        return Done{};
    };
    const auto way = wayTo(f, from, goal, vlan);
    if (way.empty() && !goal.contains(from))
        return error(
            fmt::format("no open link leads from {} to where VLAN {} is", f.wiring().nameOf(from), vlan),
            "link them");
    for (const int index : way) {
        const LogicalPort& port = f.wiring().port(index);
        const analysis::Station& station = f.wiring().station(port.station);
        if (!station.vlanAware || analysis::membershipOf(f.wiring(), index).carries(vlan))
            continue;
        if (const auto set = take(tagToo(out.act.network, port.members.front(), std::to_string(vlan), ids));
            !set)
            return set.refusal();
        out.tagged.push_back(port.members.front());
    }
    if (endpoint) {
        const int port = f.wiring().portAt(*endpoint);
        const auto membership = analysis::membershipOf(f.wiring(), port);
        if (f.wiring().station(from).vlanAware && membership.pvid == 0 && !membership.carries(vlan)) {
            if (const auto set = take(setPortVlans(out.act.network, *endpoint, vlan, {}, ids)); !set)
                return set.refusal();
            out.tagged.insert(out.tagged.begin(), *endpoint);
            out.untagged = true;
        }
    }
    if (out.tagged.empty())
        return advice(fmt::format("VLAN {} reaches {} already", vlan, held->name));
    return out;
}

} // namespace underridge::edit

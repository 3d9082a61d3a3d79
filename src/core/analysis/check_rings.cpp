// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of declared rings, and of DHCP.
#include "core/analysis/checks.h"

#include <algorithm>
#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;
namespace {

std::string linkName(const Network& network, const Link& link) {
    return fmt::format("the link {} – {}", model::portText(network, link.a),
                       model::portText(network, link.b));
}

/// Why a ring is open as it is declared; empty when it goes round.
std::string whyOpen(const Told& told, const RingState& ring) {
    const Network& network = told.f.network();
    if (ring.record->links.size() < 2)
        return "it has fewer than two links";
    for (std::size_t i = 0; i < ring.hops.size(); ++i)
        if (ring.hops[i].first < 0) {
            const Link* link = network.link(ring.record->links[i]);
            return link ? fmt::format("{} joins no two ports", linkName(network, *link))
                        : "a link of it is gone";
        }
    if (!ring.closed)
        return "its links do not go round once";
    for (const int station : ring.stations)
        if (!told.f.wiring().station(station).bridges)
            return fmt::format("{} passes nothing on", told.name(station));
    for (const auto& [a, b] : ring.hops)
        for (const int port : {a, b})
            if (!told.f.wiring().port(port).up)
                return fmt::format("{} is down", told.port(port));
    return ring.whole ? std::string() : "a LAG of it ends elsewhere";
}

std::string whyUnblocked(const Told& told, const RingState& ring) {
    const Network& network = told.f.network();
    if (ring.blockedHop < 0)
        return "no link of it is said to be blocked";
    if (!network.device(ring.record->owner))
        return "nobody is said to block";
    const Link& link = *network.link(ring.record->blocked);
    if (link.a.device != ring.record->owner && link.b.device != ring.record->owner)
        return fmt::format("{} does not end at {}, which is to block it", linkName(network, link),
                           network.device(ring.record->owner)->name);
    return {};
}

std::vector<ObjectRef> subjectsOf(const Told& told, const RingState& ring) {
    std::vector<ObjectRef> out;
    for (const int station : ring.stations)
        out.push_back(told.device(station));
    if (out.empty())
        out.push_back(refTo(ring.record->id));
    return out;
}

} // namespace

void checkRings(Told& told) {
    for (const RingState& ring : told.f.rings().all()) {
        if (const std::string why = whyOpen(told, ring); !why.empty())
            told.tell("ring-open", subjectsOf(told, ring),
                      fmt::format("{} has no second way: {}", ring.record->name, why),
                      "declare it anew, or repair what is down");
        if (ring.record->protocol == RingProtocol::hsr)
            continue;
        if (const std::string why = whyUnblocked(told, ring); !why.empty())
            told.tell("ring-blocked", subjectsOf(told, ring), fmt::format("{}: {}", ring.record->name, why),
                      "name the device that blocks, and one of its links in the ring");
    }
}

} // namespace underridge::analysis

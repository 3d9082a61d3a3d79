// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of DHCP: who asks is heard, and what a relay passes on comes to its server and back.
#include "core/analysis/checks.h"
#include "core/analysis/trace.h"

#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;
namespace {

/// The first address of a version an interface has; none: it has none.
Ip addressOf(const Interface& record, int version) {
    for (const Address& address : record.addresses)
        if (address.valid() && address.version() == version)
            return ipOf(address);
    return {};
}

/// What one relay sends to one of its servers, and the answer, which goes to the address of the
/// relay on the subnet of who asked (RFC 1542 section 4.1.2).
void checkRelay(Told& told, int index, const Ip& to, std::set<std::pair<int, Ip>>& lost) {
    const NetInterface& relay = told.f.bridging().interface(index);
    const auto& holders = told.f.addressing().holders(to);
    const Ip own = addressOf(*relay.record, to.version);
    if (holders.empty() || !own)
        return; // a server beyond what is drawn
    const int server = told.f.bridging().interface(holders.front().interface).station;
    if (server == relay.station)
        return;
    constexpr int serverPort4 = 67, serverPort6 = 547;
    const Probe probe{{relay.record->device, {}, own},
                      {told.f.wiring().station(server).device->id, {}, to},
                      Protocol::udp,
                      to.version == 4 ? serverPort4 : serverPort6};
    const auto [question, answer] = traceBoth(told.f, probe);
    const bool asked = question.reached();
    if (asked && answer.reached())
        return;
    if (!asked && !lost.insert({relay.station, to}).second)
        return; // the same for every subnet it relays for
    const Trace& stopped = asked ? answer : question;
    told.tell("dhcp-relay", {told.device(relay.station), told.device(server)},
              asked ? fmt::format("what {} answers the DHCP relay {} does not come back: {}",
                                  told.name(server), told.interface(index), stopped.reason)
                    : fmt::format("what {} relays to the DHCP server {} does not get there: {}",
                                  told.interface(index), told.name(server), stopped.reason),
              stopped.remedy, stopped.acts);
}

} // namespace

void checkDhcp(Told& told, int reach) {
    const Dhcp& dhcp = told.f.routing().dhcp();
    for (const int i : told.f.bridging().reaches().all[at(reach)].interfaces) {
        const NetInterface& each = told.f.bridging().interface(i);
        if (!each.record->dhcp || !each.up)
            continue;
        for (const Address& address : each.record->addresses) {
            if (!address.valid() || address.prefixLength() < 0)
                continue;
            const std::string subnet = prefixOf(address).text();
            switch (dhcp.silenceOf(i, address)) {
            case DhcpSilence::none:
                break;
            case DhcpSilence::noSubnet:
            case DhcpSilence::noServer:
                told.tell("dhcp-silent", {told.device(each.station)},
                          fmt::format("{} asks for its address, but no server of {} is known",
                                      told.interface(i), subnet),
                          fmt::format("name the DHCP server of {}", subnet));
                break;
            case DhcpSilence::notHeard:
                told.tell("dhcp-silent", {told.device(each.station)},
                          fmt::format("{} is heard by no DHCP server of {}, nor by a relay to one",
                                      told.interface(i), subnet),
                          "give the router there the server as DHCP relay");
                break;
            }
        }
    }
}

void checkRelays(Told& told) {
    std::set<std::pair<int, Ip>> lost;
    for (int i = 0; i < told.f.bridging().interfaceCount(); ++i)
        if (const NetInterface& each = told.f.bridging().interface(i); each.up)
            for (const Address& to : each.record->dhcpRelay)
                checkRelay(told, i, ipOf(to), lost);
}

} // namespace underridge::analysis

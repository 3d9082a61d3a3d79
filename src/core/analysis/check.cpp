// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/check.h"

#include "core/analysis/running_findings.h"
#include "core/analysis/silence.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;
using linking::Finding;
using linking::Rule;
namespace {

constexpr std::array<Rule, 36> table{{
    {"vlan-one-end", Severity::warning, "A VLAN is tagged at one end of a link only",
     "IEEE 802.1Q clause 8.6.2: ingress filtering", true},
    {"vlan-native", Severity::error, "Untagged frames are of different VLANs at the two ends",
     "IEEE 802.1Q clause 6.9: PVID", true},
    {"vlan-leak", Severity::error, "Two VLANs are joined", "IEEE 802.1Q clause 6.9", true},
    {"vlan-island", Severity::error, "A VLAN is in several parts", "IEEE 802.1Q clause 8.6", true},
    {"vlan-unused", Severity::advice, "No port is in a VLAN", "", true},
    {"storm", Severity::error, "Frames go round without end",
     "IEEE 802.1Q clause 13: no tree breaks the loop", true},
    {"tree-root", Severity::warning, "The tree has an unlikely root", "IEEE 802.1Q clause 13.2", true},
    {"tree-slow", Severity::warning, "The tree goes by a slower link than it blocks",
     "IEEE 802.1Q table 13-4", true},
    {"tree-guard", Severity::error, "A guard trips", "IEEE 802.1Q clause 13: a bridge is heard there", true},
    {"ring-open", Severity::error, "A declared ring does not go round",
     "ITU-T G.8032, IEC 62439-2, IEC 62439-3", true},
    {"ring-blocked", Severity::error, "A ring has no link that is blocked",
     "ITU-T G.8032 clause 6.2, IEC 62439-2", true},
    {"address-twice", Severity::error, "Two interfaces have one address", "RFC 5227", true},
    {"mac-twice", Severity::error, "Two interfaces have one MAC address", "IEEE 802 clause 8", true},
    {"prefix-length", Severity::error, "Prefix lengths on one subnet differ", "RFC 950, RFC 4291", true},
    {"gateway-outside", Severity::error, "A next hop is in none of the own subnets",
     "RFC 1122 section 3.3.1.1", true},
    {"gateway-silent", Severity::error, "A next hop does not answer", "RFC 826, RFC 4861", true},
    {"gateway-missing", Severity::warning, "A device has no way out of its subnet", "RFC 1122 section 3.3.1",
     true},
    {"dhcp-silent", Severity::error, "No DHCP server answers", "RFC 2131, RFC 1542", true},
    {"dhcp-relay", Severity::error, "A DHCP relay and its server do not reach each other",
     "RFC 1542 section 4.1", true},
    {"gateway-host", Severity::error, "A next hop does not route", "RFC 1122 section 3.3.4.2", true},
    {"subnet-overlap", Severity::warning, "Two subnets overlap", "RFC 4632", true},
    {"subnet-split", Severity::error, "A subnet is in several places", "RFC 1812 section 2.2.5.1", true},
    {"route-hole", Severity::error, "The next hop has no route on", "RFC 1812 section 5.2.4", true},
    {"route-loop", Severity::error, "Routes point at each other", "RFC 1812 section 5.3.1", true},
    {"ospf-neighbour", Severity::error, "Two OSPF routers do not become neighbours",
     "RFC 2328 sections 8.2, 10.5, 10.6", true},
    {"bgp-neighbour", Severity::error, "A BGP session does not stand", "RFC 4271 sections 6.2, 8", true},
    {"mtu-step", Severity::warning, "The MTU differs on one subnet", "RFC 1191, RFC 8201", true},
    {"filter-never", Severity::warning, "A filter rule is never reached", "the first rule that fits decides",
     true},
    {"uplink-single", Severity::advice, "A switch hangs on one link where its like have two",
     "one failure, one switch", true},
    {"lag-one-unit", Severity::advice, "A LAG is on one module or chassis of several",
     "IEEE 802.1AX clause 6.1.1: availability", true},
    {"pair-one-feed", Severity::advice, "Two that stand in for each other are dark without one feed",
     "one failure, both of them", true},
    {"return-missing", Severity::error, "Packets get there, answers do not come back",
     "RFC 1812 section 5.2.4", true},
    {"path-asymmetric", Severity::error, "Answers meet a filter that has not seen the question",
     "RFC 2979: state is kept where the question passed", true},
    {"spare-unexplained", Severity::advice, "Something is kept free, and nobody says what for", "", true},
    {"statement", Severity::error, "A statement is not kept", "what was meant", true},
    {"statement-empty", Severity::advice, "A statement is about nothing", "", true},
}};

} // namespace

std::span<const Rule> forwardingRules() {
    return table;
}

const Rule* ruleOf(std::string_view code) {
    for (const Rule& rule : table)
        if (rule.code == code)
            return &rule;
    return linking::ruleOf(code);
}

void Told::tell(std::string_view code, std::vector<ObjectRef> subjects, std::string message,
                std::string remedy, std::vector<std::string> acts) {
    Finding finding;
    finding.rule = ruleOf(code);
    finding.message = std::move(message);
    finding.remedy.kind = acts.empty() ? linking::Remedy::Kind::none : linking::Remedy::Kind::script;
    finding.remedy.words = std::move(remedy);
    finding.remedy.acts = std::move(acts);
    finding.subjects = std::move(subjects);
    found_.push_back(std::move(finding));
}

void Told::lookAt(int interface) {
    beyond_.insert(f.bridging().reaches().ofInterface[at(interface)]);
}

std::string Told::port(int index) const {
    return portText(f, index);
}
std::string Told::interface(int index) const {
    const NetInterface& each = f.bridging().interface(index);
    return fmt::format("{} {}", name(each.station), each.name);
}
ObjectRef Told::device(int station) const {
    return refTo(f.wiring().station(station).device->id);
}
ObjectRef Told::link(int index) const {
    const LogicalPort& port = f.wiring().port(index);
    return port.links.empty() ? device(port.station) : refTo(port.links.front());
}

std::vector<Finding> checkForwarding(const Forwarding& forwarding) {
    RunningFindings found;
    found.update({std::shared_ptr<void>(), &forwarding}, forwarding.network());
    return found.findings();
}

std::vector<Finding> checkStatements(const Forwarding& forwarding) {
    Told told(forwarding);
    checkStatements(told);
    return told.take();
}

std::vector<Finding> check(const Network& network, const Catalogue& catalogue) {
    auto found = linking::check(network, catalogue);
    auto more = checkForwarding(Forwarding(network));
    found.insert(found.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
    return found;
}

} // namespace underridge::analysis

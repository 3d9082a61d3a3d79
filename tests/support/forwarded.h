// SPDX-License-Identifier: GPL-3.0-or-later
// A small network said by acts, and what follows from it: for tests of switching and
// routing.
#pragma once
#include "core/analysis/check.h"
#include "core/analysis/forwarding.h"
#include "core/analysis/trace.h"
#include "core/edit/script/script.h"
#include "tests/support/workbench.h"

#include <fmt/format.h>
#include <memory>

namespace underridge::tests {

inline std::vector<analysis::Storm> stormsOf(const analysis::Forwarding& forwarding) {
    std::vector<analysis::Storm> out;
    for (const auto& reach : forwarding.bridging().all())
        for (analysis::Storm& storm : reach->storms(forwarding.wiring(), forwarding.rings()))
            out.push_back(std::move(storm));
    return out;
}

struct Forwarded : Workbench {
    /// Acts one a line, with ' for ".
    void acts(std::string lines) {
        for (char& c : lines)
            c = c == '\'' ? '"' : c;
        auto script = edit::applyActs(network, catalogue, lines, "acts", ids);
        if (!script)
            qFatal("%s", script.refusal().text().c_str());
        network = std::move(script->network);
        forwarding.reset();
    }
    /// The messages of all findings of a code.
    QStringList said(const char* code) {
        QStringList out;
        for (const auto& finding : analysis::checkForwarding(now()))
            if (finding.rule->code == std::string_view(code))
                out << tests::text(finding.message);
        return out;
    }
    void vlans(std::initializer_list<int> numbers) {
        for (const int number : numbers)
            acts(fmt::format("{{'act':'vlan','number':{},'name':'v{}'}}", number, number));
    }
    /// Switches with a tree each, the earlier with the lower address.
    void switches(int many, const std::string& tree = "'mode':'rstp'") {
        acts(fmt::format("{{'act':'add','model':'access-switch-24','count':{},'names':'s{{1..}}'}}", many));
        for (int i = 1; i <= many; ++i)
            acts(fmt::format("{{'act':'forwarding','members':['s{}'],'spanningTree':{{{},'address':'02:00:00:"
                             "00:00:{:02x}'}}}}",
                             i, tree, i));
    }
    void host(const std::string& name, const std::string& at, const std::string& address, int untagged = 0,
              const std::string& gateway = {}) {
        acts(fmt::format("{{'act':'add','model':'workstation','names':'{0}'}}\n"
                         "{{'act':'link','from':'{0}:1','to':'{1}'}}\n"
                         "{{'act':'address','at':'{0}:1','address':'{2}'}}",
                         name, at, address));
        if (untagged)
            access(at, untagged);
        if (!gateway.empty())
            acts(fmt::format("{{'act':'route','device':'{}','to':'0.0.0.0/0','via':'{}'}}", name, gateway));
    }
    void link(const std::string& a, const std::string& b) {
        acts(fmt::format("{{'act':'link','from':'{}','to':'{}'}}", a, b));
    }
    using Workbench::link;
    void trunk(const std::string& a, const std::string& b, const std::string& tagged) {
        link(a, b);
        tag(a, tagged);
        tag(b, tagged);
    }
    void tag(const std::string& port, const std::string& tagged, int untagged = 0) {
        acts(fmt::format("{{'act':'vlan','port':'{}','untagged':{},'tagged':'{}'}}", port, untagged, tagged));
    }
    void access(const std::string& port, int vlan) { tag(port, "", vlan); }
    void router(const std::string& name) {
        acts(fmt::format("{{'act':'add','model':'border-router','names':'{}'}}", name));
    }
    /// An address on a port of a router, in an OSPF area where one is said.
    void routed(const std::string& device, const std::string& port, const std::string& address,
                const std::string& ospf = {}) {
        acts(fmt::format("{{'act':'interface','device':'{}','port':'{}','addresses':['{}']{}}}", device, port,
                         address, ospf.empty() ? "" : ",'ospf':{" + ospf + "}"));
    }

    /// Two routers, joined directly (area 0) and over the switch s1 (area 7), where a host hangs.
    void twoAreas() {
        router("r1");
        router("r2");
        link("r1:1", "r2:1");
        routed("r1", "1", "10.84.9.0/31", "'area':'0','cost':10,'network':'point-to-point'");
        routed("r2", "1", "10.84.9.1/31", "'area':'0','cost':15,'network':'point-to-point'");
        link("r1:2", "s1:1");
        link("r2:2", "s1:2");
        routed("r1", "2", "10.84.1.1/24", "'area':'0.0.0.7','cost':20");
        routed("r2", "2", "10.84.1.2/24", "'area':'0.0.0.7','cost':30");
        host("h1", "s1:3", "10.84.1.7/24", 0, "10.84.1.1");
        acts("{'act':'forwarding','members':['r1'],'ospf':{'routerId':'10.84.255.1'}}");
    }

    const analysis::Forwarding& now() {
        if (!forwarding)
            forwarding = std::make_unique<analysis::Forwarding>(network);
        return *forwarding;
    }
    model::DeviceId id(const std::string& name) { return now().wiring().station(station(name)).device->id; }
    int station(const std::string& name) {
        for (int i = 0; i < static_cast<int>(now().wiring().stations().size()); ++i)
            if (now().wiring().nameOf(i) == name)
                return i;
        qFatal("no device %s", name.c_str());
        return -1;
    }
    /// Whether frames of the first interface of one device come to that of another.
    bool carries(const std::string& from, const std::string& to) {
        const auto first = [&](const std::string& name) {
            return now().bridging().interfacesOf(station(name)).front();
        };
        return now().bridging().carries(first(from), first(to));
    }
    /// "root forwarding"; "" when the port is in no tree.
    QString role(const std::string& device, const std::string& port, int vlan = 1) {
        const auto& f = now();
        const analysis::Tree* tree = f.trees().treeOf(station(device), vlan);
        if (!tree)
            return {};
        for (const analysis::TreePort& each : tree->ports)
            if (f.wiring().nameOf(f.wiring().port(each.port).station) == device &&
                f.wiring().port(each.port).name == port)
                return text(std::string(textOf(each.role)) + " " + std::string(each.state(f.wiring())));
        return {};
    }
    analysis::Trace trace(const std::string& from, const std::string& to) {
        return analysis::trace(now(), probe(from, to));
    }
    analysis::Probe probe(const std::string& from, const std::string& to) {
        const auto a = analysis::traceEnd(network, from), b = analysis::traceEnd(network, to);
        if (!a || !b)
            qFatal("%s", (a ? b : a).refusal().text().c_str());
        return {*a, *b, Protocol::any, 0};
    }
    using Protocol = model::Protocol;
    /// "h1 s1 h2", and " | why" when it stops.
    QString way(const std::string& from, const std::string& to) { return wayText(trace(from, to)); }
    QString wayText(const analysis::Trace& trace) {
        QString out;
        for (const auto& hop : trace.hops)
            out += (out.isEmpty() ? "" : " ") + text(network.device(hop.device)->name);
        return trace.reached() ? out : out + " | " + text(trace.reason);
    }
    /// "10.0.0.0/24 via 10.1.1.1 10.1.1.2", of a route's table; "" when it is not there.
    QString route(const std::string& device, const std::string& to) {
        const auto* entry = now().routing().table(station(device)).at(analysis::prefixOf(model::Address(to)));
        if (!entry)
            return {};
        QString out = text(std::string(titleOf(entry->origin)));
        for (const auto& hop : entry->hops)
            out += " " + (hop.via ? text(hop.via.text()) : QString("here"));
        return out;
    }
    /// Codes of what is found, each as often as it is.
    QStringList found() {
        QStringList out;
        for (const auto& finding : analysis::checkForwarding(now()))
            out << text(std::string(finding.rule->code));
        return out;
    }

    std::unique_ptr<analysis::Forwarding> forwarding;
};

} // namespace underridge::tests

// SPDX-License-Identifier: GPL-3.0-or-later
// Statements: what somebody wants to be true, tried by traces.
#include "core/analysis/check.h"
#include "core/analysis/checks.h"
#include "core/analysis/forwarding.h"
#include "core/analysis/trace.h"
#include "core/find/matching.h"
#include "core/model/group_tree.h"

#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;
namespace {

/// The devices of one side that have an address, or the address itself.
std::vector<TraceEnd> endsOf(const Told& told, const Party& party) {
    std::vector<TraceEnd> out;
    const Forwarding& f = told.f;
    const Network& network = told.network;
    const auto add = [&](DeviceId id) {
        const int station = f.wiring().stationOf(id);
        if (station >= 0 && !f.bridging().interfacesOf(station).empty())
            out.push_back({id, {}, {}});
    };
    if (party.address.valid()) {
        if (const auto end = traceEnd(network, party.address.host()))
            out.push_back(*end);
    } else if (party.device) {
        add(party.device);
    } else if (party.group) {
        for (const DeviceId id : devicesWithin(network, party.group))
            if (const Device* device = network.device(id); device && isEndpoint(roleOf(network, *device)))
                add(id);
    } else if (!party.filter.empty()) {
        const auto filter = find::Filter::parse(party.filter);
        if (!filter)
            return out;
        const find::Findings none;
        const find::Matcher matcher(network, *filter, &none);
        network.all<Device>().forEach([&](const Device& device) {
            if (matcher.matches(device))
                add(device.id);
        });
    }
    return out;
}

void checkStatement(Told& told, const Statement& statement) {
    const auto from = endsOf(told, statement.from), to = endsOf(told, statement.to);
    if (from.empty() || to.empty()) {
        told.tell("statement-empty", {refTo(statement.id)},
                  fmt::format("\"{}\" is about nothing: {} has no device with an address", statement.name,
                              from.empty() ? "its first side" : "its second side"),
                  "say another side, or take the statement away");
        return;
    }
    constexpr std::size_t mostPairs = 400; // of more, as many spread over all of them
    const std::size_t pairs = from.size() * to.size();
    const std::size_t step = std::max<std::size_t>(1, pairs / mostPairs);
    std::size_t broken = 0, tried = 0;
    Trace first;
    TraceEnd firstFrom, firstTo;
    for (std::size_t i = 0; i < pairs; i += step) {
        const TraceEnd &a = from[i / to.size()], &b = to[i % to.size()];
        if (a.device && a.device == b.device)
            continue;
        ++tried;
        const auto [there, back] = traceBoth(told.f, {a, b, statement.protocol, statement.port});
        const bool reached = there.reached() && back.reached();
        if (reached != statement.never)
            continue;
        if (broken++ == 0) {
            first = there.reached() ? back : there;
            firstFrom = a;
            firstTo = b;
        }
    }
    if (!broken)
        return;
    const auto name = [&](const TraceEnd& end) {
        const Device* device = told.network.device(end.device);
        return device ? device->name : end.address.text();
    };
    std::string message = fmt::format("\"{}\": {} {} {}", statement.name, name(firstFrom),
                                      statement.never ? "reaches" : "does not reach", name(firstTo));
    if (!statement.never && !first.reason.empty())
        message += ", as " + first.reason;
    if (broken > 1)
        message += fmt::format(", and {} more of {} pairs", broken - 1, tried);
    std::vector<ObjectRef> subjects;
    for (const DeviceId id : {first.stoppedAt, firstFrom.device, firstTo.device})
        if (id)
            subjects.push_back(refTo(id));
    subjects.push_back(refTo(statement.id));
    told.tell("statement", std::move(subjects), std::move(message),
              statement.never ? "refuse it by a filter on the way" : first.remedy, first.acts);
}

} // namespace

void checkStatements(Told& told) {
    told.network.all<Statement>().forEach(
        [&](const Statement& statement) { checkStatement(told, statement); });
}

} // namespace underridge::analysis

// SPDX-License-Identifier: GPL-3.0-or-later
// Acts on links and cables: link, unlink, cable, lag.
#include "core/edit/lags.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/edit/script/line.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

/// The links between two ends: of devices all of them, of ports that one.
Result<std::vector<LinkId>> linksBetween(const Line& line) {
    const Network& network = line.bench().network;
    const auto from = line.portOrDevice("from");
    if (!from)
        return from.refusal();
    PortRef to;
    if (line.has("to")) {
        const auto end = line.portOrDevice("to");
        if (!end)
            return end.refusal();
        to = *end;
    } else if (!from->known()) {
        return line.wrong("from", "a device alone names no link", "name a port, or the other end as \"to\"");
    }
    const auto isAt = [](const PortRef& end, const PortRef& wanted) {
        return end.device == wanted.device && (!wanted.known() || end.port == wanted.port);
    };
    std::vector<LinkId> out;
    network.forEachLinkOf(from->device, [&](const Link& link) {
        const auto joins = [&](const PortRef& a, const PortRef& b) {
            return isAt(a, *from) && (!to.device || isAt(b, to));
        };
        if (joins(link.a, link.b) || joins(link.b, link.a))
            out.push_back(link.id);
    });
    if (out.empty())
        return line.wrong("from", "no link is there", "look at list FILE links");
    return out;
}

/// A cable type as it is written: by its id, else by its grade ("cat6a", "Cat 6A").
bool isCalled(const CableType& type, const std::string& wanted) {
    const auto plain = [](const std::string& text) {
        std::string out;
        for (const char c : lowered(text))
            if (c != ' ' && c != '-')
                out += c;
        return out;
    };
    return type.id == wanted || plain(type.grade) == plain(wanted);
}

/// The proposal over the cable wanted, when it fits both ports.
Result<linking::Proposal> over(const Line& line, linking::Proposal proposal, const std::string& wanted) {
    const Bench& bench = line.bench();
    const auto a = portAt(bench.network, proposal.a), b = portAt(bench.network, proposal.b);
    std::string fitting;
    if (a && b)
        for (const linking::Joint& joint : linking::fit(*a, *b, bench.catalogue).joints) {
            const CableType* type = bench.catalogue.cable(joint.cable);
            if (type && isCalled(*type, wanted)) {
                proposal.joint = joint;
                return proposal;
            }
            fitting += (fitting.empty() ? "" : ", ") + joint.cable;
        }
    return line.wrong("cable", fmt::format("a cable {} does not fit these ports", wanted),
                      fitting.empty() ? "leave the cable out" : "what fits: " + fitting);
}

/// Sets what a line says of a cable.
Result<Done> describe(const Line& line, Network& network, CableId id) {
    const Cable* held = network.cable(id);
    if (!held)
        return Done{};
    Cable cable = *held;
    if (line.has("lengthM")) {
        const auto length = line.metres("lengthM");
        if (!length || *length < 0)
            return length ? line.wrong("lengthM", "a length is not negative", "write it as 12.5")
                          : length.refusal();
        cable.lengthMm = *length;
    }
    for (const auto& [member, field] : {std::pair{"label", &cable.label}, std::pair{"jacket", &cable.jacket},
                                        std::pair{"note", &cable.note}}) {
        const auto text = line.textOr(member, *field);
        if (!text)
            return text.refusal();
        *field = *text;
    }
    if (line.has("status")) {
        const auto status = line.word<CableStatus>("status");
        if (!status)
            return status.refusal();
        cable.status = *status;
    }
    network.put(std::move(cable));
    return Done{};
}

ActResult link(const Line& line) {
    const Bench& bench = line.bench();
    const auto from = line.portOrDevice("from"), to = line.portOrDevice("to");
    if (!from || !to)
        return from ? to.refusal() : from.refusal();
    linking::Wishes wishes{0, line.has("cable") || line.has("lengthM")};
    if (const auto wanted = line.has("cable") ? line.text("cable") : Result<std::string>(std::string()))
        for (const CableType& type : bench.catalogue.cables)
            if (!wanted->empty() && isCalled(type, *wanted))
                wishes.cables.push_back(type.id);
    if (line.has("lengthM"))
        if (const auto length = line.metres("lengthM"); length && *length > 0)
            wishes.lengthMm = *length;
    const linking::End a{from->device, from->port}, b{to->device, to->port};
    auto proposal = linking::bestPair(bench.network, bench.catalogue, a, b, {}, wishes);
    if (!proposal && !wishes.cables.empty()) { // so that it can be said what fits instead
        wishes.cables.clear();
        proposal = linking::bestPair(bench.network, bench.catalogue, a, b, {}, wishes);
    }
    if (!proposal)
        return line.wrong("from", proposal.refusal().what,
                          proposal.refusal().remedy.empty() ? "name other ports" : proposal.refusal().remedy);
    if (line.has("cable")) {
        const auto wanted = line.text("cable");
        if (!wanted)
            return wanted.refusal();
        const CableType* chosen = bench.catalogue.cable(proposal->joint.cable);
        if (!chosen || !isCalled(*chosen, *wanted))
            proposal = over(line, *std::move(proposal), *wanted);
        if (!proposal)
            return proposal.refusal();
    }
    auto act = makeLink(bench.network, bench.catalogue, *proposal, bench.ids);
    if (!act)
        return act;
    if (auto said = describe(line, act->network, act->network.link({act->subjects.front().id})->cable); !said)
        return said.refusal();
    return act;
}

Refs refsTo(const std::vector<LinkId>& links) {
    Refs out;
    for (const LinkId id : links)
        out.push_back(refTo(id));
    return out;
}

ActResult unlink(const Line& line) {
    const auto links = linksBetween(line);
    if (!links)
        return links.refusal();
    auto act = removeObjects(line.bench().network, refsTo(*links));
    if (act)
        act->subjects = refsTo(*links);
    return act;
}

ActResult changeCables(const Line& line) {
    const auto links = linksBetween(line);
    if (!links)
        return links.refusal();
    Act act{"Change cable", line.bench().network, refsTo(*links)};
    for (const LinkId id : *links)
        if (auto said = describe(line, act.network, act.network.link(id)->cable); !said)
            return said.refusal();
    return act;
}

ActResult lag(const Line& line) {
    const auto links = linksBetween(line);
    const auto name = line.textOr("name", {});
    const auto dissolve = line.flagOr("dissolve", false);
    if (!links || !name || !dissolve)
        return !links ? links.refusal() : !name ? name.refusal() : dissolve.refusal();
    return *dissolve ? dissolveLag(line.bench().network, *links)
                     : makeLag(line.bench().network, *links, *name, line.bench().ids);
}

ActResult pairDevices(const Line& line) {
    const auto from = line.device("from");
    if (!from)
        return from.refusal();
    if (!line.has("to"))
        return pairChassis(line.bench().network, *from, {});
    const auto to = line.device("to");
    return to ? pairChassis(line.bench().network, *from, *to) : to.refusal();
}

} // namespace

std::span<const ActWord> linkActs() {
    static const std::vector<ActWord> acts{
        {"link", {"from", "to", "cable", "lengthM", "label", "jacket", "note", "status"}, link},
        {"unlink", {"from", "to"}, unlink},
        {"cable", {"from", "to", "lengthM", "label", "jacket", "note", "status"}, changeCables},
        {"lag", {"from", "to", "name", "dissolve"}, lag},
        {"pair", {"from", "to"}, pairDevices}};
    return acts;
}

} // namespace underridge::edit

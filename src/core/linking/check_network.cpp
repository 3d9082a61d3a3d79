// SPDX-License-Identifier: GPL-3.0-or-later
// The rules that regard several links at once.
#include "core/linking/judging.h"
#include "core/linking/poe.h"
#include "core/linking/route_loads.h"

#include <fmt/format.h>
#include <map>
#include <set>

namespace underridge::linking {
using namespace model;
namespace {

/// Results of a tester that are better the larger they are.
bool largerIsBetter(std::string_view what) {
    const std::string word = lowered(what);
    for (const char* name : {"next", "return loss", "acr", "margin"})
        if (word.find(name) != std::string::npos)
            return true;
    return false;
}

void checkTaken(const Network& network, const Device& device, std::vector<Finding>& out) {
    std::map<std::string, std::vector<LinkId>> at;
    network.forEachLinkOf(device.id, [&](const Link& link) {
        for (const PortRef* end : {&link.a, &link.b})
            if (end->device == device.id && end->known())
                at[end->port].push_back(link.id);
    });
    for (const auto& [port, links] : at) {
        if (links.size() < 2)
            continue;
        if (const auto view = portAt(network, {device.id, port}); view && view->isShared())
            continue;
        std::vector<ObjectRef> subjects;
        for (const LinkId link : links)
            subjects.push_back(refTo(link));
        subjects.push_back(refTo(device.id));
        out.push_back({ruleOf("port-taken"),
                       fmt::format("{} {}: {} links end in one port", device.name, port, links.size()),
                       {Remedy::Kind::none, "choose other ports for all but one", links.back(), {}, {}, {}},
                       std::move(subjects),
                       -1});
    }
}

std::string nameOf(const Cable& cable) {
    return cable.label.empty() ? std::string("A cable without label") : cable.label;
}

/// IEEE 802.1AX: the members of a LAG go to one system, all of them in one LAG there, full
/// duplex and at one speed. A declared multi-chassis pair is one system.
void checkLag(const Network& network, const Interface& lag, std::vector<Finding>& out) {
    const Device* device = network.device(lag.device);
    if (!device || lag.type != InterfaceKind::lag)
        return;
    std::set<DeviceId> peers;
    std::set<std::pair<DeviceId, std::string>> far;
    std::set<int> rates;
    std::vector<std::string> unlinked, half;
    const auto isHalf = [&](const PortRef& port) {
        const Port* record = network.port(port);
        return record && record->duplex == Duplex::half;
    };
    for (const std::string& port : lag.members) {
        const Link* link = network.linkAt({lag.device, port});
        const auto end = farEnd(network, {lag.device, port});
        if (!link || !end) {
            unlinked.push_back(port);
            continue;
        }
        peers.insert(end->device);
        far.emplace(end->device, end->port);
        const Channel channel = channelOf(network, chainThrough(network, {lag.device, port}));
        if (channel.ends[0].isKnown() && channel.ends[1].isKnown())
            rates.insert(rateOf(channel));
        if (isHalf({lag.device, port}) || isHalf(*end))
            half.push_back(port);
    }
    const auto say = [&](std::string what, std::string remedy) {
        out.push_back({ruleOf("lag-members"),
                       fmt::format("{} {}: {}", device->name, lag.name, what),
                       {Remedy::Kind::none, std::move(remedy), {}, {}, {}, {}},
                       {refTo(device->id)},
                       -1});
    };
    const auto arePaired = [&](DeviceId x, DeviceId y) {
        const Device *one = network.device(x), *other = network.device(y);
        return one && other && (one->pairedWith == y || other->pairedWith == x);
    };
    if (peers.size() > 2 || (peers.size() == 2 && !arePaired(*peers.begin(), *peers.rbegin())))
        say("its members lead to different devices",
            "take those out that lead elsewhere, or pair the devices");
    if (rates.size() > 1)
        say("its members run at different speeds", "use ports of one speed");
    if (!half.empty())
        say(fmt::format("{} {} half duplex", fmt::join(half, ", "), half.size() == 1 ? "is" : "are"),
            "let them negotiate");
    if (!unlinked.empty() && !peers.empty())
        say(fmt::format("no device at the other end of {}", fmt::join(unlinked, ", ")),
            "link them, or take them out");
    // Of devices of which only ports are known, no LAG is asked for.
    std::set<InterfaceId> lags;
    std::vector<std::string> alone;
    std::set<DeviceId> ending;
    for (const auto& [peer, port] : far) {
        const Device* held = network.device(peer);
        if (!held || !network.modelOf(*held))
            continue;
        if (const Interface* there = lagAt(network, {peer, port})) {
            lags.insert(there->id);
            ending.insert(peer);
        } else {
            alone.push_back(portText(network, {peer, port}));
        }
    }
    if (!alone.empty())
        say(fmt::format("{} {} in no LAG at the other end", fmt::join(alone, ", "),
                        alone.size() == 1 ? "is" : "are"),
            "put the other ends into one LAG, too");
    else if (lags.size() > ending.size())
        say("its members are in different LAGs at the other end", "put them into one");
    // Told where it is not spoken, once.
    const auto speaks = [&](const auto& end) {
        const Interface* there = lagAt(network, {end.first, end.second});
        return there && there->lacp;
    };
    if (!lag.lacp && std::any_of(far.begin(), far.end(), speaks))
        say("it speaks no LACP, the other end does", "set LACP at both ends, or at neither");
}

} // namespace

std::vector<Finding> checkTaken(const Network& network, const Device& device) {
    std::vector<Finding> out;
    checkTaken(network, device, out);
    return out;
}

std::vector<Finding> checkLag(const Network& network, const Interface& lag) {
    std::vector<Finding> out;
    checkLag(network, lag, out);
    return out;
}

std::vector<Finding> checkCable(const Network& network, const Cable& cable) {
    std::vector<Finding> out;
    const auto say = [&](std::string_view code, std::string message, std::string remedy) {
        out.push_back({ruleOf(code),
                       std::move(message),
                       {Remedy::Kind::none, std::move(remedy), {}, {}, {}, {}},
                       {refTo(cable.id)},
                       -1});
    };
    for (const Measured& measured : cable.measured) {
        const bool bad =
            largerIsBetter(measured.what) ? measured.value < measured.limit : measured.value > measured.limit;
        if (bad)
            say("measured",
                fmt::format("{}: {} is {:g} {}, the limit is {:g} {}", nameOf(cable), measured.what,
                            measured.value, measured.unit, measured.limit, measured.unit),
                "look at its plugs, or replace it");
    }
    const CableType* type = network.typeOf(cable);
    if (!type)
        return out;
    if (isFibre(type->medium)) {
        std::map<int, LinkId> used;
        std::set<LinkId> seen, doubled;
        for (const CableEnd& end : cable.ends)
            network.forEachLinkOf(end.at.device, [&](const Link& link) {
                if (link.cable != cable.id || !seen.insert(link.id).second)
                    return;
                std::vector<int> strands = link.positions;
                for (int i = 1; strands.empty() && i <= type->positions; ++i)
                    strands.push_back(i);
                for (const int strand : strands)
                    if (!used.try_emplace(strand, link.id).second) {
                        doubled.insert(link.id);
                        doubled.insert(used[strand]);
                    }
            });
        if (!doubled.empty()) {
            say("strand-taken",
                fmt::format("{}: {} links use the same strand", nameOf(cable), doubled.size()),
                "give each strands of its own");
            for (const LinkId id : doubled)
                out.back().subjects.push_back(refTo(id));
        }
    }
    if (!type->approved)
        say("not-approved", fmt::format("{}: {} is not approved", nameOf(cable), type->name),
            "use another type, or approve it in the cable stock");
    return out;
}

std::vector<Finding> checkRoutes(const Network& network, GroupId floor) {
    std::vector<Finding> out;
    for (const RouteLoad& load : loadsOn(network, floor)) {
        if (!load.isOver())
            continue;
        const CableRoute& route = *network.cableRoute(load.route);
        Finding finding{ruleOf("route-full"),
                        fmt::format("{}: {} {} {} %, at most {} % should be filled", route.name, load.there,
                                    load.there == 1 ? "cable fills" : "cables fill", load.percent,
                                    load.limit),
                        {Remedy::Kind::none, "make it wider, or draw another beside it", {}, {}, {}, {}},
                        {refTo(route.id)},
                        -1};
        for (const CableId id : load.cables)
            finding.subjects.push_back(refTo(id));
        out.push_back(std::move(finding));
    }
    return out;
}

Finding labelTwice(const std::string& label, const std::vector<CableId>& cables) {
    Finding finding{ruleOf("label-twice"),
                    fmt::format("{}: {} cables carry this label", label,
                                cables.size() == 2 ? std::string("two") : std::to_string(cables.size())),
                    {Remedy::Kind::none, "give each its own", {}, {}, {}, {}},
                    {},
                    -1};
    for (const CableId id : cables)
        finding.subjects.push_back(refTo(id));
    return finding;
}

std::vector<Finding> checkPower(const Network& network, const Device& device) {
    std::vector<Finding> out;
    const DeviceModel* model = network.modelOf(device);
    if (!model)
        return out;
    // Of several ports that take power one that gets it is enough.
    bool gets = false;
    std::vector<Finding> lacking;
    network.forEachLinkOf(device.id, [&](const Link& link) {
        for (const PortRef* at : {&link.a, &link.b}) {
            const auto here = at->device == device.id ? portAt(network, *at) : std::nullopt;
            if (!here || (here->like->power != PowerSide::load && !here->like->passivePower))
                continue;
            const Chain chain = chainThrough(network, *at);
            const Channel channel = channelOf(network, chain);
            const int end = channel.ends[0].at == *at ? 0 : 1;
            const auto find = [&](int which, std::vector<Finding>& into) {
                judgePower(network, channel, which,
                           [&](std::string_view code, int, FunctionRef<Said()> words) {
                               Said said = words();
                               said.remedy.link = link.id;
                               into.push_back({ruleOf(code),
                                               std::move(said.message),
                                               std::move(said.remedy),
                                               {refTo(device.id), refTo(link.id)},
                                               -1});
                           });
            };
            if (here->like->power == PowerSide::load) {
                if (!chain.whole() && !powerAt(channel, end).source)
                    continue; // not linked through yet
                const std::size_t before = lacking.size();
                find(end, lacking);
                gets |= lacking.size() == before;
            } else {
                for (const int which : {0, 1})
                    if (const ChannelEnd& fed = channel.ends[static_cast<std::size_t>(which)];
                        fed.port && fed.port->like->power != PowerSide::load && fed.at.device != device.id &&
                        powerAt(channel, which).at == *at)
                        find(which, out);
            }
        }
    });
    if (!gets && !lacking.empty())
        out.push_back(std::move(lacking.front()));
    if (model->powerBudgetW <= 0)
        return out;
    double asked = 0;
    int notStated = 0;
    std::vector<ObjectRef> subjects{refTo(device.id)};
    for (const Fed& fed : loadsOf(network, device)) {
        asked += fed.watts;
        notStated += !fed.isStated;
        subjects.push_back(refTo(fed.load.device));
    }
    if (asked > model->powerBudgetW)
        out.push_back(
            {ruleOf("power-budget"),
             fmt::format("{}: {:g} W are set aside for {} loads, it gives {} W{}", device.name, asked,
                         subjects.size() - 1, model->powerBudgetW,
                         notStated > 0 ? fmt::format(" (of {} the class is not stated: the most of their "
                                                     "Type is counted)",
                                                     notStated)
                                       : std::string()),
             {Remedy::Kind::none, "move some to another device", {}, {}, {}, {}},
             std::move(subjects),
             -1});
    return out;
}

} // namespace underridge::linking

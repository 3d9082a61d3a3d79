// SPDX-License-Identifier: GPL-3.0-or-later
// The rules that regard several links at once.
#include "core/linking/route_loads.h"
#include "core/linking/rules.h"

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

void checkLag(const Network& network, const Interface& lag, std::vector<Finding>& out) {
    const Device* device = network.device(lag.device);
    if (!device || lag.type != InterfaceKind::lag)
        return;
    std::set<DeviceId> peers;
    std::set<int> speeds;
    std::set<std::string> unlinked;
    for (const std::string& port : lag.members) {
        const Link* link = network.linkAt({lag.device, port});
        const auto far = farEnd(network, {lag.device, port});
        if (!link || !far) {
            unlinked.insert(port);
            continue;
        }
        peers.insert(far->device);
        speeds.insert(speedOf(network, *link));
    }
    const auto say = [&](std::string what, std::string remedy) {
        out.push_back({ruleOf("lag-members"),
                       fmt::format("{} {}: {}", device->name, lag.name, what),
                       {Remedy::Kind::none, std::move(remedy), {}, {}, {}, {}},
                       {refTo(device->id)},
                       -1});
    };
    if (peers.size() > 1)
        say("its members lead to different devices", "take those out that lead elsewhere");
    if (speeds.size() > 1)
        say("its members run at different speeds", "use ports of one speed");
    if (!unlinked.empty() && !peers.empty())
        say(fmt::format("no device at the other end of {}", fmt::join(unlinked, ", ")),
            "link them, or take them out");
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

namespace {

bool isSinglePair(const PortView& port) {
    return !port.like->media.empty() && port.like->media.front() == Medium::singlePair;
}

/// The first port on the way out of `port` that has to do with power: a midspan comes
/// before what is behind it.
std::optional<std::pair<PortRef, PortView>> powerPartner(const Network& network, const PortRef& port) {
    for (const Stretch& stretch : outward(network, port))
        if (auto view = portAt(network, stretch.to); view && view->like->power != PowerSide::none)
            return std::pair(stretch.to, *std::move(view));
    return std::nullopt;
}

double wattsFor(const PortView& load) {
    return isSinglePair(load) ? podlPowerW(load.like->powerClass)
                              : classPowerW(std::max(0, load.like->powerClass));
}

/// What a load gets from the port it is cabled to; a finding without rule when all is
/// well.
Finding checkLoad(const Network& network, const Device& device, const Link& link, const PortView& here,
                  const PortRef& port) {
    const auto say = [&](std::string_view code, std::string message, Remedy remedy) {
        return Finding{
            ruleOf(code), std::move(message), std::move(remedy), {refTo(device.id), refTo(link.id)}, -1};
    };
    const auto words = [&](const char* what) {
        return Remedy{Remedy::Kind::none, what, link.id, {}, {}, {}};
    };
    const auto partner = powerPartner(network, port);
    if (!partner || partner->second.like->power != PowerSide::source) {
        const auto far = farEnd(network, port);
        if (!far)
            return {};
        return say("power-missing",
                   fmt::format("{} wants power; {} gives none", device.name, portText(network, *far)),
                   words("use a port with power, or an injector"));
    }
    const auto& [at, source] = *partner;
    if (source.record && source.record->powerOff)
        return say("power-missing",
                   fmt::format("{} wants power; it is off at {}", device.name, portText(network, at)),
                   {Remedy::Kind::givePower, "switch it on", link.id, at, {}, {}});
    if (source.like->passivePower != here.like->passivePower)
        return say("power-passive",
                   source.like->passivePower
                       ? fmt::format("{} is fed all the time by {}; it asks for power by IEEE 802.3",
                                     device.name, portText(network, at))
                       : fmt::format("{} takes passive power; {} gives it by IEEE 802.3 only", device.name,
                                     portText(network, at)),
                   words("use a source of the same kind"));
    if (isSinglePair(here))
        return here.like->powerClass == source.like->powerClass
                   ? Finding{}
                   : say("power-podl",
                         fmt::format("{} is of class {}; {} gives class {}", device.name,
                                     here.like->powerClass, portText(network, at), source.like->powerClass),
                         words("use a port of its class"));
    if (here.like->powerClass > largestClassOf(source.like->powerType) && !source.like->passivePower)
        return say("power-type",
                   fmt::format("{} is of class {}; {} gives Type {}, up to class {}", device.name,
                               here.like->powerClass, portText(network, at), source.like->powerType,
                               largestClassOf(source.like->powerType)),
                   words("use a port of a higher Type"));
    return {};
}

} // namespace

std::vector<Finding> checkPower(const Network& network, const Device& device) {
    std::vector<Finding> out;
    const DeviceModel* model = network.modelOf(device);
    if (!model)
        return out;
    double asked = 0;
    bool wants = false, gets = false;
    std::vector<ObjectRef> loads;
    Finding lacking;
    network.forEachLinkOf(device.id, [&](const Link& link) {
        for (const PortRef* end : {&link.a, &link.b}) {
            if (end->device != device.id)
                continue;
            const auto here = portAt(network, *end);
            if (!here || here->like->power == PowerSide::none)
                continue;
            if (here->like->power == PowerSide::load) {
                wants = true;
                Finding found = checkLoad(network, device, link, *here, *end);
                gets |= !found.rule && farEnd(network, *end);
                if (found.rule)
                    lacking = std::move(found);
                continue;
            }
            if (here->record && here->record->powerOff)
                continue;
            const auto partner = powerPartner(network, *end);
            if (partner && partner->second.like->power == PowerSide::load) {
                asked += wattsFor(partner->second);
                loads.push_back(refTo(partner->first.device));
            } else if (here->like->passivePower) {
                out.push_back(
                    {ruleOf("power-passive"),
                     fmt::format("{} feeds all the time what is not made for it", portText(network, *end)),
                     {Remedy::Kind::none, "use a source by IEEE 802.3", link.id, {}, {}, {}},
                     {refTo(device.id), refTo(link.id)},
                     -1});
            }
        }
    });
    if (wants && !gets && lacking.rule)
        out.push_back(std::move(lacking));
    if (model->powerBudgetW > 0 && asked > model->powerBudgetW) {
        loads.insert(loads.begin(), refTo(device.id));
        out.push_back(
            {ruleOf("power-budget"),
             fmt::format("{}: {:g} W are asked for, it gives {} W", device.name, asked, model->powerBudgetW),
             {Remedy::Kind::none, "move some to another device", {}, {}, {}, {}},
             std::move(loads),
             -1});
    }
    return out;
}

} // namespace underridge::linking

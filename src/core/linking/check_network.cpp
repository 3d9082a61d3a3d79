// SPDX-License-Identifier: GPL-3.0-or-later
// The rules that regard several links at once, and all rules over a whole network.
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

void checkCable(const Cable& cable, std::map<std::string, CableId>& labels, std::vector<Finding>& out) {
    const std::string name = cable.label.empty() ? std::string("A cable without label") : cable.label;
    for (const Measured& measured : cable.measured) {
        const bool bad =
            largerIsBetter(measured.what) ? measured.value < measured.limit : measured.value > measured.limit;
        if (bad)
            out.push_back({ruleOf("measured"),
                           fmt::format("{}: {} is {:g} {}, the limit is {:g} {}", name, measured.what,
                                       measured.value, measured.unit, measured.limit, measured.unit),
                           {Remedy::Kind::none, "look at its plugs, or replace it", {}, {}, {}, {}},
                           {refTo(cable.id)},
                           -1});
    }
    if (cable.label.empty())
        return;
    const auto [first, fresh] = labels.try_emplace(cable.label, cable.id);
    if (!fresh)
        out.push_back({ruleOf("label-twice"),
                       fmt::format("{}: two cables carry this label", cable.label),
                       {Remedy::Kind::none, "give one of them another", {}, {}, {}, {}},
                       {refTo(cable.id), refTo(first->second)},
                       -1});
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
            const auto far = farEnd(network, *end);
            const auto there = far ? portAt(network, *far) : std::nullopt;
            const bool source = here->like->power == PowerSide::source;
            if (source && there && there->like->power == PowerSide::load &&
                !(here->record && here->record->powerOff)) {
                asked += classPowerW(std::max(0, there->like->powerClass));
                loads.push_back(refTo(far->device));
            }
            if (source)
                continue;
            wants = true;
            const auto say = [&](std::string_view code, std::string message, Remedy remedy) {
                lacking = {ruleOf(code),
                           std::move(message),
                           std::move(remedy),
                           {refTo(device.id), refTo(link.id)},
                           -1};
            };
            if (!there)
                continue;
            if (there->like->power != PowerSide::source)
                say("power-missing",
                    fmt::format("{} wants power; {} gives none", device.name, portText(network, *far)),
                    {Remedy::Kind::none, "use a port with power, or an injector", link.id, {}, {}, {}});
            else if (there->record && there->record->powerOff)
                say("power-missing",
                    fmt::format("{} wants power; it is off at {}", device.name, portText(network, *far)),
                    {Remedy::Kind::givePower, "switch it on", link.id, *far, {}, {}});
            else if (here->like->powerClass > largestClassOf(there->like->powerType))
                say("power-type",
                    fmt::format("{} is of class {}; {} gives Type {}, up to class {}", device.name,
                                here->like->powerClass, portText(network, *far), there->like->powerType,
                                largestClassOf(there->like->powerType)),
                    {Remedy::Kind::none, "use a port of a higher Type", link.id, {}, {}, {}});
            else
                gets = true;
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

std::vector<Finding> check(const Network& network, const Catalogue& catalogue) {
    std::vector<Finding> out;
    const auto take = [&out](std::vector<Finding> more) {
        std::move(more.begin(), more.end(), std::back_inserter(out));
    };
    network.all<Link>().forEach([&](const Link& link) {
        take(checkLink(network, catalogue, link));
        // Each chain once: from the lesser of its ends, or from the only one that is a device.
        for (const PortRef* end : {&link.a, &link.b}) {
            const Device* device = network.device(end->device);
            if (!device || !end->known())
                continue;
            if (isPassive(network, *device))
                continue;
            const Chain chain = chainThrough(network, *end);
            if (!chain.whole() || chain.a < chain.b)
                take(checkChain(network, chain));
        }
    });
    std::set<LinkId> inLoops;
    network.all<Device>().forEach([&](const Device& device) {
        checkTaken(network, device, out);
        take(checkPower(network, device));
        if (!isPassive(network, device))
            return;
        network.forEachLinkOf(device.id, [&](const Link& link) { // loops that touch no device
            if (inLoops.contains(link.id))
                return;
            const Chain chain = chainThrough(network, link.a);
            if (chain.endB != ChainEnd::loop || chain.endA == ChainEnd::device)
                return;
            for (const Stretch& stretch : chain.stretches)
                inLoops.insert(stretch.link);
            take(checkChain(network, chain));
        });
    });
    network.all<Interface>().forEach([&](const Interface& interface) { checkLag(network, interface, out); });
    std::map<std::string, CableId> labels;
    network.all<Cable>().forEach([&](const Cable& cable) { checkCable(cable, labels, out); });
    std::stable_sort(out.begin(), out.end(), [](const Finding& x, const Finding& y) {
        return x.rule != y.rule ? x.rule < y.rule : naturalLess(x.message, y.message);
    });
    return out;
}

} // namespace underridge::linking

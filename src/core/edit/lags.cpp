// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/lags.h"

#include "core/edit/links.h"
#include "core/model/vlans.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

std::set<std::string> interfaceNames(const Network& network, DeviceId device) {
    std::set<std::string> names;
    network.all<Interface>().forEachIn(device.value, [&](const Interface& each) { names.insert(each.name); });
    return names;
}

std::string freeLagName(const Network& network, DeviceId device) {
    const auto taken = interfaceNames(network, device);
    for (int i = 1;; ++i)
        if (std::string name = fmt::format("lag{}", i); !taken.contains(name))
            return name;
}

/// A LAG goes on as the first of its ports did that says anything of VLANs; the ports keep
/// what they say, for when it is dissolved.
void takeOver(const Network& network, Interface& lag) {
    for (const std::string& member : lag.members) {
        bool taken = false;
        network.all<Interface>().forEachIn(lag.device.value, [&](const Interface& each) {
            if (taken || each.type != InterfaceKind::physical || each.port != member || !saysVlans(each))
                return;
            lag.untagged = each.untagged;
            lag.tagged = each.tagged;
            lag.taggedRanges = each.taggedRanges;
            lag.untaggedToo = each.untaggedToo;
            lag.voice = each.voice;
            lag.frames = each.frames;
            lag.spanningTree = each.spanningTree;
            taken = true;
        });
        if (taken)
            return;
    }
}

} // namespace

ActResult makeLag(const Network& network, const std::vector<LinkId>& links, const std::string& name,
                  IdSource& ids) {
    if (links.size() < 2)
        return error("a LAG has two links or more", "select links between the same two devices");
    std::array<DeviceId, 2> devices;
    std::array<std::vector<std::string>, 2> members;
    std::set<int> speeds;
    for (const LinkId id : links) {
        const Link* link = network.link(id);
        if (!link)
            return error("a link is no longer there", "select again");
        if (!link->a.known() || !link->b.known())
            return error(fmt::format("{} has an end that is not known", linkText(network, *link)),
                         "choose its port first");
        if (devices[0] == DeviceId{})
            devices = {link->a.device, link->b.device};
        const bool turned = link->a.device == devices[1] && link->b.device == devices[0];
        if (!turned && (link->a.device != devices[0] || link->b.device != devices[1]))
            return error("the links are not between the same two devices", "select those that are");
        for (const PortRef* end : {&link->a, &link->b})
            if (const Interface* lag = lagAt(network, *end))
                return error(fmt::format("{} is a member of {}", portText(network, *end), lag->name),
                             "dissolve that first");
        members[0].push_back(turned ? link->b.port : link->a.port);
        members[1].push_back(turned ? link->a.port : link->b.port);
        speeds.insert(speedOf(network, *link));
    }
    if (speeds.size() > 1)
        return error("the links run at different speeds", "use links of one speed (IEEE 802.1AX)");
    Act act{fmt::format("Make a LAG of {} links", links.size()), network, {}};
    for (const std::size_t end : {0U, 1U}) {
        if (!name.empty() && interfaceNames(network, devices[end]).contains(name))
            return error(fmt::format("{} has an interface {}", network.device(devices[end])->name, name),
                         "choose another name");
        Interface lag;
        lag.id = ids.make<InterfaceId>();
        lag.device = devices[end];
        lag.type = InterfaceKind::lag;
        lag.name = name.empty() ? freeLagName(network, devices[end]) : name;
        lag.members = members[end];
        std::sort(lag.members.begin(), lag.members.end(), naturalLess);
        takeOver(network, lag);
        act.network.put(std::move(lag));
    }
    for (const LinkId id : links)
        act.subjects.push_back(refTo(id));
    return act;
}

ActResult dissolveLag(const Network& network, const std::vector<LinkId>& links) {
    std::set<std::pair<DeviceId, InterfaceId>> lags;
    Act act{{}, network, {}};
    for (const LinkId id : links)
        if (const Link* link = network.link(id)) {
            act.subjects.push_back(refTo(id));
            for (const PortRef* end : {&link->a, &link->b})
                if (const Interface* lag = lagAt(network, *end)) {
                    lags.emplace(lag->device, lag->id);
                    act.name = "Dissolve " + lag->name;
                }
        }
    if (lags.empty())
        return error("no link is a member of a LAG", "select one that is");
    for (const auto& [device, lag] : lags)
        act.network.erase<Interface>({device.value, lag.value});
    return act;
}

ActResult renameLag(const Network& network, const PortRef& member, const std::string& name) {
    const Interface* held = lagAt(network, member);
    if (!held)
        return error("the port is no member of a LAG", "select one that is");
    if (trimmed(name).empty())
        return error("the name is empty", "type one");
    if (name != held->name && interfaceNames(network, member.device).contains(name))
        return error(fmt::format("the device has an interface {}", name), "choose another name");
    Act act{fmt::format("Rename {} to {}", held->name, name), network, {}};
    Interface lag = *held;
    lag.name = name;
    act.network.put(std::move(lag));
    return act;
}

DeviceId pairOf(const Network& network, DeviceId id) {
    const Device* device = network.device(id);
    return device ? device->pairedWith : DeviceId();
}

ActResult pairChassis(const Network& network, DeviceId one, DeviceId other) {
    const Device *first = network.device(one), *second = network.device(other);
    if (!first || (other && !second))
        return error("the device is no longer there", "select again");
    if (one == other)
        return error(fmt::format("{} cannot be paired with itself", first->name), "choose another device");
    Act act{second ? fmt::format("Pair {} and {}", first->name, second->name)
                   : fmt::format("Part {} from its pair", first->name),
            network,
            {refTo(one)}};
    const auto set = [&](DeviceId id, DeviceId with) {
        Device device = *act.network.device(id);
        device.pairedWith = with;
        act.network.put(std::move(device));
    };
    for (const DeviceId each : {one, other})
        if (const DeviceId before = each ? pairOf(network, each) : DeviceId();
            before && network.device(before))
            set(before, {});
    set(one, other);
    if (other)
        set(other, one);
    return act;
}

} // namespace underridge::edit

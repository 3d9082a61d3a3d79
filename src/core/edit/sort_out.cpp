// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/sort_out.h"

#include "core/base/text.h"
#include "core/edit/groups.h"
#include "core/edit/models.h"
#include "core/edit/sheets.h"
#include "core/linking/chain.h"
#include "core/model/ports.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace underridge::edit {
using namespace model;
namespace {

/// Fewer than this would be no group.
constexpr std::size_t leastMembers = 2;
/// So many links ending at something that tells no more speak for a switch.
constexpr int linksOfSwitch = 6;

struct RoleWord {
    std::string_view word;
    Role role;
};
/// Whole words of names, and of what sources say of a device.
constexpr RoleWord nameWords[] = {{"sw", Role::switch_},
                                  {"switch", Role::switch_},
                                  {"acc", Role::switch_},
                                  {"access", Role::switch_},
                                  {"dist", Role::switch_},
                                  {"agg", Role::switch_},
                                  {"core", Role::switch_},
                                  {"leaf", Role::switch_},
                                  {"spine", Role::switch_},
                                  {"rtr", Role::router},
                                  {"router", Role::router},
                                  {"gw", Role::router},
                                  {"gateway", Role::router},
                                  {"fw", Role::firewall},
                                  {"firewall", Role::firewall},
                                  {"ap", Role::accessPoint},
                                  {"wap", Role::accessPoint},
                                  {"wlan", Role::accessPoint},
                                  {"cam", Role::camera},
                                  {"camera", Role::camera},
                                  {"cctv", Role::camera},
                                  {"srv", Role::server},
                                  {"server", Role::server},
                                  {"db", Role::server},
                                  {"nas", Role::server},
                                  {"nvr", Role::server},
                                  {"ws", Role::workstation},
                                  {"pc", Role::workstation},
                                  {"desk", Role::workstation},
                                  {"workstation", Role::workstation},
                                  {"laptop", Role::portable},
                                  {"tablet", Role::portable},
                                  {"phone", Role::phone},
                                  {"voip", Role::phone},
                                  {"telephone", Role::phone},
                                  {"prn", Role::printer},
                                  {"print", Role::printer},
                                  {"printer", Role::printer},
                                  {"till", Role::terminal},
                                  {"pos", Role::terminal},
                                  {"kiosk", Role::terminal},
                                  {"gate", Role::terminal},
                                  {"plc", Role::controller},
                                  {"controller", Role::controller},
                                  {"hmi", Role::controller},
                                  {"sensor", Role::sensor},
                                  {"meter", Role::sensor},
                                  {"gauge", Role::sensor},
                                  {"pp", Role::patchPanel},
                                  {"panel", Role::patchPanel},
                                  {"ups", Role::power},
                                  {"pdu", Role::power},
                                  {"isp", Role::provider},
                                  {"carrier", Role::provider},
                                  {"provider", Role::provider},
                                  {"hub", Role::hub},
                                  {"converter", Role::mediaConverter},
                                  {"bridge", Role::switch_}};
/// System capabilities: IEEE 802.1AB table 8-4, as they are written.
constexpr RoleWord capabilities[] = {{"telephone", Role::phone},
                                     {"wlan-access-point", Role::accessPoint},
                                     {"wlan access point", Role::accessPoint},
                                     {"router", Role::router},
                                     {"bridge", Role::switch_},
                                     {"repeater", Role::hub},
                                     {"station-only", Role::workstation},
                                     {"station only", Role::workstation}};

bool isLetter(char c) {
    return (c >= 'a' && c <= 'z') || static_cast<unsigned char>(c) >= 0x80;
}

/// The words of a name: "CAM-lane2" → cam, lane.
std::vector<std::string> wordsIn(std::string_view text) {
    std::vector<std::string> words(1);
    for (const char c : lowered(text)) {
        if (isLetter(c))
            words.back() += c;
        else if (!words.back().empty())
            words.emplace_back();
    }
    std::erase(words, std::string());
    return words;
}

std::optional<RoleWord> roleIn(std::string_view text) {
    for (const std::string& word : wordsIn(text))
        for (const RoleWord& known : nameWords)
            if (known.word == word)
                return known;
    return std::nullopt;
}

bool saysWhatItIs(std::string_view attribute) {
    const std::string low = lowered(attribute);
    for (const std::string_view word : {"capabilit", "type", "kind", "role", "model", "descr", "class"})
        if (low.find(word) != std::string::npos)
            return true;
    return false;
}

std::optional<ProposedRole> fromAttributes(const Device& device) {
    for (const auto& [name, value] : device.attributes) {
        if (!saysWhatItIs(name))
            continue;
        const std::string low = lowered(value);
        if (lowered(name).find("capabilit") != std::string::npos)
            for (const RoleWord& known : capabilities)
                if (low.find(known.word) != std::string::npos)
                    return ProposedRole{device.id, known.role, fmt::format("{}: {}", name, value)};
        if (const auto word = roleIn(value))
            return ProposedRole{device.id, word->role, fmt::format("{}: {}", name, value)};
    }
    return std::nullopt;
}

std::optional<ProposedRole> roleOfOne(const Network& network, const Device& device) {
    if (auto told = fromAttributes(device))
        return told;
    if (const auto word = roleIn(device.name))
        return ProposedRole{device.id, word->role, fmt::format("its name says {}", word->word)};
    if (const auto word = roleIn(device.note.view()))
        return ProposedRole{device.id, word->role, fmt::format("its note says {}", word->word)};
    int links = 0;
    network.forEachLinkOf(device.id, [&](const Link& link) { links += !link.isUpper(); });
    if (links >= linksOfSwitch)
        return ProposedRole{device.id, Role::switch_, fmt::format("{} links end there", links)};
    return std::nullopt;
}

/// "q1-acc-3" → "q1"; nothing where a name has one part only.
std::string prefixOf(const std::string& name) {
    const auto at = name.find_first_of("-_./ ");
    return at == std::string::npos || at == 0 ? std::string() : name.substr(0, at);
}

std::string subnetNameOf(const Network& network, const Device& device, std::string& why) {
    const Address address = firstAddress(network, device.id);
    if (!address.valid())
        return {};
    const Subnet* in = nullptr;
    network.all<Subnet>().forEach([&](const Subnet& subnet) {
        if (subnet.prefix.contains(Address(address.host())) &&
            (!in || subnet.prefix.prefixLength() > in->prefix.prefixLength()))
            in = &subnet;
    });
    if (in) {
        why = fmt::format("addresses in {}", in->prefix.text());
        return in->name.empty() ? in->prefix.text() : in->name;
    }
    const Address assumed(address.host() + (address.version() == 4 ? "/24" : "/64"));
    why = fmt::format("addresses in {}", assumed.network().text());
    return assumed.network().text();
}

/// The port a device is plugged into, panels passed.
std::optional<PortRef> pluggedInto(const Network& network, const Device& device) {
    std::optional<PortRef> found;
    network.forEachLinkOf(device.id, [&](const Link& link) {
        if (link.isUpper())
            return;
        const auto far = linking::farEnd(network, link.a.device == device.id ? link.a : link.b);
        const PortRef end = far ? *far : link.a.device == device.id ? link.b : link.a;
        if (const Device* other = network.device(end.device);
            !found && other && !isEndpoint(roleOf(network, *other)))
            found = end;
    });
    return found;
}

std::string vlanNameOf(const Network& network, const Device& device, std::string& why) {
    VlanId id;
    const auto take = [&](const Interface& interface) {
        if (!id)
            id = interface.untagged;
    };
    if (const auto at = pluggedInto(network, device))
        network.all<Interface>().forEachIn(at->device.value, [&](const Interface& interface) {
            if (interface.port == at->port)
                take(interface);
        });
    network.all<Interface>().forEachIn(device.id.value, take);
    const Vlan* vlan = network.vlan(id);
    if (!vlan)
        return {};
    why = fmt::format("in VLAN {}", vlan->number);
    return vlan->name.empty() ? fmt::format("VLAN {}", vlan->number) : vlan->name;
}

std::string keyOf(const Network& network, const Device& device, By by, const std::string& attribute,
                  std::string& why) {
    switch (by) {
    case By::prefix: {
        const std::string prefix = prefixOf(device.name);
        why = fmt::format("names begin with {}", prefix);
        return prefix;
    }
    case By::subnet:
        return subnetNameOf(network, device, why);
    case By::vlan:
        return vlanNameOf(network, device, why);
    case By::role: {
        const Role role = roleOf(network, device);
        why = std::string(titleOf(role));
        return role == Role::unknown ? std::string() : std::string(pluralOf(role));
    }
    case By::attribute: {
        const auto at = device.attributes.find(attribute);
        if (at == device.attributes.end())
            return {};
        why = fmt::format("{} is {}", attribute, at->second);
        return trimmed(at->second);
    }
    case By::uplink: {
        if (!isEndpoint(roleOf(network, device)))
            break;
        const auto at = pluggedInto(network, device);
        const Device* upper = at ? network.device(at->device) : nullptr;
        why = upper ? fmt::format("plugged into {}", upper->name) : std::string();
        return upper ? upper->name : std::string();
    }
    }
    return {};
}

} // namespace

std::vector<ProposedGroup> proposeGroups(const Network& network, const std::vector<DeviceId>& devices, By by,
                                         const std::string& attribute) {
    std::map<std::string, ProposedGroup> groups;
    for (const DeviceId id : devices) {
        const Device* device = network.device(id);
        std::string why;
        const std::string key = device ? keyOf(network, *device, by, attribute, why) : std::string();
        if (key.empty())
            continue;
        ProposedGroup& group = groups[key];
        group.name = key;
        group.why = why;
        group.members.push_back(id);
    }
    std::vector<ProposedGroup> out;
    for (auto& [key, group] : groups)
        if (group.members.size() >= leastMembers)
            out.push_back(std::move(group));
    std::stable_sort(out.begin(), out.end(), [](const ProposedGroup& a, const ProposedGroup& b) {
        return naturalLess(a.name, b.name);
    });
    return out;
}

std::vector<std::pair<std::string, int>> attributesOf(const Network& network,
                                                      const std::vector<DeviceId>& devices) {
    std::map<std::string, int> counts;
    for (const DeviceId id : devices)
        if (const Device* device = network.device(id))
            for (const auto& [name, value] : device->attributes)
                counts[name] += !trimmed(value).empty();
    std::vector<std::pair<std::string, int>> out(counts.begin(), counts.end());
    std::stable_sort(out.begin(), out.end(),
                     [](const auto& a, const auto& b) { return a.second > b.second; });
    return out;
}

ActResult makeGroups(const Network& network, const std::vector<ProposedGroup>& groups, GroupId parent,
                     IdSource& ids) {
    if (groups.empty())
        return error("no group is chosen", "tick at least one");
    if (parent && !network.group(parent))
        return error("the group around them is no longer there", "choose another");
    Act act{groups.size() == 1 ? fmt::format("Group as {}", groups.front().name)
                               : fmt::format("Make {} groups", groups.size()),
            network,
            {}};
    for (const ProposedGroup& wanted : groups) {
        GroupId id;
        act.network.forEachIn(parent, [&](ObjectRef each) {
            const Group* there = act.network.group({each.id});
            if (each.kind == Kind::group && there && there->name == trimmed(wanted.name))
                id = there->id;
        });
        if (!id) {
            auto added = addGroup(act.network, trimmed(wanted.name), wanted.kind, parent, ids);
            if (!added)
                return added;
            act.network = std::move(added->network);
            id = {added->subjects.front().id};
        }
        Refs members;
        for (const DeviceId device : wanted.members)
            if (act.network.device(device))
                members.push_back(refTo(device));
        auto moved = putInto(act.network, members, id);
        if (!moved)
            return moved;
        act.network = std::move(moved->network);
        act.subjects.push_back(refTo(id));
    }
    return act;
}

std::vector<ProposedRole> proposeRoles(const Network& network, const std::vector<DeviceId>& devices) {
    std::vector<ProposedRole> out;
    for (const DeviceId id : devices) {
        const Device* device = network.device(id);
        if (!device || roleOf(network, *device) != Role::unknown)
            continue;
        if (auto role = roleOfOne(network, *device))
            out.push_back(std::move(*role));
    }
    return out;
}

ActResult giveRoles(const Network& network, const std::vector<ProposedRole>& roles) {
    std::map<Role, std::vector<DeviceId>> byRole;
    for (const ProposedRole& each : roles)
        byRole[each.role].push_back(each.device);
    if (byRole.empty())
        return error("no role is chosen", "tick at least one");
    Act act{fmt::format("Give roles to {} devices", roles.size()), network, {}};
    for (const auto& [role, devices] : byRole) {
        auto set = setModel(act.network, devices, modelForRole(role));
        if (!set)
            return set;
        act.network = std::move(set->network);
    }
    for (const ProposedRole& each : roles)
        act.subjects.push_back(refTo(each.device));
    return act;
}

} // namespace underridge::edit

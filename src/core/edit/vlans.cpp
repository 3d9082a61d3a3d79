// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/vlans.h"

#include "core/linking/chain.h"
#include "core/model/ports.h"
#include "core/model/vlans.h"

#include <charconv>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

constexpr int mostVlan = 4094;

std::optional<int> numberFrom(std::string_view text) {
    int number = 0;
    const auto [end, fault] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (fault != std::errc{} || end != text.data() + text.size() || number < 1 || number > mostVlan)
        return std::nullopt;
    return number;
}

/// "20" or "100-110".
std::optional<VlanRange> rangeFrom(const std::string& text) {
    const auto dash = text.find('-');
    const auto first = numberFrom(trimmed(text.substr(0, dash)));
    const auto last = dash == std::string::npos ? first : numberFrom(trimmed(text.substr(dash + 1)));
    if (!first || !last || *last < *first)
        return std::nullopt;
    return VlanRange{*first, *last};
}

Remark noSuchVlan(int number) {
    return error(fmt::format("there is no VLAN {} here", number), "add it first");
}

} // namespace

ActResult addVlan(const Network& network, int number, const std::string& name, GroupId scope, IdSource& ids) {
    if (number < 1 || number > mostVlan)
        return error(fmt::format("{} is not a VLAN number", number), "write one from 1 to 4094");
    bool taken = false;
    network.all<Vlan>().forEach(
        [&](const Vlan& vlan) { taken |= vlan.number == number && vlan.scope == scope; });
    if (taken)
        return error(fmt::format("there is a VLAN {} in that scope", number), "choose another number");
    Act act{fmt::format("Add VLAN {}", number), network, {}};
    Vlan vlan;
    vlan.id = ids.make<VlanId>();
    vlan.number = number;
    vlan.name = name;
    vlan.scope = scope;
    act.subjects.push_back({Kind::vlan, vlan.id.value});
    act.network.put(std::move(vlan));
    return act;
}

VlanId vlanFor(const Network& network, DeviceId id, int number) {
    const Device* device = network.device(id);
    return model::vlanFor(network, device ? device->group : GroupId{}, number);
}

Result<std::vector<VlanRange>> rangesFrom(const std::string& text) {
    std::vector<VlanRange> out;
    std::string_view rest = text;
    while (!trimmed(rest).empty()) {
        const std::size_t comma = std::min(rest.find(','), rest.size());
        const std::string part = trimmed(rest.substr(0, comma));
        rest.remove_prefix(std::min(comma + 1, rest.size()));
        const auto range = rangeFrom(part);
        if (!range)
            return error(fmt::format("{} is not a VLAN number or range", part),
                         "write them as 20,30,100-110");
        out.push_back(*range);
    }
    return out;
}

Result<VlanList> vlansFrom(const Network& network, DeviceId device, const std::string& text) {
    const auto ranges = rangesFrom(text);
    if (!ranges)
        return ranges.refusal();
    VlanList out;
    for (const VlanRange range : *ranges) {
        if (range.first != range.last) {
            out.ranges.push_back(range);
            continue;
        }
        const VlanId vlan = vlanFor(network, device, range.first);
        if (!vlan)
            return noSuchVlan(range.first);
        out.vlans.push_back(vlan);
    }
    return out;
}

namespace {

/// The interface of a port, or of the LAG it is a member of; a fresh one when nothing is
/// said of it yet.
Interface interfaceAt(const Network& network, const PortRef& port, IdSource& ids) {
    Interface found;
    if (const Interface* lag = lagAt(network, port))
        return *lag;
    network.all<Interface>().forEachIn(port.device.value, [&](const Interface& each) {
        if (each.port == port.port && each.type == InterfaceKind::physical)
            found = each;
    });
    if (!found.id) {
        found.id = ids.make<InterfaceId>();
        found.device = port.device;
        found.port = port.port;
    }
    return found;
}

} // namespace

ActResult tagToo(const Network& network, const PortRef& port, const std::string& vlans, IdSource& ids) {
    const Device* device = network.device(port.device);
    if (!device)
        return error("the device is no longer there", "select again");
    const auto list = vlansFrom(network, port.device, vlans);
    if (!list)
        return list.refusal();
    Interface interface = interfaceAt(network, port, ids);
    for (const VlanId vlan : list->vlans)
        if (std::find(interface.tagged.begin(), interface.tagged.end(), vlan) == interface.tagged.end())
            interface.tagged.push_back(vlan);
    for (const VlanRange range : list->ranges)
        if (std::find(interface.taggedRanges.begin(), interface.taggedRanges.end(), range) ==
            interface.taggedRanges.end())
            interface.taggedRanges.push_back(range);
    Act act{
        fmt::format("Tag VLAN {} on {} {}", vlans, device->name, port.port), network, {refTo(port.device)}};
    act.network.put(std::move(interface));
    return act;
}

ActResult setPortVlans(const Network& network, const PortRef& port, int untagged, const std::string& tagged,
                       IdSource& ids) {
    const Device* device = network.device(port.device);
    if (!device)
        return error("the device is no longer there", "select again");
    Interface interface = interfaceAt(network, port, ids);
    interface.untagged = untagged ? vlanFor(network, port.device, untagged) : VlanId{};
    if (untagged && !interface.untagged)
        return noSuchVlan(untagged);
    auto list = vlansFrom(network, port.device, tagged);
    if (!list)
        return list.refusal();
    interface.tagged = std::move(list->vlans);
    interface.taggedRanges = std::move(list->ranges);
    Act act{fmt::format("VLANs of {} {}", device->name, port.port), network, {refTo(port.device)}};
    act.network.put(std::move(interface));
    return act;
}

std::optional<PortRef> accessPortOf(const Network& network, DeviceId device) {
    std::optional<PortRef> found;
    bool several = false;
    network.forEachLinkOf(device, [&](const Link& link) {
        const PortRef& own = link.a.device == device ? link.a : link.b;
        const auto far = link.console || !own.known() ? std::nullopt : linking::farEnd(network, own);
        const Device* other = far ? network.device(far->device) : nullptr;
        if (!other || roleOf(network, *other) != Role::switch_)
            return;
        several |= found.has_value();
        found = far;
    });
    return several ? std::nullopt : found;
}

ActResult setAccessVlan(const Network& network, const std::vector<DeviceId>& devices, int number,
                        IdSource& ids) {
    if (devices.empty())
        return error("no device is selected", "select endpoints first");
    Act act{number ? fmt::format("Put {} {} into VLAN {}", devices.size(),
                                 devices.size() == 1 ? "device" : "devices", number)
                   : fmt::format("Take {} {} out of their VLAN", devices.size(),
                                 devices.size() == 1 ? "device" : "devices"),
            network,
            {}};
    for (const DeviceId id : devices) {
        const Device* device = network.device(id);
        const auto port = device ? accessPortOf(network, id) : std::nullopt;
        if (!port)
            return error(
                fmt::format("{} does not hang on one port of a switch", device ? device->name : "a device"),
                "leave it out, or set the ports of the switch");
        Interface interface = interfaceAt(act.network, *port, ids);
        interface.untagged = number ? vlanFor(network, port->device, number) : VlanId{};
        if (number && !interface.untagged)
            return noSuchVlan(number);
        act.network.put(std::move(interface));
        act.subjects.push_back(refTo(id));
    }
    return act;
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/models.h"

#include "core/model/ports.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

/// Ports of a device that something depends on: links, settings, addresses.
std::set<std::string> portsInUse(const Network& network, DeviceId id) {
    std::set<std::string> used;
    network.forEachLinkOf(id, [&](const Link& link) {
        for (const PortRef* end : {&link.a, &link.b})
            if (end->device == id && end->known())
                used.insert(end->port);
    });
    network.all<Port>().forEachIn(id.value, [&](const Port& port) { used.insert(port.port); });
    network.all<Interface>().forEachIn(id.value, [&](const Interface& interface) {
        if (!interface.port.empty())
            used.insert(interface.port);
    });
    return used;
}

/// After a device's model changed: what it has is its own, what is used and gone stays as
/// learned.
void settlePorts(Network& network, DeviceId id, const std::set<std::string>& used) {
    Device device = *network.device(id);
    std::vector<std::string> named = std::exchange(device.learned, {}).all();
    named.insert(named.end(), used.begin(), used.end());
    std::set<std::string> own;
    for (const PortView& port : portsOf(network, device))
        own.insert(port.key);
    std::erase_if(named, [&](const std::string& name) { return own.contains(name); });
    device.learned = PortNames(std::move(named));
    network.put(std::move(device));
}

std::set<std::string> keysOf(const DeviceModel& model) {
    std::set<std::string> keys;
    for (const PortSpec& spec : model.ports.specs())
        keys.insert(spec.key);
    return keys;
}

std::string listed(const std::vector<std::string>& keys) {
    std::string out;
    for (std::size_t i = 0; i < keys.size() && i < 6; ++i)
        out += (i > 0 ? ", " : "") + keys[i];
    if (keys.size() > 6)
        out += fmt::format(" and {} more", keys.size() - 6);
    return out;
}

std::vector<std::string> changesBetween(const DeviceModel& held, const DeviceModel& now) {
    std::vector<std::string> changes;
    if (held.name != now.name)
        changes.push_back(fmt::format("it is called {}", now.name));
    if (held.role != now.role)
        changes.push_back(fmt::format("its role is {}", titleOf(now.role)));
    std::vector<std::string> fresh, gone, other;
    const auto before = keysOf(held), after = keysOf(now);
    for (const PortSpec& spec : now.ports.specs()) {
        const PortSpec* old = held.ports.find(spec.key);
        if (!old)
            fresh.push_back(spec.key);
        else if (!(old->like == spec.like))
            other.push_back(spec.key);
    }
    for (const PortSpec& spec : held.ports.specs())
        if (!after.contains(spec.key))
            gone.push_back(spec.key);
    if (!fresh.empty())
        changes.push_back(fmt::format("new ports: {}", listed(fresh)));
    if (!gone.empty())
        changes.push_back(fmt::format("ports that go: {}", listed(gone)));
    if (!other.empty())
        changes.push_back(fmt::format("ports that change: {}", listed(other)));
    if (!(held.slots == now.slots))
        changes.push_back(fmt::format("slots: {} instead of {}", now.slots.size(), held.slots.size()));
    if (held.rackUnits != now.rackUnits)
        changes.push_back(fmt::format("rack units: {} instead of {}", now.rackUnits, held.rackUnits));
    if (held.powerBudgetW != now.powerBudgetW)
        changes.push_back(
            fmt::format("power for its ports: {} W instead of {} W", now.powerBudgetW, held.powerBudgetW));
    if (held.watts != now.watts)
        changes.push_back(fmt::format("draws at most: {} W instead of {} W", now.watts, held.watts));
    if (held.ratingWatts != now.ratingWatts)
        changes.push_back(fmt::format("can carry: {} W instead of {} W", now.ratingWatts, held.ratingWatts));
    if (held.weightKg != now.weightKg)
        changes.push_back(fmt::format("weighs: {:g} kg instead of {:g} kg", now.weightKg, held.weightKg));
    if (changes.empty())
        changes.emplace_back("other fields change");
    return changes;
}

} // namespace

ActResult setModel(const Network& network, const std::vector<DeviceId>& devices, const DeviceModel& model) {
    if (devices.empty())
        return error("no device is selected", "select one");
    Act act{fmt::format("Set model to {}", model.name), network, {}};
    act.network.put(model);
    for (const DeviceId id : devices) {
        const Device* held = act.network.device(id);
        if (!held)
            return error("the device is no longer there", "select again");
        const auto used = portsInUse(act.network, id);
        Device device = *held;
        device.model = model.id;
        std::erase_if(device.modules, [&](const FittedModule& fitted) {
            return std::none_of(model.slots.begin(), model.slots.end(),
                                [&](const Slot& slot) { return slot.key == fitted.slot; });
        });
        act.network.put(std::move(device));
        settlePorts(act.network, id, used);
        act.subjects.push_back(refTo(id));
    }
    return act;
}

std::vector<Outdated> outdatedModels(const Network& network, const Catalogue& library) {
    std::map<std::string, Outdated> byId;
    network.all<DeviceModel>().forEach([&](const DeviceModel& held) {
        const DeviceModel* now = library.device(held.id);
        if (now && !(*now == held))
            byId[held.id] = {held, *now, {}, changesBetween(held, *now), {}};
    });
    if (byId.empty())
        return {};
    network.all<Device>().forEach([&](const Device& device) {
        const auto at = byId.find(device.model);
        if (at == byId.end())
            return;
        Outdated& outdated = at->second;
        outdated.usedBy.push_back(device.id);
        for (const std::string& port : portsInUse(network, device.id))
            if (outdated.held.ports.find(port) && !outdated.now.ports.find(port))
                outdated.lost.push_back({device.id, port});
    });
    std::vector<Outdated> out;
    for (auto& [id, outdated] : byId)
        if (!outdated.usedBy.empty())
            out.push_back(std::move(outdated));
    std::sort(out.begin(), out.end(),
              [](const Outdated& a, const Outdated& b) { return naturalLess(a.now.name, b.now.name); });
    return out;
}

ActResult updateModels(const Network& network, const Catalogue& library,
                       const std::vector<std::string>& ids) {
    if (ids.empty())
        return error("no model is chosen", "choose one");
    const std::set<std::string> wanted(ids.begin(), ids.end());
    Act act{ids.size() == 1 ? std::string("Update 1 model") : fmt::format("Update {} models", ids.size()),
            network,
            {}};
    for (const Outdated& outdated : outdatedModels(network, library)) {
        if (!wanted.contains(outdated.now.id))
            continue;
        std::vector<std::set<std::string>> used;
        for (const DeviceId id : outdated.usedBy)
            used.push_back(portsInUse(act.network, id));
        act.network.put(outdated.now);
        for (std::size_t i = 0; i < outdated.usedBy.size(); ++i) {
            settlePorts(act.network, outdated.usedBy[i], used[i]);
            act.subjects.push_back(refTo(outdated.usedBy[i]));
        }
    }
    return act;
}

} // namespace underridge::edit

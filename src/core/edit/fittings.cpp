// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/fittings.h"

#include "core/edit/devices.h"
#include "core/edit/objects.h"
#include "core/linking/fit.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

std::vector<LinkId> linksWhere(const Network& network, DeviceId device, auto&& ends) {
    std::vector<LinkId> out;
    network.forEachLinkOf(device, [&](const Link& link) {
        for (const PortRef* end : {&link.a, &link.b})
            if (end->device == device && ends(end->port) && (out.empty() || out.back() != link.id))
                out.push_back(link.id);
    });
    return out;
}

/// Takes links off whose ports are to go, or refuses with the ports they end in.
Result<Done> clear(Network& network, DeviceId device, const std::vector<LinkId>& links, WithLinks what,
                   const std::string& thing) {
    if (links.empty())
        return Done{};
    if (what == WithLinks::refuse) {
        std::vector<std::string> ports;
        for (const LinkId id : links) {
            const Link& link = *network.link(id);
            ports.push_back(link.a.device == device ? link.a.port : link.b.port);
        }
        const std::size_t all = ports.size();
        ports.resize(std::min<std::size_t>(all, 4));
        return error(fmt::format("{} cannot be taken out: {} {} linked", thing,
                                 fmt::format("{}{}", fmt::join(ports, ", "), all > 4 ? " …" : ""),
                                 all == 1 ? "is" : "are"),
                     all == 1 ? "unlink it first" : "unlink them first");
    }
    Refs refs;
    for (const LinkId id : links)
        refs.push_back(refTo(id));
    auto act = removeObjects(network, refs);
    if (!act)
        return act.refusal();
    network = std::move(act->network);
    return Done{};
}

/// Interfaces on ports that are gone go too, with those that stand on them; a LAG loses
/// them as members.
void dropInterfaces(Network& network, DeviceId id, auto&& isGone) {
    std::vector<Interface> all;
    network.all<Interface>().forEachIn(id.value,
                                       [&](const Interface& interface) { all.push_back(interface); });
    std::set<InterfaceId> gone;
    for (const Interface& interface : all)
        if (!interface.port.empty() && isGone(interface.port))
            gone.insert(interface.id);
    for (bool more = !gone.empty(); more;) {
        more = false;
        for (const Interface& interface : all)
            if (gone.contains(interface.parent))
                more |= gone.insert(interface.id).second;
    }
    for (Interface& interface : all) {
        if (gone.contains(interface.id))
            network.erase<Interface>(interface.key());
        else if (std::erase_if(interface.members, isGone) > 0)
            network.put(std::move(interface));
    }
}

/// Ports of a device that are gone take what was recorded of them along.
void dropPorts(Network& network, DeviceId id, auto&& isGone) {
    std::vector<Key> keys;
    network.all<Port>().forEachIn(id.value, [&](const Port& port) {
        if (isGone(port.port))
            keys.push_back(port.key());
    });
    for (const Key key : keys)
        network.erase<Port>(key);
    dropInterfaces(network, id, isGone);
    std::vector<PanelMap> maps;
    network.all<PanelMap>().forEachIn(id.value, [&](const PanelMap& map) {
        if (isGone(map.front) || isGone(map.rear))
            maps.push_back(map);
    });
    for (const PanelMap& map : maps)
        network.erase<PanelMap>(map.key());
    Device device = *network.device(id);
    if (std::erase_if(device.transceivers, [&](const FittedTransceiver& t) { return isGone(t.port); }) > 0)
        network.put(std::move(device));
}

} // namespace

std::vector<LinkId> linksOfModule(const Network& network, const Device& device, const std::string& slot) {
    return linksWhere(network, device.id,
                      [&](const std::string& port) { return port.starts_with(slot + "/"); });
}

ActResult removeModule(const Network& network, DeviceId id, const std::string& slot, WithLinks links) {
    const Device* device = network.device(id);
    if (!device)
        return deviceGone();
    const auto fitted = std::find_if(device->modules.begin(), device->modules.end(),
                                     [&](const FittedModule& module) { return module.slot == slot; });
    if (fitted == device->modules.end())
        return error(fmt::format("slot {} of {} is empty", slot, device->name), "choose another");
    const auto* model = network.find<ModuleModel>({fnv1a(fitted->model), 0});
    Act act{fmt::format("Take {} out of {}", model ? model->name : fitted->model, device->name),
            network,
            {refTo(id)}};
    if (auto done = clear(act.network, id, linksOfModule(network, *device, slot), links,
                          fmt::format("the module in slot {} of {}", slot, device->name));
        !done)
        return done.refusal();
    dropPorts(act.network, id, [&](const std::string& port) { return port.starts_with(slot + "/"); });
    Device changed = *act.network.device(id);
    std::erase_if(changed.modules, [&](const FittedModule& module) { return module.slot == slot; });
    act.network.put(std::move(changed));
    return act;
}

ActResult fitModule(const Network& network, const Catalogue& catalogue, DeviceId id, const std::string& slot,
                    const std::string& module, WithLinks links) {
    const Device* device = network.device(id);
    if (!device)
        return deviceGone();
    Network base = network;
    for (const FittedModule& fitted : device->modules)
        if (fitted.slot == slot) {
            auto removed = removeModule(network, id, slot, links);
            if (!removed)
                return removed.refusal();
            base = std::move(removed->network);
            break;
        }
    auto fitted = linking::withSupply(base, catalogue, id, {slot, module, {}});
    if (!fitted)
        return fitted.refusal();
    const auto* model = fitted->find<ModuleModel>({fnv1a(module), 0});
    return Act{fmt::format("Fit {} in slot {} of {}", model ? model->name : module, slot, device->name),
               *std::move(fitted),
               {refTo(id)}};
}

void putTransceiver(Network& network, const Catalogue& catalogue, const PortRef& cage,
                    const std::string& id) {
    if (const TransceiverModel* model = catalogue.transceiver(id);
        model && !network.find<TransceiverModel>(model->key()))
        network.put(*model);
    Device device = *network.device(cage.device);
    std::erase_if(device.transceivers, [&](const FittedTransceiver& t) { return t.port == cage.port; });
    device.transceivers.push_back({cage.port, id, {}});
    std::sort(device.transceivers.begin(), device.transceivers.end(),
              [](const auto& a, const auto& b) { return naturalLess(a.port, b.port); });
    network.put(std::move(device));
}

std::optional<Remark> misfit(const Network& network, const PortRef& port,
                             const TransceiverModel& transceiver) {
    const auto view = portAt(network, port);
    if (!view)
        return error("the port is no longer there", "select again");
    if (view->like->cage == Cage::none)
        return error(fmt::format("{} has no cage", portText(network, port)), "choose another port");
    if (!linking::fitsCage(*view->like, transceiver))
        return error(fmt::format("{} does not work in {}", transceiver.name, linking::cageText(*view->like)),
                     "choose one of its form and rates");
    return std::nullopt;
}

ActResult fitTransceiver(const Network& network, const Catalogue& catalogue, const PortRef& port,
                         const std::string& id) {
    const TransceiverModel* model = catalogue.transceiver(id);
    if (!model)
        return error(fmt::format("there is no transceiver {}", id), "choose another");
    if (auto wrong = misfit(network, port, *model))
        return *std::move(wrong);
    Act act{fmt::format("Fit {} in {}", model->name, portText(network, port)), network, {refTo(port.device)}};
    putTransceiver(act.network, catalogue, port, id);
    return act;
}

ActResult removeTransceiver(const Network& network, const PortRef& port, WithLinks links) {
    const Device* device = network.device(port.device);
    if (!device)
        return deviceGone();
    const bool there = std::any_of(device->transceivers.begin(), device->transceivers.end(),
                                   [&](const FittedTransceiver& fitted) { return fitted.port == port.port; });
    if (!there)
        return error(fmt::format("the cage of {} is empty", portText(network, port)), "choose another");
    Act act{fmt::format("Take the transceiver out of {}", portText(network, port)),
            network,
            {refTo(port.device)}};
    if (auto done = clear(act.network, port.device,
                          linksWhere(network, port.device,
                                     [&](const std::string& key) {
                                         return key == port.port || key.starts_with(port.port + "/");
                                     }),
                          links, fmt::format("the transceiver in {}", portText(network, port)));
        !done)
        return done.refusal();
    Device changed = *act.network.device(port.device);
    std::erase_if(changed.transceivers, [&](const FittedTransceiver& t) { return t.port == port.port; });
    act.network.put(std::move(changed));
    return act;
}

ActResult addPort(const Network& network, const Catalogue& catalogue, DeviceId id, const std::string& port) {
    const Device* device = network.device(id);
    if (!device)
        return deviceGone();
    auto fitted = linking::withSupply(network, catalogue, id, {{}, port, {}});
    if (!fitted)
        return fitted.refusal();
    return Act{fmt::format("Add port {} to {}", port, device->name), *std::move(fitted), {refTo(id)}};
}

ActResult removePort(const Network& network, const PortRef& port, WithLinks links) {
    const Device* device = network.device(port.device);
    if (!device)
        return deviceGone();
    if (std::find(device->added.begin(), device->added.end(), port.port) == device->added.end())
        return error(fmt::format("{} is part of the model", portText(network, port)),
                     "only additional ports can be taken away");
    Act act{fmt::format("Take port {} from {}", port.port, device->name), network, {refTo(port.device)}};
    const auto isIt = [&](const std::string& key) { return key == port.port; };
    if (auto done = clear(act.network, port.device, linksWhere(network, port.device, isIt), links,
                          fmt::format("port {} of {}", port.port, device->name));
        !done)
        return done.refusal();
    dropPorts(act.network, port.device, isIt);
    Device changed = *act.network.device(port.device);
    std::erase(changed.added, port.port);
    act.network.put(std::move(changed));
    return act;
}

ActResult setBreakout(const Network& network, const PortRef& port, int lanes, WithLinks links) {
    const Device* device = network.device(port.device);
    if (!device)
        return deviceGone();
    const int wanted = lanes <= 1 ? 0 : lanes;
    const auto record = portRecord(network, port);
    if (!record)
        return record.refusal();
    const std::string first = record->breakout > 1 ? port.port + "/1" : port.port;
    const auto view = portAt(network, {port.device, first});
    if (!view || (wanted > 0 && linking::lanesOf(view->like->cage) == 1))
        return error(fmt::format("{} has one lane", portText(network, port)), "choose a QSFP port");
    const auto splits = view ? linking::splitsOf(view->like->cage) : std::vector<int>();
    if (wanted > 0 && std::find(splits.begin(), splits.end(), wanted) == splits.end())
        return error(fmt::format("a port of {} lanes cannot be split into {}",
                                 linking::lanesOf(view->like->cage), lanes),
                     fmt::format("split it into {}", fmt::join(splits, " or ")));
    if (wanted > 0 && view->transceiver &&
        linking::phyAt(*view->transceiver, view->transceiver->rate, wanted).empty())
        return error(fmt::format("{} in {} cannot be split into {}", view->transceiver->name,
                                 portText(network, port), wanted),
                     "fit one that can first");
    Act act{wanted > 0 ? fmt::format("Split {} into {}", portText(network, port), wanted)
                       : fmt::format("Make {} one port", portText(network, port)),
            network,
            {refTo(port.device)}};
    if (auto done = clear(act.network, port.device,
                          linksWhere(network, port.device,
                                     [&](const std::string& key) {
                                         return wanted > 0 ? key == port.port
                                                           : key.starts_with(port.port + "/");
                                     }),
                          links, portText(network, port));
        !done)
        return done.refusal();
    auto changed = changePort(act.network, port, act.name, [&](Port& p) { p.breakout = wanted; });
    if (!changed)
        return changed.refusal();
    changed->subjects = act.subjects;
    return changed;
}

} // namespace underridge::edit

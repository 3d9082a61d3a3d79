// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/devices.h"

#include "core/model/ports.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

Result<Done> checkName(const std::string& name) {
    if (trimmed(name).empty())
        return error("the name is empty", "type one");
    if (!isValidUtf8(name))
        return error("the name is not valid text", "type it again");
    if (name.size() > 200)
        return error("the name is longer than 200 characters", "shorten it");
    return Done{};
}

Result<Done> checkPoint(Point at) {
    if (!isOnSheet(at))
        return error("that is off the sheet", "put it nearer to the rest");
    return Done{};
}

} // namespace

ActResult placeDevices(const Network& network, SheetId sheet, const DeviceModel& model,
                       const std::vector<Placed>& placed, GroupId group, IdSource& ids) {
    if (placed.empty())
        return error("there is nothing to add");
    if (!network.sheet(sheet))
        return error("the sheet is no longer there", "choose another");
    if (group && !network.group(group))
        return error("the group is no longer there", "select it again");
    Act act{placed.size() == 1 ? fmt::format("Add {}", placed.front().name)
                               : fmt::format("Add {} {}", placed.size(), lowered(pluralOf(model.role))),
            network,
            {}};
    if (!network.find<DeviceModel>(model.key()))
        act.network.put(model);
    for (const Placed& one : placed) {
        if (auto good = checkName(one.name); !good)
            return good.refusal();
        if (auto good = checkPoint(one.at); !good)
            return good.refusal();
        Device device;
        device.id = ids.make<DeviceId>();
        device.name = one.name;
        device.model = model.id;
        device.group = group;
        Position position;
        position.sheet = sheet;
        position.object = device.id.value;
        position.of = Kind::device;
        position.at = one.at;
        act.subjects.push_back(refTo(device.id));
        act.network.put(std::move(device));
        act.network.put(std::move(position));
    }
    return act;
}

ActResult rename(const Network& network, const Refs& objects, const std::vector<std::string>& names) {
    if (objects.empty() || objects.size() != names.size())
        return error("there is nothing to rename", "select a device");
    Act act{objects.size() == 1 ? fmt::format("Rename to {}", names.front())
                                : fmt::format("Rename {} objects", objects.size()),
            network, objects};
    for (std::size_t i = 0; i < objects.size(); ++i) {
        if (auto good = checkName(names[i]); !good)
            return good.refusal();
        if (const Device* device = network.device({objects[i].id})) {
            Device copy = *device;
            copy.name = names[i];
            act.network.put(std::move(copy));
        } else if (const Group* group = network.group({objects[i].id})) {
            Group copy = *group;
            copy.name = names[i];
            act.network.put(std::move(copy));
        } else if (const CableRoute* route = network.cableRoute({objects[i].id})) {
            CableRoute copy = *route;
            copy.name = names[i];
            act.network.put(std::move(copy));
        } else {
            return error("this has no name of its own", "select a device or a group");
        }
    }
    return act;
}

Result<Port> portRecord(const Network& network, const PortRef& ref) {
    if (const Port* record = network.port(ref))
        return *record;
    const Device* device = network.device(ref.device);
    if (!device || !portAt(network, ref))
        return error(fmt::format("there is no port {}", ref.port), "select it again",
                     {{}, 0, 0, device ? device->name : std::string()});
    Port fresh;
    fresh.device = ref.device;
    fresh.port = ref.port;
    return fresh;
}

ActResult putPort(const Network& network, Port port, std::string name) {
    Act act{std::move(name), network, {{Kind::device, port.device.value}}};
    if (isPlain(port))
        act.network.erase<Port>(port.key());
    else
        act.network.put(std::move(port));
    return act;
}

ActResult setAddress(const Network& network, DeviceId id, const std::string& port, const std::string& address,
                     IdSource& ids) {
    const Device* device = network.device(id);
    if (!device)
        return error("the device is no longer there", "select again");
    if (!address.empty() && !Address(address).valid())
        return error(fmt::format("{} is not an address", address),
                     "write it as 10.84.1.1/24 or fd84:fe::1/64");
    Act act{fmt::format("Set address of {}", device->name), network, {refTo(id)}};
    const Interface* held = port.empty() ? addressedInterface(network, id) : nullptr;
    if (!port.empty())
        network.all<Interface>().forEachIn(id.value, [&](const Interface& interface) {
            if (!held && interface.port == port)
                held = &interface;
        });
    Interface interface;
    if (held) {
        interface = *held;
    } else {
        interface.id = ids.make<InterfaceId>();
        interface.device = id;
        interface.port = port;
        interface.type = port.empty() ? InterfaceKind::loopback : InterfaceKind::physical;
    }
    if (!interface.addresses.empty())
        interface.addresses.erase(interface.addresses.begin());
    if (!address.empty())
        interface.addresses.insert(interface.addresses.begin(), address);
    Interface bare; // what only an address made is gone with it
    bare.id = interface.id;
    bare.device = id;
    bare.port = interface.port;
    bare.type = interface.port.empty() ? InterfaceKind::loopback : InterfaceKind::physical;
    if (interface == bare)
        act.network.erase<Interface>(interface.key());
    else
        act.network.put(std::move(interface));
    return act;
}

} // namespace underridge::edit

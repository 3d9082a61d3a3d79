// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/registers/table.h"

#include "core/edit/devices.h"
#include "core/model/ports.h"

#include <array>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

enum DeviceColumn : std::size_t {
    dName,
    dRole,
    dModel,
    dAddress,
    dGroup,
    dPorts,
    dSerial,
    dOutside,
    dNote,
    dFrom
};
constexpr std::array<Column, 10> deviceColumns{{{"name", "Name", true},
                                                {"role", "Role"},
                                                {"model", "Model"},
                                                {"address", "Address", true},
                                                {"group", "Group"},
                                                {"ports", "Ports used", false, true},
                                                {"serial", "Serial", true},
                                                {"outside", "Outside", true, false, false},
                                                {"note", "Note", true},
                                                {"provenance", "From", false, false, false}}};
std::string groupPath(const Network& network, GroupId id) {
    std::string out;
    for (const Group* group = network.group(id); group; group = network.group(group->parent))
        out = group->name + (out.empty() ? "" : " / ") + out;
    return out;
}

std::string deviceCell(const Network& network, const Device& device, std::size_t column) {
    switch (column) {
    case dName:
        return device.name;
    case dRole:
        return std::string(model::titleOf(roleOf(network, device)));
    case dModel:
        return modelName(network, device);
    case dAddress:
        return firstAddress(network, device.id).text();
    case dGroup:
        return groupPath(network, device.group);
    case dPorts: {
        const PortCount count = countPorts(network, device);
        return count.all == 0 ? std::string() : fmt::format("{} of {}", count.used, count.all);
    }
    case dSerial:
        return device.serial;
    case dOutside:
        return std::string(device.outside ? yes : no);
    case dNote:
        return std::string(device.note.view());
    default:
        return provenanceText(device.provenance);
    }
}

Result<Done> setDevice(Network& network, const Device& old, const CellChange& change, IdSource& ids) {
    Device device = old;
    switch (change.column) {
    case dName:
        return take(network, rename(network, {refTo(old.id)}, {change.text}));
    case dAddress:
        return take(network, setAddress(network, old.id, {}, change.text, ids));
    case dSerial:
        device.serial = change.text;
        break;
    case dNote:
        device.note = SharedText(change.text);
        break;
    case dOutside: {
        const auto flag = flagFrom(change.text);
        if (!flag)
            return flag.refusal();
        device.outside = *flag;
        break;
    }
    default:
        return error("this cannot be typed here");
    }
    network.put(std::move(device));
    return Done{};
}

std::vector<NamedRow> rows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<Device>().forEach([&](const Device& d) { out.push_back({d.name, {refTo(d.id), {}}}); });
    return out;
}

std::string text(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const Device* device = network.device({row.object.id});
    return device ? deviceCell(network, *device, column) : std::string();
}

Result<Done> set(Network& network, const Catalogue&, const CellChange& change, LengthUnit, IdSource& ids) {
    const Device* device = network.device({change.row.object.id});
    return device ? setDevice(network, *device, change, ids) : goneFromRegister();
}

} // namespace

const RegisterTable& devicesTable() {
    static constexpr RegisterTable table{"Devices", deviceColumns, rows, text, set};
    return table;
}

} // namespace underridge::edit

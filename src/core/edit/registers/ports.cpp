// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/registers/table.h"

#include "core/edit/devices.h"
#include "core/linking/chain.h"
#include "core/linking/fit.h"

#include <array>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

enum PortColumn : std::size_t {
    pDevice,
    pPort,
    pWhat,
    pBlock,
    pPeer,
    pFar,
    pLabel,
    pSpeed,
    pDisabled,
    pReserved,
    pNote
};
constexpr std::array<Column, 11> portColumns{{{"device", "Device"},
                                              {"port", "Port"},
                                              {"what", "What it is"},
                                              {"block", "Block", false, false, false},
                                              {"peer", "To"},
                                              {"far", "In the end"},
                                              {"label", "Label", true},
                                              {"speed", "Speed", true},
                                              {"disabled", "Disabled", true},
                                              {"reserved", "Reserved", true},
                                              {"note", "Note", true}}};
std::string portCell(const Network& network, const Device& device, const std::string& key,
                     std::size_t column) {
    const PortRef ref{device.id, key};
    switch (column) {
    case pDevice:
        return device.name;
    case pPort:
        return key;
    case pPeer: {
        const Link* link = network.linkAt(ref);
        return link ? portText(network, link->a == ref ? link->b : link->a) : std::string();
    }
    case pFar: {
        const auto far = linking::farEnd(network, ref);
        return far ? portText(network, *far) : std::string();
    }
    default:
        break;
    }
    const auto port = portAt(network, ref);
    if (!port)
        return {};
    const Port record = port->record ? *port->record : Port{};
    switch (column) {
    case pWhat:
        return linking::describe(*port);
    case pBlock:
        return std::string(model::titleOf(port->like->block));
    case pLabel:
        return record.label;
    case pSpeed:
        return record.speed > 0 ? speedText(record.speed) : "negotiated";
    case pDisabled:
        return std::string(record.disabled ? yes : no);
    case pReserved:
        return std::string(record.reserved ? yes : no);
    default:
        return record.note;
    }
}

Result<int> speedFrom(const std::string& text, const PortView& port) {
    const std::string word = lowered(trimmed(text));
    if (word.empty() || word == "negotiated")
        return 0;
    for (const int rate : port.like->rates)
        if (word == lowered(speedText(rate)) || word == lowered(rateText(rate)) ||
            word == std::to_string(rate))
            return rate;
    return error(fmt::format("{} is no speed of port {}", text, port.key),
                 "write negotiated, or one of its speeds");
}

Result<Done> setPort(Network& network, const Device& device, const CellChange& change) {
    const PortRef ref{device.id, change.row.port};
    const auto view = portAt(network, ref);
    if (!view)
        return error("the port is no longer there");
    Remark wrong;
    bool good = true;
    auto act = changePort(network, ref, "Set port", [&](Port& port) {
        const auto flag = [&](bool& field) {
            const auto value = flagFrom(change.text);
            if (value)
                field = *value;
            else
                wrong = value.refusal();
            good = static_cast<bool>(value);
        };
        switch (change.column) {
        case pLabel:
            port.label = change.text;
            break;
        case pNote:
            port.note = change.text;
            break;
        case pDisabled:
            flag(port.disabled);
            break;
        case pReserved:
            flag(port.reserved);
            break;
        case pSpeed: {
            const auto speed = speedFrom(change.text, *view);
            if (speed)
                port.speed = *speed;
            else
                wrong = speed.refusal();
            good = static_cast<bool>(speed);
            break;
        }
        default:
            wrong = error("this cannot be typed here");
            good = false;
        }
    });
    return good ? take(network, std::move(act)) : Result<Done>(wrong);
}

/// Device by device, in the order of their names; each one's ports as it has them.
std::vector<NamedRow> rows(const Network& network) {
    std::vector<std::pair<std::string, const Device*>> devices;
    network.all<Device>().forEach([&](const Device& d) { devices.emplace_back(d.name, &d); });
    std::stable_sort(devices.begin(), devices.end(),
                     [](const auto& x, const auto& y) { return naturalLess(x.first, y.first); });
    std::vector<NamedRow> out;
    for (const auto& [name, device] : devices)
        for (PortView& port : portsOf(network, *device))
            out.push_back({{}, {refTo(device->id), std::move(port.key)}}); // they stay in this order
    return out;
}

std::string text(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const Device* device = network.device({row.object.id});
    return device ? portCell(network, *device, row.port, column) : std::string();
}

Result<Done> set(Network& network, const Catalogue&, const CellChange& change, LengthUnit, IdSource&) {
    const Device* device = network.device({change.row.object.id});
    return device ? setPort(network, *device, change) : goneFromRegister();
}

} // namespace

const RegisterTable& portsTable() {
    static constexpr RegisterTable table{"Ports", portColumns, rows, text, set};
    return table;
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/registers.h"

#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/linking/chain.h"
#include "core/linking/fit.h"
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
enum LinkColumn : std::size_t { lA, lB, lMedium, lSpeed, lCable, lLength, lNote, lFrom };
constexpr std::array<Column, 8> linkColumns{{{"a", "End A"},
                                             {"b", "End B"},
                                             {"medium", "Medium"},
                                             {"speed", "Speed"},
                                             {"cable", "Cable"},
                                             {"length", "Length", true, true},
                                             {"note", "Note", true},
                                             {"provenance", "From", false, false, false}}};
enum CableColumn : std::size_t { cLabel, cType, cA, cB, cLength, cMeasured, cStatus, cJacket, cNote };
constexpr std::array<Column, 9> cableColumns{{{"label", "Label", true},
                                              {"type", "Type", true},
                                              {"a", "End A"},
                                              {"b", "End B"},
                                              {"length", "Length", true, true},
                                              {"measured", "Measured", true, false, false},
                                              {"status", "Status", true},
                                              {"jacket", "Colour", true, false, false},
                                              {"note", "Note", true}}};

constexpr std::string_view yes = "yes", no = "no";

std::string groupPath(const Network& network, GroupId id) {
    std::string out;
    for (const Group* group = network.group(id); group; group = network.group(group->parent))
        out = group->name + (out.empty() ? "" : " / ") + out;
    return out;
}

std::string provenanceText(const Provenance& p) {
    return std::string(titleOf(p.origin)) + (p.source.empty() ? std::string() : ", " + p.source);
}

std::string addressOf(const Network& network, DeviceId device) {
    std::string found;
    network.all<Interface>().forEachIn(device.value, [&](const Interface& i) {
        if (found.empty() && !i.addresses.empty())
            found = i.addresses.front();
    });
    return found;
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
        return addressOf(network, device.id);
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

std::string linkCell(const Network& network, const Link& link, std::size_t column, LengthUnit unit) {
    const Cable* cable = network.cable(link.cable);
    const CableType* type = cable ? network.typeOf(*cable) : nullptr;
    switch (column) {
    case lA:
        return portText(network, link.a);
    case lB:
        return portText(network, link.b);
    case lMedium:
        return std::string(link.console ? "console" : model::titleOf(mediumOf(network, link)));
    case lSpeed: {
        const int speed = link.console ? 0 : speedOf(network, link);
        return speed > 0 ? speedText(speed) : std::string();
    }
    case lCable:
        return type ? type->name + (cable->label.empty() ? "" : ", " + cable->label) : std::string();
    case lLength:
        return cable && cable->lengthMm > 0 ? lengthText(cable->lengthMm, unit) : std::string();
    case lNote:
        return link.note;
    default:
        return provenanceText(link.provenance);
    }
}

std::string cableCell(const Network& network, const Cable& cable, std::size_t column, LengthUnit unit) {
    const CableType* type = network.typeOf(cable);
    const auto end = [&](std::size_t n) {
        return n < cable.ends.size() ? portText(network, cable.ends[n].at) : std::string();
    };
    switch (column) {
    case cLabel:
        return cable.label;
    case cType:
        return type ? type->name : cable.type;
    case cA:
        return end(0);
    case cB:
        return end(1);
    case cLength:
        return cable.lengthMm > 0 ? lengthText(cable.lengthMm, unit) : std::string();
    case cMeasured:
        return std::string(cable.lengthMeasured ? yes : no);
    case cStatus:
        return std::string(model::titleOf(cable.status));
    case cJacket:
        return cable.jacket;
    default:
        return cable.note;
    }
}

Result<bool> flagFrom(const std::string& text) {
    const std::string word = lowered(trimmed(text));
    if (word == "yes" || word == "true" || word == "1")
        return true;
    if (word == "no" || word == "false" || word == "0" || word.empty())
        return false;
    return error(fmt::format("{} is neither yes nor no", text), "write yes or no");
}

Result<std::int64_t> lengthFrom(const std::string& text, LengthUnit unit) {
    const auto mm = parseLength(text, unit);
    if (!mm)
        return error(fmt::format("{} is not a length", text),
                     unit == LengthUnit::feet ? "write it as 72 ft" : "write it as 22 m");
    return *mm;
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

/// Takes over the network of an act that may refuse.
Result<Done> take(Network& network, ActResult act) {
    if (!act)
        return act.refusal();
    network = std::move(act->network);
    return Done{};
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

Result<Done> setCable(Network& network, const Catalogue& catalogue, Cable cable, std::size_t column,
                      const std::string& text, LengthUnit unit) {
    switch (column) {
    case cLabel:
        cable.label = text;
        break;
    case cType: {
        const auto type =
            std::find_if(catalogue.cables.begin(), catalogue.cables.end(), [&](const CableType& t) {
                return t.id == text || lowered(t.name) == lowered(trimmed(text));
            });
        if (type == catalogue.cables.end())
            return error(fmt::format("there is no cable type {}", text),
                         "write its name as in the catalogue");
        network.put(*type);
        cable.type = type->id;
        break;
    }
    case cLength: {
        const auto mm = lengthFrom(text, unit);
        if (!mm)
            return mm.refusal();
        cable.lengthMm = *mm;
        break;
    }
    case cMeasured: {
        const auto flag = flagFrom(text);
        if (!flag)
            return flag.refusal();
        cable.lengthMeasured = *flag;
        break;
    }
    case cStatus: {
        std::optional<CableStatus> status;
        for (const auto& word : wordsOf(CableStatus{}))
            if (lowered(trimmed(text)) == lowered(word.title) || text == word.text)
                status = word.value;
        if (!status)
            return error(fmt::format("{} is no status", text),
                         "write installed, planned, to remove or spare");
        cable.status = *status;
        break;
    }
    case cJacket: {
        const bool colour = text.size() == 7 && text[0] == '#' &&
                            text.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
        if (!text.empty() && !colour)
            return error(fmt::format("{} is no colour", text), "write it as #51606E, or leave it empty");
        cable.jacket = text;
        break;
    }
    case cNote:
        cable.note = text;
        break;
    default:
        return error("this cannot be typed here");
    }
    network.put(std::move(cable));
    return Done{};
}

Result<Done> setLink(Network& network, const Catalogue& catalogue, const Link& old, const CellChange& change,
                     LengthUnit unit) {
    if (change.column == lLength) {
        const Cable* cable = network.cable(old.cable);
        if (!cable)
            return error("this link has no cable");
        return setCable(network, catalogue, *cable, cLength, change.text, unit);
    }
    if (change.column != lNote)
        return error("this cannot be typed here");
    Link link = old;
    link.note = change.text;
    network.put(std::move(link));
    return Done{};
}

} // namespace

std::span<const Column> columnsOf(Register which) {
    switch (which) {
    case Register::devices:
        return deviceColumns;
    case Register::ports:
        return portColumns;
    case Register::links:
        return linkColumns;
    case Register::cables:
        return cableColumns;
    }
    return {};
}

std::string_view titleOf(Register which) {
    constexpr std::array<std::string_view, registerCount> titles{"Devices", "Ports", "Links", "Cables"};
    return titles[static_cast<std::size_t>(which)];
}

std::vector<Row> rowsOf(const Network& network, Register which) {
    std::vector<std::pair<std::string, Row>> named;
    switch (which) {
    case Register::devices:
        network.all<Device>().forEach([&](const Device& d) { named.push_back({d.name, {refTo(d.id), {}}}); });
        break;
    case Register::ports:
        network.all<Device>().forEach([&](const Device& d) { named.push_back({d.name, {refTo(d.id), {}}}); });
        break;
    case Register::links:
        network.all<Link>().forEach([&](const Link& l) {
            named.push_back({linkText(network, l), {refTo(l.id), {}}});
        });
        break;
    case Register::cables:
        network.all<Cable>().forEach([&](const Cable& c) { named.push_back({c.label, {refTo(c.id), {}}}); });
        break;
    }
    std::stable_sort(named.begin(), named.end(),
                     [](const auto& x, const auto& y) { return naturalLess(x.first, y.first); });
    std::vector<Row> rows;
    for (auto& [name, row] : named) {
        if (which != Register::ports) {
            rows.push_back(std::move(row));
            continue;
        }
        for (PortView& port : portsOf(network, *network.device({row.object.id})))
            rows.push_back({row.object, std::move(port.key)});
    }
    return rows;
}

std::string cellText(const Network& network, Register which, const Row& row, std::size_t column,
                     LengthUnit unit) {
    switch (which) {
    case Register::devices:
        if (const Device* device = network.device({row.object.id}))
            return deviceCell(network, *device, column);
        return {};
    case Register::ports:
        if (const Device* device = network.device({row.object.id}))
            return portCell(network, *device, row.port, column);
        return {};
    case Register::links:
        if (const Link* link = network.link({row.object.id}))
            return linkCell(network, *link, column, unit);
        return {};
    case Register::cables:
        if (const Cable* cable = network.cable({row.object.id}))
            return cableCell(network, *cable, column, unit);
        return {};
    }
    return {};
}

Result<Done> setCell(Network& network, const Catalogue& catalogue, Register which, const CellChange& change,
                     LengthUnit unit, IdSource& ids) {
    const auto gone = error("it is no longer there", "look at the register again");
    switch (which) {
    case Register::devices:
        if (const Device* device = network.device({change.row.object.id}))
            return setDevice(network, *device, change, ids);
        return gone;
    case Register::ports:
        if (const Device* device = network.device({change.row.object.id}))
            return setPort(network, *device, change);
        return gone;
    case Register::links:
        if (const Link* link = network.link({change.row.object.id}))
            return setLink(network, catalogue, *link, change, unit);
        return gone;
    case Register::cables:
        if (const Cable* cable = network.cable({change.row.object.id}))
            return setCable(network, catalogue, *cable, change.column, change.text, unit);
        return gone;
    }
    return gone;
}

ActResult setCells(const Network& network, const Catalogue& catalogue, Register which,
                   const std::vector<CellChange>& changes, LengthUnit unit, IdSource& ids) {
    if (changes.empty())
        return advice("nothing is selected that can be typed here", "select cells first");
    const Column& column = columnsOf(which)[changes.front().column];
    const bool oneColumn = std::all_of(changes.begin(), changes.end(), [&](const CellChange& change) {
        return change.column == changes.front().column;
    });
    Act act{changes.size() == 1 ? fmt::format("Set {} of {}", lowered(column.title),
                                              cellText(network, which, changes.front().row, 0, unit))
            : oneColumn         ? fmt::format("Set {} of {} {}", lowered(column.title), changes.size(),
                                              lowered(titleOf(which)))
                        : fmt::format("Change {} cells of {}", changes.size(), lowered(titleOf(which))),
            network,
            {}};
    for (const CellChange& change : changes)
        if (auto set = setCell(act.network, catalogue, which, change, unit, ids); !set) {
            Remark why = set.refusal();
            why.where.object = fmt::format("{}, {}", cellText(network, which, change.row, 0, unit),
                                           columnsOf(which)[change.column].title);
            return why;
        }
    return act;
}

std::vector<CellPreview> previewCells(const Network& network, const Catalogue& catalogue, Register which,
                                      const std::vector<CellChange>& changes, LengthUnit unit, IdSource ids) {
    std::vector<CellPreview> out;
    Network next = network;
    for (const CellChange& change : changes) {
        CellPreview preview{change, cellText(network, which, change.row, change.column, unit), {}};
        if (preview.before != change.text) {
            if (!columnsOf(which)[change.column].editable)
                preview.wrong = fmt::format("{} cannot be typed here", columnsOf(which)[change.column].title);
            else if (auto set = setCell(next, catalogue, which, change, unit, ids); !set)
                preview.wrong = set.refusal().text();
        }
        out.push_back(std::move(preview));
    }
    return out;
}

} // namespace underridge::edit

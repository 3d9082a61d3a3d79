// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/door_sheets.h"

#include "core/edit/links.h"
#include "core/linking/chain.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/model/power.h"
#include "core/model/racks.h"
#include "core/model/standing.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

bool isPanel(const Network& network, const Device& device) {
    return roleOf(network, device) == Role::patchPanel;
}

/// "P1 pdu-r1 O3, P2 feed B".
std::string feedsText(const Network& network, const Device& device) {
    std::string out;
    for (const PowerFeed& feed : device.feeds) {
        const Device* from = network.device(feed.from);
        const std::string source = from        ? from->name + " " + feed.outlet
                                   : feed.from ? std::string("?")
                                               : "feed " + feed.mains;
        out += (out.empty() ? "" : ", ") + (feed.supply == "supply" ? "" : feed.supply + " ") + source;
    }
    return out;
}

DoorSheet sheetOfRack(const Network& network, const Group& rack) {
    const RackUse use = useOf(network, rack);
    DoorSheet sheet{
        refTo(rack.id),
        rack.name,
        fmt::format("{} · {} of {} units free", pathText(network, rack.parent), use.free(), use.units),
        {"Unit", "Side", "Device", "Model", "Fed from"},
        {9, 9, 26, 30, 26},
        {}};
    if (use.watts > 0)
        sheet.subtitle += fmt::format(" · up to {} W", use.watts);
    const auto mounted = mountedIn(network, rack.id);
    for (auto each = mounted.rbegin(); each != mounted.rend(); ++each) {
        const Device& device = *network.device(each->device);
        const std::string unit = each->unit < 1      ? "–"
                                 : each->height == 1 ? std::to_string(each->unit)
                                                     : fmt::format("{}–{}", each->unit, each->top());
        sheet.rows.push_back({unit, std::string(titleOf(each->side)), device.name, modelName(network, device),
                              feedsText(network, device)});
    }
    return sheet;
}

/// The cable at a port, by its label, else its type.
std::string cableAt(const Network& network, const PortRef& port) {
    const Link* link = network.linkAt(port);
    const Cable* cable = link ? network.cable(link->cable) : nullptr;
    if (!cable)
        return {};
    const CableType* type = network.typeOf(*cable);
    return !cable->label.empty() ? cable->label : type ? type->name : cable->type;
}

/// Where the cable at a port leads to in the end.
std::string endText(const Network& network, const PortRef& port) {
    const auto stretches = linking::outward(network, port);
    return stretches.empty() ? std::string() : portText(network, stretches.back().to);
}

DoorSheet sheetOfPanel(const Network& network, const Device& panel) {
    const Group* in = network.group(panel.place.in ? panel.place.in : panel.group);
    DoorSheet sheet{refTo(panel.id),           panel.name,
                    modelName(network, panel), {"Port", "Label", "Cord", "To", "Cable", "From"},
                    {8, 16, 13, 25, 13, 25},   {}};
    if (in)
        sheet.subtitle = pathText(network, in->id) +
                         (panel.place.unit > 0 ? fmt::format(", unit {}", panel.place.unit) : std::string()) +
                         " · " + sheet.subtitle;
    for (const PortView& port : portsOf(network, panel)) {
        if (port.like->side == Side::rear)
            continue;
        const PortRef front{panel.id, port.key};
        const auto behind = linking::through(network, panel, {port.key, 1});
        const PortRef rear{panel.id, behind ? behind->port : std::string()};
        sheet.rows.push_back({port.key, port.record ? port.record->label : std::string(),
                              cableAt(network, front), endText(network, front),
                              rear.known() ? cableAt(network, rear) : std::string(),
                              rear.known() ? endText(network, rear) : std::string()});
    }
    return sheet;
}

} // namespace

Result<std::vector<DoorSheet>> doorSheets(const Network& network, const std::vector<ObjectRef>& objects) {
    std::vector<DoorSheet> out;
    for (const ObjectRef object : objects) {
        const Group* group = network.group({object.id});
        const Device* device = network.device({object.id});
        if (group && isRack(group->type) && group->rackUnits > 0)
            out.push_back(sheetOfRack(network, *group));
        else if (device && isPanel(network, *device))
            out.push_back(sheetOfPanel(network, *device));
    }
    if (out.empty())
        return error("there is no rack and no panel", "select racks with units, or patch panels");
    return out;
}

std::vector<ObjectRef> racksAndPanels(const Network& network) {
    std::vector<ObjectRef> out;
    for (const GroupId rack : racksOf(network))
        out.push_back(refTo(rack));
    std::vector<const Device*> panels;
    network.all<Device>().forEach([&](const Device& device) {
        if (isPanel(network, device) && network.degree(device.id) > 0)
            panels.push_back(&device);
    });
    std::sort(panels.begin(), panels.end(),
              [](const Device* a, const Device* b) { return naturalLess(a->name, b->name); });
    for (const Device* panel : panels)
        out.push_back(refTo(panel->id));
    return out;
}

} // namespace underridge::edit

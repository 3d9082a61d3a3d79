// SPDX-License-Identifier: GPL-3.0-or-later
#include "demo/maker.h"

#include "core/base/files.h"
#include "core/edit/cable_routes.h"
#include "core/edit/cables.h"
#include "core/edit/fittings.h"
#include "core/edit/groups.h"
#include "core/edit/models.h"
#include "core/edit/plans.h"
#include "core/edit/power.h"
#include "core/edit/rack_sheets.h"
#include "core/edit/script/script.h"
#include "core/edit/sheets.h"
#include "core/exchange/own_format.h"

#include <stdexcept>

namespace underridge::demo {
using namespace model;

Maker::Maker(const std::string& name, std::uint64_t seed) : ids_(seed), network_(emptyNetwork(name, ids_)) {
    sheet_ = network_.sheetsInOrder().front().id;
}

edit::Refs Maker::take(edit::ActResult act) {
    if (!act)
        throw std::runtime_error(act.refusal().text());
    network_ = std::move(act->network);
    return act->subjects;
}

DeviceId Maker::add(const std::string& model, const std::string& name, Point at, const std::string& address,
                    GroupId group) {
    const DeviceModel* known = catalogue_.device(model);
    if (!known)
        throw std::runtime_error("no model " + model);
    const auto made = take(edit::placeDevices(network_, sheet_, *known, {{name, at}}, group, ids_));
    const DeviceId id{made.front().id};
    if (!address.empty())
        take(edit::setAddress(network_, id, {}, address, ids_));
    return id;
}

LinkId Maker::link(linking::End a, linking::End b, const Run& run) {
    auto pair = linking::bestPair(network_, catalogue_, a, b);
    if (!pair)
        throw std::runtime_error(network_.device(a.device)->name + " to " + network_.device(b.device)->name +
                                 ": " + pair.refusal().text());
    if (!run.cable.empty())
        for (const linking::Joint& joint :
             linking::fit(*portAt(network_, pair->a), *portAt(network_, pair->b), catalogue_).joints)
            if (joint.cable == run.cable) {
                pair->joint = joint;
                break;
            }
    // What is longer than any cord is installed.
    if (const CableType* cord = catalogue_.cable(pair->joint.cable);
        run.cable.empty() && cord && !cord->lengthsMm.empty() &&
        std::int64_t{run.metres} * 1000 > cord->lengthsMm.back()) {
        if (cord->id == "cat6a")
            pair->joint.cable = "cat6a-plugs";
        else if (cord->id == "os2-lc")
            pair->joint.cable = "os2-lc-installed";
    }
    const LinkId id{take(edit::makeLink(network_, catalogue_, *pair, ids_)).front().id};
    if (const CableId cable = network_.link(id)->cable; cable)
        take(edit::changeEach<Cable>(network_, {{cable.value, 0}}, "Cable", [&](Cable& c) {
            if (run.metres >= 0)
                c.lengthMm = std::int64_t{run.metres} * 1000;
            c.label = run.label;
            if (const CableType* type = catalogue_.cable(run.cable)) // also one that nobody would propose
                c.type = type->id;
        }));
    if (const CableType* type = catalogue_.cable(run.cable))
        network_.put(*type);
    return id;
}

void Maker::optics(const PortRef& port, const std::string& transceiver) {
    const TransceiverModel* model = catalogue_.transceiver(transceiver);
    if (!model)
        throw std::runtime_error("no transceiver " + transceiver);
    network_.put(*model);
    Device device = *network_.device(port.device);
    std::erase_if(device.transceivers, [&](const FittedTransceiver& t) { return t.port == port.port; });
    device.transceivers.push_back({port.port, transceiver, {}});
    network_.put(std::move(device));
}

LinkId Maker::trunk(const std::vector<std::pair<PortRef, PortRef>>& pairs, const std::string& type,
                    const std::string& label) {
    const LinkId id{take(edit::layTrunk(network_, catalogue_, pairs, type, {}, ids_)).front().id};
    take(edit::changeEach<Cable>(network_, {{network_.link(id)->cable.value, 0}}, "Cable",
                                 [&](Cable& c) { c.label = label; }));
    return id;
}

void Maker::measured(LinkId link, std::vector<Measured> results) {
    take(edit::changeEach<Cable>(network_, {{network_.link(link)->cable.value, 0}}, "Results", [&](Cable& c) {
        c.measured = results;
        c.lengthMeasured = true;
    }));
}

void Maker::shape(GroupId group, const std::function<void(Group&)>& how) {
    take(edit::changeEach<Group>(network_, {{group.value, 0}}, "Place", how));
}

void Maker::note(Point at, const std::string& text) {
    noteOn(sheet_, at, text);
}

void Maker::noteOn(SheetId sheet, Point at, const std::string& text) {
    take(edit::addNote(network_, sheet, at, text, ids_));
}

SheetId Maker::addSheet(const std::string& name, bool groups) {
    return {take(edit::newSheet(network_, name, std::nullopt, {}, groups, ids_)).front().id};
}

void Maker::renameSheet(const std::string& name) {
    take(edit::renameSheet(network_, sheet_, name));
}

void Maker::showGroups(SheetId sheet, bool on) {
    take(edit::setSheetGroups(network_, sheet, on));
}

void Maker::fold(SheetId sheet, const std::vector<GroupId>& groups) {
    take(edit::setFolded(network_, sheet, groups, true));
}

void Maker::showOn(SheetId sheet, DeviceId device, Point at) {
    take(edit::showOnSheet(network_, sheet, {{device, at}}));
}

void Maker::bendOn(SheetId sheet, LinkId link, const std::vector<Point>& points) {
    take(edit::setBends(network_, sheet, link, points));
}

GroupId Maker::group(const std::string& name, GroupKind type, GroupId parent) {
    return {take(edit::addGroup(network_, name, type, parent, ids_)).front().id};
}

void Maker::fit(DeviceId device, const std::string& slot, const std::string& module) {
    take(edit::fitModule(network_, catalogue_, device, slot, module, edit::WithLinks::refuse));
}

void Maker::place(DeviceId device, const Place& place) {
    take(edit::changeEach<Device>(network_, {{device.value, 0}}, "Place",
                                  [&](Device& d) { d.place = place; }));
}

void Maker::acts(const std::string& lines) {
    auto script = edit::applyActs(network_, catalogue_, lines, "acts of the sample", ids_);
    if (!script)
        throw std::runtime_error(script.refusal().text());
    network_ = std::move(script->network);
}

VlanId Maker::vlan(int number, const std::string& name, GroupId scope) {
    const VlanId id = ids_.make<VlanId>();
    put(Vlan{id, number, name, scope, {}});
    return id;
}

void Maker::subnet(const std::string& prefix, const std::string& name, VlanId vlan) {
    put(Subnet{ids_.make<SubnetId>(), prefix, name, vlan, {}, {}, {}, {}});
}

Interface& Maker::interfaceFor(Interface& scratch, const PortRef& port) {
    network_.all<Interface>().forEachIn(port.device.value, [&](const Interface& interface) {
        if (interface.port == port.port)
            scratch = interface;
    });
    if (!scratch.id) {
        scratch.id = ids_.make<InterfaceId>();
        scratch.device = port.device;
        scratch.port = port.port;
    }
    return scratch;
}

void Maker::access(const PortRef& port, VlanId vlan) {
    Interface interface;
    interfaceFor(interface, port).untagged = vlan;
    put(std::move(interface));
}

void Maker::tagged(const PortRef& port, const std::vector<VlanId>& vlans) {
    Interface interface;
    interfaceFor(interface, port).tagged = vlans;
    put(std::move(interface));
}

void Maker::address(const PortRef& port, const std::string& address) {
    take(edit::setAddress(network_, port.device, port.port, address, ids_));
}

void Maker::service(const std::string& name, const std::vector<DeviceId>& users,
                    const std::vector<DeviceId>& providers, const std::string& note) {
    put(Service{ids_.make<ServiceId>(), name, users, providers, note, {}});
}

void Maker::startUp(DeviceId device, const std::string& text) {
    take(edit::changeEach<Device>(network_, {{device.value, 0}}, "Start-up",
                                  [&](Device& d) { d.startUp = SharedText(text); }));
}

void Maker::plan(GroupId group, const std::string& svg, double mmPerUnit, const std::string& sheet) {
    const auto picture = exchange::readPicture(svg, sheet);
    if (!picture)
        throw std::runtime_error(picture.refusal().text());
    take(edit::setPlan(network_, group, *picture, mmPerUnit));
    take(edit::placePlan(network_, group, {0, 0, 0, 50, true}));
    take(edit::sheetOnPlan(network_, group, sheet, ids_));
}

void Maker::cableRoute(GroupId floor, const std::string& name, CableRouteKind type,
                       const std::vector<std::pair<double, double>>& points, int widthMm, double heightM) {
    std::vector<FloorPoint> spots;
    for (const auto& [x, y] : points)
        spots.push_back({std::llround(x * 1000), std::llround(y * 1000)});
    const edit::Refs made = take(edit::addCableRoute(network_, floor, type, std::move(spots), ids_));
    CableRoute route = *network_.cableRoute({made.front().id});
    route.name = name;
    route.widthMm = widthMm;
    route.heightMm = std::llround(heightM * 1000);
    take(edit::changeCableRoute(network_, std::move(route)));
}

void Maker::feed(DeviceId device, const std::string& supply, DeviceId from,
                 const std::string& outletOrMains) {
    take(edit::withCords(edit::feedSupply(network_, device, supply,
                                          {from, from ? std::string() : outletOrMains}, outletOrMains),
                         network_, catalogue_, ids_));
}

void Maker::feedAll(const std::vector<DeviceId>& devices) {
    take(edit::withCords(edit::feedAll(network_, devices), network_, catalogue_, ids_));
}

void Maker::racks(const std::vector<GroupId>& racks, const std::string& sheet) {
    take(edit::sheetOfRacks(network_, racks, sheet, ids_));
}

SheetId Maker::copySheet(const std::string& name) {
    return {take(edit::newSheet(network_, name, sheet_, {}, false, ids_)).front().id};
}

void Maker::orderSheets(const std::vector<std::string>& names) {
    std::vector<SheetId> order;
    for (const std::string& name : names)
        for (const Sheet& sheet : network_.sheetsInOrder())
            if (sheet.name == name)
                order.push_back(sheet.id);
    take(edit::orderSheets(network_, order));
}

void Maker::filter(SheetId sheet, const std::string& filter, bool hides) {
    take(edit::setSheetFilter(network_, sheet, filter, hides));
}

void Maker::setLevel(GroupId floor, int level) {
    take(edit::changeEach<Group>(network_, {{floor.value, 0}}, "Level", [&](Group& g) { g.level = level; }));
}

void Maker::save(const std::string& path) const {
    DiskFiles files;
    if (auto done = files.writeAtomically(path, exchange::writeOwn(network_)); !done)
        throw std::runtime_error(done.refusal().text());
}

} // namespace underridge::demo

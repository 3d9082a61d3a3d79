// SPDX-License-Identifier: GPL-3.0-or-later
// The registers of interfaces, VLANs and static routes. A row of the first and last names
// its record by its id in `port`.
#include "core/edit/interfaces.h"
#include "core/edit/registers/table.h"
#include "core/edit/vlans.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/model/vlans.h"

#include <array>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

enum InterfaceColumn : std::size_t {
    iDevice,
    iName,
    iType,
    iPort,
    iAddresses,
    iUntagged,
    iTagged,
    iVrf,
    iZone,
    iMtu,
    iMac,
    iArea,
    iCost,
    iDisabled,
    iDhcp,
    iRelay
};
constexpr std::array<Column, 16> interfaceColumns{{{"device", "Device"},
                                                   {"name", "Interface", true},
                                                   {"type", "Kind", true},
                                                   {"port", "Port"},
                                                   {"addresses", "Addresses", true},
                                                   {"untagged", "Untagged VLAN", true, true},
                                                   {"tagged", "Tagged VLANs", true},
                                                   {"vrf", "VRF", true},
                                                   {"zone", "Zone", true, false, false},
                                                   {"mtu", "MTU", true, true, false},
                                                   {"mac", "MAC address", true, false, false},
                                                   {"area", "OSPF area", true},
                                                   {"cost", "OSPF cost", true, true, false},
                                                   {"disabled", "Disabled", true},
                                                   {"dhcp", "By DHCP", true, false, false},
                                                   {"dhcpRelay", "DHCP relay to", true, false, false}}};
enum VlanColumn : std::size_t { vNumber, vName, vScope, vUntagged, vTagged, vSubnets };
constexpr std::array<Column, 6> vlanColumns{{{"number", "VLAN", true, true},
                                             {"name", "Name", true},
                                             {"scope", "Where"},
                                             {"untagged", "Ports untagged", false, true},
                                             {"tagged", "Ports tagged", false, true},
                                             {"subnets", "Subnets"}}};
enum RouteColumn : std::size_t { rDevice, rTo, rVia, rMetric, rVrf };
constexpr std::array<Column, 5> routeColumns{{{"device", "Device"},
                                              {"to", "To", true},
                                              {"via", "Next hop", true},
                                              {"metric", "Metric", true, true},
                                              {"vrf", "VRF", true}}};

std::string deviceName(const Network& network, DeviceId id) {
    const Device* device = network.device(id);
    return device ? device->name : std::string();
}

template <class Record>
const Record* recordOf(const Network& network, const Row& row) {
    const auto id = idFromText(row.port);
    return id ? network.find<Record>({row.object.id, *id}) : nullptr;
}

template <class Record>
std::vector<NamedRow> ownedRows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<Record>().forEach([&](const Record& record) {
        std::string name = deviceName(network, record.device) + " ";
        if constexpr (std::is_same_v<Record, Interface>)
            name += record.name.empty() ? record.port : record.name;
        else
            name += record.to.text();
        out.push_back({std::move(name), {refTo(record.device), idText(record.id.value)}});
    });
    return out;
}

std::string orEmpty(int number) {
    return number ? std::to_string(number) : std::string();
}

std::string interfaceText(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const Interface* each = recordOf<Interface>(network, row);
    if (!each)
        return {};
    switch (column) {
    case iDevice:
        return deviceName(network, each->device);
    case iName:
        return each->name.empty() ? each->port : each->name;
    case iType:
        return std::string(titleOf(each->type));
    case iPort: {
        if (!each->members.empty())
            return fmt::format("{}", fmt::join(each->members, ", "));
        const Interface* parent =
            each->parent ? network.find<Interface>({each->device.value, each->parent.value}) : nullptr;
        return parent ? (parent->name.empty() ? parent->port : parent->name) : each->port;
    }
    case iAddresses: {
        std::string out;
        for (const Address& address : each->addresses)
            out += (out.empty() ? "" : ", ") + address.text();
        return out;
    }
    case iUntagged: {
        const Vlan* vlan = network.vlan(each->untagged);
        return vlan ? std::to_string(vlan->number) : std::string();
    }
    case iTagged:
        return taggedText(network, *each);
    case iVrf:
        return each->vrf;
    case iZone:
        return each->zone;
    case iMtu:
        return orEmpty(each->mtu);
    case iMac:
        return each->mac;
    case iArea:
        return each->ospf->area.text();
    case iCost:
        return orEmpty(each->ospf->cost);
    case iDhcp:
        return std::string(each->dhcp ? yes : no);
    case iRelay: {
        std::string out;
        for (const Address& address : each->dhcpRelay)
            out += (out.empty() ? "" : ", ") + address.text();
        return out;
    }
    default:
        return std::string(each->disabled ? yes : no);
    }
}

/// What stands on no port may become another of its like.
Result<InterfaceKind> kindFrom(const Interface& held, const std::string& typed) {
    const auto isFree = [](InterfaceKind kind) {
        return kind == InterfaceKind::loopback || kind == InterfaceKind::vlan ||
               kind == InterfaceKind::tunnel;
    };
    const std::string wanted = lowered(typed);
    for (const Word<InterfaceKind>& word : wordsOf(InterfaceKind{})) {
        if (lowered(word.title) != wanted && word.text != wanted)
            continue;
        if (word.value != held.type && !(isFree(word.value) && isFree(held.type)))
            return error(
                fmt::format("a {} interface does not become a {} one", titleOf(held.type), word.title),
                "what stands on a port keeps its kind");
        if (word.value == InterfaceKind::vlan && !held.untagged)
            return error("a VLAN interface needs its VLAN", "type its number into Untagged VLAN first");
        return word.value;
    }
    return error(fmt::format("{} is no kind of interface", typed), "write loopback, VLAN or tunnel");
}

Result<Done> setInterface(Network& network, const Catalogue&, const CellChange& change, LengthUnit,
                          IdSource& ids) {
    const Interface* held = recordOf<Interface>(network, change.row);
    if (!held)
        return goneFromRegister();
    Interface set = *held;
    const std::string typed = trimmed(change.text);
    const auto vlans = [&]() { return vlansFrom(network, set.device, typed); };
    switch (change.column) {
    case iName:
        set.name = typed == set.port ? std::string() : typed;
        break;
    case iType: {
        const auto kind = kindFrom(*held, typed);
        if (!kind)
            return kind.refusal();
        set.type = *kind;
        break;
    }
    case iAddresses:
        set.addresses = addressesFrom(typed);
        break;
    case iUntagged: {
        const auto list = vlans();
        if (!list)
            return list.refusal();
        if (list->vlans.size() > 1 || !list->ranges.empty())
            return error("a port is in one VLAN untagged", "write one number");
        set.untagged = list->vlans.empty() ? VlanId{} : list->vlans.front();
        break;
    }
    case iTagged: {
        const auto list = vlans();
        if (!list)
            return list.refusal();
        set.tagged = list->vlans;
        set.taggedRanges = list->ranges;
        break;
    }
    case iVrf:
        set.vrf = typed;
        break;
    case iZone:
        set.zone = typed;
        break;
    case iMac:
        set.mac = typed;
        break;
    case iMtu: {
        const auto mtu = numberFrom(typed, 65'535);
        if (!mtu)
            return mtu.refusal();
        set.mtu = *mtu;
        break;
    }
    case iArea: {
        OspfInterface ospf = *set.ospf;
        ospf.area = typed;
        if (!typed.empty() && !ospf.area.number())
            return error(fmt::format("{} is no area", typed), "write 0 or 0.0.0.0, or leave it empty");
        set.ospf = std::move(ospf);
        break;
    }
    case iCost: {
        const auto cost = numberFrom(typed, 65'535);
        if (!cost)
            return cost.refusal();
        OspfInterface ospf = *set.ospf;
        ospf.cost = *cost;
        set.ospf = std::move(ospf);
        break;
    }
    case iDisabled: {
        const auto flag = flagFrom(typed);
        if (!flag)
            return flag.refusal();
        set.disabled = *flag;
        break;
    }
    case iDhcp: {
        const auto flag = flagFrom(typed);
        if (!flag)
            return flag.refusal();
        set.dhcp = *flag;
        break;
    }
    case iRelay:
        set.dhcpRelay = addressesFrom(typed);
        break;
    default:
        return error("this cannot be typed here");
    }
    return take(network, putInterface(network, std::move(set), ids));
}

std::vector<NamedRow> vlanRows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<Vlan>().forEach([&](const Vlan& vlan) {
        out.push_back({fmt::format("{} {}", vlan.number, pathText(network, vlan.scope)),
                       {{Kind::vlan, vlan.id.value}, {}}});
    });
    return out;
}

std::string vlanText(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const Vlan* vlan = network.vlan({row.object.id});
    if (!vlan)
        return {};
    const auto count = [&](auto has) {
        int ports = 0;
        network.all<Interface>().forEach([&](const Interface& each) {
            ports +=
                each.type != InterfaceKind::vlan && each.type != InterfaceKind::subinterface && has(each);
        });
        return std::to_string(ports);
    };
    switch (column) {
    case vNumber:
        return std::to_string(vlan->number);
    case vName:
        return vlan->name;
    case vScope:
        return vlan->scope ? pathText(network, vlan->scope) : "everywhere";
    case vUntagged:
        return count([&](const Interface& each) { return each.untagged == vlan->id; });
    case vTagged:
        return count([&](const Interface& each) {
            return std::find(each.tagged.begin(), each.tagged.end(), vlan->id) != each.tagged.end();
        });
    default: {
        std::string out;
        network.all<Subnet>().forEach([&](const Subnet& subnet) {
            if (subnet.vlan == vlan->id)
                out += (out.empty() ? "" : ", ") + subnet.prefix.text();
        });
        return out;
    }
    }
}

bool isTaken(const Network& network, int number, GroupId scope, VlanId except = {}) {
    bool taken = false;
    network.all<Vlan>().forEach([&](const Vlan& each) {
        taken |= each.id != except && each.number == number && each.scope == scope;
    });
    return taken;
}

Result<Done> setVlan(Network& network, const Catalogue&, const CellChange& change, LengthUnit, IdSource&) {
    const Vlan* held = network.vlan({change.row.object.id});
    if (!held)
        return goneFromRegister();
    Vlan vlan = *held;
    if (change.column == vName) {
        vlan.name = trimmed(change.text);
    } else if (change.column == vNumber) {
        const auto number = numberFrom(change.text, 4094);
        if (!number || *number == 0)
            return error(fmt::format("{} is not a VLAN number", trimmed(change.text)),
                         "write one from 1 to 4094");
        if (isTaken(network, *number, vlan.scope, vlan.id))
            return error(fmt::format("there is a VLAN {} in that scope", *number), "choose another number");
        vlan.number = *number;
    } else {
        return error("this cannot be typed here");
    }
    network.put(std::move(vlan));
    return Done{};
}

/// The next free number after that of a row, in its scope.
Result<Done> addVlanRow(Network& network, const Row& like, IdSource& ids) {
    const Vlan* held = network.vlan({like.object.id});
    const GroupId scope = held ? held->scope : GroupId{};
    int number = held ? held->number + 1 : 2;
    while (number <= 4094 && isTaken(network, number, scope))
        ++number;
    return take(network, addVlan(network, number, "new", scope, ids));
}

std::string routeText(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const Route* route = recordOf<Route>(network, row);
    if (!route)
        return {};
    switch (column) {
    case rDevice:
        return deviceName(network, route->device);
    case rTo:
        return route->to.text();
    case rVia:
        return route->discards ? "discarded" : route->via.text();
    case rMetric:
        return orEmpty(route->metric);
    default:
        return route->vrf;
    }
}

Result<Done> setRoute(Network& network, const Catalogue&, const CellChange& change, LengthUnit,
                      IdSource& ids) {
    const Route* held = recordOf<Route>(network, change.row);
    if (!held)
        return goneFromRegister();
    Route route = *held;
    const std::string typed = trimmed(change.text);
    switch (change.column) {
    case rTo:
        route.to = typed;
        break;
    case rVia:
        route.discards = typed == "discarded";
        route.via = route.discards ? Address() : Address(typed);
        break;
    case rMetric: {
        const auto metric = numberFrom(typed, 1'000'000);
        if (!metric)
            return metric.refusal();
        route.metric = *metric;
        break;
    }
    case rVrf:
        route.vrf = typed;
        break;
    default:
        return error("this cannot be typed here");
    }
    return take(network, putRoute(network, std::move(route), ids));
}

/// A loopback without an address: what it is to be is typed into its row.
Result<Done> addInterface(Network& network, const Row& like, IdSource& ids) {
    const Device* device = network.device({like.object.id});
    if (!device)
        return error("there is no device to add an interface to", "select a row or a device first");
    Interface fresh;
    fresh.device = device->id;
    fresh.type = InterfaceKind::loopback;
    for (int number = 0; fresh.name.empty() || interfaceNamed(network, device->id, fresh.name); ++number)
        fresh.name = fmt::format("lo{}", number);
    return take(network, putInterface(network, std::move(fresh), ids));
}

Result<Done> removeInterfaces(Network& network, const std::vector<Row>& rows) {
    for (const Row& row : rows) {
        const Interface* held = recordOf<Interface>(network, row);
        if (!held) // with the one it stood on, perhaps
            continue;
        if (auto removed = take(network, removeInterface(network, held->device, held->id)); !removed)
            return removed;
    }
    return Done{};
}

/// Like another; the first of a device discards what goes to an example.
Result<Done> addRoute(Network& network, const Row& like, IdSource& ids) {
    if (!network.device({like.object.id}))
        return error("there is no device to add a route to", "select a row or a device first");
    const Route* held = recordOf<Route>(network, like);
    Route route = held ? *held : Route{};
    route.id = {};
    route.device = {like.object.id};
    if (!held) {
        route.to = examplePrefix;
        route.discards = true;
    }
    return take(network, putRoute(network, std::move(route), ids));
}

Result<Done> removeRoutes(Network& network, const std::vector<Row>& rows) {
    for (const Row& row : rows) {
        const Route* held = recordOf<Route>(network, row);
        if (!held)
            return goneFromRegister();
        if (auto removed = take(network, removeRoute(network, held->device, held->id)); !removed)
            return removed;
    }
    return Done{};
}

} // namespace

const RegisterTable& interfacesTable() {
    static constexpr RegisterTable table{"Interfaces", interfaceColumns, ownedRows<Interface>, interfaceText,
                                         setInterface, addInterface,     removeInterfaces};
    return table;
}
const RegisterTable& vlansTable() {
    static constexpr RegisterTable table{"VLANs", vlanColumns, vlanRows, vlanText, setVlan, addVlanRow};
    return table;
}
const RegisterTable& routesTable() {
    static constexpr RegisterTable table{"Static routes", routeColumns, ownedRows<Route>, routeText,
                                         setRoute,        addRoute,     removeRoutes};
    return table;
}

} // namespace underridge::edit

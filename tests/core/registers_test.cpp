// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/registers.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/table_text.h"
#include "core/model/ports.h"
#include "tests/support/first_office.h"
#include "tests/support/registered.h"

#include <set>

using namespace underridge;
using namespace underridge::model;
using edit::CellChange;
using edit::Register;

namespace {

struct Office {
    Office() : catalogue(exchange::builtInCatalogue()), ids(3), network(tests::firstOffice()) {}
    std::size_t column(Register which, std::string_view key) const {
        const auto columns = edit::columnsOf(which);
        for (std::size_t i = 0; i < columns.size(); ++i)
            if (columns[i].key == key)
                return i;
        qFatal("no column");
    }
    edit::Row row(Register which, std::string_view name, std::string_view second = {}) const {
        for (const edit::Row& row : edit::rowsOf(network, which))
            if (cell(which, row, 0) == name && (second.empty() || cell(which, row, 1) == second))
                return row;
        qFatal("no row");
    }
    std::string cell(Register which, const edit::Row& row, std::size_t column) const {
        return edit::cellText(network, which, row, column, LengthUnit::metres);
    }
    /// Types a text; why not, when it is refused.
    std::string type(Register which, const edit::Row& row, std::string_view key, const std::string& text) {
        auto act = edit::setCells(network, catalogue, which, {{row, column(which, key), text}},
                                  LengthUnit::metres, ids);
        if (!act)
            return act.refusal().text();
        network = act->network;
        return {};
    }

    /// A VLAN, a port of acc-1 of which something is said, and its gateway.
    void addForwarding() {
        DeviceId id;
        network.all<Device>().forEach([&](const Device& d) {
            if (d.name == "acc-1")
                id = d.id;
        });
        network.put(Vlan{ids.make<VlanId>(), 20, "video", {}, {}});
        Interface port;
        port.id = ids.make<InterfaceId>();
        port.device = id;
        port.port = "3";
        network.put(port);
        network.put(Route{ids.make<RouteId>(), id, "0.0.0.0/0", "10.84.99.1", {}, 0, false, {}});
        network.put(Subnet{ids.make<SubnetId>(), "10.84.99.0/24", "office", {}, {}, {}, {}, {}});
        Device device = *network.device(id);
        PacketFilter filter;
        filter.rules = {{"web", {}, {}, {}, {}, Protocol::any, {}, FilterAction::allow}};
        device.filter = filter;
        network.put(device);
        Ring ring;
        ring.id = ids.make<RingId>();
        ring.name = "ring 1";
        ring.links = {network.linkAt({id, "1"})->id, network.linkAt({id, "4"})->id};
        ring.owner = id;
        ring.blocked = ring.links.front();
        network.put(ring);
        addTray();
    }

    /// A tray of 20 m on a floor, with nothing in it.
    void addTray() {
        Group floor;
        floor.id = ids.make<GroupId>();
        floor.name = "Ground";
        floor.type = GroupKind::floor;
        network.put(floor);
        CableRoute tray;
        tray.id = ids.make<CableRouteId>();
        tray.name = "tray 1";
        tray.floor = floor.id;
        tray.points = {{0, 0}, {12'000, 0}, {12'000, 8'000}};
        network.put(tray);
    }

    Group addRack() {
        Group rack;
        rack.id = ids.make<GroupId>();
        rack.name = "R1";
        rack.type = GroupKind::rack;
        rack.rackUnits = 12;
        network.put(rack);
        return rack;
    }

    Catalogue catalogue;
    IdSource ids;
    Network network;
};

} // namespace

class RegistersTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void racks_say_what_is_free_and_take_other_units() {
        Office office;
        const Group rack = office.addRack();
        Device device;
        office.network.all<Device>().forEach([&](const Device& d) {
            if (d.name == "acc-1")
                device = d;
        });
        device.place = {rack.id, 0, 0, 0, 4, Side::front};
        office.network.put(device);
        const auto rows = edit::rowsOf(office.network, Register::racks);
        QCOMPARE(rows.size(), std::size_t{1});
        const auto cell = [&](std::string_view key) {
            const auto columns = edit::columnsOf(Register::racks);
            for (std::size_t i = 0; i < columns.size(); ++i)
                if (columns[i].key == key)
                    return edit::cellText(office.network, Register::racks, rows.front(), i,
                                          LengthUnit::metres);
            return std::string("no column");
        };
        QCOMPARE(cell("free"), std::string("11"));
        QCOMPARE(cell("gap"), std::string("8"));
        QCOMPARE(cell("watts"), std::string("460"));
        const auto type = [&](const char* text) {
            return edit::setCell(office.network, office.catalogue, Register::racks, {rows.front(), 3, text},
                                 LengthUnit::metres, office.ids);
        };
        QVERIFY(type("20"));
        QCOMPARE(cell("free"), std::string("19"));
        QVERIFY(!type("3")); // acc-1 stands in unit 4
        QVERIFY(!type("many"));
    }
    void cable_routes_say_how_long_and_how_full_they_are() {
        Office office;
        office.addTray();
        const auto row = edit::rowsOf(office.network, Register::cableRoutes).front();
        const auto cell = [&](const char* key) {
            return office.cell(Register::cableRoutes, row, office.column(Register::cableRoutes, key));
        };
        QCOMPARE(cell("length"), std::string("20 m"));
        QCOMPARE(cell("cables"), std::string("0"));
        QCOMPARE(cell("filled"), std::string("0"));
        // Two devices at its ends, and the cord between them runs in it.
        Link joins;
        office.network.all<Link>().forEach([&](const Link& link) {
            if (link.cable && office.network.cable(link.cable)->ends.size() == 2)
                joins = link;
        });
        const GroupId floor = office.network.cableRoute({row.object.id})->floor;
        for (const auto& [device, x, y] :
             {std::tuple(joins.a.device, 200, 100), std::tuple(joins.b.device, 11'900, 7'900)}) {
            Device held = *office.network.device(device);
            held.place = Place{floor, x, y, 0, 0, Side::front, Half::left};
            office.network.put(held);
        }
        QCOMPARE(cell("cables"), std::string("1"));
        QVERIFY(cell("filled") != "0");
        QVERIFY(!office.type(Register::cableRoutes, row, "kind", "pipe").empty());
        QCOMPARE(office.type(Register::cableRoutes, row, "kind", "conduit"), std::string());
        QCOMPARE(cell("depth"), std::string());
        QVERIFY(!office.type(Register::cableRoutes, row, "limit", "much").empty());
        QVERIFY(!office.type(Register::cableRoutes, row, "length", "4 m").empty());
        QVERIFY(!office.type(Register::cableRoutes, row, "width", "90 m").empty());
    }
    void there_is_a_row_for_everything() {
        Office office;
        QCOMPARE(edit::rowsOf(office.network, Register::devices).size(), std::size_t{8});
        QCOMPARE(edit::rowsOf(office.network, Register::links).size(), std::size_t{7});
        QCOMPARE(edit::rowsOf(office.network, Register::cables).size(), office.network.all<Cable>().size());
        std::size_t ports = 0;
        office.network.all<Device>().forEach(
            [&](const Device& d) { ports += portsOf(office.network, d).size(); });
        QCOMPARE(edit::rowsOf(office.network, Register::ports).size(), ports);
        for (int which = 0; which < edit::registerCount; ++which) {
            std::set<std::string_view> keys;
            for (const auto& column : edit::columnsOf(static_cast<Register>(which)))
                QVERIFY(keys.insert(column.key).second);
        }
    }

    void what_is_typed_is_what_is_read_in_every_column_that_can_be_typed_into() {
        const std::tuple<Register, const char*, const char*, const char*, const char*> cells[] = {
            {Register::devices, "acc-1", "", "name", "acc-9"},
            {Register::devices, "acc-1", "", "address", "10.84.99.77/24"},
            {Register::devices, "acc-1", "", "serial", "S-1"},
            {Register::devices, "acc-1", "", "outside", "yes"},
            {Register::devices, "acc-1", "", "note", "under the stairs"},
            {Register::ports, "acc-1", "7", "label", "till"},
            {Register::ports, "acc-1", "7", "speed", "100 Mbit/s"},
            {Register::ports, "acc-1", "7", "disabled", "yes"},
            {Register::ports, "acc-1", "7", "reserved", "yes"},
            {Register::ports, "acc-1", "7", "note", "kept free"},
            {Register::links, "", "", "length", "33 m"},
            {Register::links, "", "", "note", "along the wall"},
            {Register::cables, "OF-002", "", "label", "OF-200"},
            {Register::cables, "OF-002", "", "type", "OM3 duplex LC"},
            {Register::cables, "OF-002", "", "length", "14.5 m"},
            {Register::cables, "OF-002", "", "measured", "yes"},
            {Register::cables, "OF-002", "", "status", "planned"},
            {Register::cables, "OF-002", "", "jacket", "#102030"},
            {Register::cables, "OF-002", "", "note", "spare in the box"},
            {Register::racks, "R1", "", "name", "R9"},
            {Register::racks, "R1", "", "units", "24"},
            {Register::racks, "R1", "", "note", "behind the door"},
            {Register::interfaces, "acc-1", "3", "name", "uplink"},
            {Register::interfaces, "acc-1", "3", "type", "physical"},
            {Register::interfaces, "acc-1", "3", "addresses", "10.84.30.1/24, fd84:fe::1/64"},
            {Register::interfaces, "acc-1", "3", "untagged", "20"},
            {Register::interfaces, "acc-1", "3", "tagged", "20,100-110"},
            {Register::interfaces, "acc-1", "3", "vrf", "red"},
            {Register::interfaces, "acc-1", "3", "zone", "inside"},
            {Register::interfaces, "acc-1", "3", "mtu", "9000"},
            {Register::interfaces, "acc-1", "3", "mac", "02:84:00:00:00:01"},
            {Register::interfaces, "acc-1", "3", "area", "0.0.0.1"},
            {Register::interfaces, "acc-1", "3", "cost", "10"},
            {Register::interfaces, "acc-1", "3", "disabled", "yes"},
            {Register::vlans, "20", "", "number", "21"},
            {Register::vlans, "20", "", "name", "cameras"},
            {Register::subnets, "10.84.99.0/24", "", "prefix", "10.84.96.0/20"},
            {Register::subnets, "10.84.99.0/24", "", "name", "desks"},
            {Register::subnets, "10.84.99.0/24", "", "vlan", "20"},
            {Register::subnets, "10.84.99.0/24", "", "gateway", "10.84.99.1"},
            {Register::subnets, "10.84.99.0/24", "", "dhcpServers", "files-1, edge-1"},
            {Register::interfaces, "acc-1", "3", "dhcp", "yes"},
            {Register::interfaces, "acc-1", "3", "dhcpRelay", "10.84.99.9, fd84:fe::9"},
            {Register::cableRoutes, "tray 1", "", "name", "tray 9"},
            {Register::cableRoutes, "tray 1", "", "width", "0.3 m"},
            {Register::cableRoutes, "tray 1", "", "depth", "0.1 m"},
            {Register::cableRoutes, "tray 1", "", "height", "3 m"},
            {Register::cableRoutes, "tray 1", "", "limit", "40"},
            {Register::cableRoutes, "tray 1", "", "note", "above the ceiling"},
            {Register::cableRoutes, "tray 1", "", "kind", "conduit"},
            {Register::rings, "ring 1", "", "name", "offices"},
            {Register::rings, "ring 1", "", "protocol", "MRP (IEC 62439-2)"},
            {Register::rings, "ring 1", "", "owner", "print-1"},
            {Register::rings, "ring 1", "", "blocked", "acc-1 4 – print-1 1"},
            {Register::rings, "ring 1", "", "vlans", "20,30-39"},
            {Register::filterRules, "acc-1", "", "name", "mail"},
            {Register::filterRules, "acc-1", "", "action", "refuse"},
            {Register::filterRules, "acc-1", "", "from", "10.84.0.0/16, fd84:fe::/32"},
            {Register::filterRules, "acc-1", "", "to", "10.84.99.7"},
            {Register::filterRules, "acc-1", "", "fromZone", "inside"},
            {Register::filterRules, "acc-1", "", "toZone", "outside"},
            {Register::filterRules, "acc-1", "", "protocol", "TCP"},
            {Register::filterRules, "acc-1", "", "ports", "25, 8000-8080"},
            {Register::routes, "acc-1", "", "to", "10.90.0.0/16"},
            {Register::routes, "acc-1", "", "via", "10.84.99.9"},
            {Register::routes, "acc-1", "", "metric", "5"},
            {Register::routes, "acc-1", "", "vrf", "red"},
        };
        std::set<std::pair<Register, std::string_view>> tried;
        for (const auto& [which, name, second, key, text] : cells) {
            Office office;
            office.addRack();
            office.addForwarding();
            const edit::Row row =
                *name ? office.row(which, name, second) : edit::rowsOf(office.network, which).front();
            QCOMPARE(office.type(which, row, key, text), std::string());
            QCOMPARE(office.cell(which, row, office.column(which, key)), std::string(text));
            tried.insert({which, key});
        }
        for (int which = 0; which < edit::registerCount; ++which)
            for (const auto& column : edit::columnsOf(static_cast<Register>(which)))
                QVERIFY2(column.editable == tried.contains({static_cast<Register>(which), column.key}),
                         std::string(column.key).c_str());
    }

    void what_cannot_be_set_of_interfaces_and_routes_is_refused() {
        Office office;
        office.addForwarding();
        const edit::Row port = office.row(Register::interfaces, "acc-1", "3"),
                        route = office.row(Register::routes, "acc-1"),
                        rule = office.row(Register::filterRules, "acc-1"),
                        subnet = office.row(Register::subnets, "10.84.99.0/24");
        const std::tuple<Register, edit::Row, const char*, const char*, const char*> wrong[] = {
            {Register::interfaces, port, "addresses", "10.84.30.1",
             "is not an address with its prefix length"},
            {Register::interfaces, port, "untagged", "21", "there is no VLAN 21 here"},
            {Register::interfaces, port, "untagged", "20-30", "in one VLAN untagged"},
            {Register::interfaces, port, "tagged", "5000", "is not a VLAN number"},
            {Register::interfaces, port, "mtu", "large", "is not a number"},
            {Register::interfaces, port, "area", "north", "is no area"},
            {Register::subnets, subnet, "prefix", "10.84.99.0", "is no subnet"},
            {Register::subnets, subnet, "vlan", "21", "there is no VLAN 21"},
            {Register::subnets, subnet, "vlan", "x", "is not a VLAN number"},
            {Register::filterRules, rule, "action", "perhaps", "is not known here"},
            {Register::filterRules, rule, "from", "everyone", "is no address or prefix"},
            {Register::filterRules, rule, "ports", "99999", "is no port or range of ports"},
            {Register::filterRules, rule, "ports", "80-70", "is no port or range of ports"},
            {Register::filterRules, rule, "ports", "0", "is no port or range of ports"},
            {Register::routes, route, "to", "10.90.0.0", "is not a prefix"},
            {Register::routes, route, "via", "fd84:fe::1", "is no next hop"},
        };
        const Network before = office.network;
        for (const auto& [which, row, key, text, why] : wrong)
            QVERIFY2(office.type(which, row, key, text).find(why) != std::string::npos,
                     office.type(which, row, key, text).c_str());
        QVERIFY(office.network == before);
    }

    void subnets_in_use_are_listed_and_a_name_records_them() {
        Office office;
        office.addForwarding();
        const edit::Row port = office.row(Register::interfaces, "acc-1", "3");
        QCOMPARE(office.type(Register::interfaces, port, "addresses", "10.84.177.1/24"), std::string());
        const edit::Row row = office.row(Register::subnets, "10.84.177.0/24");
        QCOMPARE(row.object.id, std::uint64_t{0});
        const std::size_t used = office.column(Register::subnets, "used"),
                          next = office.column(Register::subnets, "next");
        QCOMPARE(office.cell(Register::subnets, row, used), std::string("1 of 254"));
        QCOMPARE(office.cell(Register::subnets, row, next), std::string("10.84.177.2"));
        QVERIFY(
            !office.type(Register::subnets, row, "prefix", "10.84.178.0/24").empty()); // nothing is recorded
        const std::size_t before = office.network.all<Subnet>().size();
        QCOMPARE(office.type(Register::subnets, row, "name", "yard"), std::string());
        QCOMPARE(office.network.all<Subnet>().size(), before + 1);
        const edit::Row recorded = office.row(Register::subnets, "10.84.177.0/24");
        QVERIFY(recorded.object.id != 0);
        QCOMPARE(office.cell(Register::subnets, recorded, used), std::string("1 of 254"));
    }
    void rows_are_added_like_others_and_taken_away() {
        Office office;
        office.addForwarding();
        const auto count = [&](Register which) { return edit::rowsOf(office.network, which).size(); };
        const auto add = [&](Register which, const edit::Row& like) {
            auto act = edit::addRow(office.network, which, like, office.ids);
            return act ? (office.network = act->network, std::string()) : act.refusal().what;
        };
        const auto remove = [&](Register which, const std::vector<edit::Row>& rows) {
            auto act = edit::removeRows(office.network, which, rows);
            return act ? (office.network = act->network, std::string()) : act.refusal().what;
        };
        const edit::Row route = office.row(Register::routes, "acc-1");
        QCOMPARE(add(Register::routes, route), std::string());
        QCOMPARE(count(Register::routes), std::size_t{2});
        QCOMPARE(remove(Register::routes, edit::rowsOf(office.network, Register::routes)), std::string());
        QCOMPARE(count(Register::routes), std::size_t{0});
        QCOMPARE(add(Register::routes, {route.object, {}}), std::string()); // to the device alone
        QCOMPARE(office.cell(Register::routes, office.row(Register::routes, "acc-1"), 1),
                 std::string("192.0.2.0/24"));
        QVERIFY(!add(Register::routes, {}).empty());

        const edit::Row rule = office.row(Register::filterRules, "acc-1");
        QCOMPARE(office.type(Register::filterRules, rule, "ports", "25"), std::string());
        QCOMPARE(add(Register::filterRules, rule), std::string());
        QCOMPARE(add(Register::filterRules, rule), std::string());
        const auto rules = edit::rowsOf(office.network, Register::filterRules);
        QCOMPARE(rules.size(), std::size_t{3});
        const std::size_t name = office.column(Register::filterRules, "name"),
                          ports = office.column(Register::filterRules, "ports");
        QCOMPARE(office.cell(Register::filterRules, rules[0], name), std::string("web"));
        QCOMPARE(office.cell(Register::filterRules, rules[1], ports), std::string("25")); // like the first
        QCOMPARE(remove(Register::filterRules, {rules[0], rules[2]}), std::string());
        QCOMPARE(count(Register::filterRules), std::size_t{1});
        QCOMPARE(office.cell(Register::filterRules, rules[0], name), std::string("new"));
        QVERIFY(!remove(Register::filterRules, {rules[2]}).empty()); // no longer there

        const std::size_t subnets = count(Register::subnets);
        QCOMPARE(add(Register::subnets, {}), std::string());
        QCOMPARE(count(Register::subnets), subnets + 1);
        QCOMPARE(remove(Register::subnets, {office.row(Register::subnets, "192.0.2.0/24")}), std::string());
        QCOMPARE(count(Register::subnets), subnets);
        QCOMPARE(remove(Register::interfaces, edit::rowsOf(office.network, Register::interfaces)),
                 std::string());
        QCOMPARE(count(Register::interfaces), std::size_t{0});
        QVERIFY(!add(Register::devices, {}).empty());
        QVERIFY(!remove(Register::links, {}).empty());
        QVERIFY(!remove(Register::routes, {}).empty());
    }
    void an_interface_is_added_and_becomes_what_is_typed() {
        Office office;
        office.addForwarding();
        const Register which = Register::interfaces;
        const edit::Row port = office.row(which, "acc-1", "3");
        for (const char* name : {"lo0", "lo1"}) {
            const auto act = edit::addRow(office.network, which, port, office.ids);
            QVERIFY(act);
            office.network = act->network;
            QCOMPARE(office.cell(which, office.row(which, "acc-1", name), office.column(which, "type")),
                     std::string("loopback"));
        }
        const edit::Row fresh = office.row(which, "acc-1", "lo1");
        QVERIFY(office.type(which, fresh, "type", "VLAN").find("needs its VLAN") != std::string::npos);
        QCOMPARE(office.type(which, fresh, "untagged", "20"), std::string());
        QCOMPARE(office.type(which, fresh, "type", "vlan"), std::string());
        QCOMPARE(office.type(which, fresh, "name", "vlan20"), std::string());
        QCOMPARE(office.type(which, fresh, "addresses", "10.84.20.1/24"), std::string());
        QCOMPARE(office.cell(which, fresh, office.column(which, "type")), std::string("VLAN"));
        QVERIFY(office.type(which, fresh, "type", "physical").find("does not become") != std::string::npos);
        QVERIFY(office.type(which, port, "type", "loopback").find("does not become") != std::string::npos);
        QVERIFY(office.type(which, fresh, "type", "thing").find("no kind of interface") != std::string::npos);
        QCOMPARE(office.type(which, port, "type", "physical"), std::string()); // as it is
        QVERIFY(!edit::addRow(office.network, which, {}, office.ids));         // of no device
    }
    void vlans_are_added_by_the_next_free_number_and_renumbered() {
        Office office;
        office.addForwarding();
        const edit::Row twenty = office.row(Register::vlans, "20");
        for (int i = 0; i < 2; ++i)
            office.network = edit::addRow(office.network, Register::vlans, twenty, office.ids)->network;
        const edit::Row fresh = office.row(Register::vlans, "22");
        QCOMPARE(office.type(Register::vlans, fresh, "number", "30"), std::string());
        QVERIFY(office.type(Register::vlans, fresh, "number", "21").find("there is a VLAN 21") !=
                std::string::npos);
        for (const char* wrong : {"0", "4095", "x", "", "-4"})
            QVERIFY(!office.type(Register::vlans, fresh, "number", wrong).empty());
        QCOMPARE(office.cell(Register::vlans, fresh, 0), std::string("30"));
    }
    void a_vlan_number_of_several_places_is_that_of_everywhere_or_refused() {
        Office office;
        office.addForwarding();
        const edit::Row subnet = office.row(Register::subnets, "10.84.99.0/24");
        Group site = office.addRack();
        office.network.put(Vlan{office.ids.make<VlanId>(), 20, "video there", site.id, {}});
        QCOMPARE(office.type(Register::subnets, subnet, "vlan", "20"), std::string());
        QVERIFY(!office.network.vlan(office.network.find<Subnet>({subnet.object.id, 0})->vlan)->scope);
        for (int i = 0; i < 2; ++i)
            office.network.put(Vlan{office.ids.make<VlanId>(), 30, "x", site.id, {}});
        QVERIFY(office.type(Register::subnets, subnet, "vlan", "30").find("in 2 places") !=
                std::string::npos);
        QCOMPARE(office.type(Register::subnets, subnet, "vlan", ""), std::string());
    }
    void nonsense_is_refused_with_its_row_and_column_and_changes_nothing() {
        Office office;
        const Network before = office.network;
        const auto refused = [&](Register which, const edit::Row& row, const char* key, const char* text) {
            return office.type(which, row, key, text);
        };
        const auto port = office.row(Register::ports, "acc-1", "7");
        const edit::Row cable = office.row(Register::cables, "OF-002");
        QVERIFY(refused(Register::ports, port, "speed", "3 Gbit/s").find("acc-1, Speed") !=
                std::string::npos);
        QVERIFY(!refused(Register::ports, port, "disabled", "perhaps").empty());
        QVERIFY(!refused(Register::cables, cable, "length", "long").empty());
        QVERIFY(!refused(Register::cables, cable, "type", "string").empty());
        QVERIFY(!refused(Register::cables, cable, "status", "lost").empty());
        QVERIFY(!refused(Register::cables, cable, "jacket", "blue").empty());
        QVERIFY(!refused(Register::cables, cable, "a", "elsewhere").empty());
        QVERIFY(!refused(Register::devices, office.row(Register::devices, "acc-1"), "name", " ").empty());
        QVERIFY(
            !refused(Register::devices, office.row(Register::devices, "acc-1"), "address", "10.84").empty());
        QVERIFY(office.network == before);
    }

    void a_preview_tells_row_by_row_and_changes_nothing() {
        Office office;
        const auto length = office.column(Register::cables, "length");
        const auto rows = edit::rowsOf(office.network, Register::cables);
        const std::vector<CellChange> changes{
            {rows[0], length, "5 m"},
            {rows[1], length, "very"},
            {rows[2], length, office.cell(Register::cables, rows[2], length)},
            {rows[3], office.column(Register::cables, "a"), "x"}};
        const auto previews = edit::previewCells(office.network, office.catalogue, Register::cables, changes,
                                                 LengthUnit::metres, office.ids);
        QVERIFY(previews[0].changes());
        QVERIFY(!previews[1].changes() && !previews[1].wrong.empty());
        QVERIFY(!previews[2].changes() && previews[2].wrong.empty());
        QVERIFY(!previews[3].wrong.empty());
    }

    void cells_of_a_spreadsheet_come_through() {
        const auto rows =
            exchange::readRows("a\tb c\t\"d\te\"\n\"line\none\"\t\"he said \"\"no\"\"\"\n", '\t');
        QCOMPARE(rows.size(), std::size_t{2});
        QCOMPARE(rows[0].cells, (std::vector<std::string>{"a", "b c", "d\te"}));
        QCOMPARE(rows[1].cells, (std::vector<std::string>{"line\none", "he said \"no\""}));
        for (const std::string cell : {"plain", "with\ttab", "with \"quotes\"", "two\nlines"})
            QCOMPARE(exchange::readRows(exchange::quoted(cell) + "\tx\n", '\t').front().cells.front(), cell);
    }
};

UNDERRIDGE_TEST(RegistersTest)
#include "registers_test.moc"

// SPDX-License-Identifier: GPL-3.0-or-later
// Default gateways hosts are told by DHCP: from a server on their subnet, or over a relay.
#include "core/edit/registers.h"
#include "tests/support/first_office.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;

namespace {

/// A router between the subnet of two hosts, which ask, and that of a server.
struct Leases : tests::Forwarded {
    Leases() {
        switches(1, "'mode':'off'");
        router("r1");
        link("r1:1", "s1:24");
        routed("r1", "1", "10.84.1.1/24");
        host("h1", "s1:1", "10.84.1.11/24");
        host("h2", "s1:2", "10.84.1.12/24");
        acts("{'act':'interface','device':'h1','port':'1','dhcp':true}\n"
             "{'act':'interface','device':'h2','port':'1','dhcp':true}");
        acts("{'act':'add','model':'workstation','names':'srv'}");
        link("srv:1", "r1:2");
        routed("r1", "2", "10.84.2.1/24");
        acts("{'act':'address','at':'srv:1','address':'10.84.2.9/24'}\n"
             "{'act':'route','device':'srv','to':'0.0.0.0/0','via':'10.84.2.1'}");
    }
    void serve(const std::string& gateway = "10.84.1.1") {
        acts(fmt::format("{{'act':'subnet','prefix':'10.84.1.0/24','gateway':'{}','dhcpServers':['srv']}}",
                         gateway));
    }
    void relay() { acts("{'act':'interface','device':'r1','port':'1','dhcpRelay':['10.84.2.9']}"); }
};

} // namespace

class DhcpTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void over_a_relay_a_host_is_told_its_gateway() {
        Leases n;
        QVERIFY(!n.trace("h1", "srv").reached());
        QCOMPARE(n.trace("h1", "srv").reason,
                 std::string("h1 has no route to 10.84.2.9: DHCP tells it no gateway"));
        QCOMPARE(n.said("dhcp-silent").size(), 2);
        QCOMPARE(n.said("dhcp-silent").front(),
                 QString("h1 1 asks for its address, but no server of 10.84.1.0/24 is known"));
        n.serve();
        QCOMPARE(n.said("dhcp-silent").front(),
                 QString("h1 1 is heard by no DHCP server of 10.84.1.0/24, nor by a relay to one"));
        QCOMPARE(n.said("gateway-missing"), QStringList()); // that is why
        n.relay();
        const auto trace = n.trace("h1", "srv");
        QVERIFY(trace.reached());
        QCOMPARE(tests::text(trace.hops.front().decision), QString("0.0.0.0/0 via 10.84.1.1, DHCP"));
        QCOMPARE(trace.mtu(), 1500);
        QCOMPARE(n.found(), QStringList());
    }

    void what_a_relay_sends_must_come_to_the_server_and_back() {
        Leases n;
        n.serve();
        n.relay();
        QCOMPARE(n.said("dhcp-relay"), QStringList());
        n.acts("{'act':'route','device':'srv','to':'0.0.0.0/0','via':'10.84.2.1','remove':true}");
        QCOMPARE(n.said("dhcp-relay"),
                 QStringList("what srv answers the DHCP relay r1 1 does not come back: srv has no route to "
                             "10.84.1.1"));
    }

    void a_relay_without_a_way_to_its_server_says_so_once() {
        Leases n;
        n.serve();
        n.router("r2");
        n.link("r1:3", "r2:1");
        n.routed("r1", "3", "10.84.9.1/30");
        n.routed("r2", "1", "10.84.9.2/30");
        n.acts("{'act':'add','model':'workstation','names':'far'}");
        n.link("far:1", "r2:2");
        n.routed("r2", "2", "10.84.3.1/24");
        n.acts("{'act':'address','at':'far:1','address':'10.84.3.9/24'}\n"
               "{'act':'route','device':'far','to':'0.0.0.0/0','via':'10.84.3.1'}\n"
               "{'act':'interface','device':'r1','port':'1','dhcpRelay':['10.84.3.9']}\n"
               "{'act':'interface','device':'r1','port':'2','dhcpRelay':['10.84.3.9']}");
        QCOMPARE(n.said("dhcp-relay"),
                 QStringList("what r1 1 relays to the DHCP server far does not get there: r1 has no route to "
                             "10.84.3.9"));
        n.acts("{'act':'route','device':'r1','to':'10.84.3.0/24','via':'10.84.9.2'}");
        QCOMPARE(n.said("dhcp-relay").size(), 2); // there, but not back, to either subnet
        n.acts("{'act':'route','device':'r2','to':'10.84.0.0/16','via':'10.84.9.1'}");
        QCOMPARE(n.said("dhcp-relay"), QStringList());
        n.acts("{'act':'interface','device':'r1','port':'1','dhcpRelay':['10.84.77.77']}\n"
               "{'act':'interface','device':'r1','port':'2','dhcpRelay':[]}");
        QCOMPARE(n.said("dhcp-relay"), QStringList()); // nobody drawn has that address
    }

    void a_server_on_the_subnet_needs_no_relay() {
        Leases n;
        n.host("local", "s1:3", "10.84.1.5/24", 0, "10.84.1.1");
        n.acts("{'act':'subnet','prefix':'10.84.1.0/24','gateway':'10.84.1.1','dhcpServers':['local']}");
        QVERIFY(n.trace("h2", "srv").reached());
        // Its port down, it hands out nothing.
        n.acts("{'act':'interface','device':'local','port':'1','disabled':true}");
        QVERIFY(!n.trace("h2", "srv").reached());
    }

    void a_typed_gateway_comes_first_and_one_elsewhere_is_of_no_use() {
        Leases n;
        n.serve();
        n.relay();
        n.acts("{'act':'route','device':'h1','to':'0.0.0.0/0','via':'10.84.1.99'}");
        QVERIFY(!n.trace("h1", "srv").reached());
        QVERIFY(n.trace("h2", "srv").reached());
        // A subnet that states no gateway.
        n.serve("");
        QVERIFY(!n.trace("h2", "srv").reached());
        QCOMPARE(n.said("gateway-missing"), QStringList("h2 1 is told no gateway for 10.84.1.0/24"));
    }

    void the_least_mtu_of_the_way_is_said() {
        Leases n;
        n.serve();
        n.relay();
        n.acts("{'act':'interface','device':'r1','port':'2','mtu':1400}");
        const auto trace = n.trace("h1", "srv");
        QVERIFY(trace.reached());
        QCOMPARE(trace.mtu(), 1400);
        QCOMPARE(trace.hops.front().mtu, 1500);
        QCOMPARE(trace.hops.back().mtu, 0);
    }

    void the_registers_take_it() {
        Leases n;
        n.acts("{'act':'subnet','prefix':'10.84.1.0/24','name':'office'}");
        const auto column = [](edit::Register which, std::string_view key) {
            const auto columns = edit::columnsOf(which);
            for (std::size_t c = 0; c < columns.size(); ++c)
                if (columns[c].key == key)
                    return c;
            qFatal("no such column");
        };
        const auto type = [&](edit::Register which, const edit::Row& row, std::string_view key,
                              const char* text) {
            Network next = n.network;
            const auto set = edit::setCell(next, n.catalogue, which, {row, column(which, key), text},
                                           LengthUnit::metres, n.ids);
            if (set)
                n.network = next;
            return bool(set);
        };
        const auto subnet = edit::rowsOf(n.network, edit::Register::subnets).front();
        QVERIFY(type(edit::Register::subnets, subnet, "gateway", "10.84.1.1"));
        QVERIFY(!type(edit::Register::subnets, subnet, "gateway", "10.84.2.1"));
        QVERIFY(type(edit::Register::subnets, subnet, "dhcpServers", "srv, h2"));
        QVERIFY(!type(edit::Register::subnets, subnet, "dhcpServers", "nobody"));
        QCOMPARE(edit::cellText(n.network, edit::Register::subnets, subnet,
                                column(edit::Register::subnets, "dhcpServers"), LengthUnit::metres),
                 std::string("srv, h2"));
        for (const edit::Row& row : edit::rowsOf(n.network, edit::Register::interfaces))
            if (edit::cellText(n.network, edit::Register::interfaces, row, 0, LengthUnit::metres) == "r1")
                QVERIFY(type(edit::Register::interfaces, row, "dhcpRelay", "10.84.2.9"));
        n.forwarding.reset();
        QVERIFY(n.trace("h1", "srv").reached());
    }
};

UNDERRIDGE_TEST(DhcpTest)
#include "dhcp_test.moc"

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using linking::Standing;
using tests::text;
using Bench = tests::Workbench;

class LinkingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void endpoints_leave_the_uplinks_alone_unless_they_may_take_them() {
        Bench b;
        const DeviceId sw = b.add("compact-switch-8");
        for (int i = 0; i < 20; ++i) {
            const auto pair = b.best({sw, {}}, {b.add("workstation"), {}});
            if (!pair) {
                QVERIFY(QString::fromStdString(pair.refusal().text()).contains("only uplink ports left"));
                break;
            }
            QVERIFY2(portAt(b.network, pair->a)->like->block == Block::access, pair->a.port.c_str());
            b.network = edit::makeLink(b.network, b.catalogue, *pair, b.ids)->network;
        }
        const DeviceId late = b.add("workstation");
        QVERIFY(!b.best({sw, {}}, {late, {}}));
        linking::Habits habits;
        habits.hostsTakeUplinks = true;
        const auto pair = linking::bestPair(b.network, b.catalogue, {sw, {}}, {late, {}}, habits);
        QVERIFY(pair);
        QVERIFY(portAt(b.network, pair->a)->like->block == Block::uplink);
        // A switch still takes them.
        QVERIFY(b.best({sw, {}}, {b.add("access-switch-24"), {}}));
    }

    void free_ports_are_taken_from_the_end_one_likes() {
        Bench b;
        const DeviceId sw = b.add("access-switch-24"), pc = b.add("workstation");
        QCOMPARE(b.best({sw, {}}, {pc, {}})->a.port, std::string("1"));
        linking::Habits habits;
        habits.fromHighEnd = true;
        QCOMPARE(linking::bestPair(b.network, b.catalogue, {sw, {}}, {pc, {}}, habits)->a.port,
                 std::string("24"));
    }

    void ports_fit_or_say_why_not_data() {
        QTest::addColumn<QString>("modelA");
        QTest::addColumn<QString>("portA");
        QTest::addColumn<QString>("modelB");
        QTest::addColumn<QString>("portB");
        QTest::addColumn<QString>("cable"); // empty: does not fit
        QTest::addColumn<int>("speed");
        QTest::addColumn<int>("transceivers");
        QTest::newRow("copper") << "access-switch-24"
                                << "1"
                                << "workstation"
                                << "1"
                                << "cat6a" << 1000 << 0;
        QTest::newRow("slower peer sets the speed") << "access-switch-24"
                                                    << "1"
                                                    << "printer"
                                                    << "1"
                                                    << "cat6a" << 100 << 0;
        QTest::newRow("cages take direct-attach") << "access-switch-24"
                                                  << "X1"
                                                  << "distribution-switch-24"
                                                  << "1"
                                                  << "dac-sfpp" << 10000 << 0;
        QTest::newRow("SFP into SFP+") << "compact-switch-8"
                                       << "X1"
                                       << "access-switch-24"
                                       << "X1"
                                       << "dac-sfp" << 1000 << 0;
        QTest::newRow("SFP+ into SFP28") << "access-switch-24"
                                         << "X1"
                                         << "distribution-switch-24"
                                         << "X1"
                                         << "dac-sfpp" << 10000 << 0;
        QTest::newRow("SFP not into SFP28") << "compact-switch-8"
                                            << "X1"
                                            << "distribution-switch-24"
                                            << "X1"
                                            << "" << 0 << 0;
        QTest::newRow("QSFP+ pair") << "distribution-switch-24"
                                    << "S1"
                                    << "distribution-switch-24"
                                    << "S2"
                                    << "dac-qsfpp" << 40000 << 0;
        QTest::newRow("RJ45 to cage needs a transceiver") << "border-router"
                                                          << "1"
                                                          << "access-switch-24"
                                                          << "X1"
                                                          << "cat6a" << 1000 << 1;
        QTest::newRow("QSFP+ to RJ45") << "distribution-switch-24"
                                       << "S1"
                                       << "workstation"
                                       << "1"
                                       << "" << 0 << 0;
        QTest::newRow("two fixed MDI-X ports take a crossed cord") << "hub-8"
                                                                   << "1"
                                                                   << "hub-8"
                                                                   << "2"
                                                                   << "cat6a-crossed" << 10 << 0;
        QTest::newRow("fixed MDI-X and fixed MDI") << "hub-8"
                                                   << "1"
                                                   << "hub-8"
                                                   << "8"
                                                   << "cat6a" << 10 << 0;
        QTest::newRow("fixed MDI-X and automatic") << "hub-8"
                                                   << "1"
                                                   << "workstation"
                                                   << "1"
                                                   << "cat6a" << 10 << 0;
        QTest::newRow("M12 to RJ45") << "industrial-switch-m12"
                                     << "1"
                                     << "access-switch-24"
                                     << "1"
                                     << "m12-d-rj45" << 100 << 0;
        QTest::newRow("panel rear to outlet rear") << "patch-panel-24"
                                                   << "R1"
                                                   << "outlet-2"
                                                   << "R1"
                                                   << "cat6a-installed" << 10000 << 0;
        QTest::newRow("panel front to switch") << "patch-panel-24"
                                               << "1"
                                               << "access-switch-24"
                                               << "1"
                                               << "cat6a" << 1000 << 0;
        QTest::newRow("single-mode panel to a cage") << "fibre-panel-12-os2"
                                                     << "1"
                                                     << "compact-switch-8"
                                                     << "X1"
                                                     << "os2-lc" << 1000 << 1;
        QTest::newRow("serial line") << "serial-server-8"
                                     << "1"
                                     << "sensor-serial"
                                     << "S1"
                                     << "serial-de9-rj45" << 1 << 0;
        QTest::newRow("power carries no data") << "ups"
                                               << "P1"
                                               << "pdu"
                                               << "O1"
                                               << "" << 0 << 0;
        QTest::newRow("console cord") << "workstation"
                                      << "usb"
                                      << "access-switch-24"
                                      << "con"
                                      << "console-usb" << 0 << 0;
        QTest::newRow("console is not for data") << "access-switch-24"
                                                 << "con"
                                                 << "workstation"
                                                 << "1"
                                                 << "" << 0 << 0;
        QTest::newRow("two consoles") << "access-switch-24"
                                      << "con"
                                      << "border-router"
                                      << "con"
                                      << "" << 0 << 0;
        QTest::newRow("two terminals") << "workstation"
                                       << "usb"
                                       << "workstation"
                                       << "usb"
                                       << "" << 0 << 0;
    }
    void radio_needs_no_cable_and_an_access_point_takes_many() {
        Bench b;
        const auto ap = b.add("access-point"), first = b.add("tablet"), second = b.add("tablet");
        b.link({first, {}}, {ap, {}});
        b.link({second, {}}, {ap, {}});
        QCOMPARE(b.network.all<Link>().size(), std::size_t{2});
        QCOMPARE(b.network.all<Cable>().size(), std::size_t{0});
        b.network.all<Link>().forEach([&](const Link& link) {
            QCOMPARE(link.medium, Medium::radio);
            QCOMPARE(link.b.port, std::string("radio"));
        });
        const auto bridge = b.add("radio-bridge"), far = b.add("radio-bridge"), third = b.add("radio-bridge");
        b.link({bridge, "radio"}, {far, "radio"});
        QVERIFY(!b.best({third, "radio"}, {first, {}}));
        QVERIFY(!b.best({third, "radio"}, {bridge, "radio"}));
    }

    void ports_that_only_a_source_named_are_there_but_join_nothing_by_guess() {
        Bench b;
        const auto peer = b.add("access-switch-24");
        Device device;
        device.id = b.ids.make<DeviceId>();
        device.name = "found";
        device.learned = PortNames({"port-1"});
        b.network.put(device);
        Port port;
        port.device = device.id;
        port.port = "port-1";
        port.speed = 1000;
        b.network.put(port);
        const auto ports = portsOf(b.network, device);
        QCOMPARE(ports.size(), std::size_t{1});
        QCOMPARE(ports.front().key, std::string("port-1"));
        QCOMPARE(ports.front().rates(), (std::vector<int>{1000}));
        QCOMPARE(roleOf(b.network, device), Role::unknown);
        const auto proposal = b.best({device.id, {}}, {peer, {}});
        QVERIFY(!proposal);
        QVERIFY(text(proposal.refusal().what).contains("connector"));
    }

    void ports_fit_or_say_why_not() {
        QFETCH(QString, modelA);
        QFETCH(QString, portA);
        QFETCH(QString, modelB);
        QFETCH(QString, portB);
        QFETCH(QString, cable);
        QFETCH(int, speed);
        QFETCH(int, transceivers);
        Bench b;
        const auto x = b.add(modelA.toStdString(), "x"), y = b.add(modelB.toStdString(), "y");
        for (const bool turned : {false, true}) {
            const auto one = portAt(b.network, {x, portA.toStdString()}),
                       two = portAt(b.network, {y, portB.toStdString()});
            const auto fit =
                turned ? linking::fit(*two, *one, b.catalogue) : linking::fit(*one, *two, b.catalogue);
            QCOMPARE(static_cast<bool>(fit), !cable.isEmpty());
            if (!fit) {
                QVERIFY(!fit.why.empty());
                continue;
            }
            QCOMPARE(text(fit.joints.front().cable), cable);
            QCOMPARE(fit.joints.front().speed, speed);
            QCOMPARE(fit.joints.front().transceivers(), transceivers);
        }
    }

    void the_best_pair_follows_the_trade_data() {
        QTest::addColumn<QString>("modelA");
        QTest::addColumn<QString>("modelB");
        QTest::addColumn<QString>("ports");
        QTest::newRow("host on the access block from the low end") << "workstation"
                                                                   << "access-switch-24"
                                                                   << "1 1";
        QTest::newRow("the other way round") << "access-switch-24"
                                             << "workstation"
                                             << "1 1";
        QTest::newRow("uplink to the distribution's access block") << "access-switch-24"
                                                                   << "distribution-switch-24"
                                                                   << "X1 1";
        QTest::newRow("switches of one tier by uplinks") << "access-switch-24"
                                                         << "access-switch-24"
                                                         << "X1 X1";
        QTest::newRow("compact switch upwards by uplink") << "compact-switch-8"
                                                          << "access-switch-24"
                                                          << "X1 X1";
        QTest::newRow("access point gets power") << "access-point"
                                                 << "access-switch-24"
                                                 << "1 1";
        QTest::newRow("workstation behind a phone") << "phone"
                                                    << "workstation"
                                                    << "2 1";
        QTest::newRow("phone to the switch by its own uplink") << "phone"
                                                               << "access-switch-24"
                                                               << "1 1";
        QTest::newRow("server on copper of an access switch") << "server"
                                                              << "access-switch-24"
                                                              << "1 1";
        QTest::newRow("server on fibre of a distribution switch") << "server"
                                                                  << "distribution-switch-24"
                                                                  << "X1 1";
        QTest::newRow("never the management port") << "firewall"
                                                   << "workstation"
                                                   << "1 1";
    }
    void the_best_pair_follows_the_trade() {
        QFETCH(QString, modelA);
        QFETCH(QString, modelB);
        QFETCH(QString, ports);
        Bench b;
        const auto x = b.add(modelA.toStdString(), "x"), y = b.add(modelB.toStdString(), "y");
        const auto pair = b.best({x, {}}, {y, {}});
        QVERIFY2(pair, pair ? "" : pair.refusal().text().c_str());
        QCOMPARE(text(pair->a.port + " " + pair->b.port), ports);
        QVERIFY(!pair->reason.empty());
    }

    void taken_reserved_and_disabled_ports_are_passed_over() {
        Bench b;
        const auto sw = b.add("access-switch-24", "sw");
        b.link({sw, {}}, {b.add("workstation", "w1"), {}});
        b.port({sw, "2"}, [](Port& p) { p.reserved = true; });
        b.port({sw, "3"}, [](Port& p) { p.disabled = true; });
        const auto desk = b.add("workstation", "w2");
        QCOMPARE(text(b.best({desk, {}}, {sw, {}})->b.port), QStringLiteral("4"));
        QCOMPARE(text(b.best({desk, {}}, {sw, "2"})->b.port), QStringLiteral("2")); // told to
        QVERIFY(!b.best({desk, {}}, {sw, "1"}));
    }

    void a_reserved_port_is_taken_only_when_nothing_else_is_left() {
        Bench b;
        const auto phone = b.add("phone", "p");
        b.port({phone, "2"}, [](Port& p) { p.reserved = true; });
        b.port({phone, "1"}, [](Port& p) { p.reserved = true; });
        const auto pair = b.best({b.add("workstation", "w"), {}}, {phone, {}});
        QVERIFY(pair);
        QVERIFY(text(pair->reason).contains("reserved"));
    }

    void refusals_name_the_device_and_what_it_lacks() {
        Bench b;
        const auto sw = b.add("access-switch-24", "sw"), print = b.add("printer", "print-1");
        b.link({print, {}}, {sw, {}});
        const auto none = b.best({print, {}}, {sw, {}});
        QVERIFY(!none);
        QVERIFY(text(none.refusal().what).contains("print-1 has no free port"));
        QVERIFY(!b.best({sw, {}}, {sw, {}}));
        QVERIFY(!b.best({sw, {}}, {DeviceId{99}, {}}));
        QVERIFY(!b.best({sw, "77"}, {b.add("server"), {}}));
    }

    void the_drawer_lists_what_fits_first_and_taken_ports_with_their_peer() {
        Bench b;
        const auto sw = b.add("access-switch-24", "sw"), edge = b.add("border-router", "edge");
        b.link({sw, "24"}, {b.add("workstation", "desk"), {}});
        const auto rows = linking::drawerRows(b.network, b.catalogue, {edge, "1"}, sw);
        QCOMPARE(rows.size(), portsOf(b.network, *b.network.device(sw)).size());
        QVERIFY(rows.front().best && rows.front().standing == Standing::fits);
        for (std::size_t i = 1; i < rows.size(); ++i)
            QVERIFY(rows[i - 1].standing <= rows[i].standing);
        const auto row = [&](const char* key) {
            return *std::find_if(rows.begin(), rows.end(), [&](const auto& r) { return r.port == key; });
        };
        QVERIFY(row("24").standing == Standing::taken && text(row("24").text).contains("desk 1"));
        QVERIFY(row("X1").standing == Standing::needsTransceiver);
        QVERIFY(row("con").standing == Standing::doesNotFit);
        QCOMPARE(text(row("5").other), QStringLiteral("1"));
    }

    void making_a_link_fits_the_transceivers_and_carries_the_models() {
        Bench b;
        const auto sw = b.add("access-switch-24", "sw"), edge = b.add("border-router", "edge");
        b.link({edge, "1"}, {sw, "X1"});
        QCOMPARE(text(b.network.device(sw)->transceivers.front().model), QStringLiteral("sfp-1000base-t"));
        QVERIFY(b.network.all<TransceiverModel>().size() == 1 && b.network.all<CableType>().size() == 1);
        QCOMPARE(speedOf(b.network, *b.network.linkAt({sw, "X1"})), 1000);
    }

    void changing_a_link_keeps_its_identity_and_takes_transceivers_out_again() {
        Bench b;
        const auto sw = b.add("access-switch-24", "sw"), edge = b.add("border-router", "edge");
        b.link({edge, "1"}, {sw, "X1"});
        const LinkId id = b.network.linkAt({sw, "X1"})->id;
        const auto other = b.best({edge, "2"}, {sw, "7"});
        const auto changed = edit::changeLink(b.network, b.catalogue, id, *other, b.ids);
        QVERIFY(changed);
        QVERIFY(changed->network.device(sw)->transceivers.empty());
        QCOMPARE(changed->network.linkAt({sw, "7"})->id.value, id.value);
        QCOMPARE(changed->network.all<Cable>().size(), std::size_t{1});
        QVERIFY(changed->network.indicesAreTrue());
    }

    void linking_in_a_row_and_to_one_is_all_or_nothing() {
        Bench b;
        std::vector<DeviceId> devices;
        for (int i = 0; i < 4; ++i)
            devices.push_back(b.add("access-switch-24", "sw"));
        const auto row = edit::linkInRow(b.network, b.catalogue, devices, b.ids);
        QVERIFY(row);
        QCOMPARE(row->network.all<Link>().size(), std::size_t{3});
        std::vector<DeviceId> hosts;
        for (int i = 0; i < 3; ++i)
            hosts.push_back(b.add("printer", "print"));
        const auto phone = b.add("phone", "phone");
        QVERIFY(!edit::linkEachTo(b.network, b.catalogue, hosts, phone, b.ids)); // two ports, three printers
        QVERIFY(edit::linkEachTo(b.network, b.catalogue, hosts, devices[0], b.ids));
    }
};

UNDERRIDGE_TEST(LinkingTest)
#include "linking_test.moc"

// SPDX-License-Identifier: GPL-3.0-or-later
// The rules of linking, row by row, and the chains they regard.
#include "core/edit/cables.h"
#include "core/edit/devices.h"
#include "core/edit/fittings.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/edit/remedies.h"
#include "core/exchange/catalogue_file.h"
#include "tests/support/registered.h"

#include <set>

using namespace underridge;
using namespace underridge::model;
using linking::Chain;
using linking::ChainEnd;

namespace {

/// A network in which anything may be joined with anything.
struct Bench {
    Bench() : ids(1), catalogue(exchange::builtInCatalogue()), network(emptyNetwork("t", ids)) {
        for (const CableType& type : catalogue.cables)
            network.put(type);
        for (const TransceiverModel& model : catalogue.transceivers)
            network.put(model);
    }

    DeviceId add(const std::string& model, const std::string& name) {
        const auto* found = catalogue.device(model);
        if (!found)
            qFatal("no model %s", model.c_str());
        auto act = edit::placeDevices(network, network.sheetsInOrder().front().id, *found, {{name, {0, 0}}},
                                      {}, ids);
        network = act->network;
        return {act->subjects.front().id};
    }
    LinkId join(const PortRef& a, const PortRef& b, const std::string& type, double metres = 3,
                std::vector<int> positions = {}) {
        if (!catalogue.cable(type))
            qFatal("no cable %s", type.c_str());
        Cable cable;
        cable.id = ids.make<CableId>();
        cable.type = type;
        cable.lengthMm = std::llround(metres * 1000);
        cable.ends = {{a, {}}, {b, {}}};
        Link link;
        link.id = ids.make<LinkId>();
        link.a = a;
        link.b = b;
        link.cable = cable.id;
        link.positions = std::move(positions);
        network.put(cable);
        network.put(link);
        return link.id;
    }
    void fit(const PortRef& port, const std::string& transceiver) {
        Device device = *network.device(port.device);
        device.transceivers.push_back({port.port, transceiver, {}});
        network.put(device);
    }
    void port(const PortRef& ref, auto change) {
        network = edit::changePort(network, ref, "x", change)->network;
    }
    QStringList codes() const {
        QStringList out;
        for (const auto& finding : linking::check(network, catalogue))
            out << QString::fromUtf8(finding.rule->code.data(),
                                     static_cast<qsizetype>(finding.rule->code.size()));
        return out;
    }
    /// Applies every remedy that can be, until there are none left.
    void putRight() {
        for (int round = 0; round < 5; ++round)
            for (const auto& finding : linking::check(network, catalogue))
                if (auto act = edit::applyRemedy(network, catalogue, finding, ids)) {
                    network = act->network;
                    break;
                }
    }

    IdSource ids;
    Catalogue catalogue;
    Network network;
};

} // namespace

class RulesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void optics_on_one_strand_understand_each_other_in_both_directions() {
        Bench bench;
        // A made-up third wavelength: it hears the upstream end and is not heard by it.
        TransceiverModel other = *bench.catalogue.transceiver("sfp-1000base-bx10-d");
        QCOMPARE(other.receiveNm, bench.catalogue.transceiver("sfp-1000base-bx10-u")->wavelengthNm);
        other.id = "other";
        other.wavelengthNm = 1550;
        bench.network.put(other);
        const PortRef a{bench.add("access-switch-24", "a"), "X1"},
            b{bench.add("access-switch-24", "b"), "X1"};
        bench.fit(a, "sfp-1000base-bx10-u");
        bench.fit(b, "other");
        bench.join(a, b, "os2-lc-simplex", 900);
        QCOMPARE(bench.codes().join(','), QStringLiteral("optics"));
    }

    void a_link_breaks_exactly_these_rules_data() {
        QTest::addColumn<QString>("modelA");
        QTest::addColumn<QString>("portA");
        QTest::addColumn<QString>("opticsA");
        QTest::addColumn<QString>("modelB");
        QTest::addColumn<QString>("portB");
        QTest::addColumn<QString>("opticsB");
        QTest::addColumn<QString>("cable");
        QTest::addColumn<double>("metres");
        QTest::addColumn<QString>("codes");
        QTest::addColumn<bool>("mends"); // whether a remedy can be applied and leaves nothing
        const auto row = [](const char* name, const char* a, const char* portA, const char* opticsA,
                            const char* b, const char* portB, const char* opticsB, const char* cable,
                            double metres, const char* codes, bool mends = true) {
            QTest::newRow(name) << a << portA << opticsA << b << portB << opticsB << cable << metres << codes
                                << mends;
        };
        const char *sw = "access-switch-24", *pc = "workstation", *hub = "hub-8";
        row("a good cord", sw, "1", "", pc, "1", "", "cat6a", 3, "");
        row("a crossed cord between ports that find out", sw, "1", "", pc, "1", "", "cat6a-crossed", 3, "");
        row("two ports of fixed MDI-X with a straight cord", hub, "1", "", hub, "2", "", "cat6a", 3,
            "pinout");
        row("the same crossed", hub, "1", "", hub, "2", "", "cat6a-crossed", 3, "");
        row("MDI-X to MDI crossed", hub, "1", "", hub, "8", "", "cat6a-crossed", 3, "pinout");
        row("an optical cord in a copper port", sw, "1", "", pc, "1", "", "om4-lc", 3, "connector");
        row("an empty cage", sw, "X1", "", sw, "X2", "sfpp-10gbase-sr", "om4-lc", 3, "transceiver");
        row("direct-attach too large for the cage", "media-converter", "X1", "", "media-converter", "X1", "",
            "dac-sfpp", 3, "connector,connector");
        row("direct-attach", sw, "X1", "", sw, "X2", "", "dac-sfpp", 3, "");
        row("short over long wavelength", sw, "X1", "sfpp-10gbase-sr", sw, "X2", "sfpp-10gbase-lr", "om4-lc",
            3, "optics");
        row("one speed each", sw, "X1", "sfpp-10gbase-sr", sw, "X2", "sfp-1000base-sx", "om4-lc", 3,
            "optics");
        row("multimode cord between single-mode optics", sw, "X1", "sfpp-10gbase-lr", sw, "X2",
            "sfpp-10gbase-lr", "om4-lc", 3, "fibre-class");
        row("A to A", sw, "X1", "sfpp-10gbase-sr", sw, "X2", "sfpp-10gbase-sr", "om4-lc-straight", 3,
            "polarity", false);
        row("10GBASE-SR over OM4 at its limit", sw, "X1", "sfpp-10gbase-sr", sw, "X2", "sfpp-10gbase-sr",
            "om4-lc", 400, "");
        row("and beyond", sw, "X1", "sfpp-10gbase-sr", sw, "X2", "sfpp-10gbase-sr", "om4-lc", 401, "reach");
        row("10GBASE-SR over OM1", sw, "X1", "sfpp-10gbase-sr", sw, "X2", "sfpp-10gbase-sr", "om1-lc", 34,
            "reach");
        row("cords at their limit", sw, "1", "", pc, "1", "", "cat6a", 85, "");
        row("copper too long", sw, "1", "", pc, "1", "", "cat6a", 101, "reach", false);
        row("upstream and downstream on one strand", sw, "X1", "sfp-1000base-bx10-u", sw, "X2",
            "sfp-1000base-bx10-d", "os2-lc-simplex", 900, "");
        row("upstream twice", sw, "X1", "sfp-1000base-bx10-u", sw, "X2", "sfp-1000base-bx10-u",
            "os2-lc-simplex", 900, "optics");
    }
    void a_link_breaks_exactly_these_rules() {
        QFETCH(QString, modelA);
        QFETCH(QString, portA);
        QFETCH(QString, opticsA);
        QFETCH(QString, modelB);
        QFETCH(QString, portB);
        QFETCH(QString, opticsB);
        QFETCH(QString, cable);
        QFETCH(double, metres);
        QFETCH(QString, codes);
        QFETCH(bool, mends);
        Bench bench;
        const PortRef a{bench.add(modelA.toStdString(), "a"), portA.toStdString()};
        const PortRef b{bench.add(modelB.toStdString(), "b"), portB.toStdString()};
        if (!opticsA.isEmpty())
            bench.fit(a, opticsA.toStdString());
        if (!opticsB.isEmpty())
            bench.fit(b, opticsB.toStdString());
        const LinkId id = bench.join(a, b, cable.toStdString(), metres);
        QCOMPARE(bench.codes().join(','), codes);
        // The notch tells the same as the findings.
        bool down = false;
        for (const auto& finding : linking::check(bench.network, bench.catalogue))
            down |= !finding.rule->comesUp;
        QCOMPARE(static_cast<bool>(linking::failsOf(bench.network, *bench.network.link(id))), down);
        if (!codes.isEmpty() && mends) {
            bench.putRight();
            QCOMPARE(bench.codes().join(','), QString());
        }
    }

    void settings_are_told_and_taken_back() {
        Bench bench;
        const PortRef a{bench.add("access-switch-24", "a"), "1"}, b{bench.add("workstation", "b"), "1"};
        bench.join(a, b, "cat6a");
        bench.port(a, [](Port& p) { p.speed = 100; });
        QCOMPARE(bench.codes().join(','), QString("duplex"));
        bench.putRight();
        QVERIFY(bench.codes().isEmpty());
        bench.port(b, [](Port& p) { p.disabled = true; });
        QCOMPARE(bench.codes().join(','), QString("port-disabled"));
        bench.putRight();
        QVERIFY(bench.codes().isEmpty());
        bench.join(a, {bench.add("workstation", "c"), "1"}, "cat6a");
        QCOMPARE(bench.codes().join(','), QString("port-taken"));
    }

    void a_slower_cable_is_a_warning() {
        Bench bench;
        const PortRef a{bench.add("access-point", "a"), "1"};
        DeviceModel wide = *bench.catalogue.device("access-switch-24");
        wide.id = "wide";
        PortBlock block;
        block.keys = "1-8";
        block.connector = Connector::rj45;
        block.rates = {1000, 2500, 10000};
        wide.ports = PortLayout({block});
        bench.catalogue.devices.push_back(wide);
        DeviceModel client = wide;
        client.id = "client";
        bench.catalogue.devices.push_back(client);
        bench.join({bench.add("wide", "w"), "2"}, {bench.add("client", "c"), "1"}, "cat5e");
        QCOMPARE(bench.codes().join(','), QString("category"));
    }

    void power_is_asked_for_and_given() {
        Bench bench;
        const DeviceId sw = bench.add("access-switch-24", "sw");
        bench.join({sw, "1"}, {bench.add("camera", "cam"), "1"}, "cat6a");
        QVERIFY(bench.codes().isEmpty());
        bench.port({sw, "1"}, [](Port& p) { p.powerOff = true; });
        QCOMPARE(bench.codes().join(','), QString("power-missing"));
        bench.putRight();
        QVERIFY(bench.codes().isEmpty());
        bench.join({bench.add("hub-8", "hub"), "1"}, {bench.add("camera", "cam2"), "1"}, "cat6a");
        QCOMPARE(bench.codes().join(','), QString("power-missing"));
        // 370 W are twelve loads of class 4, and not thirteen.
        Bench many;
        const DeviceId source = many.add("access-switch-24", "source");
        for (int i = 1; i <= 13; ++i) {
            many.join({source, std::to_string(i)}, {many.add("access-point", "ap"), "1"}, "cat6a");
            QCOMPARE(many.codes().contains("power-budget"), i == 13);
        }
    }

    void a_chain_is_followed_through_panels_and_outlets_from_any_of_its_ports() {
        Bench bench;
        const DeviceId sw = bench.add("access-switch-24", "sw"), panel = bench.add("patch-panel-24", "pp"),
                       outlet = bench.add("outlet-2", "wo"), desk = bench.add("workstation", "desk");
        bench.join({sw, "5"}, {panel, "7"}, "cat6a", 2);
        bench.join({outlet, "R2"}, {panel, "R7"}, "cat6a-installed", 40);
        bench.join({desk, "1"}, {outlet, "2"}, "cat6a", 3);
        const PortRef ends[] = {{sw, "5"},      {panel, "7"},  {panel, "R7"},
                                {outlet, "R2"}, {outlet, "2"}, {desk, "1"}};
        for (const PortRef& port : ends) {
            const Chain chain = linking::chainThrough(bench.network, port);
            QVERIFY(chain.whole());
            QCOMPARE(chain.stretches.size(), std::size_t{3});
            const auto among = std::minmax({chain.a, chain.b});
            QVERIFY((among == std::minmax({PortRef{sw, "5"}, PortRef{desk, "1"}})));
            for (std::size_t i = 0; i + 1 < chain.stretches.size(); ++i)
                QVERIFY(chain.stretches[i].to.device == chain.stretches[i + 1].from.device);
        }
        QVERIFY(linking::farEnd(bench.network, {sw, "5"}) == (PortRef{desk, "1"}));
        QVERIFY(linking::farEnd(bench.network, {outlet, "R2"}) == (PortRef{sw, "5"}));
        const auto channel =
            linking::channelOf(bench.network, linking::chainThrough(bench.network, {sw, "5"}));
        QCOMPARE(channel.lengthMm, std::int64_t{45000});
        QCOMPARE(channel.permanentMm, std::int64_t{40000});
        QCOMPARE(channel.connections, 2);
        QVERIFY(bench.codes().isEmpty());
    }

    void open_chains_and_loops_are_told() {
        Bench bench;
        const DeviceId sw = bench.add("access-switch-24", "sw"), panel = bench.add("patch-panel-24", "pp"),
                       other = bench.add("patch-panel-24", "qq");
        bench.join({sw, "5"}, {panel, "7"}, "cat6a", 2);
        QCOMPARE(bench.codes().join(','), QString("chain-open"));
        QCOMPARE(linking::chainThrough(bench.network, {sw, "5"}).endB, ChainEnd::open);
        QVERIFY(!linking::farEnd(bench.network, {sw, "5"}));
        bench.join({panel, "R7"}, {other, "R1"}, "cat6a-installed", 30);
        QCOMPARE(bench.codes().join(','), QString("chain-open"));
        bench.join({panel, "R8"}, {other, "R2"}, "cat6a-installed", 30); // a spare: no finding
        QCOMPARE(bench.codes().join(','), QString("chain-open"));
        bench.join({panel, "8"}, {other, "2"}, "cat6a", 1);
        QCOMPARE(bench.codes().join(','), QString("chain-loop,chain-open"));
    }

    void the_fixed_part_of_copper_is_90_m_and_all_of_it_100() {
        const auto codes = [](double fixed, double cords) {
            Bench bench;
            const DeviceId panel = bench.add("patch-panel-24", "pp"), outlet = bench.add("outlet-2", "wo");
            bench.join({bench.add("access-switch-24", "sw"), "1"}, {panel, "1"}, "cat6a", cords / 2);
            bench.join({panel, "R1"}, {outlet, "R1"}, "cat6a-installed", fixed);
            bench.join({outlet, "1"}, {bench.add("workstation", "pc"), "1"}, "cat6a", cords / 2);
            return bench.codes().join(',');
        };
        QCOMPARE(codes(90, 10), QString());
        QCOMPARE(codes(91, 8), QString("permanent-link"));
        QCOMPARE(codes(89, 12), QString("reach"));
    }

    void light_is_lost_in_panels_and_must_not_be_lost_too_much() {
        const auto codes = [](int panels, const char* trunk, const char* cord) {
            Bench bench;
            PortRef from{bench.add("access-switch-24", "a"), "X1"};
            bench.fit(from, "sfpp-10gbase-sr");
            for (int i = 0; i < panels; ++i) {
                const DeviceId panel = bench.add("fibre-panel-12-om4", "fp" + std::to_string(i));
                bench.join(from, {panel, i % 2 == 0 ? "1" : "R1"}, i % 2 == 0 ? cord : trunk, 20);
                from = {panel, i % 2 == 0 ? "R1" : "1"};
            }
            const PortRef to{bench.add("access-switch-24", "b"), "X1"};
            bench.fit(to, "sfpp-10gbase-sr");
            bench.join(from, to, panels % 2 == 0 ? cord : trunk, 20);
            return bench.codes().join(',');
        };
        QCOMPARE(codes(2, "om4-lc", "om4-lc"), QString()); // three crossings: Tx meets Rx; 1.68 dB of 2.9
        QCOMPARE(codes(2, "om4-lc-straight", "om4-lc"), QString("polarity"));
        QCOMPARE(codes(1, "om4-lc", "om4-lc"), QString("polarity"));
        QCOMPARE(codes(1, "om4-lc-straight", "om4-lc"), QString());
        QCOMPARE(codes(4, "om4-lc", "om4-lc"), QString("loss")); // 3.3 dB
    }

    void strands_keep_their_way_through_trunks_and_cassettes() {
        Bench bench;
        // A cassette: the pairs at the front are positions of one array at the rear.
        DeviceModel cassette = *bench.catalogue.device("fibre-panel-12-om4");
        cassette.id = "cassette";
        PortBlock pairs, rear;
        pairs.keys = "1-6";
        pairs.block = Block::front;
        pairs.connector = Connector::lc;
        pairs.rates = {10000};
        pairs.media = {Medium::multimode};
        pairs.lossDb = 0.5; // four of the usual 0.75 dB are more than 10GBASE-SR allows
        rear = pairs;
        rear.keys = "R1";
        rear.block = Block::rear;
        rear.connector = Connector::mpo;
        rear.side = Side::rear;
        cassette.ports = PortLayout({pairs, rear});
        bench.catalogue.devices.push_back(cassette);
        const DeviceId left = bench.add("cassette", "left"), right = bench.add("cassette", "right");
        for (const DeviceId device : {left, right})
            for (int front = 1; front <= 6; ++front)
                for (const int strand : {1, 2}) {
                    PanelMap map;
                    map.device = device;
                    map.front = std::to_string(front);
                    map.frontPosition = strand;
                    map.rear = "R1";
                    map.rearPosition = 2 * (front - 1) + strand;
                    bench.network.put(map);
                }
        bench.join({left, "R1"}, {right, "R1"}, "om4-mpo", 60); // Type B: 1 to 12
        const PortRef a{bench.add("access-switch-24", "a"), "X1"},
            b{bench.add("access-switch-24", "b"), "X1"};
        bench.fit(a, "sfpp-10gbase-sr");
        bench.fit(b, "sfpp-10gbase-sr");
        bench.join(a, {left, "2"}, "om4-lc", 2);
        bench.join({right, "5"}, b, "om4-lc", 2);
        const Chain chain = linking::chainThrough(bench.network, a);
        QVERIFY(chain.whole() && chain.b == b);
        QCOMPARE(chain.stretches[1].leaves, (std::vector<int>{4, 3}));
        QCOMPARE(chain.stretches[1].arrives, (std::vector<int>{9, 10}));
        QVERIFY(bench.codes().isEmpty());
        QCOMPARE(linking::chainThrough(bench.network, {left, "R1"}).endA, ChainEnd::split);
    }

    void what_a_tester_found_and_what_is_on_labels() {
        Bench bench;
        const DeviceId sw = bench.add("access-switch-24", "sw");
        const LinkId a = bench.join({sw, "1"}, {bench.add("workstation", "a"), "1"}, "cat6a");
        const LinkId b = bench.join({sw, "2"}, {bench.add("workstation", "b"), "1"}, "cat6a");
        const auto change = [&](LinkId link, auto act) {
            Cable cable = *bench.network.cable(bench.network.link(link)->cable);
            act(cable);
            bench.network.put(cable);
        };
        change(a, [](Cable& c) {
            c.measured = {{"insertion loss", 20.9, 21, "dB"}, {"NEXT", 30.2, 30.1, "dB"}};
        });
        QVERIFY(bench.codes().isEmpty());
        change(a, [](Cable& c) { c.measured.front().value = 21.1; });
        QCOMPARE(bench.codes().join(','), QString("measured"));
        change(a, [](Cable& c) { c.measured = {{"NEXT", 30, 30.1, "dB"}}; }); // the larger the better
        QCOMPARE(bench.codes().join(','), QString("measured"));
        change(a, [](Cable& c) {
            c.measured.clear();
            c.label = "K-1";
        });
        change(b, [](Cable& c) { c.label = "K-1"; });
        QCOMPARE(bench.codes().join(','), QString("label-twice"));
    }

    void members_of_a_lag_lead_to_one_device_at_one_speed() {
        Bench bench;
        const DeviceId a = bench.add("access-switch-24", "a"), b = bench.add("access-switch-24", "b"),
                       c = bench.add("access-switch-24", "c");
        bench.join({a, "1"}, {b, "1"}, "cat6a");
        bench.join({a, "2"}, {b, "2"}, "cat6a");
        const auto lagOf = [&](DeviceId device, std::vector<std::string> members) {
            Interface lag;
            bench.network.all<Interface>().forEachIn(device.value,
                                                     [&](const Interface& each) { lag = each; });
            if (!lag.id)
                lag.id = bench.ids.make<InterfaceId>();
            lag.device = device;
            lag.type = InterfaceKind::lag;
            lag.name = "lag-1";
            lag.members = std::move(members);
            bench.network.put(lag);
        };
        lagOf(a, {"1", "2"});
        QCOMPARE(bench.codes().join(','), QString("lag-members")); // none at the other end
        lagOf(b, {"1"});
        QCOMPARE(bench.codes().join(','), QString("lag-members")); // not the same members
        lagOf(b, {"1", "2"});
        QVERIFY(bench.codes().isEmpty());
        lagOf(a, {"1", "2", "3"});
        QCOMPARE(bench.codes().join(','), QString("lag-members")); // nothing at the end of 3
        bench.join({a, "3"}, {c, "3"}, "cat6a");
        lagOf(c, {"3"});
        QCOMPARE(bench.codes().join(','), QString("lag-members")); // another device
        Device one = *bench.network.device(b);
        one.pairedWith = c;
        bench.network.put(one);
        QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(','))); // which is its pair
        bench.port({a, "2"}, [](Port& p) { p.speed = 100; });
        bench.port({b, "2"}, [](Port& p) { p.speed = 100; });
        QVERIFY(bench.codes().contains("lag-members")); // another speed
    }
    void a_lag_speaks_lacp_at_both_ends_or_at_neither() {
        Bench bench;
        const DeviceId a = bench.add("access-switch-24", "a"), b = bench.add("access-switch-24", "b");
        bench.join({a, "1"}, {b, "1"}, "cat6a");
        bench.join({a, "2"}, {b, "2"}, "cat6a");
        Interface lags[2];
        for (const int end : {0, 1}) {
            lags[end].id = bench.ids.make<InterfaceId>();
            lags[end].device = end == 0 ? a : b;
            lags[end].type = InterfaceKind::lag;
            lags[end].name = "lag-1";
            lags[end].members = {"1", "2"};
            bench.network.put(lags[end]);
        }
        QVERIFY(bench.codes().isEmpty()); // neither
        lags[0].lacp = true;
        bench.network.put(lags[0]);
        QCOMPARE(bench.codes().join(','), QString("lag-members"));
        QCOMPARE(linking::check(bench.network, bench.catalogue).front().message,
                 std::string("b lag-1: it speaks no LACP, the other end does"));
        lags[1].lacp = true;
        bench.network.put(lags[1]);
        QVERIFY(bench.codes().isEmpty());
    }

    void the_remaining_rules_of_a_link() {
        {
            Bench bench; // a console port joined by an ordinary cord
            bench.join({bench.add("access-switch-24", "sw"), "con"}, {bench.add("workstation", "pc"), "1"},
                       "cat6a");
            QCOMPARE(bench.codes().join(','), QString("console"));
        }
        {
            Bench bench; // a port that is not known
            bench.join({bench.add("access-switch-24", "sw"), ""}, {bench.add("workstation", "pc"), "1"},
                       "cat6a");
            QCOMPARE(bench.codes().join(','), QString("port-unknown"));
        }
        {
            Bench bench; // a load of class 4 at a source of Type 1
            DeviceModel weak = *bench.catalogue.device("access-switch-24");
            weak.id = "weak";
            auto blocks = weak.ports.blocks();
            blocks.front().powerType = 1;
            weak.ports = PortLayout(blocks);
            bench.catalogue.devices.push_back(weak);
            bench.join({bench.add("weak", "sw"), "1"}, {bench.add("access-point", "ap"), "1"}, "cat6a");
            QCOMPARE(bench.codes().join(','), QString("power-type"));
        }
        {
            Bench bench; // 62.5 and 50 µm in one chain
            const PortRef a{bench.add("access-switch-24", "a"), "X1"},
                b{bench.add("access-switch-24", "b"), "X1"};
            bench.fit(a, "sfp-1000base-sx");
            bench.fit(b, "sfp-1000base-sx");
            const DeviceId one = bench.add("fibre-panel-12-om4", "p1"),
                           two = bench.add("fibre-panel-12-om4", "p2");
            bench.join(a, {one, "1"}, "om4-lc", 2);
            bench.join({one, "R1"}, {two, "R1"}, "om1-lc", 50);
            bench.join({two, "1"}, b, "om4-lc", 2);
            QCOMPARE(bench.codes().join(','), QString("fibre-mixed"));
        }
    }

    void end_faces_and_guide_pins() {
        {
            Bench bench; // APC meets UPC in an adapter; a cord that changes the polish puts it right
            const PortRef a{bench.add("access-switch-24", "a"), "X1"};
            const DeviceId panel = bench.add("fibre-panel-12-os2", "p");
            bench.fit(a, "sfpp-10gbase-lr");
            const LinkId cord = bench.join(a, {panel, "1"}, "os2-lc", 2);
            bench.join({panel, "R1"}, {bench.add("fibre-panel-12-os2", "q"), "R1"}, "os2-lc-apc", 200);
            QVERIFY(bench.codes().contains("end-face"));
            Cable cable = *bench.network.cable(bench.network.link(cord)->cable);
            cable.type = "os2-lc-upc-apc";
            bench.network.put(cable);
            QVERIFY(!bench.codes().contains("end-face"));
        }
        {
            Bench bench; // an angled plug in a transceiver
            const PortRef a{bench.add("access-switch-24", "a"), "X1"},
                b{bench.add("access-switch-24", "b"), "X1"};
            for (const PortRef& port : {a, b})
                bench.fit(port, "sfpp-10gbase-lr");
            bench.join(a, b, "os2-lc-apc");
            QVERIFY(bench.codes().contains("end-face"));
            bench.putRight();
            QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
        }
        {
            Bench bench; // a pinned plug in equipment, which has the pins itself
            const PortRef a{bench.add("fabric-spine-32", "a"), "1"},
                b{bench.add("fabric-spine-32", "b"), "1"};
            for (const PortRef& port : {a, b})
                bench.fit(port, "qsfpp-40gbase-sr4");
            bench.join(a, b, "om4-mpo-pinned", 20);
            QVERIFY(bench.codes().contains("pins"));
            bench.putRight();
            QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
        }
    }

    void error_correction_and_clock() {
        {
            Bench bench;
            const PortRef a{bench.add("fabric-leaf-48", "a"), "1"}, b{bench.add("fabric-leaf-48", "b"), "1"};
            for (const PortRef& port : {a, b})
                bench.fit(port, "sfp28-25gbase-sr");
            bench.join(a, b, "om4-lc", 20);
            QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
            for (const PortRef& port : {a, b}) // both alike, but clause 112 asks for RS
                bench.port(port, [](Port& p) { p.fec = Fec::none; });
            QCOMPARE(bench.codes().join(','), QString("fec"));
            bench.putRight();
            QVERIFY(bench.codes().isEmpty());
            bench.port(a, [](Port& p) { p.fec = Fec::baseR; });
            QCOMPARE(bench.codes().join(','), QString("fec"));
        }
        {
            Bench bench;
            PortRef ends[2];
            for (const int i : {0, 1}) {
                const DeviceId router = bench.add("border-router", i == 0 ? "a" : "b");
                Device device = *bench.network.device(router);
                device.modules = {{"A", "module-2-serial", {}}};
                bench.network.put(device);
                ends[i] = {router, "A/1"};
            }
            bench.network.put(*bench.catalogue.module("module-2-serial"));
            bench.join(ends[0], ends[1], "serial");
            QCOMPARE(bench.codes().join(','), QString("clock")); // neither
            bench.putRight();
            QVERIFY(bench.codes().isEmpty());
            for (const PortRef& port : ends)
                bench.port(port, [](Port& p) { p.givesClock = true; });
            QCOMPARE(bench.codes().join(','), QString("clock")); // both
            bench.putRight();
            QVERIFY(bench.codes().isEmpty());
        }
    }

    void power_outside_the_common_case() {
        {
            Bench bench; // data passes a midspan, power begins at it
            const DeviceId sw = bench.add("compact-router", "sw"), mid = bench.add("midspan-8", "mid"),
                           ap = bench.add("access-point", "ap");
            bench.join({sw, "1"}, {mid, "D1"}, "cat6a", 30);
            bench.join({mid, "1"}, {ap, "1"}, "cat6a", 50);
            QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
            QCOMPARE(*linking::farEnd(bench.network, {ap, "1"}), (PortRef{sw, "1"}));
            Cable longer = *bench.network.cable(bench.network.linkAt({ap, "1"})->cable);
            longer.lengthMm = 75'000; // 105 m in all: the midspan does not repeat
            bench.network.put(longer);
            QCOMPARE(bench.codes().join(','), QString("reach"));
        }
        {
            Bench bench;
            const DeviceId feed = bench.add("passive-injector", "feed"), ap = bench.add("access-point", "ap");
            bench.join({feed, "1"}, {ap, "1"}, "cat6a");
            QVERIFY(bench.codes().contains("power-passive"));
        }
        {
            Bench bench; // IEEE 802.3 clause 104: classes go together
            const DeviceId sw = bench.add("field-switch-8", "sw"), one = bench.add("sensor-single-pair", "s");
            bench.join({sw, "1"}, {one, "1"}, "single-pair", 300);
            QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
            DeviceModel other = *bench.catalogue.device("sensor-single-pair");
            other.id = "other";
            auto blocks = other.ports.blocks();
            blocks.front().powerClass = 14;
            other.ports = PortLayout(blocks);
            bench.catalogue.devices.push_back(other);
            bench.join({sw, "2"}, {bench.add("other", "o"), "1"}, "single-pair", 300);
            QCOMPARE(bench.codes().join(','), QString("power-podl"));
        }
    }

    void wiring_and_approval() {
        Bench bench;
        DeviceModel outlet = *bench.catalogue.device("outlet-2");
        outlet.id = "outlet-a";
        auto blocks = outlet.ports.blocks();
        blocks.back().wiring = Wiring::t568a;
        outlet.ports = PortLayout(blocks);
        bench.catalogue.devices.push_back(outlet);
        const DeviceId sw = bench.add("access-switch-24", "sw"), panel = bench.add("patch-panel-24", "pp"),
                       wall = bench.add("outlet-a", "wall"), pc = bench.add("workstation", "pc");
        bench.join({sw, "1"}, {panel, "1"}, "cat6a");
        bench.join({panel, "R1"}, {wall, "R1"}, "cat6a-installed", 30);
        bench.join({wall, "1"}, {pc, "1"}, "cat6a");
        QCOMPARE(bench.codes().join(','), QString("wiring"));
        CableType cord = *bench.catalogue.cable("cat6a");
        cord.approved = false;
        bench.network.put(cord);
        QCOMPARE(bench.codes().join(','), QString("wiring,not-approved,not-approved"));
        // What is not approved is not proposed.
        bench.catalogue = edit::withStock(bench.catalogue, bench.network);
        const auto pair = linking::bestPair(bench.network, bench.catalogue, {sw, {}},
                                            {bench.add("workstation", "new"), {}});
        QVERIFY(pair && pair->joint.cable != "cat6a");
    }

    void a_breakout_port_joins_four() {
        Bench bench;
        const DeviceId spine = bench.add("fabric-spine-32", "spine"),
                       leaf = bench.add("fabric-leaf-48", "leaf");
        bench.network = edit::setBreakout(bench.network, {spine, "1"}, 4, edit::WithLinks::refuse)->network;
        for (int lane = 1; lane <= 4; ++lane) {
            const auto pair = linking::bestPair(bench.network, bench.catalogue,
                                                {spine, "1/" + std::to_string(lane)}, {leaf, {}});
            QVERIFY2(pair, pair ? "" : pair.refusal().text().c_str());
            QCOMPARE(QString::fromStdString(pair->joint.cable), QString("dac-qsfp28-sfp28"));
            QCOMPARE(pair->joint.speed, 25000);
            bench.network = edit::makeLink(bench.network, bench.catalogue, *pair, bench.ids)->network;
        }
        QCOMPARE(bench.network.all<Cable>().size(), std::size_t(1)); // one assembly with four far ends
        bench.network.all<Cable>().forEach(
            [](const Cable& cable) { QCOMPARE(cable.ends.size(), std::size_t(5)); });
        QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
        // A copy has an assembly of its own.
        const auto copy = edit::duplicateObjects(bench.network, bench.network.sheetsInOrder().front().id,
                                                 {refTo(spine), refTo(leaf)}, {500, 0}, bench.ids);
        QCOMPARE(copy->network.all<Cable>().size(), std::size_t(2));
        copy->network.all<Cable>().forEach([](const Cable& cable) {
            QCOMPARE(cable.ends.size(), std::size_t(5));
            QCOMPARE(cable.ends.front().at.port, std::string("1"));
        });
        // By fibre each lane has strands of its own, and Tx meets Rx.
        for (const PortRef& port : {PortRef{spine, "2"}})
            bench.network = edit::setBreakout(bench.network, port, 4, edit::WithLinks::refuse)->network;
        bench.fit({spine, "2"}, "qsfp28-100gbase-sr4");
        bench.fit({leaf, "10"}, "sfp28-25gbase-sr");
        const auto pair = linking::bestPair(bench.network, bench.catalogue, {spine, "2/3"}, {leaf, "10"});
        QVERIFY2(pair, pair ? "" : pair.refusal().text().c_str());
        QCOMPARE(QString::fromStdString(pair->joint.cable), QString("om4-mpo-lc"));
        const auto act = edit::makeLink(bench.network, bench.catalogue, *pair, bench.ids);
        bench.network = act->network;
        QCOMPARE(bench.network.linkAt({spine, "2/3"})->positions, (std::vector<int>{5, 6}));
        QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
        // One link less is one end less; the last takes the assembly along.
        const auto first = bench.network.linkAt({spine, "1/1"})->id;
        bench.network = edit::removeObjects(bench.network, {refTo(first)})->network;
        QCOMPARE(bench.network.all<Cable>().size(), std::size_t(2));
        QVERIFY(!edit::setBreakout(bench.network, {spine, "1"}, 0, edit::WithLinks::refuse));
        bench.network = edit::setBreakout(bench.network, {spine, "1"}, 0, edit::WithLinks::unlink)->network;
        QCOMPARE(bench.network.all<Cable>().size(), std::size_t(1));
    }

    void eight_lanes_are_split_into_two_four_or_eight() {
        Bench bench;
        const DeviceId spine = bench.add("fabric-spine-32-400g", "spine"),
                       leaf = bench.add("fabric-leaf-48-50g", "leaf");
        const auto split = [&](const char* port, int parts) {
            const auto act = edit::setBreakout(bench.network, {spine, port}, parts, edit::WithLinks::refuse);
            if (act)
                bench.network = act->network;
            return static_cast<bool>(act);
        };
        const auto joint = [&](const char* from, const char* to) {
            const auto pair = linking::bestPair(bench.network, bench.catalogue, {spine, from}, {leaf, to});
            if (pair)
                bench.network = edit::makeLink(bench.network, bench.catalogue, *pair, bench.ids)->network;
            return pair ? QString::fromStdString(pair->joint.cable) + " " + QString::number(pair->joint.speed)
                        : QString::fromStdString(pair.refusal().text());
        };
        QVERIFY(!split("1", 3));
        QVERIFY(!split("1", 16));
        QVERIFY(split("1", 8));
        QCOMPARE(joint("1/8", "8"), QString("dac-qsfpdd-sfp56 50000"));
        QVERIFY(split("2", 2));
        QCOMPARE(joint("2/2", "Q1"), QString("dac-qsfpdd-2-qsfp56 200000"));
        // By fibre what is split must speak what one part speaks.
        QVERIFY(split("3", 8));
        bench.fit({spine, "3"}, "qsfpdd-400gbase-sr8");
        bench.fit({leaf, "10"}, "sfp56-50gbase-sr");
        QCOMPARE(joint("3/1", "10"), QString("om4-mpo16-lc 50000"));
        QVERIFY(split("4", 2));
        bench.fit({spine, "4"}, "qsfpdd-400gbase-sr8");
        bench.fit({leaf, "Q2"}, "qsfp56-200gbase-sr4");
        QCOMPARE(joint("4/2", "Q2"), QString("om4-mpo16-2-mpo12 200000"));
        QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
        bench.fit({spine, "5"}, "qsfpdd-400gbase-sr8");
        QVERIFY(!split("5", 4)); // there is no PHY of two of its lanes
        bench.fit({spine, "6"}, "qsfpdd-400gbase-fr4");
        QVERIFY(!split("6", 4)); // four colours on one pair
    }

    void splices_lose_less_than_plugs() {
        Bench bench;
        const DeviceId closure = bench.add("splice-closure-12", "c"),
                       p = bench.add("fibre-panel-12-os2", "p"), q = bench.add("fibre-panel-12-os2", "q");
        const PortRef a{bench.add("access-switch-24", "a"), "X1"},
            b{bench.add("access-switch-24", "b"), "X1"};
        for (const PortRef& port : {a, b})
            bench.fit(port, "sfpp-10gbase-lr");
        bench.join(a, {p, "1"}, "os2-lc", 2);
        bench.join({p, "R1"}, {closure, "1"}, "os2-lc-splice-24", 1000, {1, 2});
        bench.join({closure, "R1"}, {q, "R1"}, "os2-lc-splice-24", 1000, {1, 2});
        bench.join({q, "1"}, b, "os2-lc-straight", 2);
        const Chain chain = linking::chainThrough(bench.network, a);
        const auto channel = linking::channelOf(bench.network, chain);
        QCOMPARE(channel.connections, 2);
        QCOMPARE(channel.splices, 1);
        QVERIFY(std::abs(lossOf(channel, 1310) - (2.004 * 0.4 + 2 * 0.75 + 0.3)) < 1e-9);
        QVERIFY(channel.leads({1}, {2})); // three crossings
    }

    void every_rule_has_a_title_and_a_code_of_its_own() {
        std::set<std::string_view> codes;
        for (const auto& rule : linking::rules()) {
            QVERIFY(codes.insert(rule.code).second);
            QVERIFY(!rule.title.empty());
            QCOMPARE(linking::ruleOf(rule.code), &rule);
        }
    }

    void ports_that_do_not_fit_are_joined_when_somebody_insists() {
        Bench bench;
        const PortRef a{bench.add("access-switch-24", "a"), "1"}, b{bench.add("access-switch-24", "b"), "X1"};
        const auto pair = linking::anyPair(bench.network, bench.catalogue, a, b);
        QVERIFY(pair);
        const auto act = edit::makeLink(bench.network, bench.catalogue, *pair, bench.ids);
        QVERIFY(act);
        bench.network = act->network;
        QVERIFY(linking::failsOf(bench.network, *bench.network.linkAt(a)));
        bench.putRight();
        QVERIFY2(bench.codes().isEmpty(), qPrintable(bench.codes().join(',')));
    }
};

UNDERRIDGE_TEST(RulesTest)
#include "rules_test.moc"

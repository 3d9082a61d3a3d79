// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/catalogue_file.h"
#include "core/model/length.h"
#include "core/model/ports.h"
#include "core/model/standing.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"

#include <set>

using namespace underridge;
using namespace underridge::model;

namespace {

/// A network with one device of a model from the catalogue.
struct One {
    explicit One(const char* model) {
        const Catalogue catalogue = exchange::builtInCatalogue();
        network.put(*catalogue.device(model));
        for (const ModuleModel& module : catalogue.modules)
            network.put(module);
        for (const TransceiverModel& transceiver : catalogue.transceivers)
            network.put(transceiver);
        device.id = {1};
        device.name = "one";
        device.model = model;
        network.put(device);
    }
    void put() { network.put(device); }
    std::vector<std::string> keys() const {
        std::vector<std::string> out;
        for (const PortView& port : portsOf(network, *network.device(device.id)))
            out.push_back(port.key);
        return out;
    }
    bool has(const char* key) const {
        const auto all = keys();
        return std::find(all.begin(), all.end(), key) != all.end();
    }
    Network network;
    Device device;
};

} // namespace

class ModelTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void names_of_ports_are_in_natural_order_and_each_once() {
        const PortNames names({"p10", "p2", "", "P1", "p02", "p2"});
        QCOMPARE(names.all(), (std::vector<std::string>{"P1", "p02", "p2", "p10"}));
        for (const char* name : {"P1", "p02", "p2", "p10"})
            QVERIFY2(names.contains(name), name);
        for (const char* name : {"p1", "p3", "", "p2/1"})
            QVERIFY2(!names.contains(name), name);
        QVERIFY(names == PortNames({"p02", "p2", "P1", "p10"}));
        QVERIFY(!(names == PortNames()));
        QVERIFY(PortNames({""}).empty());
    }

    void learned_ports_follow_those_of_the_model_and_give_way_to_them() {
        One b("access-switch-24");
        const auto before = b.keys();
        b.device.learned = PortNames({"wan", "1", "X9"});
        b.put();
        auto wanted = before;
        wanted.insert(wanted.end(), {"wan", "X9"}); // 1 is the model's
        std::sort(wanted.end() - 2, wanted.end(),
                  [](const auto& x, const auto& y) { return naturalLess(x, y); });
        QCOMPARE(b.keys(), wanted);
        QVERIFY(!portAt(b.network, {b.device.id, "1"})->learned);
        const auto wan = portAt(b.network, {b.device.id, "wan"});
        QVERIFY(wan && wan->learned && wan->connector() == Connector::none && wan->rates().empty());
        Port record;
        record.device = b.device.id;
        record.port = "wan";
        record.speed = 1000;
        b.network.put(record);
        QCOMPARE(portAt(b.network, {b.device.id, "wan"})->rates(), std::vector<int>{1000});
    }

    void lengths_are_read_as_people_write_them() {
        using model::LengthUnit;
        const std::pair<const char*, std::int64_t> good[] = {
            {"22", 22000}, {"22 m", 22000}, {"22.5m", 22500}, {"1,5 km", 1500000}, {"30 cm", 300},
            {"7 mm", 7},   {"10 ft", 3048}, {"10'", 3048},    {"6 in", 152},       {"", 0},
        };
        for (const auto& [text, mm] : good)
            QCOMPARE(model::parseLength(text, LengthUnit::metres).value_or(-1), mm);
        QCOMPARE(model::parseLength("10", LengthUnit::feet).value_or(-1), std::int64_t{3048});
        for (const char* bad : {"-3", "m", "2 2", "1e30 km", "nan", "3 yards"})
            QVERIFY2(!model::parseLength(bad, LengthUnit::metres), bad);
        QCOMPARE(model::lengthText(22500, LengthUnit::metres), std::string("22.5 m"));
        QCOMPARE(model::lengthText(3048, LengthUnit::feet), std::string("10 ft"));
    }

    void port_keys_expand_data() {
        QTest::addColumn<QString>("keys");
        QTest::addColumn<QString>("expanded"); // empty: refused
        QTest::newRow("range") << "1-3"
                               << "1 2 3";
        QTest::newRow("prefix") << "X1-X2"
                                << "X1 X2";
        QTest::newRow("list") << "1-2, con"
                              << "1 2 con";
        QTest::newRow("path") << "2/0/1-2/0/2"
                              << "2/0/1 2/0/2";
        QTest::newRow("turned round") << "4-2"
                                      << "";
        QTest::newRow("two prefixes") << "X1-Y3"
                                      << "";
        QTest::newRow("empty part") << "1,,2"
                                    << "";
        QTest::newRow("too many") << "1-99999"
                                  << "";
        QTest::newRow("huge number") << "1-99999999999999"
                                     << "";
    }
    void port_keys_expand() {
        QFETCH(QString, keys);
        QFETCH(QString, expanded);
        const auto result = expandKeys(keys.toStdString());
        if (expanded.isEmpty()) {
            QVERIFY(!result);
            QVERIFY(!result.refusal().remedy.empty());
            return;
        }
        QVERIFY(result);
        QStringList got;
        for (const std::string& key : *result)
            got << QString::fromStdString(key);
        QCOMPARE(got.join(' '), expanded);
    }

    void the_catalogue_that_ships_is_sound() {
        const Catalogue catalogue = exchange::builtInCatalogue();
        QVERIFY(catalogue.devices.size() >= 10);
        QVERIFY(problemsOf(catalogue).empty());
        QCOMPARE(QString::fromStdString(portSummary(*catalogue.device("access-switch-24"))),
                 QStringLiteral("24 × RJ45 1G PoE Type 2, 4 × SFP+ 10G"));
        std::set<Block> blocks;
        for (const DeviceModel& model : catalogue.devices)
            for (const PortBlock& block : model.ports.blocks())
                blocks.insert(block.block);
        for (const Block block : {Block::access, Block::uplink, Block::stack, Block::management})
            QVERIFY(blocks.contains(block));
    }

    void faults_of_a_catalogue_are_refused_with_their_place_data() {
        QTest::addColumn<QString>("devices");
        QTest::addColumn<QString>("says");
        QTest::newRow("no name") << R"([{"id":"a"}])"
                                 << "name is missing";
        QTest::newRow("bad id") << R"([{"id":"A b","name":"x"}])"
                                << "id may hold";
        QTest::newRow("port twice")
            << R"([{"id":"a","name":"x","ports":[{"keys":"1,1","connector":"rj45"}]}])"
            << "there twice";
        QTest::newRow("no connector") << R"([{"id":"a","name":"x","ports":[{"keys":"1"}]}])"
                                      << "neither connector nor cage";
        QTest::newRow("unknown word") << R"([{"id":"a","name":"x","role":"toaster"}])"
                                      << "unknown value";
        QTest::newRow("unknown module") << R"([{"id":"a","name":"x","slots":[{"key":"A","fits":["zzz"]}]}])"
                                        << "not in the catalogue";
        QTest::newRow("bad range") << R"([{"id":"a","name":"x","ports":[{"keys":"9-1","connector":"rj45"}]}])"
                                   << "not a range";
        QTest::newRow("same id") << R"([{"id":"a","name":"x"},{"id":"a","name":"y"}])"
                                 << "there twice";
        QTest::newRow("no json") << "[{"
                                 << "not whole JSON";
    }
    void faults_of_a_catalogue_are_refused_with_their_place() {
        QFETCH(QString, devices);
        QFETCH(QString, says);
        const std::string text = devices.toStdString();
        auto texts = exchange::builtInTexts();
        texts.devices = text;
        const auto read = exchange::readCatalogue(texts);
        QVERIFY(!read);
        QVERIFY2(QString::fromStdString(read.refusal().what).contains(says), read.refusal().text().c_str());
        QVERIFY(!read.refusal().where.object.empty() || !read.refusal().where.file.empty());
    }

    void ports_come_from_model_slots_additions_and_stack() {
        One router("border-router");
        QVERIFY(router.has("X2") && !router.has("A/1"));
        router.device.modules = {{"A", "module-4-sfp", ""}, {"B", "module-8-rj45", ""}};
        router.put();
        QVERIFY(router.has("A/4") && router.has("B/8") && !router.has("A/5"));

        One desk("workstation");
        desk.device.added = {"2"};
        desk.put();
        QVERIFY(desk.has("2") && !desk.has("3"));

        One stacked("distribution-switch-24");
        stacked.device.stack = {{1, "distribution-switch-24", "", {}}, {2, "distribution-switch-24", "", {}}};
        stacked.put();
        QVERIFY(stacked.has("1/24") && stacked.has("2/X4") && !stacked.has("24"));
    }

    void a_port_in_breakout_mode_gives_way_to_its_children() {
        One sw("distribution-switch-24");
        Port port;
        port.device = sw.device.id;
        port.port = "S1";
        port.breakout = 4;
        sw.network.put(port);
        QVERIFY(!sw.has("S1") && sw.has("S1/1") && sw.has("S1/4"));
        QCOMPARE(portAt(sw.network, {sw.device.id, "S1/2"})->rates(), std::vector<int>{10000});
    }

    void a_transceiver_and_a_set_speed_limit_the_rates() {
        One sw("access-switch-24");
        sw.device.transceivers = {{"X1", "sfp-1000base-sx", ""}};
        sw.put();
        QCOMPARE(portAt(sw.network, {sw.device.id, "X1"})->rates(), std::vector<int>{1000});
        QVERIFY(portAt(sw.network, {sw.device.id, "X1"})->connector() == Connector::lc);
        Port slow;
        slow.device = sw.device.id;
        slow.port = "3";
        slow.speed = 100;
        sw.network.put(slow);
        QCOMPARE(portAt(sw.network, {sw.device.id, "3"})->rates(), std::vector<int>{100});
    }

    void indices_follow_the_records() {
        tests::RandomEdits edits(3);
        Network network = edits.start();
        for (int i = 0; i < 300; ++i) {
            if (auto act = edits.act(network))
                network = act->network;
            if (i % 20 == 0)
                QVERIFY(network.indicesAreTrue());
        }
        QVERIFY(network.all<Link>().size() > 5);
        network.all<Link>().forEach([&](const Link& link) { QCOMPARE(network.linkAt(link.a)->id, link.id); });
    }

    void a_network_made_at_once_equals_one_filled_record_by_record() {
        for (std::uint64_t seed = 1; seed <= 6; ++seed) {
            const Network network = tests::RandomEdits(seed).grown(120);
            Records records;
            Network one;
            const auto take = [&](const auto& record) {
                records.all<std::decay_t<decltype(record)>>().push_back(record);
                one.put(record);
            };
            network.forEachTable([&](const auto& table) { table.forEach(take); });
            std::reverse(records.all<Device>().begin(), records.all<Device>().end()); // in any order
            bool repeated = true;
            const Network other = Network::of(records, &repeated);
            QVERIFY(!repeated);
            QVERIFY(other == network && one == network);
            QVERIFY(other.indicesAreTrue());
            DeviceId changed;
            network.all<Device>().forEach([&](const Device& device) { changed = device.id; });
            Device again = *network.device(changed);
            again.name = "the last counts";
            records.all<Device>().push_back(again);
            const Network twice = Network::of(records, &repeated);
            QVERIFY(repeated);
            QCOMPARE(twice.device(changed)->name, again.name);
            QCOMPARE(twice.all<Device>().size(), network.all<Device>().size());
            QVERIFY(twice.indicesAreTrue());
        }
    }

    void addresses_are_taken_apart_once() {
        const Address four("10.84.10.7/24");
        QVERIFY(four.valid());
        QCOMPARE(four.version(), 4);
        QCOMPARE(four.prefixLength(), 24);
        QCOMPARE(four.host(), std::string("10.84.10.7"));
        QCOMPARE(four.network().text(), std::string("10.84.10.0/24"));
        QVERIFY(four.network().contains(four));
        QVERIFY(four.network().contains("10.84.10.255"));
        QVERIFY(!four.network().contains("10.84.11.0"));
        QVERIFY(!Address("10.84.0.0/24").contains("10.84.0.0/16")); // the wider of the two
        QVERIFY(Address("10.84.0.0/16").contains("10.84.0.0/24"));
        QCOMPARE(Address("10.84.10.200/24").network().text(), std::string("10.84.10.0/24"));
        QCOMPARE(Address("10.84.10.200/25").network().text(), std::string("10.84.10.128/25"));
        const Address six("fd84:fe::1/60");
        QCOMPARE(six.version(), 6);
        QCOMPARE(six.network().text(), std::string("fd84:fe::/60"));
        QVERIFY(!six.network().contains(four));
        QVERIFY(!Address("10.84.1.1").network().valid()); // no length, no prefix
        const Address odd("dhcp");
        QVERIFY(!odd.valid());
        QCOMPARE(odd.text(), std::string("dhcp")); // kept as written
    }

    void a_port_finds_its_link_whatever_else_ends_there() {
        Network network;
        const auto put = [&](std::uint64_t id, PortRef a, PortRef b) {
            Link link;
            link.id = {id};
            link.a = std::move(a);
            link.b = std::move(b);
            network.put(std::move(link));
        };
        for (std::uint64_t i = 0; i < 300; ++i)
            put(100 + i, {{1}, std::to_string(i)}, {{2 + i}, "1"});
        put(900, {{1}, ""}, {{5}, "2"}); // an end that is not known is at no port
        QCOMPARE(network.linkAt({{1}, "7"})->id, LinkId{107});
        QCOMPARE(network.linkAt({{9}, "1"})->id, LinkId{107});
        QVERIFY(!network.linkAt({{1}, ""}));
        QVERIFY(!network.linkAt({{1}, "300"}));
        put(107, {{1}, "999"}, {{9}, "1"}); // it moves
        QVERIFY(!network.linkAt({{1}, "7"}));
        QCOMPARE(network.linkAt({{1}, "999"})->id, LinkId{107});
        network.erase<Link>({107, 0});
        QVERIFY(!network.linkAt({{9}, "1"}));
        QVERIFY(network.indicesAreTrue());
        QCOMPARE(network.degree({1}), std::size_t{300});
    }

    void a_chassis_may_stand_apart_and_is_found_by_its_place() {
        One stacked("access-switch-24");
        stacked.device.stack = {{1, "access-switch-24", "", {}},
                                {2, "access-switch-24", "", {{70}, 0, 0, 0, 12, Side::front}}};
        stacked.device.place = {{60}, 0, 0, 0, 3, Side::front};
        stacked.put();
        QCOMPARE(placeOf(stacked.network, {{1}, "1/17"}).in, GroupId{60});
        QCOMPARE(placeOf(stacked.network, {{1}, "2/17"}).in, GroupId{70});
        QCOMPARE(placeOf(stacked.network, {{1}, ""}).in, GroupId{60});
        for (const std::uint64_t rack : {60, 70}) {
            int found = 0;
            stacked.network.forEachPlacedIn({rack}, [&](const Device& device) {
                QCOMPARE(device.id, DeviceId{1});
                ++found;
            });
            QCOMPARE(found, 1);
        }
        QVERIFY(stacked.network.indicesAreTrue());
    }

    void a_group_that_is_part_of_a_building_agrees_with_the_place() {
        One one("access-switch-24");
        one.network.put(tests::groupOf({50}, "Quay level", GroupKind::floor, {}));
        one.network.put(tests::groupOf({60}, "Rack 1", GroupKind::rack, {50}));
        one.network.put(tests::groupOf({61}, "Tills", GroupKind::cluster, {60}));
        one.device.group = {61};
        one.put();
        QVERIFY(!placeOf(one.network, {{1}, ""}).in); // a group gives no place
        Device moved = one.device;
        moved.place.in = {50};
        agreeWithPlace(one.network, moved); // a cluster says nothing of places
        QCOMPARE(moved.group, GroupId{61});
        moved.group = {60};
        agreeWithPlace(one.network, moved); // the floor around the rack is not in it
        QCOMPARE(moved.group, GroupId{50});
        moved.place.in = {60};
        agreeWithPlace(one.network, moved); // further inside agrees
        QCOMPARE(moved.group, GroupId{50});
    }

    void ports_are_counted_as_they_are_laid_out() {
        tests::RandomEdits edits(77);
        Network network = edits.start();
        int devices = 0;
        for (int i = 0; i < 400; ++i) {
            const auto act = edits.act(network);
            if (!act)
                continue;
            network = act->network;
            network.all<Device>().forEach([&](const Device& device) {
                int data = 0;
                for (const PortView& port : portsOf(network, device))
                    data += port.isData();
                if (countPorts(network, device).all != data)
                    QFAIL(device.name.c_str());
                ++devices;
            });
        }
        QVERIFY(devices > 1000);
        // Split ports, modules and learned ones count too.
        DeviceId id;
        network.all<Device>().forEach([&](const Device& device) {
            if (countPorts(network, device).all > 8)
                id = device.id;
        });
        const int before = countPorts(network, *network.device(id)).all;
        Device more = *network.device(id);
        more.learned = PortNames(std::vector<std::string>{"never-so-1", "never-so-2"});
        network.put(more);
        QCOMPARE(countPorts(network, *network.device(id)).all, before + 2);
    }

    void rates_are_written_as_the_trade_does() {
        const std::pair<int, const char*> rates[] = {
            {10, "10M"}, {1000, "1G"}, {2500, "2.5G"}, {10'000, "10G"}, {100'000, "100G"}};
        for (const auto& [mbps, text] : rates)
            QCOMPARE(rateText(mbps), std::string(text));
        QCOMPARE(speedText(2500), std::string("2.5 Gbit/s"));
        QCOMPARE(speedText(100), std::string("100 Mbit/s"));
    }
};

UNDERRIDGE_TEST(ModelTest)
#include "model_test.moc"

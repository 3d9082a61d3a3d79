// SPDX-License-Identifier: GPL-3.0-or-later
// Identities: as texts, as sets, and what is sorted by them.
#include "core/model/id_set.h"
#include "core/model/network.h"
#include "tests/support/registered.h"

#include <map>
#include <set>

using namespace underridge;
using namespace underridge::model;

namespace {

/// Ids as they are made, one after another, and few among which one is far away.
std::vector<std::vector<std::uint64_t>> kindsOfIds(std::size_t count) {
    std::vector<std::uint64_t> made, counted, lopsided, clustered;
    IdSource source(3);
    for (std::size_t i = 0; i < count; ++i) {
        made.push_back(source.next());
        counted.push_back(i + 1);
        lopsided.push_back(i + 1);
        clustered.push_back((i % 2 == 0 ? 0 : std::uint64_t{1} << 59) + i + 1);
    }
    lopsided.back() = (std::uint64_t{1} << idBits) - 1;
    return {made, counted, lopsided, clustered};
}

} // namespace

class IdsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void an_id_is_twelve_characters_and_comes_back() {
        IdSource source(1);
        for (int i = 0; i < 1000; ++i) {
            const std::uint64_t id = source.next();
            QVERIFY(id != 0 && id >> idBits == 0);
            QCOMPARE(idText(id).size(), std::size_t{12});
            QCOMPARE(idFromText(idText(id)), std::optional(id));
        }
        QCOMPARE(idText(1), std::string("000000000001"));
        QCOMPARE(idFromText("zzzzzzzzzzzz"), std::optional((std::uint64_t{1} << idBits) - 1));
    }

    void what_is_no_id_is_none_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::newRow("empty") << QByteArray();
        QTest::newRow("zero") << QByteArray("000000000000");
        QTest::newRow("short") << QByteArray("00000000001");
        QTest::newRow("long") << QByteArray("0000000000011");
        QTest::newRow("capitals") << QByteArray("00000000000A");
        QTest::newRow("a blank") << QByteArray("0000000 0001");
        QTest::newRow("above ASCII") << QByteArray("0000000000\xC3\xA9");
        // Letters that are taken for digits are not in the alphabet.
        for (const char letter : {'i', 'l', 'o', 'u'})
            QTest::newRow(QByteArray(1, letter)) << "00000000001" + QByteArray(1, letter);
    }
    void what_is_no_id_is_none() {
        QFETCH(QByteArray, text);
        QVERIFY(!idFromText(text.toStdString()));
    }

    void a_source_repeats_itself_from_the_same_seed_alone() {
        IdSource a(7), b(7), c(8);
        std::set<std::uint64_t> all;
        for (int i = 0; i < 500; ++i) {
            const std::uint64_t next = a.next();
            QCOMPARE(b.next(), next);
            QVERIFY(c.next() != next);
            all.insert(next);
        }
        QCOMPARE(all.size(), std::size_t{500});
    }

    void a_set_holds_what_it_was_made_of_and_nothing_else() {
        for (const std::size_t count : {1U, 2U, 63U, 64U, 1000U})
            for (std::vector<std::uint64_t> ids : kindsOfIds(count)) {
                std::sort(ids.begin(), ids.end());
                const IdSet set(ids);
                const std::set<std::uint64_t> plain(ids.begin(), ids.end());
                for (const std::uint64_t id : ids)
                    for (const std::uint64_t asked : {id - 1, id, id + 1, id ^ (std::uint64_t{1} << 40)})
                        QCOMPARE(set.contains(asked), plain.contains(asked));
                QVERIFY(!set.contains(0) && !set.contains(~std::uint64_t{0}));
            }
        QVERIFY(!IdSet().contains(0) && !IdSet().contains(1));
    }

    void the_set_of_a_table_has_the_ids_of_its_records() {
        Network network;
        for (const std::uint64_t id : {5U, 3U, 900U}) {
            Device device;
            device.id = {id};
            network.put(device);
        }
        const IdSet set = IdSet::of(network.all<Device>());
        QVERIFY(set.contains(3) && set.contains(5) && set.contains(900));
        QVERIFY(!set.contains(4));
    }

    void records_in_any_order_become_one_network_and_the_last_of_equals_counts() {
        std::mt19937_64 random(4);
        for (const std::size_t count : {10U, 63U, 64U, tests::isSanitized ? 400U : 2000U})
            for (const auto& ids : kindsOfIds(count)) {
                Records records;
                std::map<std::uint64_t, std::string> names;
                const auto add = [&](std::uint64_t id, const std::string& name) {
                    Device device;
                    device.id = {id};
                    device.name = name;
                    records.all<Device>().push_back(device);
                    names[id] = name;
                };
                auto shuffled = ids;
                std::shuffle(shuffled.begin(), shuffled.end(), random);
                for (const std::uint64_t id : shuffled)
                    add(id, "first " + idText(id));
                for (std::size_t i = 0; i < count; i += 7)
                    add(shuffled[i], "last " + std::to_string(i));
                bool repeated = false;
                const Network network = Network::of(std::move(records), &repeated);
                QVERIFY(repeated);
                QCOMPARE(network.all<Device>().size(), names.size());
                QVERIFY(network.indicesAreTrue());
                auto expected = names.begin();
                network.all<Device>().forEach([&](const Device& device) { // in order of their ids
                    QCOMPARE(device.id.value, expected->first);
                    QCOMPARE(device.name, expected->second);
                    ++expected;
                });
            }
    }

    void links_and_cables_are_found_at_their_ends_however_many() {
        IdSource source(9);
        Records records;
        std::vector<DeviceId> devices;
        for (int i = 0; i < 200; ++i) {
            Device device;
            device.id = source.make<DeviceId>();
            devices.push_back(device.id);
            records.all<Device>().push_back(device);
        }
        std::map<DeviceId, std::set<LinkId>> expected;
        for (int i = 0; i < 900; ++i) {
            Link link;
            link.id = source.make<LinkId>();
            link.a = {devices[static_cast<std::size_t>(i * 7) % devices.size()], "a" + std::to_string(i)};
            link.b = {devices[0], "b" + std::to_string(i)}; // a hub of them all
            expected[link.a.device].insert(link.id);
            expected[link.b.device].insert(link.id);
            records.all<Link>().push_back(link);
        }
        const Network network = Network::of(std::move(records));
        QVERIFY(network.indicesAreTrue());
        for (const DeviceId device : devices) {
            std::set<LinkId> found;
            network.forEachLinkOf(device, [&](const Link& link) { found.insert(link.id); });
            QVERIFY(found == expected[device]);
        }
        network.all<Link>().forEach([&](const Link& link) {
            QCOMPARE(network.linkAt(link.a)->id, link.id);
            QCOMPARE(network.linkAt(link.b)->id, link.id);
        });
    }
};

UNDERRIDGE_TEST(IdsTest)
#include "ids_test.moc"

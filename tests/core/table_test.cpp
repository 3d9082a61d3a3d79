// SPDX-License-Identifier: GPL-3.0-or-later
#ifndef Q_MOC_RUN // moc of Qt 6.4 stumbles over <concepts>
#include "core/model/table_impl.h"
#include "tests/support/registered.h"
#endif

#include <map>
#include <random>

using namespace underridge::model;

namespace {

struct Record {
    Key id;
    int value = 0;

    bool operator==(const Record&) const = default;
    Key key() const { return id; }
};

using Tree = Table<Record, 8>;
using Naive = std::map<Key, int>;

Naive contents(const Tree& table) {
    Naive out;
    table.forEach([&](const Record& r) { out[r.id] = r.value; });
    return out;
}

} // namespace

class TableTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void random_edits_agree_with_a_map_data() {
        QTest::addColumn<quint64>("spread"); // how much of the key varies
        QTest::newRow("random ids") << ~quint64{0};
        QTest::newRow("few owners") << quint64{3};
        QTest::newRow("counted ids") << quint64{255};
    }
    void random_edits_agree_with_a_map() {
        QFETCH(quint64, spread);
        std::mt19937_64 random(5);
        Tree table;
        Naive naive;
        for (int i = 0; i < 6000; ++i) {
            const Key key{random() & spread, random() % 97};
            if (random() % 3 == 0) {
                QCOMPARE(table.erase(key), naive.erase(key) == 1);
            } else {
                table.put({key, i});
                naive[key] = i;
            }
            QCOMPARE(table.size(), naive.size());
            if (i % 500 == 0)
                QCOMPARE(contents(table), naive);
        }
        for (const auto& [key, value] : naive)
            QCOMPARE(table.find(key)->value, value);
        QVERIFY(!table.find({~quint64{0}, 98}));
    }

    void a_copy_keeps_its_value_and_shares_the_rest() {
        std::mt19937_64 random(6);
        Table<Record> table;
        for (int i = 0; i < 20000; ++i)
            table.put({{random(), 0}, i});
        const Table<Record> before = table;
        const Key key{random(), 0};
        table.put({key, 1});
        QVERIFY(!before.find(key));
        QCOMPARE(before.size() + 1, table.size());
        std::size_t different = 0;
        Table<Record>::compare(before, table, [&](const Record*, const Record*) { ++different; });
        QCOMPARE(different, std::size_t{1});
        // All but the path to the new record is shared.
        QVERIFY(before.nodesSharedWith(table) + 6 > before.nodesSharedWith(before));
    }

    void equal_contents_are_equal_however_they_came_about() {
        std::mt19937_64 random(7);
        Tree a, b;
        std::vector<Record> records;
        for (int i = 0; i < 500; ++i)
            records.push_back({{random() % 40, random() % 1000}, i});
        for (const Record& r : records)
            a.put(r);
        for (int i = 0; i < 300; ++i)
            b.put({{random(), random()}, i});
        const Naive extra = contents(b);
        for (const Record& r : records)
            b.put(r);
        for (const auto& [key, value] : extra)
            b.erase(key);
        QVERIFY(contents(a) == contents(b));
        QVERIFY(a == b);
    }

    void comparing_tells_added_removed_and_changed_in_order() {
        std::mt19937_64 random(8);
        for (int round = 0; round < 60; ++round) {
            Tree a;
            for (int i = 0; i < round * 8; ++i)
                a.put({{random() % 16, random() % 64}, i});
            Tree b = a;
            for (int i = 0; i < round; ++i) {
                const Key key{random() % 16, random() % 64};
                if (random() % 2)
                    b.erase(key);
                else
                    b.put({key, -i});
            }
            if (round % 10 == 9)
                b = Tree(); // nothing left
            Naive patched = contents(a);
            Key last{};
            bool first = true;
            Tree::compare(a, b, [&](const Record* old, const Record* fresh) {
                const Key key = old ? old->id : fresh->id;
                QVERIFY(first || last < key);
                first = false;
                last = key;
                if (old)
                    QCOMPARE(patched.at(key), old->value);
                if (fresh)
                    patched[key] = fresh->value;
                else
                    patched.erase(key);
            });
            QCOMPARE(patched, contents(b));
        }
    }

    void records_of_one_owner_are_found_together() {
        std::mt19937_64 random(9);
        Tree table;
        std::map<std::uint64_t, std::size_t> counts;
        for (int i = 0; i < 2000; ++i) {
            const Key key{random() % 30, random()};
            counts[key.hi] += !table.find(key);
            table.put({key, i});
        }
        for (std::uint64_t owner = 0; owner < 32; ++owner) {
            std::size_t n = 0;
            table.forEachIn(owner, [&](const Record& r) {
                QCOMPARE(r.id.hi, owner);
                ++n;
            });
            QCOMPARE(n, counts[owner]);
        }
    }

    void ids_read_back_and_reject_what_is_none() {
        IdSource ids(1);
        for (int i = 0; i < 1000; ++i) {
            const std::uint64_t id = ids.next();
            QCOMPARE(idFromText(idText(id)).value(), id);
        }
        for (const char* bad : {"", "000000000000", "abc", "0123456789ab3", "ILOU56789012", "            "})
            QVERIFY(!idFromText(bad));
    }

    void built_at_once_a_table_has_the_shape_of_one_filled_record_by_record() {
        std::mt19937_64 random(9);
        for (const std::size_t size : {0U, 1U, 8U, 9U, 300U, 5000U}) {
            Naive naive;
            while (naive.size() < size)
                naive[{random() & (size < 10 ? 3 : ~quint64{0}), random() % 300}] =
                    static_cast<int>(naive.size());
            Tree one;
            std::vector<Record> sorted;
            for (const auto& [key, value] : naive) {
                one.put({key, value});
                sorted.push_back({key, value});
            }
            Tree other = Tree::fromSorted(sorted);
            QVERIFY(other == one);
            QCOMPARE(other.size(), size);
            QCOMPARE(contents(other), naive);
            std::size_t differences = 0;
            Tree::compare(one, other, [&](const Record*, const Record*) { ++differences; });
            QCOMPARE(differences, std::size_t{0});
            for (const auto& [key, value] : naive)
                QVERIFY(other.erase(key));
            QVERIFY(other.empty());
        }
    }
};

UNDERRIDGE_TEST(TableTest)
#include "table_test.moc"

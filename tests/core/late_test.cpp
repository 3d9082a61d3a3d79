// SPDX-License-Identifier: GPL-3.0-or-later
// Acts made from a network that has changed since, and acts whose file could not be read
// back.
#include "core/edit/document.h"
#include "core/edit/late.h"
#include "core/edit/sheets.h"
#include "core/exchange/own_format.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using tests::RandomEdits;
using tests::Workbench;

namespace {

/// An act made from `base`, as a worker or a dialog hands it over.
edit::ActResult from(const Network& base, edit::ActResult act) {
    if (act)
        act->base = base;
    return act;
}

} // namespace

class LateTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void what_was_done_meanwhile_stays() {
        Workbench b;
        const DeviceId one = b.add("access-switch-24", "one"), two = b.add("workstation", "two");
        const Network base = b.network;
        auto late = from(base, edit::rename(base, {refTo(one)}, {"core"}));
        b.take(edit::rename(b.network, {refTo(two)}, {"till"}));
        b.link({one, "1"}, {two, {}});
        const auto now = edit::broughtUpTo(*late, b.network);
        QVERIFY(now);
        QCOMPARE(tests::text(now->network.device(one)->name), QStringLiteral("core"));
        QCOMPARE(tests::text(now->network.device(two)->name), QStringLiteral("till"));
        QCOMPARE(now->network.all<Link>().size(), std::size_t{1});
        QVERIFY(now->network.indicesAreTrue());
    }

    void what_was_changed_otherwise_refuses_the_act_and_names_the_object() {
        Workbench b;
        const DeviceId one = b.add("access-switch-24", "one");
        const Network base = b.network;
        auto late = from(base, edit::rename(base, {refTo(one)}, {"core"}));
        b.take(edit::rename(b.network, {refTo(one)}, {"edge"}));
        const auto now = edit::broughtUpTo(*late, b.network);
        QVERIFY(!now);
        QVERIFY(tests::text(now.refusal().text()).contains(QStringLiteral("edge")));
        QVERIFY(!now.refusal().remedy.empty());
        // The same change twice is no quarrel.
        b.take(edit::rename(b.network, {refTo(one)}, {"core"}));
        QVERIFY(edit::broughtUpTo(*late, b.network));
    }

    void a_link_to_a_device_that_is_gone_or_a_port_that_is_taken_is_refused() {
        Workbench b;
        const DeviceId sw = b.add("access-switch-24", "sw"), one = b.add("workstation", "one"),
                       two = b.add("workstation", "two");
        const Network base = b.network;
        auto late = from(base, edit::makeLink(base, b.catalogue, *b.best({sw, "1"}, {one, {}}), b.ids));
        QVERIFY(late);
        const auto gone = edit::removeObjects(base, {refTo(one)});
        QVERIFY(!edit::broughtUpTo(*late, gone->network));
        b.link({sw, "1"}, {two, {}});
        const auto taken = edit::broughtUpTo(*late, b.network);
        QVERIFY(!taken);
        QVERIFY(tests::text(taken.refusal().what).contains(QStringLiteral("sw 1 was taken")));
    }

    void a_device_removed_late_may_not_leave_new_links_behind() {
        Workbench b;
        const DeviceId sw = b.add("access-switch-24", "sw"), one = b.add("workstation", "one");
        const Network base = b.network;
        auto late = from(base, edit::removeObjects(base, {refTo(one)}));
        b.link({sw, "1"}, {one, {}});
        QVERIFY(!edit::broughtUpTo(*late, b.network));
    }

    void random_late_acts_leave_nothing_pointing_at_nothing() {
        int taken = 0, refused = 0;
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(30)); ++seed) {
            RandomEdits edits(seed);
            const Network base = edits.grown(60);
            Network now = base;
            for (int i = 0; i < 4; ++i)
                if (auto act = edits.act(now))
                    now = act->network;
            for (int i = 0; i < 20; ++i) {
                auto act = from(base, edits.act(base));
                if (!act)
                    continue;
                const auto late = edit::broughtUpTo(*std::move(act), now);
                late ? ++taken : ++refused;
                if (!late)
                    continue;
                QVERIFY(late->network.indicesAreTrue());
                const auto loaded = exchange::readOwn(exchange::writeOwn(late->network), "n");
                QVERIFY(loaded && loaded->remarks.empty());
            }
        }
        QVERIFY2(taken > tests::tries(50) && refused > tests::tries(10),
                 qPrintable(QStringLiteral("%1 taken, %2 refused").arg(taken).arg(refused)));
    }

    void an_act_of_the_present_network_is_taken_as_it_is() {
        Workbench b;
        const DeviceId one = b.add("workstation", "one");
        auto act = from(b.network, edit::rename(b.network, {refTo(one)}, {"x"}));
        const Network wanted = act->network;
        QVERIFY(edit::broughtUpTo(*act, b.network)->network == wanted);
    }

    void a_document_refuses_what_its_file_could_not_hold_data() {
        QTest::addColumn<int>("which");
        QTest::newRow("a note too long") << 0;
        QTest::newRow("bytes that are no text") << 1;
        QTest::newRow("a position off the sheet") << 2;
        QTest::newRow("a bend off the sheet") << 3;
        QTest::newRow("an attribute that is no text") << 4;
    }
    void a_document_refuses_what_its_file_could_not_hold() {
        QFETCH(int, which);
        Workbench b;
        const DeviceId one = b.add("workstation", "one");
        MemoryFiles files;
        auto document = edit::Document::fresh({files, "/j", [] { return std::int64_t{0}; }}, b.network);
        Network next = b.network;
        Device device = *next.device(one);
        Position position = *next.position(b.sheet, one.value);
        if (which == 0)
            next.put(
                Note{{9}, b.sheet, std::string(exchange::maxLineBytes, 'n'), false, false, false, {}, {}});
        else if (which == 1)
            device.note = "bad \xff";
        else if (which == 2)
            position.at.x = sheetLimit + 1;
        else if (which == 3)
            position.bends = {{0, 0}, {0, -sheetLimit - 1}};
        else
            device.attributes["owner"] = "bad \xc3";
        next.put(device);
        next.put(position);
        const auto applied = document.apply({"Act", next, {}}, {}, {});
        QVERIFY(!applied);
        QVERIFY(!applied.refusal().what.empty() && !applied.refusal().remedy.empty());
        QVERIFY(document.network() == b.network);
        QVERIFY(!document.history().canUndo());
    }

    void what_was_prepared_is_taken_as_if_it_had_been_applied() {
        for (std::uint64_t seed = 60; seed < 60 + static_cast<std::uint64_t>(tests::tries(4)); ++seed) {
            RandomEdits edits(seed);
            MemoryFiles one, other;
            std::int64_t clock = 0;
            const auto now = [&] { return clock += 5000; };
            auto taken = edit::Document::fresh({one, "/j", now}, edits.start());
            auto applied = edit::Document::fresh({other, "/j", now}, taken.network());
            for (int i = 0; i < 40; ++i) {
                auto act = edits.act(taken.network());
                if (!act)
                    continue;
                auto prepared = edit::Document::prepared(taken.network(), *act);
                const auto direct = applied.apply(*act, {}, {});
                QCOMPARE(static_cast<bool>(prepared), static_cast<bool>(direct));
                if (prepared)
                    QCOMPARE(*taken.take(*std::move(prepared), {}, {}), *direct);
                QVERIFY(taken.network() == applied.network());
                QCOMPARE(taken.history().steps(), applied.history().steps());
            }
            const std::string journal = "/j/" + idText(taken.network().info().id.value) + ".journal";
            QVERIFY(*one.read(journal) == *other.read(journal));
        }
    }

    void what_was_prepared_too_early_comes_late() {
        Workbench b;
        const DeviceId one = b.add("workstation", "one"), two = b.add("workstation", "two");
        MemoryFiles files;
        auto document = edit::Document::fresh({files, "/j", [] { return std::int64_t{0}; }}, b.network);
        const auto moved = [&](DeviceId id, int by) {
            return *edit::Document::prepared(b.network,
                                             *edit::moveObjects(b.network, b.sheet, {refTo(id)}, {by, 0}));
        };
        const auto x = [&](DeviceId id) { return document.network().position(b.sheet, id.value)->at.x; };
        const int first = x(one), second = x(two);
        auto early = moved(one, 40), same = moved(two, 16);
        QVERIFY(*document.take(moved(two, 80), {}, {}));
        QVERIFY(*document.take(std::move(early), {}, {}));
        QCOMPARE(x(one), first + 40);
        QCOMPARE(x(two), second + 80);
        QVERIFY(!document.take(std::move(same), {}, {})); // it was moved otherwise meanwhile
        QCOMPARE(x(two), second + 80);
        QCOMPARE(document.history().steps(), std::size_t{2});
        QCOMPARE(
            *document.take(*edit::Document::prepared(document.network(), {"Nothing", document.network(), {}}),
                           {}, {}),
            false);
    }

    void whatever_the_acts_make_a_document_takes_and_its_file_gives_back() {
        for (std::uint64_t seed = 40; seed < 40 + static_cast<std::uint64_t>(tests::tries(10)); ++seed) {
            RandomEdits edits(seed);
            MemoryFiles files;
            std::int64_t clock = 0;
            auto document =
                edit::Document::fresh({files, "/j", [&] { return clock += 5000; }}, edits.start());
            for (int i = 0; i < 80; ++i) {
                auto act = edits.far(document.network());
                if (!act)
                    continue;
                const auto applied = document.apply(*std::move(act), {}, {});
                QVERIFY2(applied, applied ? "" : applied.refusal().text().c_str());
            }
            const auto loaded = exchange::readOwn(exchange::writeOwn(document.network()), "n");
            QVERIFY(loaded && loaded->remarks.empty());
            QVERIFY(loaded->network == document.network());
            const auto journal = edit::readJournal(
                *files.read("/j/" + idText(document.network().info().id.value) + ".journal"));
            QVERIFY(journal);
            QVERIFY(*edit::replay(Network(), journal->payloads) == document.network());
        }
    }
};

UNDERRIDGE_TEST(LateTest)
#include "late_test.moc"

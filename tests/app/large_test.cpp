// SPDX-License-Identifier: GPL-3.0-or-later
// A network of thousands in the window: what takes its time is worked out beside it, and comes right.
#include "core/edit/devices.h"
#include "core/edit/groups.h"
#include "core/edit/objects.h"
#include "core/edit/sheets.h"
#include "core/model/group_tree.h"
#include "tests/support/large_network.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

using namespace underridge;
using namespace underridge::model;
using tests::WindowHarness;

namespace {

constexpr int many = 3200;

class Thousands : public WindowHarness {
public:
    Thousands() {
        begin();
        session().setDocument(
            edit::Document::fresh(session().workspace().world(), tests::largeGrouped(many)));
        sheet().fitAll();
    }
    app::FilterBar& filter() { return window->filter(); }
    void filterBy(const QString& text) {
        filter().open();
        filter().field().setFocus();
        filter().field().clear();
        QTest::keyClicks(&filter().field(), text);
    }
    bool isChecked() { return window->checker().isCurrent(); }
};

} // namespace

class LargeTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void what_a_filter_would_find_is_told_a_moment_after_it_was_typed() {
        Thousands h;
        h.filterBy("name:acc-12");
        const int found = static_cast<int>(
            find::Matcher(h.network(), *find::Filter::parse("name:acc-12")).devices().size());
        const QString wanted =
            QStringLiteral("%1 of %2 devices").arg(QLocale().toString(found), QLocale().toString(many));
        QTRY_COMPARE(h.filter().says(), wanted);
        h.filterBy("name:acc-12 -role:switch"); // whatever was being counted is of no matter any more
        QTRY_COMPARE(h.filter().says(), QStringLiteral("0 of %1 devices").arg(QLocale().toString(many)));
        QTest::keyClicks(&h.filter().field(), " (");
        QTest::qWait(30);
        QVERIFY2(!h.filter().says().contains("devices"), qPrintable(h.filter().says()));
    }

    void a_filter_of_the_sheet_is_one_step_that_arrives() {
        Thousands h;
        const Network before = h.network();
        h.filterBy("name:acc-12");
        QTest::keyClick(&h.filter().field(), Qt::Key_Return);
        QVERIFY(h.session().workspace().isUnsettled());
        QTRY_VERIFY_WITH_TIMEOUT(!h.session().workspace().isUnsettled(), 30'000);
        QVERIFY(h.session().scene().filtered());
        QVERIFY(h.session().scene() == scene::Scene::build(h.network(), h.session().sheet()));
        QTRY_VERIFY_WITH_TIMEOUT(h.filter().says().endsWith("devices"), 30'000);
        h.session().undo();
        QVERIFY(h.network() == before);
        QVERIFY(!h.session().scene().filtered());
        h.session().redo();
        QTest::mouseClick(&h.filter().off(), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(!h.session().workspace().isUnsettled(), 30'000);
        QVERIFY(!h.session().scene().filtered());
        QVERIFY(!h.filter().isWanted());
    }

    void a_sheet_not_seen_before_is_shown_when_it_is_made() {
        Thousands h;
        const SheetId first = h.session().sheet();
        std::vector<SheetId> others;
        for (const char* name : {"second", "third"}) {
            auto act = edit::newSheet(h.network(), name, first, {}, false, h.session().ids());
            QVERIFY(bool(act));
            others.push_back({act->subjects.front().id});
            QVERIFY(h.session().apply(std::move(act)));
        }
        app::Navigation& navigation = h.session().navigation();
        h.session().showSheet(others[0]);
        QVERIFY(navigation.isOpening());
        QCOMPARE(h.session().sheet(), first);
        // What is done until then counts, on the sheet that is shown.
        h.session().select({refTo(h.named("acc-12"))});
        h.session().apply(
            edit::moveObjects(h.network(), h.session().look(), h.session().selection(), {400, 0}));
        QTRY_COMPARE_WITH_TIMEOUT(h.session().sheet(), others[0], 30'000);
        QVERIFY(!navigation.isOpening());
        QVERIFY(h.session().scene() == scene::Scene::build(h.network(), others[0]));
        navigation.back(); // at once: it was seen before
        QCOMPARE(h.session().sheet(), first);
        // The last wanted counts; Esc stays; and what is gone meanwhile is not shown.
        h.session().showSheet(others[1]);
        h.session().showSheet(others[0]);
        QCOMPARE(h.session().sheet(), others[0]);
        QTest::qWait(200);
        QCOMPARE(h.session().sheet(), others[0]);
        h.session().showSheet(others[1]);
        QVERIFY(navigation.isOpening());
        h.sheet().setFocus();
        h.key(Qt::Key_Escape);
        QVERIFY(!navigation.isOpening());
        h.session().showSheet(others[1]);
        QVERIFY(h.session().apply(edit::removeSheet(h.network(), others[1])));
        QTRY_VERIFY_WITH_TIMEOUT(!navigation.isOpening(), 30'000);
        QCOMPARE(h.session().sheet(), others[0]);
        // To what is on no sheet that was seen: there, and selected.
        h.session().undo();
        auto off = edit::takeOffSheet(h.network(), others[0], {refTo(h.named("acc-7"))});
        off->network = edit::takeOffSheet(off->network, first, {refTo(h.named("acc-7"))})->network;
        QVERIFY(h.session().apply(std::move(off)));
        QVERIFY(navigation.goTo(refTo(h.named("acc-7"))));
        QTRY_COMPARE_WITH_TIMEOUT(h.session().sheet(), others[1], 30'000);
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.named("acc-7"))});
    }

    void a_group_is_looked_into_when_what_is_in_it_is_made() {
        Thousands h;
        app::Navigation& navigation = h.session().navigation();
        const GroupId group = h.network().device(h.named("acc-12"))->group;
        QVERIFY(group);
        navigation.enter(group);
        QVERIFY(navigation.isOpening());
        QVERIFY(!h.session().scene().entered());
        h.session().apply(
            edit::moveObjects(h.network(), h.session().look(), {refTo(h.named("acc-12"))}, {16, 8}));
        QTRY_COMPARE_WITH_TIMEOUT(h.session().scene().entered(), group, 30'000);
        QVERIFY(h.session().scene() ==
                scene::Scene::build(h.network(), h.session().sheet(), h.session().lengthUnit(), group));
        navigation.enter({}); // at once, as it was seen before
        QVERIFY(h.session().scene() == scene::Scene::build(h.network(), h.session().sheet()));
        navigation.enter(group);
        h.sheet().setFocus();
        h.key(Qt::Key_Escape);
        QTest::qWait(100);
        QVERIFY(!h.session().scene().entered());
        navigation.enter(group); // gone before one is there
        QVERIFY(h.session().apply(edit::ungroup(h.network(), h.session().look(), {group})));
        QTRY_VERIFY_WITH_TIMEOUT(!navigation.isOpening(), 30'000);
        QVERIFY(!h.session().scene().entered());
    }

    void grouping_thousands_is_named_when_it_is_done() {
        Thousands h;
        edit::Refs all;
        h.network().all<Device>().forEach([&](const Device& each) {
            if (all.size() < 400)
                all.push_back(refTo(each.id));
        });
        h.session().select(all);
        const std::size_t groups = h.network().all<Group>().size();
        h.sheet().setFocus();
        h.window->action(app::CommandId::group)->trigger();
        QVERIFY(h.session().workspace().isUnsettled());
        QTRY_COMPARE_WITH_TIMEOUT(h.network().all<Group>().size(), groups + 1, 30'000);
        QTRY_VERIFY(qobject_cast<QLineEdit*>(QApplication::focusWidget()));
        h.type("Annex");
        h.key(Qt::Key_Return);
        QCOMPARE(h.network().group({h.session().selection().front().id})->name, std::string("Annex"));
        QCOMPARE(devicesWithin(h.network(), {h.session().selection().front().id}).size(), all.size());
    }

    void the_locator_shows_the_sheet_a_moment_later() {
        Thousands h;
        const auto shown = [&] { return h.sheet().locator().grab().toImage(); };
        h.sheet().look({1e6, 1e6}, 1); // its mark is out of sight
        QTRY_VERIFY_WITH_TIMEOUT(h.sheet().tilesComplete(), 30'000);
        QImage before;
        QTRY_VERIFY_WITH_TIMEOUT((before = shown()) == shown(), 30'000); // nothing is being made any more
        QTest::qWait(100);
        before = shown();
        h.session().select({refTo(h.named("acc-1"))});
        h.session().apply(edit::moveObjects(h.network(), h.session().look(), {refTo(h.named("acc-1"))},
                                            {-40'000, 0})); // the whole is twice as wide now
        QTRY_VERIFY_WITH_TIMEOUT(shown() != before, 30'000);
    }

    void the_list_of_findings_stays_where_an_edit_changes_none() {
        Thousands h;
        const auto lengthen = [&](std::int64_t mm) { // of some copper cable
            edit::Act act{"Longer", h.network(), {}};
            bool done = false;
            h.network().all<Cable>().forEach([&](const Cable& each) {
                if (done || each.type != "cat6a" || each.lengthMm > 100'000)
                    return;
                Cable longer = each;
                longer.lengthMm = mm;
                act.network.put(longer);
                done = true;
            });
            h.session().apply(std::move(act));
        };
        lengthen(300'000);
        QTRY_VERIFY_WITH_TIMEOUT(h.isChecked(), 30'000);
        QTreeWidget& list = h.window->findings().list();
        const auto sifted = h.window->checker().sharedSifted();
        const auto reported = h.window->checker().reported();
        QTreeWidgetItem* first = list.topLevelItem(0);
        QVERIFY(first);
        h.session().apply(
            edit::moveObjects(h.network(), h.session().look(), {refTo(h.named("acc-5"))}, {8, 0}));
        QTRY_VERIFY_WITH_TIMEOUT(!h.isChecked(), 30'000);
        QTRY_VERIFY_WITH_TIMEOUT(h.isChecked(), 30'000);
        QCOMPARE(h.window->checker().sharedSifted(), sifted);
        QCOMPARE(h.window->checker().reported(), reported);
        QCOMPARE(list.topLevelItem(0), first);
        lengthen(400'000);
        QTRY_VERIFY_WITH_TIMEOUT(h.window->checker().sharedSifted() != sifted, 30'000);
    }
};

UNDERRIDGE_TEST(LargeTest)
#include "large_test.moc"

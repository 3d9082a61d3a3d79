// SPDX-License-Identifier: GPL-3.0-or-later
// A network of thousands in the window: what takes its time is worked out beside it, and comes right.
#include "core/edit/devices.h"
#include "core/edit/sheets.h"
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

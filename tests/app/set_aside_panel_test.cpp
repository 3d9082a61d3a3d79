// SPDX-License-Identifier: GPL-3.0-or-later
// Findings set aside, and listed by place, rule and severity, in the window.
#include "app/panels/findings_panel.h"
#include "app/panels/set_aside_bar.h"
#include "app/window/checker.h"
#include "core/edit/interfaces.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// The network as it was found, its findings listed.
struct Found : WindowHarness {
    Found() {
        openSample("fennick-quay-as-found");
        window->action(CommandId::showFindings)->trigger();
        found = QTest::qWaitFor([&] { return rows() > 10; });
    }
    app::FindingsPanel& panel() { return *window->findChild<app::FindingsPanel*>(); }
    int rows() { return panel().list().topLevelItemCount(); }
    QTreeWidgetItem* row(int i) { return panel().list().topLevelItem(i); }
    void choose(QComboBox& box, int index) {
        box.setCurrentIndex(index);
        Q_EMIT box.activated(index);
    }
    void settle() {
        QVERIFY(QTest::qWaitFor([&] { return window->checker().isCurrent(); }));
    }
    bool found = false;
};

} // namespace

class SetAsidePanelTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_finding_is_set_aside_with_a_reason_and_counts_again() {
        Found f;
        QVERIFY(f.found);
        const int before = f.rows();
        QVERIFY(!f.panel().showingAside().isVisible());
        QVERIFY(!f.panel().settingAside().isEnabled());
        const QString first = f.row(0)->text(0);
        f.panel().list().setCurrentItem(f.row(0));
        QTest::mouseClick(&f.panel().settingAside(), Qt::LeftButton);
        auto& bar = f.panel().asideBar();
        QVERIFY(bar.isVisible());
        QTest::keyClick(&bar.reason(), Qt::Key_Return); // no reason yet
        QVERIFY(bar.isVisible());
        QTest::keyClicks(&bar.reason(), "replaced in spring");
        QTest::keyClicks(&bar.until(), "2099-03-31");
        QTest::keyClick(&bar.until(), Qt::Key_Return);
        QVERIFY(!bar.isVisible());
        QTRY_COMPARE(f.rows(), before - 1);
        QVERIFY(f.panel().showingAside().isVisible());
        QTest::mouseClick(&f.panel().showingAside(), Qt::LeftButton);
        QCOMPARE(f.rows(), 1);
        QCOMPARE(f.row(0)->text(0), first);
        QVERIFY(f.row(0)->text(1).startsWith("replaced in spring"));
        QVERIFY(!f.panel().putRight().isEnabled());
        f.panel().list().setCurrentItem(f.row(0));
        QTest::mouseClick(&f.panel().settingAside(), Qt::LeftButton);
        QTRY_COMPARE(f.rows(), before); // back among the others, as there is no more set aside
        QVERIFY(!f.panel().showingAside().isChecked());
    }
    void undo_and_redo_take_it_along() {
        Found f;
        const int before = f.rows();
        f.panel().list().setCurrentItem(f.row(1));
        QTest::mouseClick(&f.panel().settingAside(), Qt::LeftButton);
        QTest::keyClicks(&f.panel().asideBar().reason(), "known");
        QTest::mouseClick(&f.panel().asideBar().done(), Qt::LeftButton);
        QTRY_COMPARE(f.rows(), before - 1);
        f.window->action(CommandId::undo)->trigger();
        QTRY_COMPARE(f.rows(), before);
        f.window->action(CommandId::redo)->trigger();
        QTRY_COMPARE(f.rows(), before - 1);
    }
    void several_get_one_reason() {
        Found f;
        const int before = f.rows();
        for (int i = 0; i < 3; ++i)
            f.row(i)->setSelected(true);
        QVERIFY(!f.panel().putRight().isEnabled());
        QTest::mouseClick(&f.panel().settingAside(), Qt::LeftButton);
        QTest::keyClicks(&f.panel().asideBar().reason(), "known");
        QTest::keyClick(&f.panel().asideBar().reason(), Qt::Key_Return);
        QTRY_COMPARE(f.rows(), before - 3);
        f.window->action(CommandId::undo)->trigger(); // one act
        QTRY_COMPARE(f.rows(), before);
    }
    void escape_leaves_all_as_it_is_and_another_network_closes_the_line() {
        Found f;
        f.panel().list().setCurrentItem(f.row(0));
        QTest::mouseClick(&f.panel().settingAside(), Qt::LeftButton);
        QTest::keyClicks(&f.panel().asideBar().reason(), "half a rea");
        QTest::keyClick(&f.panel().asideBar().reason(), Qt::Key_Escape);
        QVERIFY(!f.panel().asideBar().isVisible());
        QVERIFY(f.network().all<SetAside>().empty());
        QTest::mouseClick(&f.panel().settingAside(), Qt::LeftButton);
        QVERIFY(f.panel().asideBar().isVisible());
        f.openFennickQuay();
        QTRY_VERIFY(!f.panel().asideBar().isVisible());
    }
    void findings_are_those_of_a_place_a_rule_a_severity() {
        Found f;
        const int all = f.rows();
        int sum = 0;
        QComboBox& severity = f.panel().severity();
        for (int i = 1; i < severity.count(); ++i) {
            f.choose(severity, i);
            sum += f.rows();
        }
        QCOMPARE(sum, all);
        f.choose(severity, 0);
        QComboBox& rule = f.panel().rule();
        sum = 0;
        for (int i = 1; i < rule.count(); ++i) {
            f.choose(rule, i);
            QVERIFY(f.rows() > 0);
            QCOMPARE(f.row(0)->text(2), rule.currentText());
            sum += f.rows();
        }
        QCOMPARE(sum, all);
        f.choose(rule, 0);
        QComboBox& place = f.panel().place();
        QVERIFY(place.count() > 3);
        for (int i = 1; i < place.count(); ++i) {
            f.choose(place, i);
            QVERIFY2(f.rows() > 0 && f.rows() <= all, qPrintable(place.currentText()));
        }
        const QString kept = place.currentText();
        f.panel().list().setCurrentItem(f.row(0));
        f.window->action(CommandId::selectAll)->trigger();
        QCOMPARE(place.currentText(), kept);
    }
};

UNDERRIDGE_TEST(SetAsidePanelTest)
#include "set_aside_panel_test.moc"

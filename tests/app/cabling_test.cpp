// SPDX-License-Identifier: GPL-3.0-or-later
// Linking beyond what fits: wrong links and their findings, remedies, and the chain of a
// connection.
#include "app/files/schedule_dialog.h"
#include "app/panels/chain_step.h"
#include "app/panels/rule_page.h"
#include "app/shown_text.h"
#include "core/analysis/check.h"
#include "core/edit/devices.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QCheckBox>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// Waits until the findings are those of the network as it is.
bool checked(WindowHarness& h) {
    return QTest::qWaitFor([&] { return h.window->checker().isCurrent(); }, 5000);
}

QStringList findings(WindowHarness& h) {
    QStringList out;
    for (const auto& finding : h.window->checker().findings())
        out << QString::fromUtf8(finding.rule->code.data(),
                                 static_cast<qsizetype>(finding.rule->code.size()));
    return out;
}

/// Chooses a row of the open port drawer by its port.
void takeRow(WindowHarness& h, const QString& port) {
    auto* drawer = h.sheet().findChild<QFrame*>("portDrawer");
    auto* list = drawer->findChild<QTreeWidget*>();
    for (int i = 0; i < list->topLevelItemCount(); ++i)
        if (list->topLevelItem(i)->text(0) == port) {
            list->scrollToItem(list->topLevelItem(i));
            QTest::mouseClick(list->viewport(), Qt::LeftButton, {},
                              list->visualItemRect(list->topLevelItem(i)).center());
            return;
        }
    QFAIL(qPrintable("no row " + port));
}

} // namespace

class CablingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_link_that_does_not_fit_is_made_from_the_lower_part_of_the_drawer_told_and_put_right() {
        WindowHarness h;
        h.openFirstOffice();
        QVERIFY(checked(h));
        QVERIFY(findings(h).isEmpty());
        // print-1 is linked to a copper port; its other port is to be an optical one.
        const Link* link = h.network().linkAt({h.named("print-1"), "1"});
        h.session().select({refTo(link->id)});
        const int end = link->a.device == h.named("acc-1") ? 0 : 1;
        h.sheet().linking().openDrawerForLink(link->id, end);
        takeRow(h, "X3");
        QCOMPARE(h.network().link(link->id)->end(end).port, std::string("X3"));
        QVERIFY(checked(h));
        QCOMPARE(findings(h).size(), 1);
        QVERIFY(h.session().scene().link(link->id)->failsA || h.session().scene().link(link->id)->failsB);

        h.window->action(CommandId::showFindings)->trigger();
        QVERIFY(h.window->findings().isVisible());
        auto& list = h.window->findings().list();
        QCOMPARE(list.topLevelItemCount(), 1);
        h.session().select({});
        QTest::mouseClick(list.viewport(), Qt::LeftButton, {},
                          list.visualItemRect(list.topLevelItem(0)).center());
        QVERIFY(h.session().selected().contains(refTo(link->id)));
        QVERIFY(!h.window->findings().putRight().isEnabled()); // these ports cannot be joined at all
        h.sheet().setFocus();
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(checked(h));
        QVERIFY(findings(h).isEmpty());
    }

    void a_remedy_is_one_step_that_can_be_taken_back() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().apply(
            edit::changePort(h.network(), {h.named("acc-1"), "1"}, "Fix", [](Port& p) { p.speed = 100; }));
        QVERIFY(checked(h));
        QCOMPARE(findings(h), QStringList{"duplex"});
        h.window->action(CommandId::showFindings)->trigger();
        auto& list = h.window->findings().list();
        QTest::mouseClick(list.viewport(), Qt::LeftButton, {},
                          list.visualItemRect(list.topLevelItem(0)).center());
        QTest::mouseClick(&h.window->findings().putRight(), Qt::LeftButton);
        QVERIFY(checked(h));
        QVERIFY(findings(h).isEmpty());
        h.sheet().setFocus();
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(checked(h));
        QCOMPARE(findings(h), QStringList{"duplex"});
    }

    void the_page_of_a_rule_is_one_click_from_its_finding() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().apply(
            edit::changePort(h.network(), {h.named("acc-1"), "1"}, "Fix", [](Port& p) { p.speed = 100; }));
        QVERIFY(checked(h));
        h.window->action(CommandId::showFindings)->trigger();
        auto& panel = h.window->findings();
        QTest::mouseClick(panel.list().viewport(), Qt::LeftButton, {},
                          panel.list().visualItemRect(panel.list().topLevelItem(0)).center());
        QTest::mouseClick(&panel.aboutRule(), Qt::LeftButton);
        auto* page = h.window->findChild<app::RulePage*>();
        QVERIFY(page && page->isVisible());
        QCOMPARE(page->shownRule(), QString("duplex"));
        QTest::keyClick(page, Qt::Key_Escape);
        QVERIFY(!page->isVisible());
        // Every rule has its paragraph.
        for (const auto& rule : linking::rules()) {
            page->open(rule);
            QCOMPARE(page->shownRule(), app::shownText(rule.code));
        }
        for (const auto& rule : analysis::forwardingRules()) {
            page->open(rule);
            QCOMPARE(page->shownRule(), app::shownText(rule.code));
        }
        page->close();
    }

    void where_light_is_lost_is_shown() {
        WindowHarness h;
        h.openFennickQuay();
        h.session().select({refTo(h.network().linkAt({h.named("fp-r1"), "R1"})->id)});
        QTRY_VERIFY(h.window->details().field("0.9 of 4.6 dB"));
        h.sheet().setFocus();
        h.key(Qt::Key_T);
        QVERIFY2(h.window->chain().summary().contains("0.9 dB of 4.6 dB"),
                 qPrintable(h.window->chain().summary()));
        QVERIFY2(h.window->chain().steps().contains("fp-r1 1 | R1, 0.75 dB"),
                 qPrintable(h.window->chain().steps().join('\n')));
    }

    void two_switches_are_a_pair_by_their_names() {
        WindowHarness h;
        h.openFennickQuay();
        const DeviceId one = h.named("core-1"), other = h.named("core-2");
        h.session().select({refTo(one)});
        QTRY_VERIFY(h.window->details().field("Pair"));
        h.window->details().field("Pair")->setFocus();
        h.type("core-2");
        h.key(Qt::Key_Return);
        QCOMPARE(h.network().device(one)->pairedWith, other);
        QCOMPARE(h.network().device(other)->pairedWith, one);
        h.sheet().setFocus();
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!h.network().device(one)->pairedWith);
    }

    void what_is_half_typed_in_the_details_outlives_findings_that_come_in() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().select({refTo(h.named("acc-1"))});
        QTRY_VERIFY(h.window->details().field("Serial"));
        h.window->details().field("Serial")->setFocus();
        h.type("FQ-4");
        h.session().apply(
            edit::changePort(h.network(), {h.named("acc-1"), "1"}, "Fix", [](Port& p) { p.speed = 100; }));
        QVERIFY(checked(h));
        QCoreApplication::processEvents();
        auto* serial = qobject_cast<QLineEdit*>(h.window->details().field("Serial"));
        QVERIFY(serial && serial->hasFocus());
        QCOMPARE(serial->text(), QString("FQ-4"));
        h.type("2");
        h.key(Qt::Key_Return);
        QCOMPARE(h.network().device(h.named("acc-1"))->serial, std::string("FQ-42"));
    }

    void a_disabled_port_is_told_in_the_tab_and_the_details() {
        WindowHarness h;
        h.openFirstOffice();
        const Link* link = h.network().linkAt({h.named("acc-1"), "X1"});
        h.session().apply(edit::changePort(h.network(), {h.named("acc-1"), "X1"}, "Disable",
                                           [](Port& p) { p.disabled = true; }));
        QVERIFY(checked(h));
        h.session().select({refTo(link->id)});
        QTRY_VERIFY(h.window->details().field("Advice: acc-1 X1 is disabled"));
        h.session().select({});
        QTRY_VERIFY(h.window->details().field("Findings: 1 piece of advice"));
        QTest::mouseClick(h.window->details().field("Findings: 1 piece of advice"), Qt::LeftButton);
        QVERIFY(h.window->findings().isVisible());
    }

    void the_chain_of_a_wall_outlet_is_found_followed_and_marked() {
        WindowHarness h;
        h.openFennickQuay();
        h.sheet().setFocus();
        // From the outlet to the switch port: the search itself says it, Enter shows the
        // way.
        h.key(Qt::Key_F, Qt::ControlModifier);
        h.type("outlet-2 1");
        QCOMPARE(h.window->find().results().currentItem()->text(),
                 QString("outlet-2 1 · acc-o2 3 to ws-office-3 1"));
        h.key(Qt::Key_Return);
        QVERIFY(h.session().selected().contains(refTo(h.named("outlet-2"))));
        QVERIFY(h.window->chain().isVisible());
        // As an overlay: every link of it is marked, in words too, and the corner of the
        // sheet says which chain.
        const auto& overlays = h.session().overlays();
        QCOMPARE(overlays.shown().size(), std::size_t{1});
        QCOMPARE(overlays.shown().front()->legend(), QString("Chain: acc-o2 3 to ws-office-3 1"));
        for (const auto& stretch : h.window->chain().chain().stretches)
            QCOMPARE(overlays.wordsOn(refTo(stretch.link)),
                     QStringList("on the chain acc-o2 3 to ws-office-3 1"));
        QVERIFY(overlays.wordsOn(refTo(h.named("outlet-2"))).isEmpty());
        const auto& chain = h.window->chain().chain();
        QVERIFY(chain.whole());
        QCOMPARE(chain.stretches.size(), std::size_t{3});
        const std::set<DeviceId> ends{chain.a.device, chain.b.device};
        QVERIFY(ends.contains(h.named("acc-o2")));
        QCOMPARE(h.window->chain().steps().size(), 7); // four ports, three cables
        QVERIFY(h.window->chain().summary().contains("3 cables"));
        // Clicking a step goes there and keeps the chain.
        const auto cables = h.window->chain().findChildren<app::ChainCable*>();
        QCOMPARE(cables.size(), 3);
        QTest::mouseClick(cables.front(), Qt::LeftButton);
        QCOMPARE(h.session().selection().front().kind, Kind::link);
        QCOMPARE(h.window->chain().chain().stretches.size(), std::size_t{3});
        // By keyboard too; then one is on the sheet.
        h.window->chain().findChildren<app::ChainPlate*>()[1]->setFocus();
        QTest::keyClick(qApp->focusWidget(), Qt::Key_Space);
        QVERIFY(h.session().selected().contains(refTo(h.named("pp-ctrl"))));
        QVERIFY(h.sheet().hasFocus());
        h.window->chain().skipPanels().setChecked(true);
        QCOMPARE(h.window->chain().steps(), QStringList({"acc-o2 3", "3 cables, 41 m", "ws-office-3 1"}));
        // What was skipped is one line; clicking it shows the panels again.
        QTest::mouseClick(h.window->chain().findChild<app::ChainCable*>(), Qt::LeftButton);
        QCOMPARE(h.window->chain().steps().size(), 7);
        h.window->bottomDock().hide();
        QVERIFY(overlays.shown().empty());
    }

    void a_cable_schedule_is_shown_row_by_row_and_taken_in_as_one_step() {
        WindowHarness h;
        h.openFirstOffice();
        h.path = h.folder.filePath("cables.csv");
        QFile file(h.path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("label;from;from port;to;to port;length\nOF-003;acc-1;1;files-1;1;9\n"
                   "N-1;acc-1;20;edge-1;2;3,5\nN-2;acc-1;21;nobody;1;3\nOF-002;wall-1;X2;acc-1;X1;12\n");
        file.close();
        const Network before = h.network();
        h.onDialog<app::ScheduleDialog>([](app::ScheduleDialog& dialog) {
            if (dialog.list().topLevelItemCount() != 3)
                return false;
            dialog.hideSame().setChecked(false);
            return dialog.list().topLevelItemCount() == 4;
        });
        h.window->action(CommandId::mergeCables)->trigger();
        h.wait();
        QCOMPARE(h.links(), std::size_t{8});
        QCOMPARE(h.window->remarks().list().topLevelItemCount(), 1);
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(h.network() == before);
    }

    void a_range_of_ports_is_linked_face_to_face_and_unlinked_again() {
        WindowHarness h;
        h.openFirstOffice();
        for (const char* name : {"sw-a", "pp-a"}) {
            h.sheet().setFocus();
            h.key(Qt::Key_A);
            h.type(
                QString("1 %1 named %2").arg(name[0] == 's' ? "access switch 24" : "patch panel 24", name));
            h.key(Qt::Key_Return);
        }
        h.session().select({refTo(h.named("sw-a")), refTo(h.named("pp-a"))});
        h.sheet().setFocus();
        h.key(Qt::Key_F9);
        auto& panel = h.window->faceplates();
        QVERIFY(panel.faceToFace());
        QVERIFY(!panel.link().isEnabled());
        // 1 to 12 of the switch onto 13 to 24 of the panel: three clicks and a button.
        QTest::mouseClick(&panel.first(), Qt::LeftButton, {}, panel.first().middleOf("1"));
        QTest::mouseClick(&panel.first(), Qt::LeftButton, Qt::ShiftModifier, panel.first().middleOf("12"));
        QCOMPARE(panel.first().chosen().size(), std::size_t{12});
        QTest::mouseClick(&panel.second(), Qt::LeftButton, {}, panel.second().middleOf("13"));
        const Network before = h.network();
        QTest::mouseClick(&panel.link(), Qt::LeftButton);
        for (int i = 1; i <= 12; ++i) {
            const Link* link = h.network().linkAt({h.named("sw-a"), std::to_string(i)});
            QVERIFY(link);
            QCOMPARE((link->a.device == h.named("pp-a") ? link->a : link->b).port, std::to_string(i + 12));
        }
        QVERIFY(panel.faceToFace()); // the two stay, though links are selected now
        QTest::mouseClick(&panel.unlink(), Qt::LeftButton);
        QVERIFY(!h.network().linkAt({h.named("sw-a"), "5"}));
        h.window->action(CommandId::undo)->trigger();
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(h.network() == before);
    }

    void ports_are_dragged_from_a_faceplate_to_another_and_to_the_sheet() {
        WindowHarness h;
        h.openFirstOffice();
        h.addPhones(1);
        h.session().select({refTo(h.named("acc-1")), refTo(h.named("phone-2"))});
        h.window->action(CommandId::showFaceplates)->trigger();
        auto& panel = h.window->faceplates();
        QCoreApplication::processEvents();
        const auto drag = [&](const std::string& port, QPoint global) {
            auto& face = panel.first();
            QTest::mousePress(&face, Qt::LeftButton, {}, face.middleOf(port));
            for (const QPoint at : {face.mapToGlobal(face.middleOf(port)) + QPoint(30, 0), global}) {
                QMouseEvent move(QEvent::MouseMove, face.mapFromGlobal(at), at, Qt::NoButton, Qt::LeftButton,
                                 {});
                QApplication::sendEvent(&face, &move);
            }
            QTest::mouseRelease(&face, Qt::LeftButton, {}, face.mapFromGlobal(global));
        };
        drag("7", panel.second().mapToGlobal(panel.second().middleOf("1")));
        const Link* link = h.network().linkAt({h.named("acc-1"), "7"});
        QVERIFY(link);
        QVERIFY(link->a.device == h.named("phone-2") || link->b.device == h.named("phone-2"));
        // Onto a plate of the sheet; the port asked for is the one taken.
        h.sheet().fitAll();
        drag("20", h.sheet().mapToGlobal(h.middle("edge-1")));
        link = h.network().linkAt({h.named("acc-1"), "20"});
        QVERIFY(link);
        QVERIFY(link->a.device == h.named("edge-1") || link->b.device == h.named("edge-1"));
    }

    void a_double_click_on_a_plate_shows_its_faceplate_and_the_keyboard_reaches_its_ports() {
        WindowHarness h;
        h.openFirstOffice();
        const QPoint below = h.at(h.plate("acc-1").frame.centre() + scene::PointF{20, 4});
        h.moveTo(below);
        QTest::mouseClick(&h.sheet(), Qt::LeftButton, {}, below);
        QTest::mouseDClick(&h.sheet(), Qt::LeftButton, {}, below);
        auto& panel = h.window->faceplates();
        QVERIFY(panel.isVisible());
        QVERIFY(panel.first().device() == h.named("acc-1"));
        panel.first().setFocus();
        QTest::keyClick(&panel.first(), Qt::Key_Home);
        QTest::keyClick(&panel.first(), Qt::Key_Right);
        QTest::keyClick(&panel.first(), Qt::Key_Space);
        QCOMPARE(panel.first().chosen().front().port, std::string("2"));
        QVERIFY(panel.first().accessibleDescription().contains("air-1"));
    }

    void who_is_really_at_the_other_end_is_said_where_a_peer_is() {
        WindowHarness h;
        h.openFennickQuay();
        const auto far = linking::farEnd(h.network(), {h.named("acc-o2"), "3"});
        QVERIFY(far);
        const std::string name = h.network().device(far->device)->name;
        QVERIFY(edit::peerText(h.network(), {h.named("acc-o2"), "3"}).find("in the end " + name) !=
                std::string::npos);
        h.session().select({refTo(h.named("acc-o2"))});
        QTRY_VERIFY(h.window->details().field(
            QString::fromStdString("3: " + edit::peerText(h.network(), {h.named("acc-o2"), "3"}))));
    }
};

UNDERRIDGE_TEST(CablingTest)
#include "cabling_test.moc"

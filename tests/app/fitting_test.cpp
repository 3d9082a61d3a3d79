// SPDX-License-Identifier: GPL-3.0-or-later
// What is fitted in devices, by faceplate and drawer; and the dialogs about many cables
// at once.
#include "app/cabling/labels_dialog.h"
#include "app/cabling/lengths_dialog.h"
#include "app/cabling/many_dialog.h"
#include "app/cabling/places_dialog.h"
#include "app/cabling/stock_dialog.h"
#include "app/files/columns_dialog.h"
#include "app/files/schedule_dialog.h"
#include "app/panels/face_view.h"
#include "core/edit/devices.h"
#include "core/edit/fittings.h"
#include "core/linking/chain.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QMessageBox>

#include <QComboBox>
#include <QMimeData>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

app::FaceView& showFace(WindowHarness& h, const char* name) {
    h.session().select({refTo(h.named(name))});
    h.window->action(CommandId::showFaceplates)->trigger();
    return h.window->faceplates().first();
}

/// Lets a part go over a face; whether it was taken.
bool drop(app::FaceView& face, const char* part, QPoint at) {
    QMimeData data;
    data.setData(QLatin1String(app::partMime), part);
    QDragEnterEvent enter(at, Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&face, &enter);
    QDragMoveEvent move(at, Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&face, &move);
    if (!move.isAccepted())
        return false;
    QDropEvent let(at, Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&face, &let);
    return true;
}

QStringList texts(const QMenu& menu) {
    QStringList out;
    for (const QAction* action : menu.actions())
        if (!action->isSeparator())
            out << action->text();
    return out;
}

QAction* named(const QMenu& menu, const QString& text) {
    for (QAction* action : menu.actions())
        if (action->text() == text)
            return action;
    return nullptr;
}

/// The model of a slot's module; empty: nothing is fitted.
std::string moduleIn(WindowHarness& h, const char* device, const std::string& slot) {
    for (const FittedModule& fitted : h.network().device(h.named(device))->modules)
        if (fitted.slot == slot)
            return fitted.model;
    return {};
}

std::string transceiverIn(WindowHarness& h, const char* device, const std::string& port) {
    const auto view = portAt(h.network(), {h.named(device), port});
    return view && view->transceiver ? view->transceiver->id : std::string();
}

} // namespace

class FittingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void modules_are_dragged_into_slots_and_taken_out() {
        WindowHarness h;
        h.openFennickQuay();
        auto& face = showFace(h, "core-1");
        QVERIFY(h.window->faceplates().parts().isVisible());
        QVERIFY(!drop(face, "module:module-4-sfp", face.middleOfSlot("3")));  // made for another device
        QVERIFY(!drop(face, "module:module-24-rj45", face.middleOf("mgmt"))); // no slot there
        QVERIFY(drop(face, "module:module-24-rj45", face.middleOfSlot("3")));
        QCOMPARE(moduleIn(h, "core-1", "3"), std::string("module-24-rj45"));
        QVERIFY(!face.middleOf("3/24").isNull()); // its ports are on the face at once
        h.session().undo();
        QCOMPARE(moduleIn(h, "core-1", "3"), std::string());

        // By double click or Enter in the list: into the first slot that is free.
        auto& parts = h.window->faceplates().parts();
        auto* heading = parts.topLevelItem(0);
        QVERIFY(heading->childCount() > 3);
        parts.setCurrentItem(heading->child(1));
        Q_EMIT parts.itemActivated(heading->child(1), 0);
        QCOMPARE(moduleIn(h, "core-1", "3"), std::string("module-12-sfpp"));
        QVERIFY(parts.currentItem()); // and stays chosen for the next
        QCOMPARE(parts.currentItem()->text(0), QStringLiteral("12 × SFP+ line module"));

        // Module 2 is in use: taking it out is refused with the offer to unlink.
        QString question;
        h.onQuestion("Unlink", [&](const QString& words) {
            question = words;
            return 1;
        });
        face.setFocus();
        QTest::mouseClick(&face, Qt::LeftButton, {}, face.middleOfSlot("2"));
        QCOMPARE(face.chosenSlot(), std::string("2"));
        QTest::keyClick(&face, Qt::Key_Delete);
        QVERIFY2(question.contains("2/1") && question.contains("linked. Unlink"), qPrintable(question));
        QCOMPARE(moduleIn(h, "core-1", "2"), std::string("module-12-sfpp"));
        const auto before = h.links();
        h.onQuestion("Unlink", [](const QString&) { return 0; });
        QTest::keyClick(&face, Qt::Key_Delete);
        QCOMPARE(moduleIn(h, "core-1", "2"), std::string());
        QVERIFY(h.links() < before);
        h.session().undo(); // one step, links and all
        QCOMPARE(h.links(), before);
        QCOMPARE(moduleIn(h, "core-1", "2"), std::string("module-12-sfpp"));
    }

    void a_slot_says_whether_it_may_be_changed_while_running() {
        WindowHarness h;
        h.openFennickQuay();
        auto& face = showFace(h, "core-1");
        QTest::mouseClick(&face, Qt::LeftButton, {}, face.middleOfSlot("4"));
        QVERIFY2(face.accessibleDescription().contains("empty · hot-swap"),
                 qPrintable(face.accessibleDescription()));
        QTest::keyClick(&face, Qt::Key_Up);
        QCOMPARE(face.chosenSlot(), std::string("3"));
        QMenu menu;
        h.window->faceplates().fillMenu(menu, face);
        QVERIFY(named(menu, "Fit 4 × QSFP28 line module"));
        named(menu, "Fit 4 × QSFP28 line module")->trigger();
        QCOMPARE(moduleIn(h, "core-1", "3"), std::string("module-4-qsfp28"));
    }

    void transceivers_go_into_cages_and_ports_are_split() {
        WindowHarness h;
        h.openFennickQuay();
        auto& face = showFace(h, "dist-quay");
        QVERIFY(!drop(face, "transceiver:sfpp-10gbase-sr", face.middleOf("mgmt")));
        QVERIFY(drop(face, "transceiver:sfpp-10gbase-sr", face.middleOf("20")));
        QCOMPARE(transceiverIn(h, "dist-quay", "20"), std::string("sfpp-10gbase-sr"));
        // Three at once: choose them, then Enter on the part.
        face.choose({"21", "22", "23"});
        auto& parts = h.window->faceplates().parts();
        for (int i = 0; i < parts.topLevelItem(0)->childCount(); ++i)
            if (parts.topLevelItem(0)->child(i)->text(0) == "SFP+ 10G single-mode")
                Q_EMIT parts.itemActivated(parts.topLevelItem(0)->child(i), 0);
        for (const char* port : {"21", "22", "23"})
            QCOMPARE(transceiverIn(h, "dist-quay", port), std::string("sfpp-10gbase-lr"));
        h.session().undo();
        QCOMPARE(transceiverIn(h, "dist-quay", "22"), std::string()); // they were one step
        face.choose({"20"});
        QTest::keyClick(&face, Qt::Key_Delete);
        QCOMPARE(transceiverIn(h, "dist-quay", "20"), std::string());

        face.choose({"S1"});
        QMenu menu;
        h.window->faceplates().fillMenu(menu, face);
        QVERIFY2(named(menu, "Split into 4 ports"), qPrintable(texts(menu).join(", ")));
        named(menu, "Split into 4 ports")->trigger();
        QVERIFY(portAt(h.network(), {h.named("dist-quay"), "S1/4"}));
        face.choose({"S1/2"});
        QMenu again;
        h.window->faceplates().fillMenu(again, face);
        QVERIFY2(named(again, "Make S1 one port again"), qPrintable(texts(again).join(", ")));
        named(again, "Make S1 one port again")->trigger();
        QVERIFY(portAt(h.network(), {h.named("dist-quay"), "S1"}));
    }

    void a_link_with_no_port_for_it_is_made_with_the_module_in_one_step() {
        WindowHarness h;
        h.begin();
        const auto* core = h.session().catalogue().device("core-switch-modular");
        const auto* till = h.session().catalogue().device("till");
        h.session().apply(edit::placeDevices(h.network(), h.session().sheet(), *core, {{"core", {0, 0}}}, {},
                                             h.session().ids()));
        h.session().apply(edit::placeDevices(h.network(), h.session().sheet(), *till, {{"till", {300, 200}}},
                                             {}, h.session().ids()));
        // The management port is no place for a till; it is taken, so that nothing is
        // left.
        const DeviceId console = h.named("core");
        h.session().apply(edit::changePort(h.network(), {console, "mgmt"}, "Keep",
                                           [](Port& port) { port.reserved = true; }));
        h.session().apply(edit::placeDevices(h.network(), h.session().sheet(), *till, {{"other", {0, 300}}},
                                             {}, h.session().ids()));
        h.session().apply(edit::linkPorts(h.network(), h.session().catalogue(),
                                          {{{console, "mgmt"}, {h.named("other"), "1"}}}, h.session().ids()));
        h.sheet().fitAll();
        const auto before = h.network();
        h.linkTo("till", h.middle("core"));
        auto* drawer = h.sheet().findChild<QFrame*>("portDrawer");
        QVERIFY(drawer->isVisible());
        auto* list = drawer->findChild<QTreeWidget*>();
        QVERIFY2(list->topLevelItem(0)->text(1).contains("24 × RJ45 line module in slot 1"),
                 qPrintable(list->topLevelItem(0)->text(1)));
        QCOMPARE(list->topLevelItem(0)->text(2), QString("best"));
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {},
                          list->visualItemRect(list->topLevelItem(0)).center());
        QCOMPARE(moduleIn(h, "core", "1"), std::string("module-24-rj45"));
        QVERIFY(h.network().linkAt({h.named("till"), "1"}));
        h.session().undo();
        QVERIFY(h.network() == before);
    }

    void thirty_cameras_are_shown_before_they_are_linked() {
        WindowHarness h;
        h.begin();
        const auto place = [&](const char* model, int count, int y) {
            std::vector<edit::Placed> placed;
            for (int i = 0; i < count; ++i)
                placed.push_back({model + std::to_string(i), {i * 160, y}});
            h.session().apply(edit::placeDevices(h.network(), h.session().sheet(),
                                                 *h.session().catalogue().device(model), placed, {},
                                                 h.session().ids()));
            return h.session().selection();
        };
        edit::Refs chosen = place("camera", 30, 400);
        const auto switches = place("access-switch-24", 2, 0);
        chosen.insert(chosen.end(), switches.begin(), switches.end());
        h.session().select(chosen);
        int shown = 0;
        h.onDialog<QDialog>([&](QDialog& asked) {
            auto& dialog = dynamic_cast<app::ManyDialog&>(asked);
            shown = dialog.list().topLevelItemCount();
            // 370 W give 24 cameras of class 3 their 15.4 W each: all fit.
            if (shown != 30 || !dialog.summary().startsWith("30 links"))
                qWarning("%s", qPrintable(dialog.summary()));
            dialog.where().setCurrentIndex(1);
            if (dialog.plan().linked() != 30) // one port each: the second switch cannot be had
                qWarning("%d", dialog.plan().linked());
            dialog.where().setCurrentIndex(0);
            return true;
        });
        h.sheet().setFocus();
        h.key(Qt::Key_L, Qt::ControlModifier);
        QCOMPARE(shown, 30);
        QCOMPARE(h.links(), std::size_t(30));
        QVERIFY(QTest::qWaitFor([&] { return h.window->checker().isCurrent(); }, 5000));
        QVERIFY(h.window->checker().findings().empty());
        h.session().undo();
        QCOMPARE(h.links(), std::size_t(0));
    }

    void a_lag_is_made_named_drawn_tied_and_dissolved() {
        WindowHarness h;
        h.openFennickQuay();
        const LinkId one = h.network().linkAt({h.named("core-1"), "S1"})->id,
                     two = h.network().linkAt({h.named("core-1"), "S2"})->id;
        h.session().select({refTo(one), refTo(two)});
        h.window->action(CommandId::dissolveLag)->trigger(); // the sample has one
        QVERIFY(h.window->action(CommandId::makeLag)->isEnabled());
        QVERIFY(!h.window->action(CommandId::dissolveLag)->isEnabled());
        h.window->action(CommandId::makeLag)->trigger();
        QVERIFY(h.session().scene().link(one)->inLag && h.session().scene().link(two)->inLag);
        h.session().select({refTo(one)});
        QTRY_VERIFY(h.window->details().field("LAG"));
        auto* name = qobject_cast<QLineEdit*>(h.window->details().field("LAG"));
        QCOMPARE(name->text(), QString("lag1"));
        name->setFocus();
        name->selectAll();
        h.type("core-pair");
        h.key(Qt::Key_Return);
        QCOMPARE(lagAt(h.network(), h.network().link(two)->a)->name, std::string("core-pair"));
        h.window->action(CommandId::dissolveLag)->trigger();
        QVERIFY(!h.session().scene().link(two)->inLag);
    }

    void labels_lengths_and_their_sheet() {
        WindowHarness h;
        h.openFennickQuay();
        const Link link = *h.network().linkAt({h.named("mm-quay"), "1"});
        h.session().select({refTo(link.id)});
        h.onDialog<QDialog>([&](QDialog& asked) {
            auto& dialog = dynamic_cast<app::LabelsDialog&>(asked);
            dialog.scheme().setText("{wrong}");
            if (dialog.act().isEnabled() || !dialog.summary().contains("is not a field"))
                return false;
            dialog.scheme().setText("{from}-{0001..}");
            return dialog.list().topLevelItemCount() == 1;
        });
        h.window->action(CommandId::labelCables)->trigger();
        QCOMPARE(h.network().cable(link.cable)->label, std::string("dist-quay-0001"));
        const QString pdf = h.folder.filePath("labels.pdf");
        QVERIFY(h.finished([&](auto done) { h.window->interchange().writeLabels(pdf, done); }));
        QFile file(pdf);
        QVERIFY(file.open(QIODevice::ReadOnly) && file.readAll().startsWith("%PDF"));

        // Both ends stand in one room: slack and margin make the most of the length.
        h.onDialog<QDialog>([&](QDialog& asked) {
            auto& dialog = dynamic_cast<app::LengthsDialog&>(asked);
            dialog.slack().setText("nonsense");
            if (dialog.act().isEnabled())
                return false;
            dialog.slack().setText("2 m");
            dialog.margin().setValue(0);
            return dialog.act().isEnabled();
        });
        h.window->action(CommandId::cableLengths)->trigger();
        QCOMPARE(h.network().info().slackMm, std::int64_t(2000));
        QCOMPARE(h.network().cable(link.cable)->lengthMm,
                 std::int64_t(10000)); // 2.6 m and twice 2 m: next is 10 m
        h.session().undo();
        QCOMPARE(h.network().info().slackMm, std::int64_t(1000));
    }

    void a_place_is_made_from_nothing_and_lengths_follow() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.sheet().setFocus();
        h.key(Qt::Key_A);
        h.type("access switch 24 named acc");
        h.key(Qt::Key_Return);
        QCOMPARE(h.devices(), std::size_t(2));
        GroupId floor, rack;
        h.onDialog<QDialog>([&](QDialog& asked) {
            auto& dialog = dynamic_cast<app::PlacesDialog&>(asked);
            dialog.show();
            dialog.activateWindow();
            QApplication::setActiveWindow(&dialog);
            const auto rename = [&](const char* name) { // the new row is being edited already
                auto* edit = qobject_cast<QLineEdit*>(QApplication::focusWidget());
                if (!edit)
                    return;
                edit->setText(name);
                QTest::keyClick(edit, Qt::Key_Return);
                QCoreApplication::processEvents();
            };
            if (dialog.addButton(GroupKind::floor).isEnabled())
                return false; // a floor needs a building
            dialog.addButton(GroupKind::building).click();
            rename("Terminal");
            dialog.addButton(GroupKind::floor).click();
            rename("Concourse");
            dialog.addButton(GroupKind::rack).click();
            rename("R7");
            h.network().all<Group>().forEach([&](const Group& group) {
                if (group.type == GroupKind::floor)
                    floor = group.id;
                if (group.type == GroupKind::rack)
                    rack = group.id;
            });
            if (!dialog.rowOf(rack))
                return false;
            dialog.rowOf(rack)->setText(app::PlacesDialog::leftColumn, "far");
            if (!dialog.remark().contains("far is no length"))
                return false;
            QCoreApplication::processEvents();
            dialog.rowOf(rack)->setText(app::PlacesDialog::leftColumn, "20 m");
            QCoreApplication::processEvents();
            dialog.addRiserButton().click();
            return true;
        });
        h.window->action(CommandId::places)->trigger();
        QVERIFY(rack && h.network().group(rack)->parent == floor);
        QCOMPARE(h.network().group(rack)->name, std::string("R7"));
        QCOMPARE(h.network().group(rack)->xMm, std::int64_t(20'000));
        QCOMPARE(h.network().group(h.network().group(floor)->parent)->risers.size(), std::size_t(1));
        // The devices are put there in the details.
        const auto choose = [&](const char* device, const QString& place) {
            h.session().select({refTo(h.named(device))});
            QCoreApplication::processEvents(); // what was shown before is gone
            if (!QTest::qWaitFor([&] { return h.window->details().field("Stands in") != nullptr; }))
                return false;
            auto* box = qobject_cast<QComboBox*>(h.window->details().field("Stands in"));
            const int index = box ? box->findText(place, Qt::MatchStartsWith) : -1;
            if (index < 0)
                return false;
            box->setCurrentIndex(index);
            Q_EMIT box->activated(index);
            return true;
        };
        QVERIFY(choose("acc", "R7"));
        QVERIFY(choose("phone-1", "Concourse"));
        h.session().apply(edit::linkPorts(h.network(), h.session().catalogue(),
                                          {{{h.named("acc"), "1"}, {h.named("phone-1"), "1"}}},
                                          h.session().ids()));
        const Link* link = h.network().linkAt({h.named("acc"), "1"});
        // 20 m along and 10 % and a metre at each end is longer than any cord: cut to
        // length.
        QCOMPARE(h.network().cable(link->cable)->lengthMm, std::int64_t(24'100));
    }

    void the_cable_stock_is_edited_step_by_step() {
        WindowHarness h;
        h.openFirstOffice();
        h.onDialog<QDialog>([&](QDialog& asked) {
            auto& dialog = dynamic_cast<app::StockDialog&>(asked);
            dialog.choose("cat6a");
            dialog.lengths().setText("1 m; x");
            Q_EMIT dialog.lengths().editingFinished();
            if (!dialog.remark().contains("x is no length"))
                return false;
            dialog.lengths().setText("4 m; 2 m");
            Q_EMIT dialog.lengths().editingFinished();
            dialog.approved().click();
            dialog.choose("om4-lc");
            dialog.ownButton().click();
            dialog.name().setText("Quay fibre");
            Q_EMIT dialog.name().editingFinished();
            return true;
        });
        h.window->action(CommandId::cableStock)->trigger();
        const CableType* cord = h.session().catalogue().cable("cat6a");
        QCOMPARE(cord->lengthsMm, (std::vector<std::int64_t>{2000, 4000}));
        QVERIFY(!cord->approved);
        QVERIFY(std::any_of(h.session().catalogue().cables.begin(), h.session().catalogue().cables.end(),
                            [](const CableType& type) { return type.name == "Quay fibre"; }));
        QVERIFY(QTest::qWaitFor([&] { return h.window->checker().isCurrent(); }, 5000));
        QVERIFY(h.window->checker().count(Severity::advice) > 0); // cords in use are not approved now
        for (int i = 0; i < 4; ++i)
            h.session().undo();
        QVERIFY(h.session().catalogue().cable("cat6a")->approved);
    }

    void what_is_only_looked_at_in_feet_stays_as_it_is() {
        WindowHarness h;
        h.openFennickQuay();
        h.session().workspace().setLengthUnit(LengthUnit::feet);
        const auto before = h.network();
        h.onDialog<QDialog>([&](QDialog& asked) {
            auto& dialog = dynamic_cast<app::StockDialog&>(asked);
            dialog.choose("cat6a");
            Q_EMIT dialog.lengths().editingFinished(); // 0.5 m is shown as 1.6 ft
            Q_EMIT dialog.longest().editingFinished();
            return true;
        });
        h.window->action(CommandId::cableStock)->trigger();
        QVERIFY(h.network() == before);
        h.onDialog<QDialog>([&](QDialog& asked) {
            auto& dialog = dynamic_cast<app::LengthsDialog&>(asked);
            if (!dialog.slack().text().endsWith("ft") || dialog.list().topLevelItemCount() == 0)
                return false;
            for (int i = 0; i < dialog.list().topLevelItemCount(); ++i)
                if (!dialog.list().topLevelItem(i)->text(1).isEmpty() &&
                    !dialog.list().topLevelItem(i)->text(1).endsWith("ft"))
                    return false;
            const auto result = dialog.result();
            if (result && result->network.info().slackMm != 1000)
                qWarning("the slack moved");
            return result && result->network.info().slackMm == 1000;
        });
        h.window->action(CommandId::cableLengths)->trigger();
        QCOMPARE(h.network().info().slackMm, std::int64_t(1000));
    }

    void a_schedule_whose_columns_are_not_sure_asks() {
        WindowHarness h;
        h.openFirstOffice();
        const QString path = h.folder.filePath("s.csv");
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("Unit;Socket;Goes to;There;Length\nacc-1;20;acc-1;21;2,5\n");
        file.close();
        bool asked = false, previewed = false;
        h.onDialog<QDialog>([&](QDialog& shown) {
            auto& dialog = dynamic_cast<app::ColumnsDialog&>(shown);
            asked = !dialog.act().isEnabled();
            for (int column = 0; column < 4; ++column)
                dialog.choice(column).setCurrentIndex(column + 1);
            return dialog.act().isEnabled();
        });
        h.onDialog<app::ScheduleDialog>([&](app::ScheduleDialog& dialog) {
            previewed = true;
            return dialog.act().isEnabled(); // a device to itself: wrong, so there is nothing to take in
        });
        QVERIFY(!h.merge(path));
        QVERIFY(asked && previewed);
    }

    void results_of_a_tester_are_shown_against_their_limits() {
        WindowHarness h;
        h.openFennickQuay();
        const Link link = *h.network().linkAt({h.named("pp-q1"), "R1"});
        const std::string label = h.network().cable(link.cable)->label;
        const QString path = h.folder.filePath("r.csv");
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(("label,test,value,limit,unit\n" + label + ",NEXT,31.2,35.3,dB\n").c_str());
        file.close();
        h.onDialog<app::ScheduleDialog>([](app::ScheduleDialog& dialog) { return dialog.act().isEnabled(); });
        QVERIFY(h.mergeResults(path));
        QVERIFY(QTest::qWaitFor([&] { return h.window->checker().isCurrent(); }, 5000));
        QCOMPARE(h.window->checker().count(Severity::error), 1);
        h.session().select({refTo(link.id)});
        const auto shown = [&] {
            const auto labels = h.window->details().findChildren<QLabel*>();
            return std::any_of(labels.begin(), labels.end(),
                               [](const QLabel* each) { return each->text() == "31.2 dB, limit 35.3 dB"; });
        };
        QTRY_VERIFY(shown());
    }

    void two_panels_are_joined_by_strands_of_a_trunk_cable() {
        WindowHarness h;
        h.openFennickQuay();
        h.session().select({refTo(h.named("mm-quay")), refTo(h.named("mm-r1"))});
        h.window->action(CommandId::showFaceplates)->trigger();
        auto& panel = h.window->faceplates();
        QVERIFY(panel.trunk().isVisible());
        panel.first().choose({"R3", "R4"});
        panel.second().choose({"R10"});
        QVERIFY(panel.trunk().isEnabled());
        Q_EMIT panel.trunkMenu().aboutToShow();
        const auto offered = texts(panel.trunkMenu());
        QVERIFY2(offered.first() == "T-quay1, 20 strands spare", qPrintable(offered.join(", ")));
        QVERIFY(offered.contains("New: OM4 trunk cable 24, LC"));
        QVERIFY(!offered.contains("New: OS2 trunk cable 24, spliced")); // another plug
        const auto cables = h.network().all<Cable>().size();
        panel.trunkMenu().actions().first()->trigger();
        QCOMPARE(h.network().all<Cable>().size(), cables); // spare strands, no new cable
        QCOMPARE(h.network().linkAt({h.named("mm-quay"), "R4"})->b.port, std::string("R11"));
        QCOMPARE(h.network().linkAt({h.named("mm-quay"), "R4"})->positions, (std::vector<int>{7, 8}));
    }

    void a_filtered_register_follows_to_another() {
        WindowHarness h;
        h.openFirstOffice();
        h.window->action(CommandId::showRegisters)->trigger();
        auto& registers = h.window->registers();
        registers.show(edit::Register::cables);
        registers.filter().setText("installed");
        const int cables = registers.table().model()->rowCount();
        QVERIFY(cables > 0);
        // Links say it of their type only, not of their status: none of the cables' texts
        // may be left.
        int links = 0;
        h.network().all<Link>().forEach([&](const Link& link) {
            const Cable* cable = h.network().cable(link.cable);
            const CableType* type = cable ? h.network().typeOf(*cable) : nullptr;
            links += type && type->name.find("installed") != std::string::npos;
        });
        QVERIFY(links < cables);
        registers.show(edit::Register::links);
        QCOMPARE(registers.table().model()->rowCount(), links);
        registers.show(edit::Register::cables);
        QCOMPARE(registers.table().model()->rowCount(), cables);
    }
};

UNDERRIDGE_TEST(FittingTest)
#include "fitting_test.moc"

// SPDX-License-Identifier: GPL-3.0-or-later
// Groups in the real window: making, moving in and out, folding, looking into them.
#include "app/find/find_field.h"
#include "app/groups/sort_out_dialog.h"
#include "app/panels/outline_panel.h"
#include "app/sheet/card.h"
#include "app/sheet/link_flow.h"
#include "app/sheet/select_tool.h"
#include "app/window/place_line.h"
#include "core/edit/groups.h"
#include "core/model/group_tree.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QCheckBox>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// The first office with its phones and desks in a group "Office".
struct GroupedOffice : WindowHarness {
    GroupedOffice() {
        openFirstOffice();
        for (const char* name : {"desk-1", "phone-1"})
            members.push_back(refTo(named(name)));
        auto act = edit::makeGroup(network(), session().sheet(), "Office", GroupKind::room, members, {},
                                   session().ids());
        group = {act->subjects.front().id};
        session().apply(std::move(act));
        sheet().fitAll();
        wait();
    }
    scene::Rect frame() {
        const scene::Item* item = session().scene().item(refTo(group));
        return item ? scene::frameOf(*item) : scene::Rect{};
    }
    QPoint tab() { return at({frame().x + 30, frame().y + 12}); }
    GroupId groupOf(const char* name) { return network().device(named(name))->group; }

    edit::Refs members;
    GroupId group;
};

/// The first office with its comms folded to a tile, and a phone that is not linked.
struct FoldedComms : WindowHarness {
    FoldedComms() {
        openFirstOffice();
        const edit::Refs members{refTo(named("acc-1")), refTo(named("wall-1")), refTo(named("files-1"))};
        auto act = edit::makeGroup(network(), session().sheet(), "Comms", GroupKind::room, members, {},
                                   session().ids());
        comms = {act->subjects.front().id};
        act = edit::setFolded(act->network, session().sheet(), {comms}, true);
        session().apply(std::move(act));
        sheet().setFocus();
        key(Qt::Key_A);
        type("1 workstation named pc-9");
        key(Qt::Key_Return);
        sheet().fitAll();
    }

    GroupId comms;
};

} // namespace

class GroupsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_selection_becomes_a_group_and_is_named_at_once() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().select({refTo(h.named("desk-1")), refTo(h.named("phone-1"))});
        h.sheet().setFocus();
        h.key(Qt::Key_G);
        QCOMPARE(h.network().all<Group>().size(), std::size_t{1});
        h.type("Concourse");
        h.key(Qt::Key_Return);
        const GroupId group = h.network().device(h.named("desk-1"))->group;
        QVERIFY(group && group == h.network().device(h.named("phone-1"))->group);
        QCOMPARE(h.network().group(group)->name, std::string("Concourse"));
        QVERIFY(h.session().scene().frame(group));
        h.key(Qt::Key_G, Qt::ShiftModifier); // the group is what is selected
        QCOMPARE(h.network().all<Group>().size(), std::size_t{0});
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network().group(group));
    }

    void a_key_folds_and_unfolds_and_undo_takes_it_back() {
        GroupedOffice h;
        const scene::Rect open = h.frame();
        h.click(h.tab());
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.group)});
        h.key(Qt::Key_U);
        QVERIFY(h.session().scene().tile(h.group));
        QVERIFY(!h.session().scene().plate(h.named("desk-1")));
        h.key(Qt::Key_U);
        QCOMPARE(h.frame(), open);
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.session().scene().tile(h.group));
    }

    void a_device_dropped_on_a_frame_moves_in_and_the_sheet_says_so_before() {
        GroupedOffice h;
        QString said;
        QObject::connect(&h.sheet(), &app::SheetView::hintChanged, &h.sheet(),
                         [&](const QString& hint) { said = hint; });
        const QPoint to = h.at(h.frame().centre());
        h.moveTo(h.middle("print-1"));
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.middle("print-1"));
        h.moveTo(to, Qt::LeftButton);
        h.moveTo(to + QPoint(2, 0), Qt::LeftButton);
        QVERIFY2(said.contains(QStringLiteral("into Office")), qPrintable(said));
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, to);
        QCOMPARE(h.groupOf("print-1"), h.group);
        QVERIFY(h.frame().contains(h.plate("print-1").frame));
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(h.groupOf("print-1"), GroupId{});
    }

    void a_device_dragged_out_of_its_frame_leaves_the_group_and_keeps_its_links() {
        GroupedOffice h;
        const std::size_t links = h.links();
        const QPoint out = h.at({h.frame().right() + 150, h.frame().y - 150});
        h.drag(h.middle("desk-1"), out);
        QCOMPARE(h.groupOf("desk-1"), GroupId{});
        QCOMPARE(h.links(), links);
        QVERIFY(!h.frame().intersects(h.plate("desk-1").frame));
    }

    void the_box_in_the_details_folds_and_says_what_has_become_of_it() {
        GroupedOffice h;
        h.session().select({refTo(h.group)});
        const auto box = [&]() -> QCheckBox* {
            for (QCheckBox* each : h.window->details().findChildren<QCheckBox*>())
                if (each->text() == "Folded on this sheet")
                    return each;
            return nullptr;
        };
        QTRY_VERIFY(box() && !box()->isChecked());
        box()->click();
        QVERIFY(h.session().scene().tile(h.group));
        QTRY_VERIFY(box()->isChecked());
        h.session().undo();
        QVERIFY(h.session().scene().frame(h.group));
        QTRY_VERIFY(!box()->isChecked());
        h.session().redo();
        QTRY_VERIFY(box()->isChecked());
        box()->click();
        QVERIFY(h.session().scene().frame(h.group));
    }

    void a_tile_has_no_grip_where_no_cables_are_drawn() {
        GroupedOffice h;
        h.session().apply(edit::setFolded(h.network(), h.session().sheet(), {h.group}, true));
        const auto clickGrip = [&] {
            const scene::Tile& tile = *h.session().scene().tile(h.group);
            h.session().select({refTo(h.group)});
            h.moveTo(h.at(tile.frame.centre()));
            const QPoint grip = h.at(app::SelectTool::gripOf(tile, h.sheet().camera().zoom()).centre());
            h.moveTo(grip);
            QTest::mouseClick(&h.sheet(), Qt::LeftButton, {}, grip);
        };
        clickGrip();
        QVERIFY(h.sheet().isLinking());
        h.key(Qt::Key_Escape);
        edit::Act act{"Make it an upper sheet", h.network(), {}};
        Sheet sheet = *act.network.sheet(h.session().sheet());
        sheet.layer = SheetLayer::upper;
        act.network.put(sheet);
        QVERIFY(h.session().apply(std::move(act)));
        clickGrip();
        QVERIFY(!h.sheet().isLinking());
        QVERIFY(!h.window->statusText().contains("draws no cables")); // it was not even begun
    }

    void a_tile_held_over_while_dragging_opens() {
        GroupedOffice h;
        h.session().apply(edit::setFolded(h.network(), h.session().sheet(), {h.group}, true));
        const QPoint over = h.at(h.frame().centre());
        h.moveTo(h.middle("print-1"));
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.middle("print-1"));
        h.moveTo((h.middle("print-1") + over) / 2, Qt::LeftButton);
        h.moveTo(over, Qt::LeftButton);
        QVERIFY(h.session().scene().tile(h.group));
        QTRY_VERIFY_WITH_TIMEOUT(h.session().scene().frame(h.group), 5000);
        QVERIFY(h.sheet().inGesture()); // the drag goes on
        const QPoint into = h.at(h.frame().centre());
        h.moveTo(into, Qt::LeftButton);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, into);
        QCOMPARE(h.groupOf("print-1"), h.group);
        QVERIFY(h.frame().contains(h.plate("print-1").frame));
    }

    void sort_out_is_previewed_and_taken_in_parts() {
        WindowHarness h;
        h.openFirstOffice();
        h.addPhones(2);
        h.session().select({});
        h.onDialog<app::SortOutDialog>([](app::SortOutDialog& dialog) {
            const int at = dialog.how().findText("groups by role");
            if (at < 0)
                return false;
            dialog.how().setCurrentIndex(at);
            if (dialog.ticked() < 1 || !dialog.act().isEnabled())
                return false;
            dialog.kind().setCurrentIndex(static_cast<int>(GroupKind::room));
            dialog.list().topLevelItem(0)->setText(0, "Desks upstairs");
            for (int i = 1; i < dialog.list().topLevelItemCount(); ++i)
                dialog.list().topLevelItem(i)->setCheckState(0, Qt::Unchecked);
            return dialog.summary().contains("1 group.");
        });
        const auto before = h.network();
        h.window->action(CommandId::sortOut)->trigger();
        QCOMPARE(h.network().all<Group>().size(), std::size_t{1});
        h.network().all<Group>().forEach([&](const Group& group) {
            QCOMPARE(group.name, std::string("Desks upstairs"));
            QCOMPARE(group.type, GroupKind::room);
            QVERIFY(devicesWithin(h.network(), group.id).size() >= 2);
        });
        h.session().undo();
        QVERIFY(h.network() == before);
    }
    void cancelling_sort_out_changes_nothing() {
        WindowHarness h;
        h.openFirstOffice();
        h.onDialog<app::SortOutDialog>([](app::SortOutDialog& dialog) {
            for (int i = 0; i < dialog.list().topLevelItemCount(); ++i)
                dialog.list().topLevelItem(i)->setCheckState(0, Qt::Unchecked);
            return dialog.act().isEnabled(); // nothing is chosen: it cannot be taken
        });
        h.window->action(CommandId::sortOut)->trigger();
        QCOMPARE(h.network().all<Group>().size(), std::size_t{0});
    }

    void find_knows_groups_and_sheets_and_says_where_a_device_is() {
        GroupedOffice h;
        auto* find = h.window->findChild<app::FindField*>();
        find->setFocus();
        h.type("offi");
        const auto lines = [&] {
            QStringList out;
            for (int i = 0; i < find->results().count(); ++i)
                out << find->results().item(i)->text();
            return out;
        };
        QVERIFY2(lines().contains(QStringLiteral("Office · room")), qPrintable(lines().join("|")));
        h.key(Qt::Key_Return);
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.group)});
        find->setFocus();
        h.type("desk-1");
        QVERIFY2(lines().contains(QStringLiteral("desk-1 · Workstation · Office")),
                 qPrintable(lines().join("|")));
    }

    void a_group_is_cut_and_copied_with_all_in_it() {
        GroupedOffice h;
        const std::size_t devices = h.devices(), links = h.links();
        h.click(h.tab());
        h.key(Qt::Key_C, Qt::ControlModifier);
        h.key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(h.devices(), devices + 2);
        QCOMPARE(h.links(), links + 1); // the one between them
        h.key(Qt::Key_Z, Qt::ControlModifier);
        h.click(h.tab());
        h.key(Qt::Key_X, Qt::ControlModifier);
        QCOMPARE(h.devices(), devices - 2);
        QVERIFY(!h.network().group(h.group));
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(h.devices(), devices);
        QVERIFY(h.network().group(h.group));
    }

    void a_screen_reader_is_told_of_groups() {
        GroupedOffice h;
        h.session().apply(edit::setFolded(h.network(), h.session().sheet(), {h.group}, true));
        QAccessibleInterface* sheet = QAccessible::queryAccessibleInterface(&h.sheet());
        QString told;
        for (int i = 0; i < sheet->childCount(); ++i)
            if (sheet->child(i)->text(QAccessible::Name) == QStringLiteral("Office"))
                told = sheet->child(i)->text(QAccessible::Description);
        QCOMPARE(told, QStringLiteral("room, 2 devices, folded"));
    }

    void a_line_of_the_counts_selects_what_it_counts() {
        GroupedOffice h;
        h.session().select({});
        auto& details = h.window->details();
        QTRY_VERIFY(details.field("Phones: 1"));
        auto* line = qobject_cast<QAbstractButton*>(details.field("Phones: 1"));
        QVERIFY(line);
        line->click();
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.named("phone-1"))});
    }

    void a_frame_taken_by_its_tab_moves_with_all_in_it_and_esc_leaves_it() {
        GroupedOffice h;
        const scene::Rect before = h.frame(), desk = h.plate("desk-1").frame;
        h.moveTo(h.tab());
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.tab());
        h.moveTo(h.tab() + QPoint(0, 120), Qt::LeftButton, Qt::ControlModifier);
        h.key(Qt::Key_Escape);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, h.tab() + QPoint(0, 120));
        QCOMPARE(h.frame(), before);
        h.drag(h.tab(), h.tab() + QPoint(0, 120), Qt::ControlModifier);
        QVERIFY(h.frame().y > before.y);
        QCOMPARE(h.plate("desk-1").frame.y - h.frame().y, desk.y - before.y);
    }

    void inside_a_frame_a_press_starts_a_band() {
        GroupedOffice h;
        const scene::Rect frame = h.frame();
        h.drag(h.at({frame.right() - 4.5, frame.y + 30}), h.at({frame.x + 5, frame.bottom() - 5}));
        edit::Refs taken = h.session().selection();
        std::sort(taken.begin(), taken.end());
        std::sort(h.members.begin(), h.members.end());
        QCOMPARE(taken, h.members);
        QCOMPARE(h.frame(), frame);
    }

    void a_double_click_enters_and_doorways_lead_out() {
        GroupedOffice h;
        QTest::mouseDClick(&h.sheet(), Qt::LeftButton, {}, h.tab());
        QCOMPARE(h.session().scene().entered(), h.group);
        QCOMPARE(h.session().scene().count<scene::Plate>(), std::size_t{2});
        QVERIFY(h.session().scene().count<scene::Doorway>() > 0);
        auto* line = h.window->findChild<app::PlaceLine*>();
        QCOMPARE(line->groups().size(), std::size_t{1});
        QVERIFY(line->groups().front()->text().contains(QStringLiteral("Office")));
        // Through a doorway to the device beyond.
        const scene::Doorway* doorway = nullptr;
        h.session().scene().forEach<scene::Doorway>([&](const scene::Doorway& d) { doorway = &d; });
        const ObjectRef beyond = doorway->beyond;
        QTest::mouseDClick(&h.sheet(), Qt::LeftButton, {}, h.at(doorway->frame.centre()));
        QCOMPARE(h.session().selection(), edit::Refs{beyond});
        QVERIFY(h.session().scene().plate({beyond.id}));
        h.key(Qt::Key_Left, Qt::AltModifier);
        QCOMPARE(h.session().scene().entered(), h.group);
    }

    void alt_up_esc_twice_the_border_and_the_place_line_leave() {
        GroupedOffice h;
        const auto enter = [&] {
            h.session().navigation().enter(h.group);
            h.wait();
            h.sheet().setFocus();
            QCOMPARE(h.session().scene().entered(), h.group);
        };
        enter();
        h.key(Qt::Key_Up, Qt::AltModifier);
        QVERIFY(!h.session().scene().entered());
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.group)}); // where one came from
        enter();
        h.key(Qt::Key_Escape);
        QVERIFY(h.session().scene().entered());
        h.key(Qt::Key_Escape);
        QVERIFY(!h.session().scene().entered());
        enter();
        QTest::mouseDClick(&h.sheet(), Qt::LeftButton, {}, h.tab());
        QVERIFY(!h.session().scene().entered());
        enter();
        QTest::mouseClick(&h.window->findChild<app::PlaceLine*>()->sheetButton(), Qt::LeftButton, {}, {8, 8});
        QVERIFY(!h.session().scene().entered());
        enter();
        h.key(Qt::Key_Home);
        QVERIFY(!h.session().scene().entered());
    }

    void an_undo_that_removes_the_entered_group_leaves_it() {
        GroupedOffice h;
        h.session().navigation().enter(h.group);
        h.sheet().setFocus();
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!h.network().group(h.group));
        QVERIFY(!h.session().scene().entered());
        QVERIFY(h.session().scene().plate(h.named("desk-1")));
    }

    void what_is_found_in_a_folded_group_is_shown() {
        GroupedOffice h;
        h.session().apply(edit::setFolded(h.network(), h.session().sheet(), {h.group}, true));
        h.session().navigation().goTo(refTo(h.named("desk-1")));
        QVERIFY(h.session().scene().plate(h.named("desk-1")));
        QVERIFY(h.session().document().history().undoName() == "Fold Office"); // nothing was changed for it
    }

    void deleting_a_group_asks_in_words_what_would_go() {
        GroupedOffice h;
        const std::size_t devices = h.devices();
        QString asked;
        int choice = 0;
        h.onQuestion("Delete Office", [&](const QString& words) {
            asked = words;
            return choice;
        });
        h.click(h.tab());
        h.key(Qt::Key_Delete);
        h.wait();
        QVERIFY2(asked.contains(QStringLiteral("2 devices and 2 links")), qPrintable(asked));
        QCOMPARE(h.devices(), devices); // kept
        QVERIFY(!h.network().group(h.group));
        h.key(Qt::Key_Z, Qt::ControlModifier);
        choice = 1;
        h.click(h.tab());
        h.key(Qt::Key_Delete);
        h.wait();
        QCOMPARE(h.devices(), devices - 2);
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(h.devices(), devices);
    }

    void a_model_put_down_in_a_frame_belongs_to_the_group() {
        GroupedOffice h;
        h.choose("Phone");
        const QPoint in = h.at({h.frame().x + 12, h.frame().bottom() - 12});
        h.click(in);
        h.key(Qt::Key_Escape);
        QCOMPARE(devicesWithin(h.network(), h.group).size(), std::size_t{3});
    }

    void linking_to_a_folded_group_is_one_gesture_that_says_which_device() {
        FoldedComms h;
        const std::size_t links = h.links();
        h.linkTo("pc-9", h.at(h.session().scene().tile(h.comms)->frame.centre()));
        QCOMPARE(h.links(), links + 1);
        const Link* link = h.network().link({h.session().selection().front().id});
        const auto far = [&] { return link->a.device == h.named("pc-9") ? link->b : link->a; };
        QCOMPARE(far().device, h.named("acc-1")); // hosts go on the access switch
        auto& strip = h.sheet().linking().strip();
        QVERIFY(strip.isVisible());
        QVERIFY2(strip.text().contains(QStringLiteral("acc-1 is the nearest switch")),
                 qPrintable(strip.text()));
        const int end = link->a.device == h.named("pc-9") ? 1 : 0;
        QVERIFY(strip.otherDevice(end).isVisible() && !strip.otherDevice(1 - end).isVisible());
        // Another device of the group, in the same step.
        strip.otherDevice(end).click();
        auto& list = h.sheet().linking().drawer().list();
        QVERIFY(list.isVisible());
        const auto found = list.findItems(QStringLiteral("files-1"), Qt::MatchExactly);
        QCOMPARE(found.size(), 1);
        QTest::mouseClick(list.viewport(), Qt::LeftButton, {}, list.visualItemRect(found.front()).center());
        QCOMPARE(h.links(), links + 1);
        link = h.network().link({h.session().selection().front().id});
        QCOMPARE(far().device, h.named("files-1"));
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(h.links(), links); // one step
    }

    void a_tile_has_a_grip_of_its_own_to_link_outwards() {
        FoldedComms h;
        const std::size_t links = h.links();
        const scene::Tile& tile = *h.session().scene().tile(h.comms);
        h.moveTo(h.at(tile.frame.centre()));
        const QPoint grip = h.at(app::SelectTool::gripOf(tile, h.sheet().camera().zoom()).centre());
        h.drag(grip, h.middle("pc-9"));
        QCOMPARE(h.links(), links + 1);
        const Link* link = h.network().link({h.session().selection().front().id});
        QCOMPARE(link->a.device, h.named("acc-1")); // the switch in it, not what it hangs on
        QCOMPARE(link->b.device, h.named("pc-9"));
        QVERIFY2(h.sheet().linking().strip().text().contains(QStringLiteral("acc-1 is the nearest switch")),
                 qPrintable(h.sheet().linking().strip().text()));
        // Let go over itself nothing comes of it.
        h.session().undo();
        h.moveTo(h.at(tile.frame.centre()));
        h.drag(grip, h.at(tile.frame.centre()));
        h.key(Qt::Key_Escape);
        QCOMPARE(h.links(), links);
    }

    void a_doorway_takes_a_link_outward() {
        GroupedOffice h;
        h.session().navigation().enter(h.group);
        h.sheet().setFocus();
        h.key(Qt::Key_A);
        h.type("1 workstation named pc-9");
        h.key(Qt::Key_Return);
        h.sheet().fitAll();
        QCOMPARE(h.groupOf("pc-9"), h.group);
        const scene::Doorway* doorway = nullptr;
        h.session().scene().forEach<scene::Doorway>([&](const scene::Doorway& d) {
            if (d.beyond == refTo(h.named("acc-1")))
                doorway = &d;
        });
        QVERIFY(doorway);
        const std::size_t links = h.links();
        h.linkTo("pc-9", h.at(doorway->frame.centre()));
        QCOMPARE(h.links(), links + 1);
        const Link* link = h.network().link({h.session().selection().front().id});
        QVERIFY(link->a.device == h.named("acc-1") || link->b.device == h.named("acc-1"));
    }

    void sheets_are_added_from_what_is_there_and_removed() {
        GroupedOffice h;
        const auto sheets = [&] { return h.network().sheetsInOrder(); };
        const SheetId first = h.session().sheet();
        h.session().select({refTo(h.named("acc-1")), refTo(h.named("files-1"))});
        h.window->action(app::CommandId::sheetOfSelection)->trigger();
        QCOMPARE(sheets().size(), std::size_t{2});
        QCOMPARE(h.session().sheet(), sheets()[1].id);
        QCOMPARE(h.session().scene().count<scene::Plate>(), std::size_t{2});
        QCOMPARE(h.session().scene().count<scene::LinkLine>(), std::size_t{1});
        h.sheet().setFocus();
        h.session().select({refTo(h.named("acc-1"))});
        h.key(Qt::Key_Delete, Qt::ShiftModifier); // off the sheet, not out of the network
        QCOMPARE(h.session().scene().count<scene::Plate>(), std::size_t{1});
        QVERIFY(h.named("acc-1"));
        h.session().showSheet(first);
        QVERIFY(h.session().scene().plate(h.named("acc-1")));
        h.session().select({refTo(h.group)});
        h.window->action(app::CommandId::sheetOfGroup)->trigger();
        QCOMPARE(h.session().scene().count<scene::Plate>(), std::size_t{2});
        QVERIFY(h.session().scene().count<scene::Doorway>() > 0);
        QCOMPARE(sheets()[2].name, std::string("Office"));
        h.onQuestion("Remove sheet", [](const QString& words) {
            return words.contains(QStringLiteral("stay in the network")) ? 0 : -1;
        });
        h.window->action(app::CommandId::removeSheet)->trigger();
        h.wait();
        QCOMPARE(sheets().size(), std::size_t{2});
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(sheets().size(), std::size_t{3});
    }

    void the_outline_is_a_tree_that_moves_and_renames() {
        GroupedOffice h;
        h.window->findChild<QTabWidget*>()->setCurrentIndex(1);
        auto& outline = h.window->outline();
        QTreeWidgetItem* row = outline.rowOf(refTo(h.group));
        QVERIFY(row && row->childCount() == 2);
        QVERIFY(!outline.rowOf(refTo(h.named("print-1")))->parent());
        Q_EMIT static_cast<app::OutlineTree&>(outline.tree()).dropped({refTo(h.named("print-1"))}, h.group);
        QCOMPARE(h.groupOf("print-1"), h.group);
        row = outline.rowOf(refTo(h.group));
        QCOMPARE(row->childCount(), 3);
        row->setText(0, QStringLiteral("Back office"));
        QCOMPARE(h.network().group(h.group)->name, std::string("Back office"));
    }

    void groups_nested_without_end_do_no_harm() {
        GroupedOffice h;
        h.window->findChild<QTabWidget*>()->setCurrentIndex(1);
        Network network = h.network();
        GroupId parent = h.group;
        for (int i = 0; i < 3000; ++i) {
            Group group;
            group.id = h.session().ids().make<GroupId>();
            group.name = "g" + std::to_string(i);
            group.parent = parent;
            parent = group.id;
            network.put(std::move(group));
        }
        Device device = *network.device(h.named("desk-1"));
        device.group = parent;
        network.put(std::move(device));
        QVERIFY(h.session().apply(edit::Act{"Nest", network, {}}));
        QVERIFY(h.session().scene().plate(h.named("desk-1")));
        QVERIFY(h.window->outline().rowOf(refTo(h.group)));
    }

    void far_away_a_group_closes_and_coming_nearer_opens_it_again() {
        GroupedOffice h;
        h.sheet().look(h.frame().centre(), 0.1);
        h.click(h.at(h.frame().centre()));
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.group)}); // it is a tile
        h.session().select({});
        h.drag(h.at({h.frame().x - 150, h.frame().y - 40}),
               h.at({h.frame().right() + 40, h.frame().bottom() + 40}));
        QVERIFY(h.session().selected().contains(refTo(h.group)));
        QVERIFY(!h.session().selected().contains(h.members.front())); // not what is in it
        QTest::mouseDClick(&h.sheet(), Qt::LeftButton, {}, h.at(h.frame().centre()));
        QCOMPARE(h.session().scene().entered(), h.group);
        h.session().navigation().leaveGroup();
        h.sheet().look(h.frame().centre(), 1);
        h.click(h.middle("desk-1"));
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.named("desk-1"))});
        h.window->action(CommandId::closeFar)->trigger();
        QVERIFY(!h.window->action(CommandId::closeFar)->isChecked());
        h.sheet().look(h.frame().centre(), 0.1);
        h.session().select({});
        h.click(h.at(h.frame().centre() + scene::PointF{0, 1}));
        QVERIFY(h.session().selection() != edit::Refs{refTo(h.group)});
        h.session().undo();
        QVERIFY(h.window->action(CommandId::closeFar)->isChecked());
    }

    void a_key_tucks_endpoints_in_and_a_click_on_the_badge_brings_them_out() {
        WindowHarness h;
        h.openFirstOffice();
        const DeviceId hub = h.named("acc-1");
        h.sheet().fitAll();
        h.wait();
        h.click(h.middle("acc-1"));
        h.key(Qt::Key_E);
        QVERIFY(!h.session().scene().plate(h.named("phone-1")));
        QVERIFY(!h.plate("acc-1").tucked.empty());
        QCOMPARE(h.session().selection(), edit::Refs{refTo(hub)});
        h.session().navigation().goTo(refTo(h.named("phone-1"))); // found in the badge
        QVERIFY(h.session().scene().tuckedInto(h.named("phone-1")) == hub);
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.named("phone-1"))});
        h.sheet().look(h.plate("acc-1").frame.centre(), 1);
        h.click(h.at(h.plate("acc-1").badge().centre()));
        QVERIFY(h.session().scene().plate(h.named("phone-1")));
        h.session().undo();
        QVERIFY(!h.session().scene().plate(h.named("phone-1")));
        h.window->action(CommandId::bringOutAll)->trigger();
        QVERIFY(h.session().scene().plate(h.named("phone-1")));
    }

    void a_line_that_is_several_and_a_doorway_spread_into_their_links() {
        GroupedOffice h;
        h.session().apply(edit::moveInto(h.network(), {refTo(h.named("print-1"))}, h.group));
        h.session().apply(edit::setFolded(h.network(), h.session().sheet(), {h.group}, true));
        const scene::Scene& folded = h.session().scene();
        int several = 0;
        folded.forEachItem([&](const scene::Item& item) {
            const auto* line = item.as<scene::LinkLine>();
            const QStringList spread = app::spreadLines(h.network(), folded, item);
            if (line && line->merged.size() > 1) {
                ++several;
                QCOMPARE(spread.size(), static_cast<int>(line->merged.size()) + 1);
            } else {
                QVERIFY(spread.isEmpty());
            }
        });
        QVERIFY(several > 0);
        h.session().navigation().enter(h.group);
        const scene::Scene& inside = h.session().scene();
        inside.forEachItem([&](const scene::Item& item) {
            if (!item.as<scene::Doorway>())
                return;
            const QStringList spread = app::spreadLines(h.network(), inside, item);
            QVERIFY(spread.size() >= 2);
            QVERIFY(spread[0].contains(h.session().nameOf(item.object)));
            QVERIFY(spread[1].contains(h.session().nameOf(item.object))); // which port beyond
        });
        QVERIFY(inside.count<scene::Doorway>() > 0);
    }

    void a_group_says_what_is_wrong_inside() {
        GroupedOffice h;
        h.network().forEachLinkOf(h.named("phone-1"), [&](const Link& link) {
            h.session().apply(edit::changeEach<Cable>(h.network(), {{link.cable.value, 0}}, "Long",
                                                      [](Cable& cable) { cable.lengthMm = 400'000; }));
        });
        h.session().apply(edit::setFolded(h.network(), h.session().sheet(), {h.group}, true));
        h.session().select({refTo(h.group)});
        const auto says = [&] {
            for (auto* each : h.window->details().findChildren<QAbstractButton*>())
                if (each->accessibleName().contains("with errors") || each->text().contains("with errors"))
                    return true;
            return false;
        };
        QTRY_VERIFY(says());
        h.sheet().fitAll();
        const scene::Rect tile = h.session().scene().tile(h.group)->frame;
        const QPoint corner = h.at({tile.right(), tile.y}) + QPoint(-9, 0);
        const auto isRed = [&] {
            const QColor colour = h.sheet().grab().toImage().pixelColor(corner + QPoint(-3, -6));
            return colour.red() > 1.5 * colour.green();
        };
        QTRY_VERIFY(isRed());
    }

    void details_of_a_group_can_be_edited() {
        GroupedOffice h;
        h.click(h.tab());
        auto& details = h.window->details();
        QTRY_VERIFY(details.field("Name"));
        auto* name = qobject_cast<QLineEdit*>(details.field("Name"));
        name->setFocus();
        name->selectAll();
        h.type("Front office");
        h.key(Qt::Key_Return);
        QCOMPARE(h.network().group(h.group)->name, std::string("Front office"));
    }
};

UNDERRIDGE_TEST(GroupsTest)
#include "groups_test.moc"

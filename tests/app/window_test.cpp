// SPDX-License-Identifier: GPL-3.0-or-later
// What a person does in the window, with the events a person makes.
#include "app/sheet/name_series_dialog.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// Puts an access switch and a workstation down and links nothing.
void twoDevices(WindowHarness& h) {
    h.begin();
    h.choose("Access switch 24");
    h.click({300, 150});
    h.key(Qt::Key_Escape);
    h.choose("Workstation");
    h.click({300, 380});
    h.key(Qt::Key_Escape);
}

} // namespace

class WindowTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void initTestCase() {
        QApplication::setStyle(QStringLiteral("fusion"));
        QStandardPaths::setTestModeEnabled(true);
    }

    void the_first_window_offers_new_sample_and_open() {
        WindowHarness h;
        QVERIFY(!h.window->showsSheet());
        for (const char* text : {"New network", "First office", "Fennick Quay", "Open or import…"})
            QVERIFY2(h.button(QString::fromUtf8(text)), text);
        QTest::mouseClick(h.button("First office"), Qt::LeftButton);
        h.wait();
        QVERIFY(h.window->showsSheet());
        QCOMPARE(h.devices(), std::size_t{8});
        QVERIFY(!h.window->isWindowModified());
        QVERIFY(h.session().document().path().empty()); // saved under a name of its own
    }

    void the_office_by_mouse() {
        WindowHarness h;
        h.begin();
        const std::pair<const char*, QPoint> places[] = {
            {"Border router", {350, 60}}, {"Firewall", {350, 160}},     {"Access switch 24", {350, 270}},
            {"Server", {620, 270}},       {"Access point", {100, 390}}, {"Phone", {250, 390}},
            {"Workstation", {420, 390}},  {"Printer", {600, 390}}};
        for (const auto& [model, place] : places) {
            h.choose(model);
            h.click(place);
        }
        h.key(Qt::Key_Escape);
        QCOMPARE(h.devices(), std::size_t{8});
        h.linkTo("router-1", h.middle("firewall-1"));
        h.linkTo("firewall-1", h.middle("switch-1"));
        for (const char* host : {"server-1", "access-point-1", "phone-1", "workstation-1", "printer-1"})
            h.linkTo("switch-1", h.middle(host));
        QCOMPARE(h.links(), std::size_t{7});
        QCOMPARE(QString::fromStdString(
                     edit::portText(h.network(), h.network().linkAt({h.named("printer-1"), "1"})->a)),
                 QStringLiteral("switch-1 5"));
        QVERIFY(h.network().linkAt({h.named("switch-1"), "X1"}));
        // Renamed in place.
        const auto name = h.plate("switch-1").frame;
        QTest::mouseDClick(&h.sheet(), Qt::LeftButton, {}, h.at({name.x + 50, name.y + 10}));
        QVERIFY(h.sheet().fields().nameField().isVisible());
        h.type("acc-1");
        h.key(Qt::Key_Return);
        QVERIFY(h.named("acc-1"));
        QVERIFY(h.window->isWindowModified());
    }

    void the_office_by_keyboard_alone() {
        WindowHarness h;
        h.window->startPage().setFocus();
        h.key(Qt::Key_Space); // the button in focus: new network
        QVERIFY(h.window->showsSheet());
        for (const char* typed :
             {"border router named edge-1", "firewall named wall-1", "access switch named acc-1",
              "server named files-1", "access point named air-1", "phone named phone-1",
              "workstation named desk-1", "printer named print-1"}) {
            h.key(Qt::Key_A);
            QVERIFY(h.sheet().adding().field().isVisible());
            h.type(typed);
            h.key(Qt::Key_Return);
            QVERIFY(!h.sheet().adding().field().isVisible());
        }
        QCOMPARE(h.devices(), std::size_t{8});
        const std::pair<const char*, const char*> wanted[] = {
            {"edge-1", "wall-1"}, {"wall-1", "acc-1"},   {"files-1", "acc-1"}, {"air-1", "acc-1"},
            {"phone-1", "acc-1"}, {"desk-1", "phone-1"}, {"print-1", "acc-1"}};
        for (const auto& [from, to] : wanted) {
            while (h.sheet().selectTool().focused() != refTo(h.named(from)))
                h.key(Qt::Key_Tab);
            h.key(Qt::Key_Space);
            QCOMPARE(h.session().selection(), edit::Refs{refTo(h.named(from))});
            h.key(Qt::Key_L);
            h.type(to);
            QCOMPARE(h.sheet().linkTool().target().value, h.named(to).value);
            h.key(Qt::Key_Return);
        }
        QCOMPARE(h.links(), std::size_t{7});
        QVERIFY(h.network().linkAt({h.named("phone-1"), "2"}));
        h.path = h.folder.filePath("office.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->isWindowModified());
        QVERIFY(QFile::exists(h.path));
    }

    void a_model_is_put_down_click_after_click_until_escape() {
        WindowHarness h;
        h.begin();
        h.choose("Phone");
        for (const int x : {100, 250, 400})
            h.click({x, 200});
        h.key(Qt::Key_Escape);
        h.click({550, 200});
        QCOMPARE(h.devices(), std::size_t{3});
        QVERIFY(h.named("phone-3"));
    }

    void typing_adds_several_and_completion_helps() {
        WindowHarness h;
        h.begin();
        h.key(Qt::Key_A);
        h.type("4 acc");
        QVERIFY(h.sheet().adding().field().findChild<QListWidget*>()->count() >= 1);
        h.key(Qt::Key_Tab);
        QCOMPARE(h.sheet().adding().field().field().text(), QStringLiteral("4 access switch 24 "));
        h.type("named till-{01..}");
        h.key(Qt::Key_Return);
        QCOMPARE(h.devices(), std::size_t{4});
        QVERIFY(h.named("till-04"));
        for (const char* a : {"till-01", "till-02", "till-03"})
            for (const char* b : {"till-04"})
                QVERIFY(!h.plate(a).frame.intersects(h.plate(b).frame));
        QCOMPARE(h.session().selection().size(), std::size_t{4});
    }

    void release_makes_the_link_at_once_and_the_strip_tells() {
        WindowHarness h;
        twoDevices(h);
        h.linkTo("workstation-1", h.middle("switch-1"));
        QCOMPARE(h.links(), std::size_t{1});
        QVERIFY(h.sheet().linking().strip().isVisible());
        QVERIFY2(h.sheet().linking().strip().text().contains("access block"),
                 qPrintable(h.sheet().linking().strip().text()));
        QVERIFY(h.sheet().linking().strip().text().contains("Cat 6A"));
    }

    void another_port_chosen_in_the_drawer_is_part_of_the_same_step() {
        WindowHarness h;
        twoDevices(h);
        const Network before = h.network();
        h.linkTo("workstation-1", h.middle("switch-1"));
        QTest::mouseClick(&h.sheet().linking().strip().otherPort(1), Qt::LeftButton);
        app::PortDrawer& drawer = h.sheet().linking().drawer();
        QVERIFY(drawer.isVisible());
        const QRect where = drawer.geometry();
        for (const char* name : {"switch-1", "workstation-1"}) {
            const auto frame = h.plate(name).frame;
            QVERIFY(
                !where.intersects(QRect(h.at({frame.x, frame.y}), h.at({frame.right(), frame.bottom()}))));
        }
        for (int i = 0; i < 6; ++i)
            h.key(Qt::Key_Down);
        h.key(Qt::Key_Return);
        QCOMPARE(h.links(), std::size_t{1});
        QVERIFY(h.network().linkAt({h.named("switch-1"), "7"}));
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == before);
    }

    void the_port_is_chosen_first_with_down() {
        WindowHarness h;
        twoDevices(h);
        const QPoint from = h.grip("workstation-1"), to = h.middle("switch-1");
        h.moveTo(from);
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, from);
        h.moveTo(to, Qt::LeftButton);
        h.key(Qt::Key_Down);
        QVERIFY(h.sheet().linking().drawer().isVisible());
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, to);
        QCOMPARE(h.links(), std::size_t{0});
        QTreeWidget& list = h.sheet().linking().drawer().list();
        QTest::mouseClick(list.viewport(), Qt::LeftButton, {},
                          list.visualItemRect(list.topLevelItem(3)).center());
        QCOMPARE(h.links(), std::size_t{1});
        QVERIFY(h.network().linkAt({h.named("switch-1"), "4"}));
    }

    void exactly_this_port_to_that_device_by_clicks() {
        WindowHarness h;
        twoDevices(h);
        const auto tick = h.plate("switch-1").rail.tick(11); // port 12
        h.moveTo(h.at(tick.centre()));
        QVERIFY(h.sheet().selectTool().lens());
        const QPoint cell = h.at(h.sheet().selectTool().lens()->cell(11).centre());
        QVERIFY(h.sheet().selectTool().lens()->cell(11).w * h.sheet().camera().zoom() >= 12);
        h.click(cell);
        QVERIFY(h.sheet().isLinking());
        h.click(h.middle("workstation-1"));
        QVERIFY(h.network().linkAt({h.named("switch-1"), "12"}));
    }

    void a_refusal_is_shown_and_nothing_happens() {
        WindowHarness h;
        h.begin();
        h.choose("Printer");
        h.click({150, 150});
        h.click({150, 300});
        h.choose("Access switch 24");
        h.click({450, 200});
        h.key(Qt::Key_Escape);
        h.linkTo("printer-1", h.middle("switch-1"));
        const Network before = h.network();
        h.linkTo("printer-1", h.middle("switch-1"));
        QVERIFY(h.network() == before);
        QVERIFY2(h.window->statusText().contains("no free port"), qPrintable(h.window->statusText()));
        QVERIFY(!h.sheet().isLinking());
    }

    void release_on_empty_sheet_adds_a_device_already_linked_in_one_step() {
        WindowHarness h;
        twoDevices(h);
        const Network before = h.network();
        h.linkTo("switch-1", {600, 400});
        QVERIFY(h.sheet().adding().field().isVisible());
        h.type("2 phone");
        h.key(Qt::Key_Return);
        QCOMPARE(h.devices(), std::size_t{4});
        QCOMPARE(h.links(), std::size_t{2});
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == before);
    }

    void undo_to_empty_and_redo_to_the_same_value() {
        WindowHarness h;
        h.begin();
        const Network empty = h.network();
        h.key(Qt::Key_A);
        h.type("2 access switch 24 named acc-{1..}");
        h.key(Qt::Key_Return);
        h.key(Qt::Key_L, Qt::ShiftModifier); // in a row
        QCOMPARE(h.links(), std::size_t{1});
        h.drag(h.middle("acc-1"), h.middle("acc-1") + QPoint(-80, 90));
        h.key(Qt::Key_D, Qt::ControlModifier);
        const Network last = h.network();
        QVERIFY(h.window->action(CommandId::undo)->text().contains("Duplicate"));
        for (int i = 0; i < 10; ++i)
            h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == empty);
        for (int i = 0; i < 10; ++i)
            h.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(h.network() == last);
    }

    void a_cancelled_drag_costs_no_redo() {
        WindowHarness h;
        twoDevices(h);
        const Network whole = h.network();
        h.key(Qt::Key_Z, Qt::ControlModifier);
        const Network undone = h.network();
        const QPoint from = h.middle("switch-1");
        h.moveTo(from);
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, from);
        h.moveTo(from + QPoint(60, 40), Qt::LeftButton);
        h.key(Qt::Key_Escape);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, from + QPoint(60, 40));
        QVERIFY(h.network() == undone);
        h.key(Qt::Key_Y, Qt::ControlModifier);
        QVERIFY(h.network() == whole);
    }

    void escape_leaves_a_link_in_hand_without_a_trace() {
        WindowHarness h;
        twoDevices(h);
        const Network before = h.network();
        const QPoint from = h.grip("switch-1");
        h.moveTo(from);
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, from);
        h.moveTo(h.middle("workstation-1"), Qt::LeftButton);
        h.key(Qt::Key_Escape);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, h.middle("workstation-1"));
        QVERIFY(h.network() == before);
        QVERIFY(!h.sheet().isLinking());
    }

    void dragging_snaps_to_neighbours_and_shift_keeps_to_one_axis() {
        WindowHarness h;
        twoDevices(h);
        const auto other = h.plate("workstation-1").frame;
        QPoint from = h.middle("switch-1");
        const auto start = h.plate("switch-1").frame;
        h.drag(from, from + QPoint(qRound(other.x - start.x) + 4, 17));
        QCOMPARE(h.plate("switch-1").frame.x, other.x); // left edges meet
        from = h.middle("switch-1");
        const auto before = h.plate("switch-1").frame;
        h.drag(from, from + QPoint(96, 30), Qt::ShiftModifier);
        QCOMPARE(h.plate("switch-1").frame.y, before.y);
        from = h.middle("switch-1");
        h.drag(from, from + QPoint(3, 5), Qt::ControlModifier); // no snapping
        QVERIFY(static_cast<int>(h.plate("switch-1").frame.y) % 8 != 0 ||
                static_cast<int>(h.plate("switch-1").frame.x) % 8 != 0);
    }

    void the_band_takes_what_lies_inside_and_with_shift_what_it_touches() {
        WindowHarness h;
        twoDevices(h);
        const auto a = h.plate("switch-1").frame;
        const QPoint corner = h.at({a.x - 30, a.y - 30}), half = h.at({a.x + a.w / 2, a.bottom() + 20});
        h.drag(corner, half);
        QVERIFY(h.session().selection().empty());
        h.drag(corner, half, Qt::ShiftModifier);
        QCOMPARE(h.session().selection().size(), std::size_t{1});
        h.key(Qt::Key_A, Qt::ControlModifier);
        QCOMPARE(h.session().selection().size(), std::size_t{2});
    }

    void arrow_keys_move_and_merge_into_one_step() {
        WindowHarness h;
        twoDevices(h);
        h.click(h.middle("switch-1"));
        const Network before = h.network();
        const double x = h.plate("switch-1").frame.x;
        for (int i = 0; i < 5; ++i)
            h.key(Qt::Key_Right);
        QCOMPARE(h.plate("switch-1").frame.x, x + 40);
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == before);
    }

    void a_link_is_bent_by_dragging_and_straightened_again() {
        WindowHarness h;
        twoDevices(h);
        h.linkTo("switch-1", h.middle("workstation-1"));
        const LinkId id = h.network().linkAt({h.named("workstation-1"), "1"})->id;
        const auto path = h.session().scene().link(id)->path;
        const QPoint on = h.at(scene::alongPath(path, scene::pathLength(path) * 0.3).at);
        h.drag(on, on + QPoint(90, 0));
        QCOMPARE(h.session().scene().link(id)->path.size(), std::size_t{3});
        h.window->action(CommandId::straighten)->trigger();
        QCOMPARE(h.session().scene().link(id)->path.size(), std::size_t{2});
    }

    void notes_are_written_and_edited() {
        WindowHarness h;
        h.begin();
        h.key(Qt::Key_N);
        h.type("Spare room");
        h.key(Qt::Key_Return, Qt::ControlModifier);
        QCOMPARE(h.session().scene().count<scene::NoteCard>(), std::size_t{1});
        h.key(Qt::Key_N);
        h.key(Qt::Key_Escape);
        QCOMPARE(h.session().scene().count<scene::NoteCard>(), std::size_t{1});
    }

    void copy_and_paste_bring_the_links_among_what_was_copied() {
        WindowHarness h;
        twoDevices(h);
        h.linkTo("switch-1", h.middle("workstation-1"));
        h.key(Qt::Key_A, Qt::ControlModifier);
        h.key(Qt::Key_C, Qt::ControlModifier);
        h.key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(h.devices(), std::size_t{4});
        QCOMPARE(h.links(), std::size_t{2});
        h.key(Qt::Key_X, Qt::ControlModifier);
        QCOMPARE(h.devices(), std::size_t{2});
    }

    void several_are_renamed_in_series() {
        WindowHarness h;
        h.begin();
        h.key(Qt::Key_A);
        h.type("3 phone");
        h.key(Qt::Key_Return);
        h.onDialog<app::NameSeriesDialog>([](app::NameSeriesDialog& dialog) {
            dialog.pattern().clear();
            QTest::keyClicks(&dialog.pattern(), "{place}-{01..}");
            if (dialog.remark().isEmpty() || !dialog.names().empty())
                return false; // there is no such field
            dialog.pattern().clear();
            QTest::keyClicks(&dialog.pattern(), "gate-{01..}");
            return dialog.list().topLevelItemCount() == 3 &&
                   dialog.list().topLevelItem(2)->text(1) == "gate-03";
        });
        h.key(Qt::Key_F2);
        for (const char* name : {"gate-01", "gate-02", "gate-03"})
            QVERIFY(h.named(name));
    }

    void single_letters_act_only_while_the_sheet_has_the_focus() {
        WindowHarness h;
        h.begin();
        h.window->catalogue().search().setFocus();
        h.type("an");
        QVERIFY(!h.sheet().adding().field().isVisible());
        QCOMPARE(h.window->catalogue().search().text(), QStringLiteral("an"));
    }

    void find_goes_to_a_device_and_runs_a_command() {
        WindowHarness h;
        h.openFirstOffice();
        h.key(Qt::Key_F, Qt::ControlModifier);
        h.type("print");
        h.key(Qt::Key_Return);
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.named("print-1"))});
        h.key(Qt::Key_F, Qt::ControlModifier);
        h.type("OF-002");
        h.key(Qt::Key_Return);
        QVERIFY(h.session().selection().front().kind == Kind::link);
        h.key(Qt::Key_F, Qt::ControlModifier);
        h.type("duplicate");
        h.key(Qt::Key_Down);
        h.key(Qt::Key_Escape);
        QVERIFY(h.sheet().hasFocus());
    }
};

UNDERRIDGE_TEST(WindowTest)
#include "window_test.moc"

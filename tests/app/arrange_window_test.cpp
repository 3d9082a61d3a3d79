// SPDX-License-Identifier: GPL-3.0-or-later
// Arranging in the real window: the bar, its pictures, one step to undo, and hand work.
#include "app/arranging/arrange_bar.h"
#include "app/arranging/pattern_dialog.h"
#include "core/edit/sheets.h"
#include "core/layout/drawn.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using layout::Style;
using tests::WindowHarness;

namespace {

struct Quay : WindowHarness {
    explicit Quay(bool moves = false) {
        if (moves) {
            motion = true;
            restart();
        }
        openFennickQuay();
        sheet().setFocus();
    }
    app::ArrangeBar& bar() { return window->arranging(); }
    layout::DrawnMeasures measures() { return layout::measured(session().scene()); }
    Point at(const char* name) { return network().position(session().sheet(), named(name).value)->at; }
};

} // namespace

class ArrangeWindowTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void x_and_enter_arrange_the_sheet_and_one_undo_takes_it_back() {
        Quay h;
        const Network before = h.network();
        h.key(Qt::Key_X);
        QVERIFY(h.bar().isVisible());
        QVERIFY(h.bar().button(Style::suggest)->hasFocus());
        h.key(Qt::Key_Return);
        QVERIFY(!(h.network() == before));
        QCOMPARE(h.measures().overlaps, std::size_t{0});
        QVERIFY(h.bar().says().contains("redundant"));
        h.key(Qt::Key_Escape);
        QVERIFY(!h.bar().isVisible());
        QVERIFY(h.sheet().hasFocus());
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == before);
    }
    void another_style_takes_the_place_of_the_first() {
        Quay h;
        const Network before = h.network();
        h.key(Qt::Key_X);
        QTest::mouseClick(h.bar().button(Style::layered), Qt::LeftButton);
        const Network layered = h.network();
        h.key(Qt::Key_Right);
        h.key(Qt::Key_Return); // the next style by keyboard
        QVERIFY(!(h.network() == layered));
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(h.network() == before);
    }
    void spacing_and_flow_arrange_anew_at_once() {
        Quay h;
        h.key(Qt::Key_X);
        QTest::mouseClick(h.bar().button(Style::suggest), Qt::LeftButton);
        const double usual = h.session().scene().bounds().w;
        h.bar().spacing().setValue(250);
        QVERIFY(h.session().scene().bounds().w > usual * 1.05);
        const Network down = h.network();
        h.bar().flow().setCurrentIndex(2);
        Q_EMIT h.bar().flow().activated(2);
        QVERIFY(!(h.network() == down));
        QCOMPARE(h.measures().overlaps, std::size_t{0});
    }
    void the_selected_device_can_be_the_anchor() {
        Quay h;
        h.session().select({refTo(h.named("acc-o1"))});
        h.key(Qt::Key_X);
        QVERIFY(h.bar().anchor().text().contains("acc-o1"));
        QTest::mouseClick(&h.bar().anchor(), Qt::LeftButton);
        QVERIFY(h.bar().anchor().text().contains("acc-o1"));
        QVERIFY(h.at("acc-o1").y <= h.at("pp-o1").y);
    }
    void only_the_selection_moves_where_several_are_selected() {
        Quay h;
        const Point core = h.at("core-1");
        h.session().select({refTo(h.named("acc-o1")), refTo(h.named("acc-o2")), refTo(h.named("dist-ctrl"))});
        h.key(Qt::Key_X);
        QVERIFY(h.bar().onlySelected().isChecked());
        QTest::mouseClick(h.bar().button(Style::row), Qt::LeftButton);
        QCOMPARE(h.at("core-1"), core);
        QCOMPARE(h.at("acc-o1").y, h.at("acc-o2").y);
    }
    void each_style_gets_a_small_picture() {
        Quay h;
        h.key(Qt::Key_X);
        for (const Style style : {Style::suggest, Style::layered, Style::radial, Style::grid})
            QTRY_VERIFY_WITH_TIMEOUT(!h.bar().button(style)->icon().isNull(), 20'000);
    }
    void plates_travel_to_their_places_where_motion_is_on() {
        Quay h(true);
        h.window->action(CommandId::arrangeAgain)->trigger();
        QVERIFY(h.sheet().isMorphing());
        QTRY_VERIFY(!h.sheet().isMorphing());
        Quay still;
        still.window->action(CommandId::arrangeAgain)->trigger();
        QVERIFY(!still.sheet().isMorphing());
    }
    void on_a_plan_only_links_are_arranged() {
        Quay h;
        for (const Sheet& sheet : h.network().sheetsInOrder())
            if (sheet.name == "Concourse")
                h.session().showSheet(sheet.id);
        h.sheet().setFocus();
        h.key(Qt::Key_X);
        QVERIFY(h.bar().isVisible());
        QVERIFY(!h.bar().button(Style::suggest)->isEnabled());
        QVERIFY(h.bar().button(Style::plan)->hasFocus());
        std::map<std::uint64_t, Point> stood;
        h.session().scene().forEachPlate([&](const scene::Plate& plate) {
            stood[plate.id.value] = h.network().position(h.session().sheet(), plate.id.value)->at;
        });
        QTest::mouseClick(h.bar().button(Style::plan), Qt::LeftButton);
        for (const auto& [id, at] : stood)
            QCOMPARE(h.network().position(h.session().sheet(), id)->at, at);
    }
    void an_edit_between_makes_the_next_arrangement_a_step_of_its_own() {
        Quay h;
        h.key(Qt::Key_X);
        QTest::mouseClick(h.bar().button(Style::suggest), Qt::LeftButton);
        const Network arranged = h.network();
        h.sheet().setFocus();
        h.session().select({refTo(h.named("core-1"))});
        h.key(Qt::Key_Right); // a nudge
        QVERIFY(!(h.network() == arranged));
        const Network nudged = h.network();
        QTest::mouseClick(h.bar().button(Style::layered), Qt::LeftButton);
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(h.network() == nudged);
    }
    void ten_hosts_round_a_switch_twice_joined_and_named() {
        WindowHarness h;
        h.begin();
        h.sheet().setFocus();
        for (const char* names : {"north-{01..}", "south-{01..}"}) {
            h.onDialog<app::PatternDialog>([&, names](app::PatternDialog& dialog) {
                dialog.figure("count").setValue(10);
                dialog.names(2).setText(names);
                Q_EMIT dialog.names(2).textEdited(names);
                const bool told = QTest::qWaitFor([&] { return dialog.hasPicture(); }, 20'000);
                return told && dialog.summary().contains("11 devices") && dialog.act().isEnabled()
                           ? QDialog::Accepted
                           : QDialog::Rejected;
            });
            h.sheet().setFocus();
            h.key(Qt::Key_P);
            QTRY_VERIFY(h.named(names[0] == 'n' ? "north-10" : "south-10"));
        }
        QCOMPARE(h.devices(), std::size_t{22});
        QCOMPARE(h.links(), std::size_t{20});
        h.window->action(CommandId::undo)->trigger();
        QCOMPARE(h.devices(), std::size_t{11});
    }
    void a_large_sheet_is_arranged_by_a_thread_and_the_last_wish_counts() {
        WindowHarness h;
        h.begin();
        edit::Pattern tree;
        tree.shape = edit::PatternShape::tree;
        tree.fan = 10;
        tree.depth = 3;
        QVERIFY(h.session().apply(edit::addPattern(h.network(), h.session().catalogue(), h.session().sheet(),
                                                   tree, h.session().ids())));
        const Network before = h.network();
        h.sheet().setFocus();
        h.key(Qt::Key_X);
        QTest::mouseClick(h.window->arranging().button(Style::grid), Qt::LeftButton);
        QVERIFY(h.window->jobs().busy());
        QTest::mouseClick(h.window->arranging().button(Style::layered), Qt::LeftButton);
        QTest::mouseClick(h.window->arranging().button(Style::radial), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(!h.window->jobs().busy() && h.window->arranging().says().contains("radial"),
                                 20'000);
        QCOMPARE(layout::measured(h.session().scene()).overlaps, std::size_t{0});
        const auto sceneIsTrue = [&] { // a thread made it with the arrangement
            return h.session().scene() == scene::Scene::build(h.network(), h.session().sheet());
        };
        QVERIFY(sceneIsTrue());
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(h.network() == before);
        QVERIFY(sceneIsTrue());
        h.window->action(CommandId::redo)->trigger();
        QVERIFY(sceneIsTrue());
    }
    void what_is_cancelled_can_be_taken_as_far_as_it_is() {
        WindowHarness h;
        h.begin();
        edit::Pattern tree;
        tree.shape = edit::PatternShape::tree;
        tree.fan = 10;
        tree.depth = 3;
        QVERIFY(h.session().apply(edit::addPattern(h.network(), h.session().catalogue(), h.session().sheet(),
                                                   tree, h.session().ids())));
        const Network before = h.network();
        h.sheet().setFocus();
        h.key(Qt::Key_X);
        app::ArrangeBar& bar = h.window->arranging();
        QVERIFY(!bar.takesOffer().isVisible());
        QTest::mouseClick(bar.button(Style::spring), Qt::LeftButton);
        QTest::keyClick(bar.button(Style::spring), Qt::Key_Escape);
        QVERIFY(bar.isVisible()); // the first Esc is for what is under way
        QVERIFY(!h.window->jobs().busy());
        QTRY_VERIFY_WITH_TIMEOUT(bar.takesOffer().isVisible(), 20'000);
        QVERIFY(h.network() == before);
        QTest::mouseClick(&bar.takesOffer(), Qt::LeftButton);
        QVERIFY(!(h.network() == before));
        QVERIFY(!bar.takesOffer().isVisible());
        QCOMPARE(layout::measured(h.session().scene()).overlaps, std::size_t{0});
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(h.network() == before);
    }
    void my_order_is_kept_until_something_is_arranged_and_after_a_move() {
        Quay h;
        h.key(Qt::Key_X);
        QVERIFY(h.bar().keepsOrder().isChecked()); // who knows who put it there
        QTest::mouseClick(h.bar().button(Style::row), Qt::LeftButton);
        const auto leftOf = [&](const char* a, const char* b) { return h.at(a).x < h.at(b).x; };
        h.bar().close();
        h.key(Qt::Key_X);
        QVERIFY(!h.bar().keepsOrder().isChecked()); // as the last arrangement left it
        QTest::mouseClick(h.bar().button(Style::row), Qt::LeftButton);
        QVERIFY(leftOf("acc-o1", "acc-o2")); // by name
        // One goes to the other's right by hand.
        h.bar().close();
        h.session().apply(edit::moveObjects(h.network(), h.session().sheet(), {refTo(h.named("acc-o1"))},
                                            h.at("acc-o2") - h.at("acc-o1") + Point{60, 0}));
        h.key(Qt::Key_X);
        QVERIFY(h.bar().keepsOrder().isChecked());
        QTest::mouseClick(h.bar().button(Style::row), Qt::LeftButton);
        QVERIFY(leftOf("acc-o2", "acc-o1"));
        QTest::mouseClick(&h.bar().keepsOrder(), Qt::LeftButton); // arranges anew at once
        QVERIFY(leftOf("acc-o1", "acc-o2"));
    }
    void what_is_selected_is_fitted_in_and_nothing_else_moves() {
        Quay h;
        const DeviceId phone = h.named("phone-q1");
        h.session().apply(
            edit::moveObjects(h.network(), h.session().sheet(), {refTo(phone)}, Point{3000, 2000}));
        const Point core = h.at("core-1"), away = h.at("phone-q1");
        h.session().select({});
        QVERIFY(!h.window->action(CommandId::fitIn)->isEnabled());
        h.session().select({refTo(phone)});
        h.window->action(CommandId::fitIn)->trigger();
        QVERIFY(h.at("phone-q1") != away);
        QCOMPARE(h.at("core-1"), core);
        QCOMPARE(h.measures().overlaps, std::size_t{0});
        h.window->action(CommandId::undo)->trigger();
        QCOMPARE(h.at("phone-q1"), away);
    }
    void a_pattern_is_as_large_as_its_place_is_drawn() {
        WindowHarness h;
        h.begin();
        h.sheet().setFocus();
        h.onDialog<app::PatternDialog>([&](app::PatternDialog& dialog) {
            dialog.figure("count").setValue(6);
            QTest::mouseClick(&dialog.draws(), Qt::LeftButton);
            return QDialog::Accepted;
        });
        h.key(Qt::Key_P);
        QCOMPARE(h.devices(), std::size_t{0});
        const QPoint from(200, 100), to(800, 560);
        h.drag(from, to);
        QTRY_COMPARE(h.devices(), std::size_t{7});
        const scene::Rect all = h.session().scene().bounds();
        QVERIFY(all.w > 300 && all.h > 300 && all.w < 700 && all.h < 560);
        h.window->action(CommandId::undo)->trigger();
        QCOMPARE(h.devices(), std::size_t{0});
    }
    void esc_ends_drawing_its_place_and_adds_nothing() {
        WindowHarness h;
        h.begin();
        h.sheet().setFocus();
        h.onDialog<app::PatternDialog>([&](app::PatternDialog& dialog) {
            QTest::mouseClick(&dialog.draws(), Qt::LeftButton);
            return QDialog::Accepted;
        });
        h.key(Qt::Key_P);
        h.key(Qt::Key_Escape);
        h.drag(QPoint(200, 100), QPoint(500, 400)); // a rubber band
        QCOMPARE(h.devices(), std::size_t{0});
        QVERIFY(!h.window->action(CommandId::undo)->isEnabled());
    }
    void rows_come_in_the_order_that_is_chosen() {
        Quay h;
        h.key(Qt::Key_X);
        h.bar().keepsOrder().setChecked(false);
        QTest::mouseClick(h.bar().button(Style::row), Qt::LeftButton);
        QVERIFY(h.at("acc-q1").x < h.at("rtr-1").x); // by name
        h.bar().order().setCurrentIndex(1);
        Q_EMIT h.bar().order().activated(1);
        QVERIFY(h.at("rtr-1").x < h.at("acc-q1").x); // by role: where the network comes from first
    }
    void hand_work_needs_as_much_selected_as_it_spaces() {
        Quay h;
        h.session().select({refTo(h.named("till-1")), refTo(h.named("till-2")), refTo(h.named("till-4"))});
        const Network before = h.network();
        h.window->action(CommandId::gapsAsFirstDown)->trigger();
        QVERIFY(!(h.network() == before));
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(h.network() == before);
        QVERIFY(!h.window->action(CommandId::sameSize)->isEnabled()); // no frame among them
        h.session().select({refTo(h.named("till-1")), refTo(h.named("till-2"))});
        QVERIFY(!h.window->action(CommandId::middlesAcross)->isEnabled());
    }
    void the_view_menu_bundles_links_and_straightens_them_again() {
        Quay h;
        const auto style = [&] { return h.network().sheet(h.session().sheet())->lines; };
        h.window->action(CommandId::linesBundled)->trigger();
        QCOMPARE(style(), LineStyle::bundled);
        QVERIFY(h.window->action(CommandId::linesBundled)->isChecked());
        h.window->action(CommandId::linesAlongAxes)->trigger();
        QCOMPARE(style(), LineStyle::axes);
        QVERIFY(!h.window->action(CommandId::linesBundled)->isChecked());
        h.window->action(CommandId::linesAlongAxes)->trigger();
        QCOMPARE(style(), LineStyle::straight);
    }
    void links_may_be_drawn_for_the_selection_only() {
        Quay h;
        h.session().select({});
        const DeviceId core = h.named("core-1");
        std::optional<scene::LinkLine> line;
        h.network().forEachLinkOf(core, [&](const Link& link) {
            if (const auto* each = h.session().scene().link(link.id); each && each->path.size() == 2)
                line = *each;
        });
        QVERIFY(line);
        h.sheet().look((line->path.front() + line->path.back()) * 0.5, 1);
        const QPoint middle = h.WindowHarness::at((line->path.front() + line->path.back()) * 0.5);
        const auto inkAt = [&] { // whether anything is drawn about the middle of the line
            QTest::qWait(30);
            const QImage image = h.sheet().grab().toImage();
            const QColor ground = image.pixelColor(2, 2);
            int different = 0;
            for (int dx = -3; dx <= 3; ++dx)
                for (int dy = -3; dy <= 3; ++dy)
                    different += image.pixelColor(middle + QPoint(dx, dy)) != ground;
            return different > 3;
        };
        QTRY_VERIFY(inkAt());
        h.window->action(CommandId::linksOnDemand)->trigger();
        QVERIFY(h.window->action(CommandId::linksOnDemand)->isChecked());
        QTRY_VERIFY(!inkAt());
        h.click(middle); // nothing is there to be clicked
        QVERIFY(h.session().selection().empty());
        h.session().select({refTo(core)});
        QTRY_VERIFY(inkAt());
        h.session().select({});
        QTRY_VERIFY(!inkAt());
        h.session().undo();
        QTRY_VERIFY(inkAt());
    }
    void edges_come_in_line_from_the_menu_and_are_shown_before() {
        Quay h;
        h.session().select({refTo(h.named("acc-o1")), refTo(h.named("acc-o2"))});
        QAction* left = h.window->action(CommandId::alignLeft);
        QVERIFY(left->isEnabled());
        left->hover();
        QCOMPARE(h.sheet().ghosts().size(), std::size_t{2});
        left->trigger();
        QVERIFY(h.sheet().ghosts().empty());
        QCOMPARE(h.plate("acc-o1").frame.x, h.plate("acc-o2").frame.x);
        QVERIFY(!h.window->action(CommandId::distributeAcross)->isEnabled()); // needs three
    }
};

UNDERRIDGE_TEST(ArrangeWindowTest)
#include "arrange_window_test.moc"

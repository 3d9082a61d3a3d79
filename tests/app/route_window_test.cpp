// SPDX-License-Identifier: GPL-3.0-or-later
// Trays and conduits in the real window: drawn with the mouse, reshaped, named, measured.
#include "app/plans/plan_dialog.h"
#include "core/edit/groups.h"
#include "core/edit/plans.h"
#include "core/linking/route_loads.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// The first office with its desks on a floor, shown on a plan.
struct OnPlan : WindowHarness {
    OnPlan() {
        openFirstOffice();
        auto act = edit::makeGroup(network(), session().sheet(), "Upstairs", GroupKind::floor,
                                   {refTo(named("desk-1")), refTo(named("phone-1"))}, {}, session().ids());
        floor = {act->subjects.front().id};
        session().apply(std::move(act));
        session().select({refTo(floor)});
        onDialog<app::PlanDialog>([](app::PlanDialog& dialog) {
            dialog.list().setCurrentItem(dialog.list().findItems("Hall", Qt::MatchExactly).front());
            return dialog.act().isEnabled();
        });
        window->action(CommandId::plan)->trigger();
        wait();
        sheet().look({300, 200}, 1);
    }
    /// Draws a tray by clicks, ended by a double click at the last.
    void draw(std::vector<scene::PointF> points) {
        window->action(CommandId::drawTray)->trigger();
        for (const scene::PointF p : points)
            click(at(p));
        QTest::mouseDClick(&sheet(), Qt::LeftButton, {}, at(points.back()));
    }
    const CableRoute& only() {
        const CableRoute* found = nullptr;
        network().all<CableRoute>().forEach([&](const CableRoute& route) { found = &route; });
        return *found;
    }
    std::size_t routes() { return network().all<CableRoute>().size(); }

    GroupId floor;
};

} // namespace

class RouteWindowTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_tray_is_drawn_by_clicks_and_named_at_once() {
        OnPlan h;
        h.draw({{100, 100}, {400, 100}, {400, 300}});
        QCOMPARE(h.routes(), std::size_t(1));
        QCOMPARE(h.only().floor, h.floor);
        QCOMPARE(h.only().points,
                 (std::vector<FloorPoint>{{2'500, 2'500}, {10'000, 2'500}, {10'000, 7'500}}));
        QVERIFY(!h.sheet().inGesture());
        QVERIFY(h.sheet().fields().nameField().isVisible());
        h.type("T-north");
        h.key(Qt::Key_Return);
        QCOMPARE(h.only().name, std::string("T-north"));
        QCOMPARE(h.session().scene().route(h.only().id)->label, std::string("T-north · 0 %"));
        h.session().undo();
        h.session().undo();
        QCOMPARE(h.routes(), std::size_t(0));
    }
    void keys_end_it_take_a_point_back_and_give_it_up() {
        OnPlan h;
        const auto start = [&] {
            h.window->action(CommandId::drawConduit)->trigger();
            h.click(h.at({100, 100}));
            h.click(h.at({200, 100}));
            h.click(h.at({200, 250}));
        };
        start();
        h.key(Qt::Key_Escape);
        QCOMPARE(h.routes(), std::size_t(0));
        QVERIFY(!h.sheet().inGesture());
        start();
        h.key(Qt::Key_Backspace);
        h.key(Qt::Key_Return);
        QCOMPARE(h.routes(), std::size_t(1));
        QCOMPARE(h.only().points.size(), std::size_t(2));
        QCOMPARE(h.only().type, CableRouteKind::conduit);
        h.sheet().fields().hide();
        // One point alone is no route, and that is said.
        h.window->action(CommandId::drawTray)->trigger();
        h.click(h.at({300, 300}));
        h.key(Qt::Key_Return);
        QCOMPARE(h.routes(), std::size_t(1));
        QVERIFY(!h.sheet().inGesture());
    }
    void leaving_the_sheet_gives_up_what_is_half_drawn() {
        OnPlan h;
        const SheetId first = h.network().sheetsInOrder().front().id, plan = h.session().sheet();
        h.window->action(CommandId::drawTray)->trigger();
        h.click(h.at({100, 100}));
        h.click(h.at({200, 100}));
        h.session().showSheet(first);
        QVERIFY(!h.sheet().inGesture());
        h.session().showSheet(plan);
        h.sheet().setFocus();
        h.key(Qt::Key_Return);
        QCOMPARE(h.routes(), std::size_t(0));
    }
    void a_floor_with_routes_stays_a_floor() {
        OnPlan h;
        h.draw({{100, 100}, {400, 100}});
        h.key(Qt::Key_Return);
        QVERIFY(!edit::setGroupKind(h.network(), h.floor, GroupKind::room));
        QVERIFY(edit::setGroupKind(h.network(), h.floor, GroupKind::floor));
    }
    void it_joins_what_is_near() {
        OnPlan h;
        h.draw({{100, 100}, {400, 100}});
        h.key(Qt::Key_Return);
        const CableRouteId first = h.only().id;
        h.draw({{253, 300}, {253, 105}}); // five units beside the first
        h.key(Qt::Key_Return);
        h.network().all<CableRoute>().forEach([&](const CableRoute& route) {
            if (route.id != first)
                QCOMPARE(route.points.back().yMm, std::int64_t(2'500));
        });
    }
    void a_point_is_dragged_and_a_new_one_comes_from_the_middle() {
        OnPlan h;
        h.draw({{100, 100}, {400, 100}});
        h.key(Qt::Key_Return);
        h.session().select({refTo(h.only().id)});
        h.drag(h.at({400, 100}), h.at({400, 240}));
        QCOMPARE(h.only().points.back(), (FloorPoint{10'000, 6'000}));
        h.session().undo();
        h.session().select({refTo(h.only().id)});
        h.drag(h.at({250, 100}), h.at({250, 200}));
        QCOMPARE(h.only().points, (std::vector<FloorPoint>{{2'500, 2'500}, {6'300, 5'000}, {10'000, 2'500}}));
        // Put back on the straight way it is gone again.
        h.drag(h.at({252, 200}), h.at({252, 100}));
        QCOMPARE(h.only().points.size(), std::size_t(2));
        // Given up, nothing changes.
        h.moveTo(h.at({400, 100}));
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.at({400, 100}));
        h.moveTo(h.at({400, 300}), Qt::LeftButton);
        h.key(Qt::Key_Escape);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, h.at({400, 300}));
        QCOMPARE(h.only().points.back(), (FloorPoint{10'000, 2'500}));
    }
    void the_whole_is_dragged_and_deleted() {
        OnPlan h;
        h.draw({{100, 100}, {400, 100}, {400, 300}});
        h.key(Qt::Key_Return);
        h.drag(h.at({180, 100}), h.at({180, 180}), Qt::ControlModifier);
        QCOMPARE(h.only().points.front(), (FloorPoint{2'500, 4'500}));
        h.sheet().setFocus();
        h.key(Qt::Key_Delete);
        QCOMPARE(h.routes(), std::size_t(0));
    }
    void the_details_say_how_full_it_is_and_lead_to_what_runs_in_it() {
        OnPlan h;
        h.draw({{100, 100}, {800, 100}});
        h.key(Qt::Key_Return);
        Network next = h.network();
        for (const auto& [name, x] : {std::pair{"acc-1", 2'500}, std::pair{"phone-1", 19'000}}) {
            Device device = *next.device(h.named(name));
            device.place = {h.floor, x, 2'500, 0, 0, Side::front};
            device.group = h.floor;
            next.put(device);
        }
        h.session().apply(edit::Act{"Place", next, {}});
        h.session().select({refTo(h.only().id)});
        QTRY_VERIFY(h.window->details().field("Width inside"));
        auto* width = qobject_cast<QLineEdit*>(h.window->details().field("Width inside"));
        QCOMPARE(width->text(), "200 mm");
        width->setFocus();
        width->selectAll();
        h.type("5 cm");
        h.key(Qt::Key_Return);
        QCOMPARE(h.only().widthMm, 50);
        QCOMPARE(linking::loadsOn(h.network(), h.floor).front().cables.size(), std::size_t(1));
        QTRY_VERIFY(h.window->details().field("Select what runs in it"));
        width = qobject_cast<QLineEdit*>(h.window->details().field("Width inside"));
        width->setFocus();
        width->selectAll();
        h.type("4");
        h.key(Qt::Key_Return); // refused beside the field
        QCOMPARE(h.only().widthMm, 50);
        width->selectAll();
        h.type("50");
        h.key(Qt::Key_Return);
    }
    void the_commands_are_for_sheets_of_floors_to_scale() {
        WindowHarness h;
        h.openFirstOffice();
        QVERIFY(!h.window->action(CommandId::drawTray)->isEnabled());
    }
};

UNDERRIDGE_TEST(RouteWindowTest)
#include "route_window_test.moc"

// SPDX-License-Identifier: GPL-3.0-or-later
// Trays and conduits: which cables run in them, how long that makes them, how full they
// are.
#include "core/edit/cable_routes.h"
#include "core/edit/document.h"
#include "core/edit/following.h"
#include "core/edit/groups.h"
#include "core/edit/objects.h"
#include "core/edit/plans.h"
#include "core/exchange/own_format.h"
#include "core/linking/route_loads.h"
#include "core/linking/rules.h"
#include "core/linking/running_check.h"
#include "core/scene/routes.h"
#include "core/scene/scene.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <random>

using namespace underridge;
using namespace underridge::model;
using tests::text;

namespace {

/// A floor of a building with two desks far from one another.
struct Floor : tests::Workbench {
    Floor() {
        house = group("House", GroupKind::building);
        floor = group("Ground", GroupKind::floor, house);
        sw = add("access-switch-24", "sw");
        pc = add("workstation", "pc");
        place(sw, {floor, 0, 0, 0, 0, Side::front});
        place(pc, {floor, 20'000, 0, 0, 0, Side::front});
        network.put([&] {
            NetworkInfo info = network.info();
            info.slackMm = 0;
            info.marginPercent = 0;
            return info;
        }());
    }
    CableRouteId route(CableRouteKind type, std::vector<FloorPoint> points, std::int64_t height = 0) {
        auto act = edit::addCableRoute(network, floor, type, std::move(points), ids);
        if (!take(act))
            qFatal("%s", act.refusal().text().c_str());
        CableRoute made = *network.cableRoute({act->subjects.front().id});
        made.heightMm = height;
        network.put(made);
        return made.id;
    }
    linking::CableWay way(DeviceId a, DeviceId b) {
        return *linking::CableWays(network).between({a, {}}, {b, {}});
    }
    linking::RouteLoad load(CableRouteId id) {
        for (const auto& each : linking::loadsOn(network, floor))
            if (each.route == id)
                return each;
        return {};
    }
    void change(CableRouteId id, auto how) {
        CableRoute changed = *network.cableRoute(id);
        how(changed);
        network.put(changed);
    }

    GroupId house, floor;
    DeviceId sw, pc;
};

} // namespace

class CableRoutesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_cable_keeps_to_a_tray_and_is_as_long_as_that_makes_it() {
        Floor f;
        QCOMPARE(f.way(f.sw, f.pc).mm, std::int64_t(20'000)); // straight, without any
        const auto tray = f.route(CableRouteKind::tray, {{-5'000, 3'000}, {30'000, 3'000}}, 2'500);
        const auto way = f.way(f.sw, f.pc);
        QCOMPARE(way.mm, std::int64_t(20'000 + 2 * (3'000 + 2'500)));
        QCOMPARE(way.runs, (std::vector<linking::Run>{{tray, 5'000, 25'000}}));
        // Back it is the same the other way round.
        QCOMPARE(f.way(f.pc, f.sw).mm, way.mm);
        QCOMPARE(f.way(f.pc, f.sw).runs, (std::vector<linking::Run>{{tray, 25'000, 5'000}}));
    }
    void neighbours_do_not_go_by_the_tray() {
        Floor f;
        f.route(CableRouteKind::tray, {{0, 3'000}, {30'000, 3'000}}, 2'500);
        f.place(f.pc, {f.floor, 2'000, 0, 0, 0, Side::front});
        QCOMPARE(f.way(f.sw, f.pc).mm, std::int64_t(2'000));
        QVERIFY(f.way(f.sw, f.pc).runs.empty());
    }
    void a_conduit_is_entered_at_its_ends_only() {
        Floor f;
        const auto conduit = f.route(CableRouteKind::conduit, {{-9'000, 1'000}, {29'000, 1'000}});
        const auto way = f.way(f.sw, f.pc);
        // In at one end and out at the other are 10 m beside it each; straight on are 20 m.
        QCOMPARE(way.mm, std::int64_t(20'000));
        f.change(conduit, [](CableRoute& r) { r.points = {{-1'000, 1'000}, {21'000, 1'000}}; });
        QCOMPARE(f.way(f.sw, f.pc).mm, std::int64_t(2'000 + 22'000 + 2'000));
        QCOMPARE(f.way(f.sw, f.pc).runs, (std::vector<linking::Run>{{conduit, 0, 22'000}}));
    }
    void routes_that_meet_are_joined() {
        Floor f;
        const auto along = f.route(CableRouteKind::tray, {{0, 0}, {0, 10'000}}),
                   across = f.route(CableRouteKind::tray, {{-2'000, 8'000}, {20'000, 8'000}}),
                   drop = f.route(CableRouteKind::conduit, {{19'800, 8'300}, {20'000, 0}});
        const auto way = f.way(f.sw, f.pc);
        std::set<CableRouteId> used;
        for (const auto& run : way.runs)
            used.insert(run.route);
        QCOMPARE(used, (std::set<CableRouteId>{along, across, drop}));
        QVERIFY(way.mm > 8'000 + 19'000 + 8'000);
        // Crossing in the plan at another height costs the height between.
        const std::int64_t level = way.mm;
        f.change(across, [](CableRoute& r) { r.heightMm = 1'000; });
        QCOMPARE(f.way(f.sw, f.pc).mm, level + 2'000);
        // Too far apart they are not.
        f.change(drop, [](CableRoute& r) { r.points = {{19'800, 9'000}, {20'000, 0}}; });
        for (const auto& run : f.way(f.sw, f.pc).runs)
            QVERIFY(run.route != drop);
    }
    void between_floors_a_cable_goes_by_the_routes_of_both_to_the_riser() {
        Floor f;
        const GroupId upper = f.group("Upper", GroupKind::floor, f.house);
        f.shape(upper, [](Group& g) { g.heightMm = 4'000; });
        f.shape(f.house, [](Group& g) { g.risers = {{"shaft", 10'000, 5'000}}; });
        f.place(f.pc, {upper, 10'000, 0, 0, 0, Side::front});
        QCOMPARE(f.way(f.sw, f.pc).mm, std::int64_t(10'000 + 5'000 + 4'000 + 5'000));
        const auto tray = f.route(CableRouteKind::tray, {{0, 0}, {0, 5'000}, {10'000, 5'000}}, 3'000);
        const auto way = f.way(f.sw, f.pc);
        // 3 m up to the tray, 15 m along it to the shaft, one metre up there, 5 m on.
        QCOMPARE(way.mm, std::int64_t(3'000 + 15'000 + 1'000 + 5'000));
        QCOMPARE(way.runs, (std::vector<linking::Run>{{tray, 0, 15'000}}));
    }
    void the_way_is_never_dearer_than_beside_the_routes() {
        std::mt19937 engine(7);
        const auto below = [&](int n) {
            return static_cast<std::int64_t>(engine() % static_cast<unsigned>(n));
        };
        for (int round = 0; round < 60; ++round) {
            Floor f;
            for (int i = 0; i < 1 + round % 7; ++i) {
                std::vector<FloorPoint> points;
                for (int p = 0; p < 2 + static_cast<int>(below(3)); ++p)
                    points.push_back({below(30) * 1'000, below(20) * 1'000 + p});
                f.route(below(2) ? CableRouteKind::tray : CableRouteKind::conduit, points, below(3) * 1'000);
            }
            f.place(f.sw, {f.floor, below(30'000), below(20'000), below(2'000), 0, Side::front});
            f.place(f.pc, {f.floor, below(30'000), below(20'000), below(2'000), 0, Side::front});
            const Place a = f.network.device(f.sw)->place, b = f.network.device(f.pc)->place;
            const std::int64_t straight =
                std::abs(a.xMm - b.xMm) + std::abs(a.yMm - b.yMm) + std::abs(a.heightMm - b.heightMm);
            const auto way = f.way(f.sw, f.pc);
            std::int64_t inside = 0;
            for (const auto& run : way.runs)
                inside += std::abs(run.toMm - run.fromMm);
            QVERIFY(way.mm >= inside);
            QVERIFY((way.mm - inside) <= linking::besideFactor * straight);
            QVERIFY(way.mm <= linking::besideFactor * straight);
            QCOMPARE(f.way(f.pc, f.sw).mm, way.mm);
        }
    }
    void fill_counts_where_it_is_fullest() {
        Floor f;
        const auto tray = f.route(CableRouteKind::tray, {{0, 0}, {20'000, 0}});
        f.change(tray, [](CableRoute& r) {
            r.widthMm = 50;
            r.depthMm = 20;
        });
        QCOMPARE(f.load(tray).percent, 0);
        const LinkId link = f.link({f.sw, "1"}, {f.pc, "1"});
        const double area = 3.14159265 * 7.2 * 7.2 / 4; // one cable of its grade
        QCOMPARE(f.load(tray).percent, static_cast<int>(std::ceil(area / 1000 * 100)));
        QCOMPARE(f.load(tray).there, 1);
        // Another that lies in half of it.
        const DeviceId other = f.add("workstation", "other");
        f.place(other, {f.floor, 10'000, 0, 0, 0, Side::front});
        f.link({f.sw, "2"}, {other, "1"});
        QCOMPARE(f.load(tray).there, 2);
        QCOMPARE(f.load(tray).atMm, std::int64_t(0));
        QCOMPARE(f.load(tray).cables.size(), std::size_t(2));
        QCOMPARE(f.load(tray).percent, static_cast<int>(std::ceil(2 * area / 1000 * 100)));
        // What is to be removed lies there no longer.
        Cable gone = f.cableOf(link);
        gone.status = CableStatus::toRemove;
        f.network.put(gone);
        QCOMPARE(f.load(tray).there, 1);
    }
    void too_full_is_a_finding_by_the_limit_of_its_kind() {
        Floor f;
        const auto conduit = f.route(CableRouteKind::conduit, {{0, 0}, {20'000, 0}});
        const auto found = [&] {
            QStringList out;
            for (const auto& finding : linking::check(f.network, f.catalogue))
                if (finding.rule->code == "route-full")
                    out << text(finding.message);
            return out;
        };
        QCOMPARE(linking::limitOf(*f.network.cableRoute(conduit), 1), 53);
        QCOMPARE(linking::limitOf(*f.network.cableRoute(conduit), 2), 31);
        QCOMPARE(linking::limitOf(*f.network.cableRoute(conduit), 3), 40);
        f.change(conduit, [](CableRoute& r) { r.widthMm = 10; });
        f.link({f.sw, "1"}, {f.pc, "1"});
        QVERIFY(found().isEmpty()); // 52 %
        f.change(conduit, [](CableRoute& r) { r.widthMm = 9; });
        QCOMPARE(found().size(), 1);
        QVERIFY(found().front().startsWith("Conduit 1: 1 cable fills 64 %"));
        f.change(conduit, [](CableRoute& r) { r.limitPercent = 70; });
        QVERIFY(found().isEmpty());
    }
    void findings_kept_up_edit_by_edit_are_those_of_looking_anew() {
        Floor f;
        const auto conduit = f.route(CableRouteKind::conduit, {{0, 0}, {20'000, 0}});
        f.change(conduit, [](CableRoute& r) { r.widthMm = 9; });
        const GroupId upper = f.group("Upper", GroupKind::floor, f.house);
        f.shape(f.house, [](Group& g) { g.risers = {{"shaft", 20'000, 0}}; });
        std::mt19937 engine(3);
        const auto below = [&](int n) {
            return static_cast<std::int64_t>(engine() % static_cast<unsigned>(n));
        };
        std::vector<DeviceId> desks{f.pc};
        linking::RunningCheck running;
        int full = 0;
        for (int step = 0; step < 120; ++step) {
            switch (below(6)) {
            case 0:
                desks.push_back(f.add("workstation", "d" + std::to_string(step)));
                break;
            case 1:
                f.place(desks[engine() % desks.size()],
                        {below(2) ? f.floor : upper, below(25) * 1'000, 0, 0, 0, Side::front});
                break;
            case 2:
                if (const auto pair = f.best({f.sw, {}}, {desks[engine() % desks.size()], {}}))
                    f.take(edit::makeLink(f.network, f.catalogue, *pair, f.ids));
                break;
            case 3:
                f.change(conduit, [&](CableRoute& r) { r.widthMm = 8 + static_cast<int>(below(12)); });
                break;
            case 4:
                f.shape(upper, [&](Group& g) { g.heightMm = below(3) * 3'000; });
                break;
            default:
                if (desks.size() > 3) {
                    f.take(edit::removeObjects(f.network, {refTo(desks.back())}));
                    desks.pop_back();
                }
                break;
            }
            running.update(f.network, f.catalogue);
            QCOMPARE(running.findings(), linking::check(f.network, f.catalogue));
            for (const auto& finding : running.findings())
                full += finding.rule->code == "route-full";
        }
        QVERIFY(full > 5);
    }
    void lengths_that_follow_from_places_follow_them_again() {
        Floor f;
        const LinkId link = f.link({f.sw, "1"}, {f.pc, "1"});
        QCOMPARE(f.cableOf(link).lengthMm, std::int64_t(20'000));
        const auto apply = [&](const edit::ActResult& act) {
            Network after = act->network;
            edit::followAct(f.network, after);
            f.network = after;
        };
        // A tray makes it longer, the device nearer to the switch shorter.
        apply(edit::addCableRoute(f.network, f.floor, CableRouteKind::tray, {{0, 0}, {20'000, 0}}, f.ids));
        QVERIFY(f.cableOf(link).lengthMm > 20'000);
        Device pc = *f.network.device(f.pc);
        pc.place.xMm = 900;
        Network moved = f.network;
        moved.put(pc);
        apply(edit::Act{"Move", moved, {}});
        QCOMPARE(f.cableOf(link).lengthMm, std::int64_t(1'000));
        // One that was typed stays.
        Cable typed = f.cableOf(link);
        typed.lengthMm = 7'000;
        f.network.put(typed);
        pc.place.xMm = 4'000;
        moved = f.network;
        moved.put(pc);
        apply(edit::Act{"Move", moved, {}});
        QCOMPARE(f.cableOf(link).lengthMm, std::int64_t(7'000));
    }
    void what_is_no_route_is_refused() {
        Floor f;
        const auto why = [&](GroupId floor, std::vector<FloorPoint> points) {
            const auto act =
                edit::addCableRoute(f.network, floor, CableRouteKind::tray, std::move(points), f.ids);
            return act ? QString() : text(act.refusal().what);
        };
        QVERIFY(why(f.house, {{0, 0}, {1, 1}}).contains("drawn on floors"));
        QVERIFY(why(f.floor, {{0, 0}}).contains("a beginning and an end"));
        QVERIFY(why(f.floor, {{5, 5}, {5, 5}}).contains("a beginning and an end"));
        QVERIFY(why(f.floor, {{0, 0}, {20'000'000, 0}}).contains("10 km"));
        const auto id = f.route(CableRouteKind::tray, {{0, 0}, {1'000, 0}, {2'000, 0}});
        QCOMPARE(f.network.cableRoute(id)->points.size(), std::size_t(2)); // straight on
        const auto refused = [&](auto how) {
            CableRoute changed = *f.network.cableRoute(id);
            how(changed);
            return !edit::changeCableRoute(f.network, changed);
        };
        QVERIFY(refused([](CableRoute& r) { r.name = " "; }));
        QVERIFY(refused([](CableRoute& r) { r.widthMm = 4; }));
        QVERIFY(refused([](CableRoute& r) { r.limitPercent = 101; }));
        QVERIFY(refused([](CableRoute& r) { r.heightMm = 200'000; }));
    }
    void files_with_routes_beyond_any_floor_are_mended_and_drawn() {
        Floor f;
        const auto id = f.route(CableRouteKind::tray, {{0, 0}, {9'000, 0}});
        f.change(id, [](CableRoute& r) {
            r.points = {{INT64_MAX, INT64_MIN}, {4, 5}, {INT64_MIN, 7}};
            r.heightMm = INT64_MIN;
            r.widthMm = -2'000'000'000;
            r.depthMm = INT32_MAX;
            r.limitPercent = -7;
        });
        f.place(f.pc, {f.floor, INT64_MAX, INT64_MIN, INT64_MAX, 0, Side::front});
        f.shape(f.floor, [](Group& g) {
            g.planXMm = INT64_MIN;
            g.planMmPerPixel = 1e300;
            g.heightMm = INT64_MAX;
        });
        Sheet sheet = *f.network.sheet(f.sheet);
        sheet.shows = f.floor;
        sheet.mmPerUnit = 1;
        f.network.put(sheet);
        const auto read = exchange::readOwn(exchange::writeOwn(f.network), "odd");
        QVERIFY(read);
        QVERIFY(read->remarks.size() >= 2);
        const CableRoute& route = *read->network.cableRoute(id);
        QCOMPARE(route.points.front(), (FloorPoint{10'000'000, -10'000'000}));
        QCOMPARE(route.widthMm, 5);
        const auto shown = scene::Scene::build(read->network, f.sheet);
        QVERIFY(shown.route(id));
        QVERIFY(!linking::loadsOn(read->network, f.floor).empty());
        QVERIFY(!linking::wayBetween(read->network, {f.sw, {}}, {f.pc, {}}));
        static_cast<void>(linking::check(read->network, f.catalogue));
    }
    void a_route_goes_with_its_floor_and_can_be_deleted() {
        Floor f;
        const auto id = f.route(CableRouteKind::tray, {{0, 0}, {9'000, 0}});
        auto act = edit::removeObjects(f.network, {refTo(id)});
        QCOMPARE(text(act->name), QString("Delete Tray 1"));
        QVERIFY(!act->network.cableRoute(id));
        act = edit::removeObjects(f.network, {refTo(f.floor)});
        QVERIFY(!act->network.cableRoute(id));
    }
    void who_ungroups_a_floor_is_told_which_routes_go_with_it() {
        Floor b;
        b.route(CableRouteKind::tray, {{0, 0}, {9'000, 0}});
        const auto with = [&] { return edit::ungroup(b.network, edit::Look(b.sheet), {b.floor})->name; };
        QCOMPARE(with(), std::string("Ungroup Ground, with 1 cable route"));
        b.route(CableRouteKind::conduit, {{0, 500}, {9'000, 500}});
        QCOMPARE(with(), std::string("Ungroup Ground, with 2 cable routes"));
        QCOMPARE(edit::ungroup(b.network, edit::Look(b.sheet), {b.house})->name,
                 std::string("Ungroup House"));
    }

    void a_sheet_on_the_plan_draws_them_with_how_full_they_are() {
        Floor f;
        const auto id = f.route(CableRouteKind::tray, {{0, 0}, {20'000, 0}});
        Sheet sheet = *f.network.sheet(f.sheet);
        QVERIFY(scene::routesOn(f.network, sheet).empty()); // it is not to scale
        sheet.shows = f.floor;
        sheet.mmPerUnit = 25;
        f.network.put(sheet);
        const auto shown = scene::Scene::build(f.network, f.sheet);
        const scene::RouteLine* line = shown.route(id);
        QVERIFY(line);
        QCOMPARE(line->path.back().x, 800.0);
        QCOMPARE(text(line->label), QString("Tray 1 · 0 %"));
        QCOMPARE(scene::hitAt(shown, {700, 2}, 2).object, refTo(id));
        QVERIFY(!scene::hitAt(shown, {700, 40}, 2));
        // Moved on the sheet it lies elsewhere on the floor.
        const auto moved = edit::moveObjects(f.network, f.sheet, {refTo(id)}, {40, 4});
        QCOMPARE(moved->network.cableRoute(id)->points.front(), (FloorPoint{1'000, 100}));
    }
};

UNDERRIDGE_TEST(CableRoutesTest)
#include "cable_routes_test.moc"

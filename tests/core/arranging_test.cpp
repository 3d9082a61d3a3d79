// SPDX-License-Identifier: GPL-3.0-or-later
// Arranging sheets: groups stay together, what a person fixed stays, links keep their ways as
// long as they lead somewhere.
#include "core/edit/arranging.h"
#include "core/edit/following.h"
#include "core/edit/objects.h"
#include "core/edit/patterns.h"
#include "core/edit/sheets.h"
#include "core/layout/drawn.h"
#include "core/model/group_tree.h"
#include "core/scene/lines.h"
#include "tests/support/grouped.h"
#include "tests/support/reading.h"
#include "tests/support/registered.h"

#include <fmt/format.h>

using namespace underridge;
using namespace underridge::model;
using namespace underridge::tests;

namespace {

layout::DrawnMeasures measuresOf(const Network& network, SheetId sheet) {
    return layout::measured(scene::Scene::build(network, sheet));
}

/// A bench with two distribution switches and access switches on both, all in one spot.
struct Campus : Workbench {
    Campus() {
        for (const char* name : {"dist-1", "dist-2"})
            dist.push_back(add("distribution-switch-24", name));
        link({dist[0], {}}, {dist[1], {}});
        for (int i = 0; i < 5; ++i) {
            access.push_back(add("access-switch-24", "acc-" + std::to_string(i + 1)));
            link({access.back(), {}}, {dist[0], {}});
            link({access.back(), {}}, {dist[1], {}});
        }
    }
    void arrangeAs(const edit::ArrangeWish& wish = {}, edit::ArrangeReport* report = nullptr) {
        if (!take(edit::arrange(network, {sheet}, wish, report)))
            qFatal("not arranged");
    }
    Point at(DeviceId device) const { return network.position(sheet, device.value)->at; }
    void put(DeviceId device, Point at) {
        Position position = *network.position(sheet, device.value);
        position.at = at;
        network.put(position);
    }

    std::vector<DeviceId> dist, access;
};

} // namespace

class ArrangingTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_heap_becomes_a_drawing_without_crossings() {
        Campus c;
        edit::ArrangeReport report;
        c.arrangeAs({}, &report);
        const auto m = measuresOf(c.network, c.sheet);
        QCOMPARE(m.crossings, std::size_t{0});
        QCOMPARE(m.overlaps, std::size_t{0});
        QCOMPARE(m.linksThroughDevices, std::size_t{0});
        QCOMPARE(m.labelOverlaps, std::size_t{0});
        QCOMPARE(report.devices, std::size_t{7});
        QCOMPARE(report.why, std::string("1 layer between redundant devices"));
        QVERIFY(report.moved > 100);
    }
    void lines_end_at_plates_where_the_drawing_has_them() {
        Campus c;
        c.arrangeAs();
        const scene::Scene scene = scene::Scene::build(c.network, c.sheet);
        int bent = 0;
        scene.forEach<scene::LinkLine>([&](const scene::LinkLine& line) {
            const auto near = [&](ObjectRef plate, scene::PointF end) {
                return scene.plate({plate.id})->frame.grown(2.5).contains(end);
            };
            QVERIFY(near(line.a, line.path.front()) && near(line.b, line.path.back()));
            bent += line.path.size() > 2;
        });
        QVERIFY(bent > 0);
    }
    void arranging_again_changes_nothing() {
        Campus c;
        c.arrangeAs();
        const Network once = c.network;
        c.arrangeAs();
        QVERIFY(c.network == once);
    }
    void an_order_made_by_hand_is_kept_where_that_is_wished() {
        using layout::Style;
        for (const Style style : {Style::suggest, Style::layered, Style::grid, Style::row}) {
            Campus c;
            edit::ArrangeWish wish;
            wish.style = style;
            c.arrangeAs(wish);
            const std::size_t crossings = measuresOf(c.network, c.sheet).crossings;
            // The same the other way round.
            std::vector<Point> places;
            for (const DeviceId id : c.access)
                places.push_back(c.at(id));
            for (std::size_t i = 0; i < c.access.size(); ++i)
                c.put(c.access[i], places[places.size() - 1 - i]);
            const auto order = [&] {
                std::vector<DeviceId> out = c.access;
                std::sort(out.begin(), out.end(), [&](DeviceId x, DeviceId y) {
                    return std::pair(c.at(x).y, c.at(x).x) < std::pair(c.at(y).y, c.at(y).x);
                });
                return out;
            };
            const auto mine = order();
            const Network byHand = c.network;
            wish.keepOrder = true;
            c.arrangeAs(wish);
            QVERIFY2(order() == mine, std::string(textOf(style)).c_str());
            QCOMPARE(measuresOf(c.network, c.sheet).overlaps, std::size_t{0});
            if (style == Style::suggest || style == Style::layered) // any order does as well there
                QVERIFY2(measuresOf(c.network, c.sheet).crossings <= crossings,
                         std::string(textOf(style)).c_str());
            c.network = byHand;
            wish.keepOrder = false;
            c.arrangeAs(wish);
            QVERIFY2(order() != mine, std::string(textOf(style)).c_str());
        }
    }
    void what_is_cancelled_is_a_whole_drawing_all_the_same() {
        Grouped g(5);
        g.grow(2, 3, 8);
        g.linkSome(200);
        for (const layout::Style style : layout::allStyles) {
            if (style == layout::Style::plan)
                continue; // it moves nothing
            const std::atomic<bool> wanted = false;
            edit::ArrangeWish wish;
            wish.style = style;
            const auto act = edit::arrange(g.network, {g.sheet}, wish, nullptr, &wanted);
            QVERIFY(act);
            QVERIFY2(measuresOf(act->network, g.sheet).overlaps == 0, std::string(textOf(style)).c_str());
        }
    }
    void groups_do_not_wander_when_they_are_arranged_again() {
        for (int seed = 1; seed <= tests::tries(2); ++seed) {
            Grouped g(static_cast<std::uint64_t>(seed));
            g.grow(2, 3, 3);
            g.linkSome(30);
            auto once = edit::arrange(g.network, {g.sheet}, {});
            QVERIFY(once);
            auto twice = edit::arrange(once->network, {g.sheet}, {});
            QVERIFY(twice && twice->network == once->network);
        }
    }
    void links_leave_groups_without_crossing_whichever_way_it_flows_data() {
        QTest::addColumn<layout::Flow>("flow");
        for (const layout::Flow flow :
             {layout::Flow::down, layout::Flow::up, layout::Flow::right, layout::Flow::left})
            QTest::newRow(std::string(layout::textOf(flow)).c_str()) << flow;
    }
    void links_leave_groups_without_crossing_whichever_way_it_flows() {
        QFETCH(layout::Flow, flow);
        Workbench b;
        edit::Pattern campus;
        campus.shape = edit::PatternShape::campus;
        campus.sites = 4;
        campus.endpoints = 2;
        QVERIFY(b.take(edit::addPattern(b.network, b.catalogue, b.sheet, campus, b.ids)));
        edit::ArrangeWish wish;
        wish.flow = flow;
        QVERIFY(b.take(edit::arrange(b.network, {b.sheet}, wish)));
        const auto m = measuresOf(b.network, b.sheet);
        QCOMPARE(m.crossings, std::size_t{0});
        QCOMPARE(m.overlaps, std::size_t{0});
        QCOMPARE(m.linksThroughDevices, std::size_t{0});
        QCOMPARE(m.groupIntrusions, std::size_t{0});
        // All of a group's lines lie in its frame, and of those that leave it there is one that bends on the
        // way.
        const scene::Scene scene = scene::Scene::build(b.network, b.sheet);
        int led = 0;
        b.network.all<Link>().forEach([&](const Link& link) {
            const GroupId group = scene::levelOf(b.network, link);
            const auto& path = scene.link(link.id)->path;
            if (group && scene.frame(group))
                for (const scene::PointF p : path)
                    QVERIFY(scene.frame(group)->frame.grown(1).contains(p));
            if (b.network.device(link.a.device)->group != b.network.device(link.b.device)->group)
                led += path.size() > 2;
        });
        QVERIFY(led > 0);
        // What the network comes from is where it flows from.
        const auto middleOf = [&](const char* name) {
            scene::PointF out;
            b.network.all<Device>().forEach([&](const Device& device) {
                if (device.name == name)
                    out = scene.plate(device.id)->frame.centre();
            });
            return out;
        };
        const scene::PointF top = middleOf("dist-1"), access = middleOf("acc-1");
        switch (flow) {
        case layout::Flow::down:
            QVERIFY(top.y < access.y);
            break;
        case layout::Flow::up:
            QVERIFY(top.y > access.y);
            break;
        case layout::Flow::right:
            QVERIFY(top.x < access.x);
            break;
        case layout::Flow::left:
            QVERIFY(top.x > access.x);
            break;
        }
    }
    void groups_stay_apart_whichever_way_it_flows() {
        for (int seed = 1; seed <= tests::tries(3); ++seed) {
            Grouped g(static_cast<std::uint64_t>(seed));
            g.grow(2, 3, 3);
            g.linkSome(30);
            if (seed == 2) // with one folded; lines to its tile go straight
                QVERIFY(g.take(edit::setFolded(g.network, g.sheet, {g.groups.back()}, true)));
            for (const layout::Flow flow : {layout::Flow::up, layout::Flow::right, layout::Flow::left}) {
                edit::ArrangeWish wish;
                wish.flow = flow;
                const auto act = edit::arrange(g.network, {g.sheet}, wish);
                QVERIFY(act);
                const auto m = measuresOf(act->network, g.sheet);
                QVERIFY2(
                    m.groupIntrusions == 0 && m.overlaps == 0 && (m.linksThroughDevices == 0 || seed == 2),
                    fmt::format("seed {} {}: {} intrusions, {} overlaps, {} through", seed,
                                layout::textOf(flow), m.groupIntrusions, m.overlaps, m.linksThroughDevices)
                        .c_str());
                const auto again = edit::arrange(act->network, {g.sheet}, wish);
                QVERIFY(again && again->network == act->network);
            }
        }
    }
    void tidying_moves_what_must_and_little_else() {
        Workbench b;
        std::vector<DeviceId> row;
        for (int i = 0; i < 6; ++i)
            row.push_back(b.add("access-switch-24", {}, {260 * i, i % 2 == 0 ? 0 : 7})); // nearly in line
        const DeviceId over = b.add("access-switch-24", {}, {1400, 30});                 // lies on the last
        const DeviceId far = b.add("access-switch-24", {}, {500, 900});
        b.link({row[0], {}}, {row[5], {}}); // through all between
        edit::ArrangeWish wish;
        wish.style = layout::Style::tidy;
        edit::ArrangeReport report;
        QVERIFY(b.take(edit::arrange(b.network, {b.sheet}, wish, &report)));
        const auto at = [&](DeviceId id) { return b.network.position(b.sheet, id.value)->at; };
        for (int i = 1; i < 5; ++i)
            QVERIFY(std::abs(at(row[static_cast<std::size_t>(i)]).y - at(row[0]).y) <= 1);
        QCOMPARE(at(far), (Point{500, 900}));
        const auto m = measuresOf(b.network, b.sheet);
        QVERIFY(m.overlaps == 0 && m.linksThroughDevices == 0);
        QVERIFY(report.moved < 40);
        QVERIFY2(report.why.starts_with("tidied, "), report.why.c_str()); // how many, and how far
        QVERIFY2(report.why.find(" plate heights on average, ") != std::string::npos, report.why.c_str());
        QVERIFY(at(over).y != 30 || at(row[5]).y > 7);
        // Once tidy it stays as it is.
        auto again = edit::arrange(b.network, {b.sheet}, wish, &report);
        QVERIFY(again && again->network == b.network);
        QCOMPARE(report.why, std::string("tidied, nothing moved"));
    }
    void tidying_takes_crossings_away_that_a_small_move_takes() {
        Workbench b;
        // Two phones below two switches, each below the other's switch.
        const DeviceId one = b.add("access-switch-24", "one", {0, 0}),
                       two = b.add("access-switch-24", "two", {300, 0});
        const DeviceId left = b.add("phone", "left", {10, 300}), right = b.add("phone", "right", {170, 300});
        b.link({one, {}}, {right, {}});
        b.link({two, {}}, {left, {}});
        QCOMPARE(measuresOf(b.network, b.sheet).crossings, std::size_t{1});
        edit::ArrangeWish wish;
        wish.style = layout::Style::tidy;
        QVERIFY(b.take(edit::arrange(b.network, {b.sheet}, wish)));
        QCOMPARE(measuresOf(b.network, b.sheet).crossings, std::size_t{0});
        QCOMPARE(measuresOf(b.network, b.sheet).overlaps, std::size_t{0});
        QCOMPARE(b.network.position(b.sheet, one.value)->at, (Point{0, 0}));
    }
    void the_style_plan_leads_links_round_plates_and_moves_nothing() {
        Workbench b;
        const DeviceId left = b.add("access-switch-24", "left", {0, 0}),
                       right = b.add("access-switch-24", "right", {900, 0});
        const DeviceId between = b.add("access-switch-24", "between", {450, 0});
        const LinkId through = b.link({left, {}}, {right, {}});
        const DeviceId close = b.add("access-switch-24", "close", {450, 50}); // to what is pinned
        Position pinned = *b.network.position(b.sheet, between.value);
        pinned.pinned = true;
        b.network.put(pinned);
        QVERIFY(measuresOf(b.network, b.sheet).linksThroughDevices > 0);
        edit::ArrangeWish wish;
        wish.style = layout::Style::plan;
        wish.spacing = 2; // of no matter where nothing moves
        Sheet sheet = *b.network.sheet(b.sheet);
        sheet.mmPerUnit = 20; // as on a plan
        b.network.put(sheet);
        QVERIFY(b.take(edit::arrange(b.network, {b.sheet}, wish)));
        QCOMPARE(measuresOf(b.network, b.sheet).linksThroughDevices, std::size_t{0});
        QCOMPARE(b.network.position(b.sheet, between.value)->at, (Point{450, 0}));
        QCOMPARE(b.network.position(b.sheet, close.value)->at, (Point{450, 50}));
        QVERIFY(b.network.position(b.sheet, through.value)->bends.size() > 1);
        wish.style = layout::Style::suggest;
        QVERIFY(!edit::arrange(b.network, {b.sheet}, wish));
    }
    void what_is_in_a_rack_stands_in_one_column_by_its_units() {
        Workbench b;
        std::vector<DeviceId> devices;
        for (const char* name : {"r1", "r2"}) {
            const GroupId rack = b.group(name, GroupKind::rack);
            for (int i = 0; i < 4; ++i) {
                devices.push_back(b.add("access-switch-24"));
                Device device = *b.network.device(devices.back());
                device.group = rack;
                device.place.in = rack;
                device.place.unit = 10 * i + 1;
                b.network.put(device);
            }
        }
        edit::ArrangeWish wish;
        wish.style = layout::Style::rack;
        QVERIFY(b.take(edit::arrange(b.network, {b.sheet}, wish)));
        const auto at = [&](std::size_t i) { return b.network.position(b.sheet, devices[i].value)->at; };
        for (std::size_t i = 1; i < 4; ++i) {
            QCOMPARE(at(i).x, at(0).x);
            QVERIFY(at(i).y < at(i - 1).y); // higher units higher up
            QCOMPARE(at(4 + i).x, at(4).x);
            QCOMPARE(at(4 + i).y, at(i).y);
        }
        QVERIFY(at(4).x != at(0).x);
        QCOMPARE(measuresOf(b.network, b.sheet).groupIntrusions, std::size_t{0});
        // The same where the sheet draws no groups, whatever order is kept.
        Sheet sheet = *b.network.sheet(b.sheet);
        sheet.groups = false;
        b.network.put(sheet);
        for (std::size_t i = 0; i < devices.size(); ++i) {
            Position position = *b.network.position(b.sheet, devices[i].value);
            position.at = {static_cast<int>(i) * 90, 0};
            b.network.put(position);
        }
        wish.keepOrder = true;
        QVERIFY(b.take(edit::arrange(b.network, {b.sheet}, wish)));
        for (std::size_t i = 1; i < 4; ++i) {
            QCOMPARE(at(i).x, at(0).x);
            QVERIFY(at(i).y < at(i - 1).y);
        }
        QVERIFY(at(4).x != at(0).x);
    }
    void rows_come_by_name_role_or_address() {
        Workbench b;
        const DeviceId router = b.add("border-router", "z-router"),
                       sw = b.add("access-switch-24", "m-switch"), phone = b.add("phone", "a-phone");
        const auto orderBy = [&](edit::OrderBy by) {
            edit::ArrangeWish wish;
            wish.style = layout::Style::row;
            wish.by = by;
            b.take(edit::arrange(b.network, {b.sheet}, wish));
            std::vector<DeviceId> out{router, sw, phone};
            std::sort(out.begin(), out.end(), [&](DeviceId x, DeviceId y) {
                return b.network.position(b.sheet, x.value)->at.x <
                       b.network.position(b.sheet, y.value)->at.x;
            });
            return out;
        };
        QVERIFY(orderBy(edit::OrderBy::name) == (std::vector{phone, sw, router}));
        QVERIFY(orderBy(edit::OrderBy::role) == (std::vector{router, sw, phone}));
        for (const edit::OrderBy each : edit::allOrders)
            QCOMPARE(edit::orderFromText(textOf(each)), std::optional(each));
    }
    void a_note_that_would_lie_under_the_drawing_goes_below_it() {
        Campus c;
        const auto noted = edit::addNote(c.network, {c.sheet}, {20, 30}, "Two of everything", c.ids);
        c.take(noted);
        const NoteId note{noted->subjects.front().id};
        c.arrangeAs();
        const scene::Scene scene = scene::Scene::build(c.network, c.sheet);
        scene::Rect card;
        scene.forEach<scene::NoteCard>([&](const scene::NoteCard& each) { card = each.frame; });
        scene.forEachPlate([&](const scene::Plate& plate) { QVERIFY(!plate.frame.intersects(card)); });
        const Point at = c.network.position(c.sheet, note.value)->at;
        c.arrangeAs(); // out of the way it stays
        QCOMPARE(c.network.position(c.sheet, note.value)->at, at);
    }
    void only_some_leaves_the_rest() {
        Campus c;
        c.arrangeAs();
        const Point kept = c.at(c.access[0]);
        edit::ArrangeWish wish;
        wish.style = layout::Style::row;
        wish.only = {c.access[2], c.access[3], c.access[4]};
        c.arrangeAs(wish);
        QCOMPARE(c.at(c.access[0]), kept);
        QCOMPARE(c.at(c.access[2]).y, c.at(c.access[3]).y);
        QVERIFY(c.at(c.access[2]).x < c.at(c.access[3]).x && c.at(c.access[3]).x < c.at(c.access[4]).x);
    }
    void what_is_pinned_stays_and_nothing_lies_on_it() {
        Campus c;
        Position pinned = *c.network.position(c.sheet, c.access[1].value);
        pinned.at = {400, 300};
        pinned.pinned = true;
        c.network.put(pinned);
        for (const layout::Style style : layout::allStyles) {
            edit::ArrangeWish wish;
            wish.style = style;
            c.arrangeAs(wish);
            QCOMPARE(c.at(c.access[1]), (Point{400, 300}));
            QVERIFY(measuresOf(c.network, c.sheet).overlaps == 0);
        }
    }
    void the_anchor_is_where_it_hangs() {
        Workbench b;
        const DeviceId hub = b.add("access-switch-24", "hub");
        std::vector<DeviceId> others;
        for (int i = 0; i < 4; ++i) {
            others.push_back(b.add("access-switch-24", "s" + std::to_string(i)));
            b.link({hub, {}}, {others.back(), {}});
        }
        edit::ArrangeWish wish;
        wish.anchor = others[2];
        QVERIFY(b.take(edit::arrange(b.network, {b.sheet}, wish)));
        const auto y = [&](DeviceId id) { return b.network.position(b.sheet, id.value)->at.y; };
        QVERIFY(y(others[2]) < y(hub) && y(hub) < y(others[0]));
    }
    void a_moved_plate_takes_its_line_along_and_others_keep_theirs() {
        Campus c;
        c.arrangeAs();
        const auto bendsOf = [&](LinkId link) {
            const Position* position = c.network.position(c.sheet, link.value);
            return position ? position->bends.size() : 0;
        };
        std::vector<LinkId> mine, others;
        c.network.all<Link>().forEach([&](const Link& link) {
            if (bendsOf(link.id) > 0)
                (link.a.device == c.access[0] || link.b.device == c.access[0] ? mine : others)
                    .push_back(link.id);
        });
        QVERIFY(!mine.empty() && !others.empty());
        const Network before = c.network;
        auto moved = edit::moveObjects(c.network, c.sheet, {refTo(c.access[0])}, {700, 300});
        QVERIFY(moved);
        c.network = moved->network;
        edit::followAct(before, c.network);
        for (const LinkId link : mine)
            QCOMPARE(bendsOf(link), std::size_t{0});
        for (const LinkId link : others)
            QVERIFY(bendsOf(link) > 0);
    }
    void what_moves_together_keeps_its_ways() {
        Campus c;
        c.arrangeAs();
        edit::Refs all;
        c.network.all<Device>().forEach([&](const Device& device) { all.push_back(refTo(device.id)); });
        const Network before = c.network;
        auto moved = edit::moveObjects(c.network, c.sheet, all, {130, 70});
        QVERIFY(moved);
        c.network = moved->network;
        edit::followAct(before, c.network);
        QCOMPARE(measuresOf(c.network, c.sheet).crossings, std::size_t{0});
        int bent = 0;
        c.network.all<Position>().forEachIn(
            c.sheet.value, [&](const Position& p) { bent += p.of == Kind::link && !p.bends.empty(); });
        QVERIFY(bent > 0);
    }
    void a_bend_made_by_hand_outlives_a_move() {
        Campus c;
        const LinkId link = c.link({c.access[0], {}}, {c.access[1], {}});
        Position position;
        position.sheet = c.sheet;
        position.object = link.value;
        position.of = Kind::link;
        position.bends = {{900, 900}};
        c.network.put(position);
        const Network before = c.network;
        auto moved = edit::moveObjects(c.network, c.sheet, {refTo(c.access[0])}, {700, 300});
        c.network = moved->network;
        edit::followAct(before, c.network);
        QCOMPARE(c.network.position(c.sheet, link.value)->bends.size(), std::size_t{1});
    }
    void groups_stay_apart_in_every_style() {
        for (int seed = 1; seed <= tests::tries(3); ++seed) {
            Grouped g(static_cast<std::uint64_t>(seed));
            g.grow(2, 3, 3);
            g.linkSome(30);
            for (const layout::Style style : layout::allStyles) {
                if (style == layout::Style::plan)
                    continue; // it moves nothing
                edit::ArrangeWish wish;
                wish.style = style;
                auto act = edit::arrange(g.network, {g.sheet}, wish);
                QVERIFY2(act, std::string(layout::textOf(style)).c_str());
                const auto m = measuresOf(act->network, g.sheet);
                const QString which = QString::fromStdString(
                    fmt::format("seed {} {}: {} intrusions, {} overlaps, {} through", seed,
                                layout::textOf(style), m.groupIntrusions, m.overlaps, m.linksThroughDevices));
                QVERIFY2(m.groupIntrusions == 0 && m.overlaps == 0 && m.linksThroughDevices == 0,
                         qPrintable(which));
            }
        }
    }
    void a_folded_group_keeps_what_is_in_it() {
        Grouped g(4);
        g.grow(1, 3, 4);
        g.linkSome(14);
        const GroupId folded = g.groups.front();
        QVERIFY(g.take(edit::setFolded(g.network, g.sheet, {folded}, true)));
        const auto inside = [&](const Network& network) {
            std::vector<Point> out;
            for (const DeviceId id : devicesWithin(network, folded))
                out.push_back(network.position(g.sheet, id.value)->at);
            for (std::size_t i = out.size(); i-- > 0;)
                out[i] = out[i] - out[0];
            return out;
        };
        auto act = edit::arrange(g.network, {g.sheet}, {});
        QVERIFY(act);
        QVERIFY(inside(act->network) == inside(g.network));
        QVERIFY(act->network.position(g.sheet, folded.value)->folded);
        QCOMPARE(measuresOf(act->network, g.sheet).groupIntrusions, std::size_t{0});
        // The same when it is unfolded afterwards.
        auto open = edit::setFolded(act->network, g.sheet, {folded}, false);
        QCOMPARE(measuresOf(open->network, g.sheet).groupIntrusions, std::size_t{0});
    }
    void lines_to_folded_groups_go_round_others() {
        Workbench b;
        edit::Pattern campus;
        campus.shape = edit::PatternShape::campus;
        campus.sites = 9;
        QVERIFY(b.take(edit::addPattern(b.network, b.catalogue, b.sheet, campus, b.ids)));
        QVERIFY(b.take(edit::arrange(b.network, {b.sheet}, {})));
        std::vector<GroupId> buildings;
        b.network.all<Group>().forEach([&](const Group& group) { buildings.push_back(group.id); });
        QVERIFY(buildings.size() >= 9);
        QVERIFY(b.take(edit::setFolded(b.network, b.sheet, buildings, true)));
        const auto m = measuresOf(b.network, b.sheet);
        QCOMPARE(m.linksThroughDevices, std::size_t{0});
        QCOMPARE(m.labelOverlaps, std::size_t{0});
        // Level pieces of trunks of two devices do not lie on one another.
        struct Level {
            ObjectRef from;
            double y, left, right;
        };
        std::vector<Level> levels;
        scene::Scene::build(b.network, b.sheet).forEachLink([&](const scene::LinkLine& line) {
            const ObjectRef device = line.a.kind == Kind::device ? line.a : line.b;
            for (std::size_t i = 0; i + 1 < line.path.size(); ++i)
                if (const auto [p, q] = std::pair{line.path[i], line.path[i + 1]}; p.y == q.y)
                    levels.push_back({device, p.y, std::min(p.x, q.x), std::max(p.x, q.x)});
        });
        QVERIFY(levels.size() > 6);
        for (const Level& one : levels)
            for (const Level& other : levels)
                QVERIFY(one.from == other.from || std::abs(one.y - other.y) >= 3 || one.right <= other.left ||
                        other.right <= one.left);
    }
    void an_entered_group_is_arranged_inside_only() {
        Grouped g(5);
        g.grow(1, 2, 4);
        g.linkSome(10);
        auto act = edit::arrange(g.network, {g.sheet, g.groups[0]}, {});
        QVERIFY(act);
        const auto within = devicesWithin(g.network, g.groups[0]);
        g.network.all<Position>().forEachIn(g.sheet.value, [&](const Position& was) {
            if (was.of == Kind::device &&
                std::find(within.begin(), within.end(), DeviceId{was.object}) == within.end())
                QCOMPARE(act->network.position(g.sheet, was.object)->at, was.at);
        });
    }
    void a_sheet_drawn_to_scale_is_not_arranged() {
        Campus c;
        Sheet sheet = *c.network.sheet(c.sheet);
        sheet.mmPerUnit = 25;
        c.network.put(sheet);
        QVERIFY(!edit::arrange(c.network, {c.sheet}, {}));
    }
    void an_empty_sheet_says_so() {
        Workbench b;
        const auto act = edit::arrange(b.network, {b.sheet}, {});
        QVERIFY(!act);
        QVERIFY(!act.refusal().remedy.empty());
    }
    void an_import_comes_in_arranged() {
        // A campus of 200 as a table, without a position: no crossing, no line through a plate.
        std::string csv = "from,to\ncore-1,core-2\n";
        for (int b = 1; b <= 4; ++b) {
            const std::string one = "d" + std::to_string(b) + "-1", two = "d" + std::to_string(b) + "-2";
            csv += one + "," + two + "\n";
            for (const char* core : {"core-1", "core-2"})
                csv += one + "," + core + "\n" + two + "," + core + "\n";
            for (int a = 1; a <= 8; ++a) {
                const std::string access = "a" + std::to_string(b) + "-" + std::to_string(a);
                csv += access + "," + one + "\n" + access + "," + two + "\n";
                for (int h = 1; h <= 5; ++h)
                    csv += "h-" + access + "-" + std::to_string(h) + "," + access + "\n";
            }
        }
        const auto loaded = read(csv, "campus.csv");
        QVERIFY(loaded);
        const auto m = measuresOf(loaded->network, loaded->network.sheetsInOrder().front().id);
        QCOMPARE(loaded->network.all<Device>().size(), std::size_t{202});
        QCOMPARE(m.crossings, std::size_t{0});
        QCOMPARE(m.linksThroughDevices, std::size_t{0});
        QCOMPARE(m.overlaps, std::size_t{0});
    }
    void what_comes_later_is_put_below_what_is_there() {
        Campus c;
        c.arrangeAs();
        int lowest = -sheetLimit;
        for (const DeviceId id : c.access)
            lowest = std::max(lowest, c.at(id).y);
        std::vector<DeviceId> fresh;
        for (int i = 0; i < 3; ++i)
            fresh.push_back(c.add("access-switch-24"));
        for (const DeviceId id : fresh)
            c.network.erase<Position>({c.sheet.value, id.value});
        edit::putDown(c.network, c.sheet, fresh);
        for (const DeviceId id : fresh)
            QVERIFY(c.at(id).y > lowest);
        QCOMPARE(measuresOf(c.network, c.sheet).overlaps, std::size_t{0});
    }
};

UNDERRIDGE_TEST(ArrangingTest)
#include "arranging_test.moc"

// SPDX-License-Identifier: GPL-3.0-or-later
// Links along the axes: upright and level, round plates, and the same whether followed edit by
// edit or drawn anew.
#include "core/edit/arranging.h"
#include "core/edit/groups.h"
#include "core/edit/objects.h"
#include "core/exchange/own_format.h"
#include "core/scene/scene.h"
#include "tests/support/first_office.h"
#include "tests/support/plates_met.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using scene::LinkLine;
using scene::PointF;
using scene::Scene;
using tests::platesMet;
using tests::RandomEdits;

namespace {

Network alongAxes(const Network& network, SheetId sheet) {
    return edit::setLineStyle(network, sheet, LineStyle::axes)->network;
}

bool isAlongAxes(const LinkLine& line) {
    for (std::size_t i = 0; i + 1 < line.path.size(); ++i)
        if (std::abs(line.path[i].x - line.path[i + 1].x) > 1e-6 &&
            std::abs(line.path[i].y - line.path[i + 1].y) > 1e-6)
            return false;
    return true;
}

/// A switch, and phones in a row below it.
struct Row : tests::Workbench {
    explicit Row(int many) {
        top = add("access-switch-24", "top", {0, 0});
        for (int i = 0; i < many; ++i) {
            const DeviceId phone = add("phone", "p" + std::to_string(i), {(i - many / 2) * 180, 260});
            links.push_back(link({top, {}}, {phone, {}}));
            phones.push_back(phone);
        }
        network = alongAxes(network, sheet);
    }
    const LinkLine& line(std::size_t i) {
        drawn = Scene::build(network, sheet);
        return *drawn.link(links[i]);
    }
    DeviceId top;
    std::vector<DeviceId> phones;
    std::vector<LinkId> links;
    Scene drawn;
};

} // namespace

class AxesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void lines_are_upright_and_level_from_border_to_border() {
        Row row(8);
        for (std::size_t i = 0; i < row.links.size(); ++i) {
            const LinkLine& line = row.line(i);
            QVERIFY(line.alongAxes && isAlongAxes(line));
            QVERIFY(line.path.size() <= 4);
            const auto& from = row.drawn.plate(row.top)->frame;
            const auto& to = row.drawn.plate(row.phones[i])->frame;
            QCOMPARE(line.path.front().y, from.bottom()); // at its tick
            QCOMPARE(line.path.back().y, to.y);
            QVERIFY(line.path.back().x > to.x && line.path.back().x < to.right());
        }
    }
    void what_turns_does_so_each_at_a_height_of_its_own() {
        Row row(8);
        std::set<double> heights;
        int turning = 0;
        for (std::size_t i = 0; i < row.links.size(); ++i)
            if (const LinkLine& line = row.line(i); line.path.size() == 4) {
                heights.insert(line.path[1].y);
                ++turning;
            }
        QVERIFY(turning >= 6);
        QVERIFY2(static_cast<int>(heights.size()) >= turning - 1,
                 qPrintable(QString::number(heights.size())));
    }
    void bundled_lines_leave_together_and_part_later() {
        Row row(8);
        row.network = edit::setLineStyle(row.network, row.sheet, LineStyle::bundled)->network;
        std::set<double> starts, heights;
        for (std::size_t i = 0; i < row.links.size(); ++i) {
            const LinkLine& line = row.line(i);
            QVERIFY(line.alongAxes && isAlongAxes(line));
            starts.insert(line.path.front().x);
            if (line.path.size() == 4)
                heights.insert(line.path[1].y);
        }
        QCOMPARE(starts.size(), std::size_t{1});
        QCOMPARE(heights.size(), std::size_t{1});
        QCOMPARE(platesMet(row.drawn), 0);
    }
    void media_run_in_lanes_of_their_own_and_parallel_links_side_by_side() {
        tests::Workbench b;
        const DeviceId top = b.add("core-switch-modular", "top", {0, 0});
        const DeviceId below = b.add("distribution-switch-24", "below", {500, 300});
        std::vector<LinkId> links;
        for (int i = 0; i < 2; ++i)
            links.push_back(b.link({top, {}}, {below, {}}));
        b.network = edit::setLineStyle(b.network, b.sheet, LineStyle::bundled)->network;
        const Scene scene = Scene::build(b.network, b.sheet);
        const auto &one = scene.link(links[0])->path, &two = scene.link(links[1])->path;
        QVERIFY(std::abs(one.front().x - two.front().x) > 4);
        QVERIFY(one.size() == 4 && two.size() == 4);
        // The one more to the right turns higher on its way to the right: they do not cross.
        const bool firstLeft = one.front().x < two.front().x;
        QVERIFY((firstLeft ? one : two)[1].y > (firstLeft ? two : one)[1].y);
    }
    void a_plate_between_is_gone_round_and_no_longer_when_it_leaves() {
        Row row(1);
        const std::vector<PointF> free = row.line(0).path;
        const DeviceId between = row.add("phone", "between");
        const PointF middle = (free.front() + free.back()) * 0.5;
        const auto put = [&](Point at) {
            row.take(edit::moveObjects(row.network, row.sheet, {refTo(between)},
                                       at - row.network.position(row.sheet, between.value)->at));
        };
        put({static_cast<int>(middle.x) - 60, static_cast<int>(middle.y) - 20});
        QVERIFY(row.line(0).path != free);
        QVERIFY(isAlongAxes(*row.drawn.link(row.links[0])));
        QCOMPARE(platesMet(row.drawn), 0);
        put({2000, 2000});
        QVERIFY(row.line(0).path == free);
    }
    void side_by_side_is_straight_and_too_close_too() {
        tests::Workbench b;
        const DeviceId left = b.add("core-switch-modular", "left", {0, 0});
        const DeviceId right = b.add("core-switch-modular", "right", {500, 20});
        b.network = alongAxes(b.network, b.sheet);
        const LinkId id = b.link({left, {}}, {right, {}});
        QCOMPARE(Scene::build(b.network, b.sheet).link(id)->path.size(), std::size_t{2});
        QVERIFY(isAlongAxes(*Scene::build(b.network, b.sheet).link(id)));
        b.take(edit::moveObjects(b.network, b.sheet, {refTo(right)}, {-495, -15})); // one on the other
        QCOMPARE(Scene::build(b.network, b.sheet).link(id)->path.size(), std::size_t{2});
    }
    void a_bend_made_by_hand_stays() {
        Row row(3);
        row.take(edit::setBends(row.network, {row.sheet}, row.links[0], {{-400, 120}}));
        const LinkLine& line = row.line(0);
        QVERIFY(!line.alongAxes);
        QCOMPARE(line.path.size(), std::size_t{3});
    }
    void followed_edit_by_edit_it_is_the_drawing_made_anew() {
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(6)); ++seed) {
            RandomEdits edits(seed);
            Network network = edits.start();
            const SheetId sheet = network.sheetsInOrder().front().id;
            network =
                edit::setLineStyle(network, sheet, seed % 2 ? LineStyle::axes : LineStyle::bundled)->network;
            Scene now = Scene::build(network, sheet);
            for (int i = 0; i < 150; ++i) {
                const auto act = edits.act(network);
                if (!act)
                    continue;
                now = scene::update(now, network, act->network).scene;
                network = act->network;
                if (i % 10 == 0) {
                    QVERIFY(now == Scene::build(network, sheet));
                    QVERIFY(now.gridIsTrue());
                }
            }
        }
    }
    void in_groups_too_folded_and_unfolded() {
        Network network = tests::demo("fennick-quay");
        const SheetId sheet = network.sheetsInOrder().front().id;
        network = alongAxes(network, sheet);
        Scene now = Scene::build(network, sheet);
        std::vector<DeviceId> devices;
        now.forEachPlate([&](const scene::Plate& plate) { devices.push_back(plate.id); });
        std::vector<GroupId> groups;
        network.all<Group>().forEach([&](const Group& group) { groups.push_back(group.id); });
        RandomEdits random(3);
        const auto take = [&](const edit::ActResult& act) {
            if (!act)
                return;
            now = scene::update(now, network, act->network).scene;
            network = act->network;
        };
        for (int i = 0; i < tests::tries(40); ++i) {
            const auto some = [&](const auto& all) {
                return all[static_cast<std::size_t>(random.below(static_cast<int>(all.size())))];
            };
            if (i % 4 == 3)
                take(edit::setFolded(network, sheet, {some(groups)}, random.below(2) == 0));
            else
                take(edit::moveObjects(network, sheet, {refTo(some(devices))},
                                       {random.below(400) - 200, random.below(400) - 200}));
            QVERIFY(now == Scene::build(network, sheet));
            QVERIFY(now.gridIsTrue());
        }
        now.forEachLink([&](const LinkLine& line) {
            QVERIFY(!line.alongAxes || line.path.size() == 2 || isAlongAxes(line));
        });
    }
    void arranging_leaves_the_way_round_to_the_lines() {
        Row row(12);
        row.take(edit::setBends(row.network, {row.sheet}, row.links[0], {{-400, 120}}));
        edit::ArrangeWish wish;
        wish.style = layout::Style::layered;
        const auto act = edit::arrange(row.network, {row.sheet}, wish);
        QVERIFY(bool(act));
        row.network = act->network;
        for (const LinkId id : row.links) {
            const Position* position = row.network.position(row.sheet, id.value);
            QVERIFY(!position || position->bends.size() != 1); // but for ways along the axes
        }
        row.line(0);
        QCOMPARE(platesMet(row.drawn), 0);
    }
    void ways_that_were_arranged_give_way_to_it() {
        Network network = tests::demo("fennick-quay");
        SheetId sheet;
        network.all<Sheet>().forEach([&](const Sheet& each) {
            if (each.layer == SheetLayer::network)
                sheet = each.id;
        });
        const auto bent = [&] {
            int count = 0;
            network.all<Position>().forEachIn(sheet.value,
                                              [&](const Position& each) { count += !each.bends.empty(); });
            return count;
        };
        network = edit::setLineStyle(network, sheet, LineStyle::straight)->network;
        network = edit::arrange(network, {sheet}, {})->network;
        const int before = bent();
        QVERIFY(before > 10);
        network = alongAxes(network, sheet);
        QVERIFY(bent() < before / 2);
        const Scene drawn = Scene::build(network, sheet);
        QVERIFY(platesMet(drawn) <= 2); // of some 60 lines, where there is no room
        drawn.forEachLink([&](const LinkLine& line) { QVERIFY(line.alongAxes); });
    }
    void it_is_the_sheets_own_and_kept() {
        Row row(2);
        const auto back = exchange::readOwn(exchange::writeOwn(row.network), "own");
        QVERIFY(bool(back));
        QVERIFY(back->network == row.network);
        QVERIFY(back->network.sheet(row.sheet)->lines == LineStyle::axes);
        row.network = edit::setLineStyle(row.network, row.sheet, LineStyle::straight)->network;
        QVERIFY(!row.line(0).alongAxes);
        QVERIFY(!edit::setLineStyle(row.network, {77}, LineStyle::axes));
    }
};

UNDERRIDGE_TEST(AxesTest)
#include "axes_test.moc"

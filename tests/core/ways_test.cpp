// SPDX-License-Identifier: GPL-3.0-or-later
// What lies where on a sheet, and the ways of lines among it: looked for by cells what can be looked for
// one by one, and a way that follows from nothing outside its reach.
#include "core/scene/axes.h"
#include "tests/support/dice.h"
#include "tests/support/registered.h"

#include <array>
#include <set>

using namespace underridge;
using namespace underridge::model;
using namespace underridge::scene;
using tests::Dice;

namespace {

Rect anyRect(Dice& dice, double most) {
    return {dice.between(-2000, 3000), dice.between(-1000, 2000), dice.between(1, most),
            dice.between(1, most)};
}

ItemPtr shared(Item item) {
    return std::make_shared<const Item>(std::move(item));
}

ItemPtr tile(std::uint64_t id, const Rect& frame) {
    Tile made;
    made.id = {id};
    made.frame = frame;
    return shared(itemOf(std::move(made)));
}

ItemPtr frame(std::uint64_t id, const Rect& rect) {
    scene::Frame made;
    made.id = {id};
    made.frame = rect;
    return shared(itemOf(std::move(made)));
}

ItemPtr line(std::uint64_t id, std::vector<PointF> path, const Rect& reach = {}) {
    LinkLine made;
    made.id = {id};
    made.path = std::move(path);
    made.reach = reach;
    return shared(itemOf(std::move(made)));
}

/// Tiles, frames and lines of all sizes.
std::vector<ItemPtr> mixed(Dice& dice, int count) {
    std::vector<ItemPtr> out;
    for (int i = 1; i <= count; ++i) {
        const auto id = static_cast<std::uint64_t>(i);
        switch (dice.below(4)) {
        case 0:
            out.push_back(tile(id, anyRect(dice, 200)));
            break;
        case 1:
            out.push_back(frame(id, anyRect(dice, 2500)));
            break;
        default:
            const PointF from{dice.between(-2000, 3000), dice.between(-1000, 2000)};
            const double far = i % 5 == 0 ? 4000 : 400;
            const PointF to = from + PointF{dice.between(-far, far), dice.between(-far, far)};
            out.push_back(line(id, {from, {to.x, from.y}, to}, i % 3 == 0 ? anyRect(dice, 900) : Rect{}));
        }
    }
    return out;
}

using Found = std::vector<const Item*>;

Found oneByOne(const std::vector<ItemPtr>& items, auto&& wanted) {
    Found out;
    for (const ItemPtr& item : items)
        if (wanted(*item))
            out.push_back(item.get());
    std::sort(out.begin(), out.end());
    return out;
}

bool isObstacle(const Item& item) {
    return item.layer == Layer::plates || item.as<scene::Frame>();
}

/// A grid, and everything it should hold.
QString wrongWith(const Grid& grid, const std::vector<ItemPtr>& items, Dice& dice) {
    for (int i = 0; i < 60; ++i) {
        const Rect area = anyRect(dice, i % 10 == 0 ? 6000 : 300);
        if (grid.itemsIn(area) != oneByOne(items, [&](const Item& item) { return meets(item, area); }))
            return QStringLiteral("what meets a rectangle");
        if (grid.itemsReaching(area) !=
            oneByOne(items, [&](const Item& item) { return item.bounds.intersects(area); }))
            return QStringLiteral("what has it in its bounds");
        if (grid.obstaclesIn(area) != oneByOne(items, [&](const Item& item) {
                return isObstacle(item) && item.bounds.intersects(area);
            }))
            return QStringLiteral("what lines go round");
    }
    return {};
}

/// Tiles in rows that do not touch, and which of them a way is looked for between.
struct Field {
    explicit Field(unsigned seed) : dice(seed) {
        for (int row = 0; row < 6; ++row)
            for (int column = 0; column < 7; ++column)
                if (dice.below(5) > 0)
                    put({column * 210 + dice.between(0, 50), row * 130 + dice.between(0, 50), 120, 48});
        grid = Grid::of(items);
    }
    void put(const Rect& at) { items.push_back(tile(items.size() + 1, at)); }
    Anchor any() {
        return items[static_cast<std::size_t>(dice.below(static_cast<int>(items.size())))]
            ->as<Tile>()
            ->anchor();
    }

    Dice dice;
    std::vector<ItemPtr> items;
    Grid grid;
};

bool isOnBorder(const Rect& rect, PointF p) {
    return rect.grown(0.01).contains(p) && !rect.grown(-0.01).contains(p);
}

} // namespace

class WaysTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // --- grids ------------------------------------------------------------------------

    void a_grid_finds_what_looking_at_each_finds() {
        for (unsigned seed = 1; seed <= 4; ++seed) {
            Dice dice(seed);
            const auto items = mixed(dice, 300);
            QCOMPARE(wrongWith(Grid::of(items), items, dice), QString());
        }
    }
    void put_one_by_one_it_is_the_grid_made_at_once() {
        Dice dice(7);
        auto items = mixed(dice, 200);
        Grid grid;
        QVERIFY(grid.itemsIn({-1e5, -1e5, 2e5, 2e5}).empty());
        for (const ItemPtr& item : items)
            grid.put(item);
        QCOMPARE(wrongWith(grid, items, dice), QString());
        const Grid before = grid;
        const auto all = items;
        for (int i = 0; i < 120; ++i) { // some go, some come
            const auto at = static_cast<std::ptrdiff_t>(dice.below(static_cast<int>(items.size())));
            grid.remove(items[static_cast<std::size_t>(at)]);
            items.erase(items.begin() + at);
        }
        for (const ItemPtr& item : mixed(dice, 40)) {
            grid.put(item);
            items.push_back(item);
        }
        QCOMPARE(wrongWith(grid, items, dice), QString());
        QCOMPARE(wrongWith(before, all, dice), QString()); // a copy is a value
    }
    void everything_is_in_it_as_often_as_it_has_cells() {
        Dice dice(8);
        const auto items = mixed(dice, 100);
        std::set<const Item*> held;
        std::size_t times = 0;
        Grid::of(items).forEach([&](const ItemPtr& item) {
            held.insert(item.get());
            ++times;
        });
        QCOMPARE(held.size(), items.size());
        QVERIFY(times >= items.size() && times <= 4 * items.size());
    }
    void only_lines_with_a_reach_are_led_anew() {
        QVERIFY(isLed(*line(1, {{0, 0}, {10, 0}}, {0, 0, 10, 10})));
        QVERIFY(!isLed(*line(1, {{0, 0}, {10, 0}})));
        QVERIFY(!isLed(*tile(1, {0, 0, 10, 10})));
    }

    // --- ways along the axes -------------------------------------------------------------

    void a_way_runs_from_border_to_border_upright_and_level() {
        int ways = 0, free = 0;
        for (unsigned seed = 1; seed <= 10; ++seed) {
            Field field(seed);
            for (int i = 0; i < 40; ++i) {
                const Anchor a = field.any(), b = field.any();
                if (a.shown == b.shown)
                    continue;
                for (const bool bundled : {false, true}) {
                    const auto path = axisPath(a, b, -1, -1, {0, 1}, field.grid, {bundled, 0, bundled});
                    QVERIFY(path.size() >= 2);
                    QVERIFY(isOnBorder(a.frame, path.front()) && isOnBorder(b.frame, path.back()));
                    const bool tooClose = path.size() == 2;
                    QVERIFY(tooClose || isAligned(path));
                    QVERIFY(reachBetween(a, b).contains(boundsOf(path)));
                    QVERIFY(axisPath(a, b, -1, -1, {0, 1}, field.grid, {bundled, 0, bundled}) == path);
                    ++ways;
                    free += metBy(path, a, b, field.grid).plates == 0;
                }
            }
        }
        QVERIFY2(free * 100 > ways * 85, qPrintable(QStringLiteral("%1 of %2").arg(free).arg(ways)));
    }
    void what_stands_outside_its_reach_is_of_no_matter_to_a_way() {
        for (unsigned seed = 1; seed <= 10; ++seed) {
            Field field(seed);
            for (int i = 0; i < 15; ++i) {
                const Anchor a = field.any(), b = field.any();
                if (a.shown == b.shown)
                    continue;
                const Rect reach = reachBetween(a, b);
                std::vector<ItemPtr> near; // the others have all left
                for (const ItemPtr& item : field.items)
                    if (item->bounds.intersects(reach))
                        near.push_back(item);
                const Grid alone = Grid::of(near);
                QVERIFY(axisPath(a, b, -1, -1, {0, 1}, field.grid) == axisPath(a, b, -1, -1, {0, 1}, alone));
                const Bundling trunk{true, 6, true, true};
                QVERIFY(axisPath(a, b, -1, -1, {0, 1}, field.grid, trunk) ==
                        axisPath(a, b, -1, -1, {0, 1}, alone, trunk));
            }
        }
    }
    void what_a_path_meets_is_what_looking_at_each_meets() {
        for (unsigned seed = 1; seed <= 6; ++seed) {
            Field field(seed);
            std::vector<ItemPtr> all = field.items;
            all.push_back(frame(500, {300, 100, 700, 260}));
            all.push_back(frame(501, {100, 500, 260, 300}));
            const Grid grid = Grid::of(all);
            for (int i = 0; i < 40; ++i) {
                const Anchor a = field.any(), b = field.any();
                const std::vector<PointF> path{a.frame.centre(),
                                               {field.dice.between(0, 1400), field.dice.between(0, 800)},
                                               b.frame.centre()};
                Met met;
                for (const ItemPtr& item : all) {
                    const auto* group = item->as<scene::Frame>();
                    const Rect rect = frameOf(*item).grown(3);
                    const bool on =
                        segmentMeets(path[0], path[1], rect) || segmentMeets(path[1], path[2], rect);
                    if (group)
                        met.frames +=
                            on && !group->frame.contains(a.frame) && !group->frame.contains(b.frame);
                    else
                        met.plates += on && item->object != a.shown && item->object != b.shown;
                }
                QVERIFY(metBy(path, a, b, grid) == met);
            }
        }
    }
    void plates_in_the_way_are_worse_than_any_number_of_frames() {
        QVERIFY((Met{0, 9} < Met{1, 0}));
        QVERIFY((Met{1, 0} < Met{1, 1}));
        QVERIFY((Met{} < Met{0, 1}));
    }
    void parallel_links_leave_side_by_side_and_do_not_cross() {
        const std::vector<ItemPtr> two{tile(1, {0, 0, 120, 48}), tile(2, {400, 300, 120, 48})};
        const Anchor a = two[0]->as<Tile>()->anchor(), b = two[1]->as<Tile>()->anchor();
        const Grid grid = Grid::of(two);
        for (const bool bundled : {false, true}) {
            std::vector<std::vector<PointF>> ways;
            for (int i = 0; i < 3; ++i)
                ways.push_back(axisPath(a, b, -1, -1, {i, 3}, grid, {bundled, 0}));
            for (std::size_t i = 0; i < 3; ++i)
                for (std::size_t j = 0; j < i; ++j)
                    for (std::size_t k = 0; k + 1 < ways[i].size(); ++k)
                        for (std::size_t m = 0; m + 1 < ways[j].size(); ++m)
                            QVERIFY(!segmentMeets(ways[i][k], ways[i][k + 1],
                                                  rectBetween(ways[j][m], ways[j][m + 1])));
        }
    }
    void frames_are_gone_round_where_that_is_asked_for() {
        // A frame between the two that leaves room at its side; neither is in it.
        const std::vector<ItemPtr> all{tile(1, {0, 0, 120, 48}), tile(2, {0, 600, 120, 48}),
                                       frame(3, {-20, 250, 300, 100})};
        const Anchor a = all[0]->as<Tile>()->anchor(), b = all[1]->as<Tile>()->anchor();
        const Grid grid = Grid::of(all);
        const auto through = axisPath(a, b, -1, -1, {0, 1}, grid, {true, 0, true, false});
        QCOMPARE(metBy(through, a, b, grid).frames, 1);
        const std::vector<ItemPtr> within{all[0], all[1], frame(3, {-20, -20, 300, 700})};
        const Grid inside = Grid::of(within);
        QVERIFY(metBy(through, a, b, inside) == Met{}); // their own
        const std::vector<ItemPtr> narrow{all[0], all[1], frame(3, {20, 250, 90, 100})};
        const Grid round = Grid::of(narrow);
        const auto led = axisPath(a, b, -1, -1, {0, 1}, round, {true, 0, true, true});
        QCOMPARE(metBy(led, a, b, round).frames, 0);
        QVERIFY(led.size() > 2);
    }
    void aligned_is_what_has_no_slanting_piece() {
        QVERIFY(isAligned({{0, 0}, {10, 0}, {10, 5}}));
        QVERIFY(!isAligned({{0, 0}, {10, 1}}));
        QVERIFY(!isAligned({{0, 0}, {10, 0}, {11, 5}}));
    }
};

UNDERRIDGE_TEST(WaysTest)
#include "ways_test.moc"

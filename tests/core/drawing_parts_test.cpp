// SPDX-License-Identifier: GPL-3.0-or-later
// What arrangements are put together from: parts and blocks of a graph, boxes that are turned, what lies
// where, ways round plates, and the measures of it all. Each against what can be said without it.
#include "core/layout/blocks.h"
#include "core/layout/boxes.h"
#include "core/layout/buckets.h"
#include "core/layout/detours.h"
#include "tests/support/dice.h"
#include "tests/support/graphs.h"
#include "tests/support/registered.h"

#include <array>
#include <map>

using namespace underridge;
using namespace underridge::layout;
using tests::Dice;
using tests::GraphMaker;

namespace {

/// Some lines between any nodes; it may be in parts.
Graph anyGraph(Dice& dice, int nodes, int lines) {
    GraphMaker g;
    const auto all = g.nodes(nodes);
    for (int i = 0; i < lines; ++i)
        g.link(all[static_cast<std::size_t>(dice.below(nodes))],
               all[static_cast<std::size_t>(dice.below(nodes))]);
    return g.made();
}

/// Whom one reaches from a node without passing one that is taken away; `none`: all are there.
std::set<Index> reached(const Graph& graph, Index from, Index without) {
    std::set<Index> out{from};
    for (bool more = true; more;) {
        more = false;
        for (const Edge& edge : graph.edges)
            if (edge.a != without && edge.b != without && out.contains(edge.a) != out.contains(edge.b)) {
                out.insert({edge.a, edge.b});
                more = true;
            }
    }
    return out;
}

constexpr std::array turns{Turn::down, Turn::up, Turn::right, Turn::left};

/// Plates in rows that do not touch, some left out and all somewhat out of line.
std::vector<Rect> scattered(Dice& dice, int across, int down) {
    std::vector<Rect> out;
    for (int row = 0; row < down; ++row)
        for (int column = 0; column < across; ++column)
            if (dice.below(4) > 0)
                out.push_back({column * 190 + dice.between(0, 40), row * 120 + dice.between(0, 40), 110, 44});
    return out;
}

DrawnLine straight(const std::vector<Rect>& plates, Index a, Index b) {
    return {{leavingSide(plates[a], plates[b].centre()), leavingSide(plates[b], plates[a].centre())}, a, b};
}

bool isThrough(const std::vector<Rect>& plates, const DrawnLine& line) {
    return measured(plates, std::span(&line, 1)).linksThroughDevices > 0;
}

} // namespace

class DrawingPartsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // --- graphs -------------------------------------------------------------------

    void neighbours_are_both_ends_of_every_edge() {
        Dice dice(1);
        const Graph graph = anyGraph(dice, 40, 70);
        const Neighbours near(graph);
        std::map<std::pair<Index, Index>, int> met;
        for (Index node = 0; node < graph.nodes.size(); ++node) {
            QCOMPARE(near.of(node).size(), near.degree(node));
            for (const auto& to : near.of(node)) {
                const Edge& edge = graph.edges[to.edge];
                QVERIFY(std::minmax(edge.a, edge.b) == std::minmax(node, to.node));
                ++met[{node, to.edge}];
            }
        }
        QCOMPARE(met.size(), 2 * graph.edges.size());
    }
    void parts_hold_who_reaches_one_another_in_order() {
        for (unsigned seed = 1; seed <= 10; ++seed) {
            Dice dice(seed);
            const Graph graph = anyGraph(dice, 30, 22);
            const auto parts = partsOf(graph, Neighbours(graph));
            std::size_t count = 0;
            for (std::size_t i = 0; i < parts.size(); ++i) {
                const auto all = reached(graph, parts[i].front(), none);
                QCOMPARE(parts[i], (std::vector<Index>(all.begin(), all.end())));
                QVERIFY(i == 0 || parts[i - 1].front() < parts[i].front());
                count += parts[i].size();
            }
            QCOMPARE(count, graph.nodes.size());
        }
    }
    void a_block_stays_together_whoever_is_taken_away_and_hangs_on_one_device() {
        for (unsigned seed = 1; seed <= 12; ++seed) {
            Dice dice(seed);
            const Graph graph = anyGraph(dice, 16, 22);
            const Neighbours near(graph);
            for (const auto& part : partsOf(graph, near)) {
                const Index anchor =
                    part[static_cast<std::size_t>(dice.below(static_cast<int>(part.size())))];
                const BlockTree tree = blocksOf(graph, near, anchor);
                std::multiset<Index> edges, nodes{anchor};
                for (std::size_t i = 0; i < tree.blocks.size(); ++i) {
                    const Block& block = tree.blocks[i];
                    edges.insert(block.edges.begin(), block.edges.end());
                    nodes.insert(block.nodes.begin(), block.nodes.end());
                    Graph alone; // the block by itself
                    alone.nodes = graph.nodes;
                    for (const Index edge : block.edges)
                        alone.edges.push_back(graph.edges[edge]);
                    std::vector<Index> whole = block.nodes;
                    whole.push_back(block.above);
                    for (const Index gone : whole) {
                        const Index from = whole.front() == gone ? whole.back() : whole.front();
                        QCOMPARE(reached(alone, from, gone).size(), whole.size() - 1);
                    }
                    // Without the device above it is cut off from the anchor.
                    if (block.above != anchor)
                        QVERIFY(!reached(graph, block.nodes.front(), block.above).contains(anchor));
                    // What hangs on it comes before it.
                    for (const Index node : block.nodes)
                        for (const Index below : tree.at(node))
                            QVERIFY(below < i && tree.blocks[below].above == node);
                }
                QVERIFY(std::vector<Index>(nodes.begin(), nodes.end()) == part); // each once
                std::size_t mine = 0;
                for (const Edge& edge : graph.edges)
                    mine += std::binary_search(part.begin(), part.end(), edge.a);
                QCOMPARE(edges.size(), mine);
                QCOMPARE(std::set<Index>(edges.begin(), edges.end()).size(), mine);
            }
        }
    }

    // --- boxes --------------------------------------------------------------------

    void turning_keeps_what_is_in_a_box_inside_and_as_far_apart() {
        const PointF size{300, 120};
        for (const Turn turn : turns) {
            const PointF as = sizeTurned(size, turn);
            const Rect whole = turned(Rect{0, 0, size.x, size.y}, size, turn);
            QVERIFY(whole == (Rect{0, 0, as.x, as.y}));
            const PointF a{20, 30}, b{250, 110};
            QCOMPARE(scene::length(turned(a, size, turn) - turned(b, size, turn)), scene::length(a - b));
            QVERIFY(whole.contains(turned(a, size, turn)) && whole.contains(turned(b, size, turn)));
        }
        // What is above goes where it flows from.
        const PointF top{150, 0};
        QVERIFY(turned(top, size, Turn::down) == (PointF{150, 0}));
        QVERIFY(turned(top, size, Turn::up) == (PointF{150, 120}));
        QVERIFY(turned(top, size, Turn::right) == (PointF{0, 150}));
        QVERIFY(turned(top, size, Turn::left) == (PointF{120, 150}));
    }
    void boxes_in_boxes_come_where_they_belong_whichever_way_each_is_turned() {
        for (const Turn outer : turns)
            for (const Turn inner : turns) {
                Boxes boxes;
                Box small;
                small.size = {100, 60};
                small.plates = {{0, {10, 10, 40, 20}}, {1, {50, 40, 40, 20}}};
                small.wires = {{0, {{30, 30}, {30, 50}, {50, 50}}}};
                const PointF seen = sizeTurned(small.size, inner);
                const std::size_t held = boxes.add(small);
                Box large;
                large.size = {seen.x + 200, seen.y + 50};
                large.inner = {{held, {150, 25}, inner}};
                large.plates = {{2, {0, 0, 40, 20}}};
                const std::size_t box = boxes.add(large);
                Drawing drawing;
                drawing.at.resize(3);
                drawing.paths.resize(1);
                boxes.draw(box, {1000, 2000}, outer, drawing);
                const PointF whole = boxes.sizeOf(box, outer);
                const bool across = isTurned(outer), acrossInner = across != isTurned(inner);
                const auto plate = [&](Index node) {
                    const bool on = node == 2 ? across : acrossInner;
                    return Rect{drawing.at[node].x, drawing.at[node].y, on ? 20.0 : 40.0, on ? 40.0 : 20.0};
                };
                const Rect all{1000, 2000, whole.x, whole.y};
                for (Index node = 0; node < 3; ++node)
                    QVERIFY(all.contains(plate(node)));
                QVERIFY(!plate(0).intersects(plate(1)) && !plate(0).intersects(plate(2)));
                // The line still goes from the border of the one to the border of the other.
                const auto& path = drawing.paths[0];
                QCOMPARE(path.size(), std::size_t{3});
                for (const auto& [point, node] : {std::pair{path.front(), Index{0}}, {path.back(), Index{1}}})
                    QVERIFY(plate(node).grown(0.01).contains(point) &&
                            !plate(node).grown(-0.01).contains(point));
                QVERIFY(path[0].x == path[1].x || path[0].y == path[1].y);
            }
    }
    void lines_leave_an_edge_about_its_middle_or_by_their_ticks() {
        QVERIFY(exitsAlong(100, 60, 0).empty());
        QCOMPARE(exitsAlong(100, 60, 1), std::vector<double>{130});
        QCOMPARE(exitsAlong(100, 60, 3), (std::vector<double>{121, 130, 139})); // 9 apart
        const auto many = exitsAlong(0, 60, 25);
        for (std::size_t i = 1; i < many.size(); ++i)
            QVERIFY(many[i] > many[i - 1]);
        QVERIFY(many.front() >= 6 - 1e-9 && many.back() <= 54 + 1e-9);
        const std::array inOrder{5.0, 20.0, 22.0}, turnedOver{20.0, 5.0, 22.0}, unknown{5.0, -1.0, 22.0};
        QCOMPARE(exitsAlong(100, 60, 3, inOrder), (std::vector<double>{105, 120, 122}));
        QCOMPARE(exitsAlong(100, 60, 3, turnedOver), exitsAlong(100, 60, 3));
        QCOMPARE(exitsAlong(100, 60, 3, unknown), exitsAlong(100, 60, 3));
    }
    void a_path_beside_another_is_as_far_from_it_all_along() {
        const std::vector<PointF> path{{0, 0}, {100, 0}, {100, 80}, {220, 80}};
        for (const double by : {6.0, -6.0}) {
            const auto beside = besidePath(path, by);
            QCOMPARE(beside.size(), path.size());
            for (std::size_t i = 0; i + 1 < path.size(); ++i) {
                const PointF along = path[i + 1] - path[i], now = beside[i + 1] - beside[i];
                QVERIFY(std::abs(along.x * now.y - along.y * now.x) < 1e-6); // in the same direction
                const PointF off = beside[i] - path[i];
                const double left = (off.x * along.y - off.y * along.x) / scene::length(along);
                QVERIFY(std::abs(left - by) < 1e-6);
            }
        }
        QCOMPARE(besidePath(path, 0), path);
        QCOMPARE(besidePath({{1, 2}}, 5), (std::vector<PointF>{{1, 2}}));
    }

    // --- what lies where ------------------------------------------------------------

    void what_was_put_along_a_line_is_found_at_every_point_of_it() {
        Dice dice(4);
        const Rect all{-200, -100, 900, 500};
        Buckets cells(all, sideFor(all, 300));
        QVERIFY(cells.count() > 150 && cells.count() < 700);
        std::vector<std::array<PointF, 2>> lines;
        for (Index i = 0; i < 60; ++i) {
            const auto point = [&] { return PointF{dice.between(-200, 700), dice.between(-100, 400)}; };
            lines.push_back({point(), point()});
            if (i % 10 == 0)
                lines.back()[1].y = lines.back()[0].y; // level
            cells.along(lines[i][0], lines[i][1], [&](std::size_t cell) { cells.add(cell, i); });
        }
        for (Index i = 0; i < lines.size(); ++i)
            for (double t = 0; t <= 1; t += 0.01) {
                bool found = false;
                for (const Index each : cells.in(cells.cellAt(lines[i][0] + (lines[i][1] - lines[i][0]) * t)))
                    found |= each == i;
                QVERIFY(found);
            }
    }
    void a_cell_gives_what_it_holds_in_the_order_it_came() {
        Buckets cells({0, 0, 100, 100}, 10);
        const std::size_t here = cells.cellAt({55, 55}), there = cells.cellAt({5, 5});
        for (const Index each : {7U, 3U, 9U, 3U})
            cells.add(here, each);
        cells.add(there, 1);
        const auto held = [&](std::size_t cell) {
            std::vector<Index> out;
            for (const Index each : cells.in(cell))
                out.push_back(each);
            return out;
        };
        QCOMPARE(held(here), (std::vector<Index>{7, 3, 9, 3}));
        QCOMPARE(held(there), std::vector<Index>{1});
        QVERIFY(held(cells.cellAt({95, 95})).empty());
        // Beyond the rectangle it is the cell at the border.
        QCOMPARE(cells.cellAt({-1000, 5}), there);
        std::set<std::size_t> over;
        cells.over({31, 31, 22, 5}, [&](std::size_t cell) { over.insert(cell); });
        QCOMPARE(over.size(), std::size_t{3});
    }
    void a_wide_empty_sheet_takes_no_more_than_four_million_cells() {
        const Buckets cells({0, 0, 1e9, 1e6}, 1);
        QVERIFY(cells.count() <= 4'100'000);
    }

    // --- ways round -------------------------------------------------------------------

    void going_round_leaves_ends_on_their_plates_and_free_lines_alone() {
        int through = 0, left = 0;
        for (unsigned seed = 1; seed <= 12; ++seed) {
            Dice dice(seed);
            const auto plates = scattered(dice, 8, 7);
            const auto any = [&] { return static_cast<Index>(dice.below(static_cast<int>(plates.size()))); };
            std::vector<DrawnLine> lines;
            while (lines.size() < 40)
                if (const Index a = any(), b = any(); a != b)
                    lines.push_back(straight(plates, a, b));
            const auto before = lines;
            const auto changed = goRound(plates, lines);
            for (Index i = 0; i < lines.size(); ++i) {
                const bool was = isThrough(plates, before[i]), is = isThrough(plates, lines[i]);
                const bool led = std::find(changed.begin(), changed.end(), i) != changed.end();
                QVERIFY(was || !is); // nothing gets worse
                QCOMPARE(led, lines[i].path != before[i].path);
                QVERIFY(scene::pathLength(lines[i].path) >=
                        scene::length(lines[i].path.back() - lines[i].path.front()) - 1e-6);
                for (const auto& [end, point] :
                     {std::pair{lines[i].a, lines[i].path.front()}, {lines[i].b, lines[i].path.back()}})
                    QVERIFY(plates[end].grown(0.1).contains(point) &&
                            !plates[end].grown(-0.1).contains(point));
                through += was;
                left += is;
            }
            auto again = before;
            QCOMPARE(goRound(plates, again), changed);
            for (Index i = 0; i < lines.size(); ++i)
                QVERIFY(again[i].path == lines[i].path);
        }
        QVERIFY2(through > 200 && left == 0, qPrintable(QStringLiteral("%1 of %2").arg(left).arg(through)));
    }
    void the_way_round_is_the_shorter_one() {
        // A wall that ends sooner above than below.
        const std::vector<Rect> plates{{0, 0, 100, 40}, {600, 0, 100, 40}, {300, -60, 100, 400}};
        std::vector<DrawnLine> lines{straight(plates, 0, 1)};
        QCOMPARE(goRound(plates, lines), std::vector<Index>{0});
        for (const PointF point : lines[0].path)
            QVERIFY(point.y < 30);
        QVERIFY(scene::pathLength(lines[0].path) < 540);
    }
    void a_line_to_what_is_walled_in_stays_as_it_was() {
        std::vector<Rect> plates{{0, 0, 100, 40}, {600, 0, 100, 40}};
        plates.push_back({520, -100, 260, 60}); // four walls that touch, with the second plate inside
        plates.push_back({520, 80, 260, 60});
        plates.push_back({520, -100, 40, 240});
        plates.push_back({740, -100, 40, 240});
        std::vector<DrawnLine> lines{straight(plates, 0, 1)};
        const auto before = lines[0].path;
        QVERIFY(goRound(plates, lines).empty());
        QCOMPARE(lines[0].path, before);
        std::vector<DrawnLine> none;
        QVERIFY(goRound({}, none).empty());
    }

    // --- measures -----------------------------------------------------------------------

    void what_stands_evenly_in_a_row_has_no_stress_and_no_variation() {
        GraphMaker g;
        g.chain(g.nodes(12));
        const Graph graph = g.made();
        Drawing drawing;
        for (int i = 0; i < 12; ++i)
            drawing.at.push_back({i * 200.0, 0});
        drawing.paths.resize(graph.edges.size());
        QVERIFY(stressOf(graph, drawing) < 1e-9);
        Measures is = measured(graph, drawing);
        QVERIFY(is.edgeLengthVariation < 1e-9);
        QCOMPARE(is.edgeLength, 96.0); // from border to border
        QCOMPARE(is.aspect, (11 * 200 + 104) / 44.0);
        drawing.at[6].x += 90; // one out of line
        QVERIFY(stressOf(graph, drawing) > 1e-3);
        is = measured(graph, drawing);
        QVERIFY(is.edgeLengthVariation > 0.1);
        // It is a matter of shape, not of size.
        const double stress = stressOf(graph, drawing);
        for (PointF& at : drawing.at)
            at = (at + PointF{52, 22}) * 3 - PointF{52, 22};
        QVERIFY(std::abs(stressOf(graph, drawing) - stress) < 1e-9);
    }
    void angles_are_best_where_lines_part_evenly() {
        std::vector<Rect> plates{{-5, -5, 10, 10}};
        std::vector<DrawnLine> lines;
        const auto add = [&](PointF at) {
            plates.push_back({at.x - 5, at.y - 5, 10, 10});
            lines.push_back({{{0, 0}, at}, 0, static_cast<Index>(plates.size() - 1)});
        };
        for (const PointF at : {PointF{100, 0}, {-100, 0}, {0, 100}, {0, -100}})
            add(at);
        QVERIFY(std::abs(measured(plates, lines).angularResolution - 1) < 1e-9);
        add({100, 10}); // close beside another
        QVERIFY(measured(plates, lines).angularResolution < 0.1);
    }
    void lines_through_several_plates_count_once_and_their_own_do_not() {
        const std::vector<Rect> plates{{0, 0, 40, 20}, {100, 0, 40, 20}, {200, 0, 40, 20}, {300, 0, 40, 20}};
        std::vector<DrawnLine> lines{{{{20, 10}, {320, 10}}, 0, 3}};
        QCOMPARE(measured(plates, lines).linksThroughDevices, std::size_t{1});
        lines[0] = {{{20, 10}, {120, 10}}, 0, 1};
        QCOMPARE(measured(plates, lines).linksThroughDevices, std::size_t{0});
        lines[0] = {{{20, 10}, {20, 60}, {320, 60}, {320, 10}}, 0, 3};
        QCOMPARE(measured(plates, lines).linksThroughDevices, std::size_t{0});
        QCOMPARE(measured(std::span<const Rect>(), {}).aspect, 1.0);
    }
    void many_crossings_are_those_counted_pair_by_pair() {
        for (unsigned seed = 1; seed <= 6; ++seed) {
            Dice dice(seed);
            std::vector<DrawnLine> lines;
            for (int i = 0; i < 60; ++i) {
                const auto point = [&] { return PointF{dice.between(0, 2000), dice.between(0, 900)}; };
                lines.push_back({{point(), point()}});
            }
            std::size_t pairs = 0;
            const auto side = [](PointF a, PointF b, PointF p) {
                return (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x) > 0;
            };
            for (std::size_t i = 0; i < lines.size(); ++i)
                for (std::size_t j = 0; j < i; ++j) {
                    const PointF a = lines[i].path[0], b = lines[i].path[1], c = lines[j].path[0],
                                 d = lines[j].path[1];
                    pairs += side(a, b, c) != side(a, b, d) && side(c, d, a) != side(c, d, b);
                }
            QVERIFY(pairs > 200);
            QCOMPARE(measured(std::span<const Rect>(), lines).crossings, pairs);
        }
    }
};

UNDERRIDGE_TEST(DrawingPartsTest)
#include "drawing_parts_test.moc"

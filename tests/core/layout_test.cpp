// SPDX-License-Identifier: GPL-3.0-or-later
// Arranging as drawings: what every style keeps, and how good the suggested one is.
#include "core/base/files.h"
#include "core/layout/detours.h"
#include "core/layout/layers.h"
#include "core/layout/measures.h"
#include "core/layout/spring.h"
#include "core/layout/styles.h"
#include "tests/support/graphs.h"
#include "tests/support/registered.h"

#include <cmath>
#include <sstream>

using namespace underridge;
using namespace underridge::layout;
using namespace underridge::tests;

namespace {

Drawing suggested(const Graph& graph, Style style = Style::suggest, Flow flow = Flow::down) {
    Wish wish;
    wish.style = style;
    wish.flow = flow;
    return arranged(graph, wish).drawing;
}

Drawing withDetours(const Graph& graph, Drawing drawing) {
    goRound(graph, drawing);
    return drawing;
}

bool touches(const Rect& plate, PointF p) {
    constexpr double near = 0.6;
    const Rect r = plate.grown(near);
    return r.contains(p) && !plate.grown(-near).contains(p);
}

std::size_t zarankiewicz(std::size_t m, std::size_t n) {
    return (m / 2) * ((m - 1) / 2) * (n / 2) * ((n - 1) / 2);
}

double meanWay(const Drawing& a, const Drawing& b, std::size_t count) {
    PointF off;
    for (std::size_t i = 0; i < count; ++i)
        off = off + (b.at[i] - a.at[i]) * (1.0 / static_cast<double>(count));
    double sum = 0;
    for (std::size_t i = 0; i < count; ++i)
        sum += scene::length(b.at[i] - a.at[i] - off);
    return sum / static_cast<double>(count);
}

} // namespace

class LayoutTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void measures_count_what_is_there() {
        const std::vector<Rect> plates{
            {0, 0, 100, 40}, {300, 0, 100, 40}, {150, 0, 100, 40}, {150, 20, 100, 40}};
        const std::vector<DrawnLine> lines{{{{100, 10}, {300, 10}}, 0, 1}, // through the third
                                           {{{200, -50}, {200, 100}}, none, none}};
        const Measures m = measured(plates, lines);
        QCOMPARE(m.overlaps, std::size_t{1});
        QCOMPARE(m.linksThroughDevices, std::size_t{2});
        QCOMPARE(m.crossings, std::size_t{1});
    }
    void lines_that_meet_in_an_end_do_not_cross() {
        const std::vector<Rect> plates{{0, 0, 10, 10}};
        const std::vector<DrawnLine> lines{{{{5, 10}, {50, 100}}, 0, none}, {{{5, 10}, {-50, 100}}, 0, none}};
        QCOMPARE(measured(plates, lines).crossings, std::size_t{0});
    }
    void a_bend_is_crossed_once() {
        const std::vector<DrawnLine> lines{{{{0, 0}, {50, 50}, {100, 0}}, none, none},
                                           {{{50, 0}, {50, 100}}, none, none}};
        QCOMPARE(measured({}, lines).crossings, std::size_t{1});
    }

    void no_style_lets_plates_overlap_or_lines_end_beside_them() {
        for (const KeptGraph& kept : keptGraphs()) {
            if (kept.graph.nodes.size() > 120)
                continue;
            for (const Style style : allStyles)
                for (const Flow flow : {Flow::up, Flow::right}) {
                    const Drawing drawing = suggested(kept.graph, style, flow);
                    const QString which = QString::fromStdString(
                        fmt::format("{} {} {}", kept.name, textOf(style), textOf(flow)));
                    QVERIFY2(measured(kept.graph, drawing).overlaps == 0, qPrintable(which));
                    for (Index e = 0; e < kept.graph.edges.size(); ++e) {
                        const auto& path = drawing.paths[e];
                        if (path.empty())
                            continue;
                        QVERIFY2(path.size() > 1, qPrintable(which));
                        QVERIFY2(touches(plateOf(kept.graph, drawing, kept.graph.edges[e].a), path.front()),
                                 qPrintable(which));
                        QVERIFY2(touches(plateOf(kept.graph, drawing, kept.graph.edges[e].b), path.back()),
                                 qPrintable(which));
                    }
                }
        }
    }
    void the_same_wish_gives_the_same_drawing() {
        for (const KeptGraph& kept : keptGraphs())
            if (kept.graph.nodes.size() <= 120)
                for (const Style style : allStyles) {
                    const Drawing a = suggested(kept.graph, style), b = suggested(kept.graph, style);
                    QVERIFY2(a.at == b.at && a.paths == b.paths, kept.name.c_str());
                }
    }
    void the_suggested_drawing_is_as_good_as_the_table_says() {
        // docs/drawings.md: better is welcome and belongs into the table (tools/drawings).
        const auto bytes = DiskFiles().read(UNDERRIDGE_ROOT "/docs/drawings.md");
        QVERIFY(bytes);
        std::map<std::string, std::vector<double>> table;
        std::istringstream text(*bytes);
        for (std::string line; std::getline(text, line);) {
            std::vector<std::string> cells;
            std::istringstream row(line);
            for (std::string cell; std::getline(row, cell, '|');)
                cells.push_back(cell.substr(std::min(cell.size(), cell.find_first_not_of(' '))));
            if (cells.size() < 7 || cells[2].empty() ||
                !std::isdigit(static_cast<unsigned char>(cells[2][0])))
                continue;
            cells[1].erase(cells[1].find_last_not_of(' ') + 1);
            for (std::size_t i = 2; i < 7; ++i) {
                std::erase(cells[i], ',');
                table[cells[1]].push_back(std::stod(cells[i]));
            }
        }
        QVERIFY(table.size() >= 24);
        for (const KeptGraph& kept : keptGraphs()) {
            QVERIFY2(table.contains(kept.name), kept.name.c_str());
            constexpr std::size_t large = 500;
            if (tests::isSanitized && kept.graph.nodes.size() > large)
                continue;                          // the same figures in a hundred times as long
            const auto& row = table.at(kept.name); // devices, links, crossings, through, aspect
            const Measures m = measured(kept.graph, withDetours(kept.graph, suggested(kept.graph)));
            QCOMPARE(static_cast<double>(kept.graph.nodes.size()), row[0]);
            QVERIFY2(static_cast<double>(m.crossings) <= row[2], kept.name.c_str());
            QVERIFY2(static_cast<double>(m.linksThroughDevices) <= row[3], kept.name.c_str());
            QVERIFY2(std::abs(m.aspect - row[4]) < 0.2 * row[4], kept.name.c_str());
        }
    }
    void what_can_be_drawn_without_crossings_is() {
        for (const auto& [name, graph] : {std::pair{"campus", campusGraph(3, 5, 4)},
                                          {"campus of one", campusGraph(1, 9, 2)},
                                          {"rings", ringsGraph(9, 5)},
                                          {"leaning rings", leaningRingsGraph(5, 4)},
                                          {"tree", treeGraph(5, 3)},
                                          {"roles", campusGraph(5, 3, 2, true)},
                                          {"bare campus", campusGraph(4, 6, 0)}}) {
            const Measures m = measured(graph, suggested(graph));
            QVERIFY2(m.crossings == 0 && m.linksThroughDevices == 0, name);
        }
    }
    void a_fabric_has_no_more_crossings_than_it_must() {
        for (int spines = 2; spines <= 7; ++spines)
            for (int leaves = spines; leaves <= 13; leaves += 3) {
                const Graph graph = fabricGraph(spines, leaves, spines + leaves * 3);
                const Measures m = measured(graph, suggested(graph));
                QCOMPARE(m.crossings,
                         zarankiewicz(static_cast<std::size_t>(spines), static_cast<std::size_t>(leaves)));
                QCOMPARE(m.linksThroughDevices, std::size_t{0});
            }
    }
    void redundant_pairs_stand_at_one_height_in_layers() {
        const Graph graph = campusGraph(3, 4, 3, true);
        const Drawing drawing = suggested(graph, Style::layered);
        QCOMPARE(drawing.at[0].y, drawing.at[1].y); // cores
        QVERIFY(std::abs(drawing.at[0].x - drawing.at[1].x) < 400);
        QCOMPARE(drawing.paths[0].size(), std::size_t{2}); // their link is straight
        QCOMPARE(drawing.paths[0].front().y, drawing.paths[0].back().y);
    }
    void flows_turn_the_same_drawing() {
        const Graph graph = treeGraph(3, 2);
        const auto root = [&](Flow flow) {
            const Drawing drawing = suggested(graph, Style::suggest, flow);
            const Rect all = boundsOf(graph, drawing);
            return (plateOf(graph, drawing, 0).centre() - all.centre());
        };
        QVERIFY(root(Flow::down).y < -20);
        QVERIFY(root(Flow::up).y > 20);
        QVERIFY(root(Flow::right).x < -20);
        QVERIFY(root(Flow::left).x > 20);
    }
    void one_more_leaf_does_not_turn_the_drawing_over() {
        for (const Style style : {Style::suggest, Style::layered, Style::radial}) {
            GraphMaker with;
            Graph before = campusGraph(3, 4, 4), after = before;
            after.nodes.push_back({104, 44, -1});
            after.edges.push_back(
                {6, static_cast<Index>(after.nodes.size() - 1)}); // one more at an access switch
            const double way =
                meanWay(suggested(before, style), suggested(after, style), before.nodes.size());
            QVERIFY2(way < 104, qPrintable(QString::number(way)));
        }
    }
    void spacing_moves_plates_apart_and_ends_stay_on_them() {
        const Graph graph = campusGraph(2, 3, 2);
        Wish wide;
        wide.spacing = 2;
        const Drawing usual = suggested(graph), more = arranged(graph, wide).drawing;
        QVERIFY(boundsOf(graph, more).w > boundsOf(graph, usual).w * 1.1);
        QCOMPARE(measured(graph, more).overlaps, std::size_t{0});
        for (Index e = 0; e < graph.edges.size(); ++e)
            if (!more.paths[e].empty()) {
                QVERIFY(touches(plateOf(graph, more, graph.edges[e].a), more.paths[e].front()));
                QVERIFY(touches(plateOf(graph, more, graph.edges[e].b), more.paths[e].back()));
            }
    }
    void ports_in_order_are_where_lines_leave() {
        Graph graph = treeGraph(3, 1);
        for (std::size_t i = 0; i < graph.edges.size(); ++i)
            graph.edges[i].atA = 90 - 30 * static_cast<double>(i); // the first child has the last port
        const Drawing drawing = suggested(graph);
        for (Index i = 0; i < 3; ++i) {
            QVERIFY(!drawing.paths[i].empty());
            QCOMPARE(drawing.paths[i].front().x - drawing.at[0].x, graph.edges[i].atA);
        }
        QVERIFY(drawing.at[1].x > drawing.at[3].x);
        QCOMPARE(measured(graph, drawing).crossings, std::size_t{0});
    }

    void the_crossings_of_layers_are_counted_right() {
        std::mt19937_64 random(7);
        for (int round = 0; round < 40; ++round) {
            Layering in;
            const std::size_t n = 4 + random() % 8;
            for (std::size_t i = 0; i < n; ++i) {
                in.sizes.push_back({60, 30});
                in.layer.push_back(static_cast<int>(i % 3));
            }
            std::set<std::pair<Index, Index>> have;
            for (std::size_t i = 0; i < 2 * n; ++i) {
                const auto a = static_cast<Index>(random() % n), b = static_cast<Index>(random() % n);
                if (in.layer[a] != in.layer[b] && have.insert(std::minmax(a, b)).second)
                    in.lines.push_back({a, b, -1, -1});
            }
            const Layered out = inLayers(in);
            // From middle to middle through the bends, without plates between.
            std::vector<DrawnLine> lines;
            const double tiny = 0.001;
            for (std::size_t i = 0; i < in.lines.size(); ++i) {
                DrawnLine line{{}, in.lines[i].a, in.lines[i].b};
                const auto end = [&](Index node, bool below) {
                    return PointF{out.at[node].x + 30, out.at[node].y + (below ? 30 - tiny : tiny)};
                };
                const bool down = in.layer[in.lines[i].a] < in.layer[in.lines[i].b];
                line.path.push_back(end(in.lines[i].a, down));
                line.path.insert(line.path.end(), out.bends[i].begin(), out.bends[i].end());
                line.path.push_back(end(in.lines[i].b, !down));
                lines.push_back(std::move(line));
            }
            QCOMPARE(measured({}, lines).crossings, out.crossings);
        }
    }
    void springs_draw_a_grid_without_crossings() {
        Springs springs;
        constexpr Index side = 12;
        for (Index i = 0; i < side * side; ++i) {
            springs.sizes.push_back({60, 30});
            if (i % side + 1 < side)
                springs.lines.emplace_back(i, i + 1);
            if (i + side < side * side)
                springs.lines.emplace_back(i, i + side);
        }
        const auto middles = bySprings(springs);
        std::vector<DrawnLine> lines;
        for (const auto& [a, b] : springs.lines)
            lines.push_back({{middles[a], middles[b]}, a, b});
        QCOMPARE(measured({}, lines).crossings, std::size_t{0});
    }
    void untangling_never_makes_more_crossings() {
        for (const std::uint64_t seed : {1, 2, 3}) {
            const Graph graph = scaleFreeGraph(80, seed);
            Springs springs;
            for (const Node& node : graph.nodes)
                springs.sizes.push_back({node.w, node.h});
            for (const Edge& edge : graph.edges)
                springs.lines.emplace_back(edge.a, edge.b);
            auto middles = bySprings(springs);
            const auto crossings = [&] {
                std::vector<DrawnLine> lines;
                for (const auto& [a, b] : springs.lines)
                    lines.push_back({{middles[a], middles[b]}, a, b});
                return measured({}, lines).crossings;
            };
            const std::size_t before = crossings();
            untangle(springs, middles, 2'000'000);
            QVERIFY(crossings() <= before);
        }
    }
    void lines_go_round_plates_in_their_way() {
        const std::vector<Rect> plates{
            {0, 0, 100, 40}, {600, 0, 100, 40}, {300, -10, 100, 60}, {300, 60, 100, 40}};
        std::vector<DrawnLine> lines{{{{100, 20}, {600, 20}}, 0, 1}};
        QCOMPARE(goRound(plates, lines).size(), std::size_t{1});
        QCOMPARE(measured(plates, lines).linksThroughDevices, std::size_t{0});
        QCOMPARE(lines.front().path.front(), (PointF{100, 20}));
        QCOMPARE(lines.front().path.back(), (PointF{600, 20}));
        QVERIFY(goRound(plates, lines).empty()); // nothing is left to do
    }
    void hostile_graphs_are_drawn_too() {
        // Long chains, caterpillars, chains of rings: nothing may be deeper than a thread has stack.
        const Graph chain = treeGraph(1, 8'000);
        QCOMPARE(measured(chain, suggested(chain)).overlaps, std::size_t{0});
        GraphMaker g;
        Index last = g.node();
        for (int i = 0; i < 1500; ++i) {
            const Index next = g.node(), side = g.node();
            g.link(last, next);
            g.link(last, side);
            g.link(next, side);
            g.link(next, g.node());
            last = next;
        }
        const Graph rings = g.made();
        QCOMPARE(measured(rings, suggested(rings)).overlaps, std::size_t{0});
    }
};

UNDERRIDGE_TEST(LayoutTest)
#include "layout_test.moc"

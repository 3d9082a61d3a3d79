// SPDX-License-Identifier: GPL-3.0-or-later
// Meshes: what is a chain in them, where there is room, and moves that take crossings away.
#include "core/layout/chains.h"
#include "core/layout/measures.h"
#include "core/layout/room.h"
#include "tests/support/graphs.h"
#include "tests/support/registered.h"

#include <random>

using namespace underridge;
using namespace underridge::layout;
using namespace underridge::tests;

namespace {

Springs springsOf(const Graph& graph) {
    Springs out;
    for (const Node& node : graph.nodes)
        out.sizes.push_back({node.w, node.h});
    for (const Edge& edge : graph.edges)
        out.lines.emplace_back(edge.a, edge.b);
    return out;
}

/// A square with its diagonals, of which one side has two nodes in it and one has one.
Springs squareWithChains() {
    return springsOf(typedGraph(7, {{0, 4}, {4, 5}, {5, 1}, {1, 2}, {2, 6}, {6, 3}, {3, 0}, {0, 2}, {1, 3}}));
}

Measures measuredAt(const Springs& in, const std::vector<PointF>& middles) {
    std::vector<Rect> plates;
    for (std::size_t i = 0; i < middles.size(); ++i)
        plates.push_back({middles[i].x - in.sizes[i].x / 2, middles[i].y - in.sizes[i].y / 2, in.sizes[i].x,
                          in.sizes[i].y});
    std::vector<DrawnLine> lines;
    for (const auto& [a, b] : in.lines)
        lines.push_back({{middles[a], middles[b]}, a, b});
    return measured(plates, lines);
}

} // namespace

class UntangleTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void nodes_between_two_others_are_chains() {
        const Branches branches = branchesOf(squareWithChains());
        QCOMPARE(branches.nodes, (std::vector<Index>{0, 1, 2, 3}));
        QCOMPARE(branches.springs.sizes.size(), std::size_t{4});
        QCOMPARE(branches.springs.lines.size(), std::size_t{6}); // all four are joined to one another
        QCOMPARE(branches.chains.size(), std::size_t{2});
        QCOMPARE(branches.chains[0].nodes, (std::vector<Index>{4, 5}));
        QCOMPARE(branches.chains[0].a, Index{0});
        QCOMPARE(branches.chains[0].b, Index{1});
        QCOMPARE(branches.chains[1].nodes, (std::vector<Index>{6}));
    }
    void a_chain_back_to_where_it_came_from_is_no_line() {
        const Branches branches =
            branchesOf(springsOf(typedGraph(5, {{0, 1}, {1, 2}, {2, 0}, {0, 3}, {0, 4}})));
        QCOMPARE(branches.nodes, (std::vector<Index>{0, 3, 4}));
        QCOMPARE(branches.springs.lines.size(), std::size_t{2});
        QCOMPARE(branches.chains.size(), std::size_t{1});
        QCOMPARE(branches.chains[0].a, branches.chains[0].b);
    }
    void of_a_ring_nothing_branches() {
        const Branches branches = branchesOf(springsOf(typedGraph(4, {{0, 1}, {1, 2}, {2, 3}, {3, 0}})));
        QVERIFY(branches.nodes.empty() && branches.chains.empty());
    }
    void every_line_is_in_one_of_them() {
        for (const std::uint64_t seed : {1, 2, 3, 4}) {
            const Springs springs = springsOf(scaleFreeGraph(200, seed));
            const Branches branches = branchesOf(springs);
            std::size_t nodes = branches.nodes.size(), lines = branches.springs.lines.size();
            for (const Chain& chain : branches.chains) {
                nodes += chain.nodes.size();
                lines += chain.nodes.size() + (chain.a == chain.b ? 1 : 0);
            }
            QCOMPARE(nodes, springs.sizes.size());
            QCOMPARE(lines, springs.lines.size());
        }
    }
    void chains_are_put_along_the_line_of_their_ends_where_there_is_room() {
        const Springs springs = squareWithChains();
        const Branches branches = branchesOf(springs);
        std::vector<PointF> at(7);
        at[0] = {0, 0};
        at[1] = {1500, 0};
        at[2] = {1500, 900};
        at[3] = {0, 900};
        putChains(springs, branches, at);
        QCOMPARE(at[0], (PointF{0, 0}));
        QVERIFY(at[4].x < at[5].x);
        for (const Index node : {4U, 5U})
            QVERIFY(std::abs(at[node].y) < 60 && at[node].x > 100 && at[node].x < 1400);
        QVERIFY(std::abs(at[6].y - 900) < 60);
        QCOMPARE(measuredAt(springs, at).overlaps, std::size_t{0});
        auto again = at;
        putChains(springs, branches, again);
        QVERIFY(again == at); // the same for the same seed
    }
    void where_there_is_no_room_on_the_line_it_is_near_by() {
        const Springs springs = squareWithChains();
        const Branches branches = branchesOf(springs);
        std::vector<PointF> at(7);
        at[1] = {150, 0}; // as near as they may be
        at[2] = {150, 90};
        at[3] = {0, 90};
        putChains(springs, branches, at);
        QCOMPARE(measuredAt(springs, at).overlaps, std::size_t{0});
    }
    void room_is_where_nothing_else_is() {
        std::mt19937_64 random(7);
        const auto below = [&](int n) {
            return static_cast<double>(random() % static_cast<std::uint64_t>(n));
        };
        std::vector<PointF> at, sizes;
        for (int i = 0; i < 60; ++i) {
            at.push_back({below(4000), below(2500)});
            sizes.push_back({40 + below(i % 10 == 0 ? 900 : 120), 30 + below(60)});
        }
        constexpr double gap = 20;
        Room taken(at, sizes, gap);
        int free = 0;
        for (int times = 0; times < 2000; ++times) {
            const auto node = static_cast<Index>(random() % at.size());
            const PointF p{below(4400) - 200, below(2900) - 200};
            bool alone = true;
            for (Index j = 0; j < at.size(); ++j)
                alone = alone &&
                        (j == node || std::abs(at[j].x - p.x) >= (sizes[node].x + sizes[j].x) / 2 + gap ||
                         std::abs(at[j].y - p.y) >= (sizes[node].y + sizes[j].y) / 2 + gap);
            QCOMPARE(taken.isFree(node, p), alone);
            if (!alone)
                continue;
            ++free;
            taken.move(node, p);
            at[node] = p;
        }
        QVERIFY2(free > 100, qPrintable(QString::number(free)));
    }
    void more_work_takes_more_crossings_away() {
        std::size_t none = 0, some = 0, much = 0;
        for (const std::uint64_t seed : {1, 2, 3, 4, 5, 6}) {
            Springs springs = springsOf(scaleFreeGraph(90, seed));
            const auto crossings = [&](std::size_t work) {
                auto middles = bySprings(springs);
                untangle(springs, middles, work);
                const Measures m = measuredAt(springs, middles);
                return m.overlaps == 0 ? m.crossings : std::size_t{1} << 40;
            };
            none += crossings(0);
            some += crossings(400'000);
            much += crossings(8'000'000);
        }
        QVERIFY2(some < none && much < some,
                 qPrintable(QStringLiteral("%1 %2 %3").arg(none).arg(some).arg(much)));
        QVERIFY(much < none * 6 / 10);
    }
    void a_mesh_of_few_is_drawn_with_hardly_more_crossings_than_it_needs() {
        GraphMaker g;
        const auto all = g.nodes(6);
        for (std::size_t i = 0; i < all.size(); ++i)
            for (std::size_t j = i + 1; j < all.size(); ++j)
                g.link(all[i], all[j]);
        const Springs springs = springsOf(g.made());
        // Straight lines between all of six cross three times at least (Guy 1960).
        const Measures m = measuredAt(springs, bySpringsUntangled(springs));
        QVERIFY(m.crossings >= 3);
        QVERIFY2(m.crossings <= 4, qPrintable(QString::number(m.crossings)));
        QCOMPARE(m.overlaps, std::size_t{0});
    }
};

UNDERRIDGE_TEST(UntangleTest)
#include "untangle_test.moc"

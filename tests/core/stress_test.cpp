// SPDX-License-Identifier: GPL-3.0-or-later
// Nodes come to stand as far apart as they are in the graph, whatever their number is.
#include "core/layout/stress.h"
#include "tests/support/registered.h"

using namespace underridge::layout;

namespace {

Springs springsOf(Index nodes, std::vector<std::pair<Index, Index>> lines) {
    Springs out;
    out.sizes.assign(nodes, {1, 1});
    out.lines = std::move(lines);
    return out;
}
Springs chainOf(Index nodes) {
    std::vector<std::pair<Index, Index>> lines;
    for (Index i = 0; i + 1 < nodes; ++i)
        lines.emplace_back(i, i + 1);
    return springsOf(nodes, std::move(lines));
}
Springs gridOf(Index side) {
    std::vector<std::pair<Index, Index>> lines;
    for (Index i = 0; i < side * side; ++i) {
        if (i % side + 1 < side)
            lines.emplace_back(i, i + 1);
        if (i + side < side * side)
            lines.emplace_back(i, i + side);
    }
    return springsOf(side * side, std::move(lines));
}
double between(const std::vector<PointF>& at, Index a, Index b) {
    return underridge::scene::length(at[a] - at[b]);
}

} // namespace

class StressTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_chain_is_as_long_as_it_is() {
        for (const Index nodes : {2U, 3U, 4U, 5U, 8U, 9U, 63U, 64U, 65U, 130U}) { // rounds of each size
            const auto at = leastStress(chainOf(nodes));
            const double length = nodes - 1;
            const QByteArray said = QByteArray::number(nodes) +
                                    " in a chain: " + QByteArray::number(between(at, 0, nodes - 1)) + " long";
            QVERIFY2(std::abs(between(at, 0, nodes - 1) / length - 1) < 0.15, said.constData());
            for (Index i = 0; i + 1 < nodes; ++i)
                QVERIFY2(std::abs(between(at, i, i + 1) - 1) < 0.5, said.constData());
        }
    }
    void every_pair_is_pulled_to_its_distance() {
        for (const Index side : {5U, 6U, 12U}) { // odd, even, and more than are looked from at once
            const Springs grid = gridOf(side);
            const auto at = leastStress(grid);
            double off = 0, pairs = 0;
            for (Index a = 0; a < side * side; ++a)
                for (Index b = a + 1; b < side * side; ++b) {
                    const auto apart = [&](Index x, Index y) { return x > y ? x - y : y - x; };
                    const double far = apart(a % side, b % side) + apart(a / side, b / side);
                    const double share = between(at, a, b) / far - 1;
                    off += share * share;
                    ++pairs;
                }
            // A square of city blocks has no better picture than one some fifth off.
            QVERIFY2(std::sqrt(off / pairs) < 0.25, QByteArray::number(std::sqrt(off / pairs)).constData());
        }
    }
    void what_no_lines_lead_to_is_not_pulled_there() {
        const auto at = leastStress(springsOf(6, {{0, 1}, {1, 2}, {3, 4}, {4, 5}}));
        for (const auto& [a, b] : {std::pair{0U, 1U}, {1U, 2U}, {3U, 4U}, {4U, 5U}})
            QVERIFY(std::abs(between(at, a, b) - 1) < 0.1);
        QVERIFY(std::abs(between(at, 0, 2) - 2) < 0.1);
    }
    void of_many_nodes_neighbours_stand_next_to_one_another() {
        const Springs grid = gridOf(30);
        const auto at = leastStress(grid);
        double sum = 0;
        for (const auto& [a, b] : grid.lines)
            sum += between(at, a, b);
        const double mean = sum / static_cast<double>(grid.lines.size());
        QVERIFY2(mean > 0.6 && mean < 1.5, QByteArray::number(mean).constData());
        QVERIFY(between(at, 0, 899) > 25); // corner to corner it is 58 lines, 41 as the crow flies
    }
    void the_same_comes_of_the_same_seed_and_another_of_another() {
        Springs grid = gridOf(7);
        const auto once = leastStress(grid);
        QVERIFY(leastStress(grid) == once);
        grid.seed = 2;
        QVERIFY(leastStress(grid) != once);
    }
    void one_node_and_none_stand_somewhere() {
        QCOMPARE(leastStress(springsOf(0, {})).size(), std::size_t{0});
        QCOMPARE(leastStress(springsOf(1, {})).size(), std::size_t{1});
    }
};

UNDERRIDGE_TEST(StressTest)
#include "stress_test.moc"

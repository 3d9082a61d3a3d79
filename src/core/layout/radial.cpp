// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/parts.h"
#include "core/layout/spring.h"

#include <cmath>
#include <numbers>

namespace underridge::layout {

Index anchorOf(const Graph& graph, const Neighbours& near, const std::vector<Index>& part) {
    int tier = -1;
    std::size_t edges = 0;
    for (const Index node : part) {
        tier = std::max(tier, graph.nodes[node].tier);
        edges += near.degree(node);
    }
    std::vector<Index> high;
    for (const Index node : part)
        if (graph.nodes[node].tier == tier)
            high.push_back(node);
    if (high.size() == 1)
        return high.front();
    if (edges / 2 + 1 == part.size()) {
        // A tree: leaves are taken off until its middle is left.
        std::vector<std::size_t> left(graph.nodes.size()), round(graph.nodes.size(), 0);
        std::vector<Index> order;
        for (const Index node : part) {
            left[node] = near.degree(node);
            if (left[node] <= 1)
                order.push_back(node);
        }
        for (std::size_t i = 0; i < order.size(); ++i)
            for (const auto& to : near.of(order[i]))
                if (--left[to.node] == 1) {
                    round[to.node] = round[order[i]] + 1;
                    order.push_back(to.node);
                }
        // Of two that are taken off last the better connected.
        Index middle = none;
        for (std::size_t i = order.size(); i-- > 0;)
            if (const Index node = order[i]; graph.nodes[node].tier == tier) {
                if (middle != none && round[node] < round[middle])
                    break;
                if (middle == none || near.degree(node) > near.degree(middle))
                    middle = node;
            }
        return middle;
    }
    Index best = high.front();
    for (const Index node : high)
        if (near.degree(node) > near.degree(best))
            best = node;
    return best;
}

void drawRadial(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
                Drawing& drawing) {
    const Index anchor = wish.anchor != none ? wish.anchor : anchorOf(graph, near, part);
    // By distance from the anchor; each hangs on the first neighbour nearer to it.
    std::vector<Index> order{anchor}, above(graph.nodes.size(), none);
    std::vector<int> level(graph.nodes.size(), -1);
    level[anchor] = 0;
    for (std::size_t i = 0; i < order.size(); ++i)
        for (const auto& to : near.of(order[i]))
            if (level[to.node] < 0) {
                level[to.node] = level[order[i]] + 1;
                above[to.node] = order[i];
                order.push_back(to.node);
            }
    // How much of the circle each needs: its leaves, or its own width at its distance.
    constexpr double gap = 24;
    std::vector<double> weight(graph.nodes.size(), 0);
    std::vector<std::vector<Index>> below(graph.nodes.size());
    std::vector<double> deep; // the highest plate of each level
    for (const Index node : order) {
        const auto l = static_cast<std::size_t>(level[node]);
        deep.resize(std::max(deep.size(), l + 1));
        deep[l] = std::max(deep[l], std::hypot(graph.nodes[node].w, graph.nodes[node].h));
        if (above[node] != none)
            below[above[node]].push_back(node);
    }
    for (std::size_t i = order.size(); i-- > 0;) {
        const Index node = order[i];
        // Far out a plate takes less of the circle.
        weight[node] =
            std::max(weight[node], (std::max(graph.nodes[node].w * 0.8, graph.nodes[node].h) + gap) /
                                       std::max(1, level[node]));
        if (above[node] != none)
            weight[above[node]] += weight[node];
    }
    double perLevel = 0; // radius by level for which all have room
    for (const Index child : below[anchor])
        perLevel += weight[child];
    perLevel /= 2 * std::numbers::pi;
    std::vector<double> radius(deep.size(), 0);
    for (std::size_t l = 1; l < deep.size(); ++l)
        radius[l] =
            std::max(radius[l - 1] + (deep[l - 1] + deep[l]) / 2 + gap, perLevel * static_cast<double>(l));
    std::vector<double> from(graph.nodes.size(), 0), wide(graph.nodes.size(), 2 * std::numbers::pi);
    from[anchor] = -std::numbers::pi / 2;
    for (const Index node : order) {
        const double middle = from[node] + wide[node] / 2;
        const double r = radius[static_cast<std::size_t>(level[node])];
        drawing.at[node] = PointF{std::cos(middle) * r, std::sin(middle) * r} -
                           PointF{graph.nodes[node].w / 2, graph.nodes[node].h / 2};
        double sum = 0, at = from[node];
        for (const Index child : below[node])
            sum += weight[child];
        for (const Index child : below[node]) {
            from[child] = at;
            wide[child] = wide[node] * weight[child] / sum;
            at += wide[child];
        }
    }
    Springs in;
    in.aspect = wish.aspect;
    std::vector<PointF> middles;
    for (const Index node : order) {
        in.sizes.push_back({graph.nodes[node].w, graph.nodes[node].h});
        middles.push_back(plateOf(graph, drawing, node).centre());
    }
    separate(in, middles);
    for (std::size_t i = 0; i < order.size(); ++i)
        drawing.at[order[i]] = middles[i] - in.sizes[i] * 0.5;
}

} // namespace underridge::layout

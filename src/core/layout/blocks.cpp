// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/blocks.h"

namespace underridge::layout {

BlockTree blocksOf(const Graph& graph, const Neighbours& near, Index anchor) {
    BlockTree tree;
    tree.below.resize(graph.nodes.size());
    std::vector<Index> number(graph.nodes.size(), none), low(graph.nodes.size(), none);
    struct Step {
        Index node, from; ///< from: the edge it was reached by
        std::size_t next = 0;
    };
    std::vector<Step> steps{{anchor, none, 0}};
    std::vector<Index> nodes, edges; // not yet in a block
    std::vector<std::size_t> edgesBefore;
    Index count = 0;
    number[anchor] = low[anchor] = count++;
    edgesBefore.push_back(0);
    while (!steps.empty()) {
        Step& step = steps.back();
        const auto around = near.of(step.node);
        if (step.next < around.size()) {
            const auto to = around[step.next++];
            if (to.edge == step.from)
                continue;
            if (number[to.node] == none) {
                number[to.node] = low[to.node] = count++;
                nodes.push_back(to.node);
                edgesBefore.push_back(edges.size());
                edges.push_back(to.edge);
                steps.push_back({to.node, to.edge, 0});
            } else if (number[to.node] < number[step.node]) {
                edges.push_back(to.edge);
                low[step.node] = std::min(low[step.node], number[to.node]);
            }
            continue;
        }
        const Index done = step.node;
        steps.pop_back();
        const std::size_t before = edgesBefore.back();
        edgesBefore.pop_back();
        if (steps.empty())
            break;
        const Index above = steps.back().node;
        low[above] = std::min(low[above], low[done]);
        if (low[done] < number[above])
            continue;
        Block block;
        block.above = above;
        while (block.nodes.empty() || block.nodes.back() != done) {
            block.nodes.push_back(nodes.back());
            nodes.pop_back();
        }
        block.edges.assign(edges.begin() + static_cast<std::ptrdiff_t>(before), edges.end());
        edges.resize(before);
        std::sort(block.nodes.begin(), block.nodes.end());
        std::sort(block.edges.begin(), block.edges.end());
        tree.below[above].push_back(static_cast<Index>(tree.blocks.size()));
        tree.blocks.push_back(std::move(block));
    }
    for (auto& below : tree.below)
        std::sort(below.begin(), below.end(), [&](Index x, Index y) {
            return tree.blocks[x].nodes.front() < tree.blocks[y].nodes.front();
        });
    return tree;
}

} // namespace underridge::layout

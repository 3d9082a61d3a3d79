// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/composer.h"
#include "core/layout/parts.h"
#include "core/layout/spring.h"

namespace underridge::layout {

void drawSprings(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
                 Drawing& drawing) {
    Springs in;
    in.seed = wish.seed;
    in.aspect = wish.aspect;
    in.wanted = wish.wanted;
    for (const Index node : part)
        in.sizes.push_back({graph.nodes[node].w, graph.nodes[node].h});
    std::vector<Index> place(graph.nodes.size(), none);
    for (std::size_t i = 0; i < part.size(); ++i)
        place[part[i]] = static_cast<Index>(i);
    for (const Index node : part)
        for (const auto& to : near.of(node))
            if (node < to.node)
                in.lines.emplace_back(place[node], place[to.node]);
    const auto middles = bySpringsUntangled(in);
    for (std::size_t i = 0; i < part.size(); ++i)
        drawing.at[part[i]] = middles[i] - in.sizes[i] * 0.5;
}

void drawRound(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
               Drawing& drawing) {
    const Index anchor = wish.anchor != none ? wish.anchor : anchorOf(graph, near, part);
    const BlockTree tree = blocksOf(graph, near, anchor);
    // What is no tree goes round the circle.
    std::vector<Index> round{anchor};
    for (const Block& block : tree.blocks)
        if (block.nodes.size() > 1) {
            round.push_back(block.above);
            round.insert(round.end(), block.nodes.begin(), block.nodes.end());
        }
    std::sort(round.begin(), round.end());
    round.erase(std::unique(round.begin(), round.end()), round.end());
    BlockTree hanging;
    hanging.below.resize(graph.nodes.size());
    for (const Block& block : tree.blocks)
        if (block.nodes.size() == 1 && !std::binary_search(round.begin(), round.end(), block.nodes.front())) {
            hanging.below[block.above].push_back(static_cast<Index>(hanging.blocks.size()));
            hanging.blocks.push_back(block);
        }
    // One after the other, next the one with the fewest lines still open (Baur and Brandes).
    std::vector<int> joined(graph.nodes.size(), 0);
    std::vector<bool> placed(graph.nodes.size(), false);
    std::vector<Index> order;
    const auto isRound = [&](Index node) { return std::binary_search(round.begin(), round.end(), node); };
    std::vector<Index> open{anchor};
    while (order.size() < round.size()) {
        Index best = none;
        std::size_t at = 0;
        for (std::size_t i = 0; i < open.size(); ++i) {
            const auto rest = [&](Index node) {
                return static_cast<int>(near.degree(node)) - 2 * joined[node];
            };
            if (best == none || rest(open[i]) < rest(best) ||
                (rest(open[i]) == rest(best) && open[i] < best)) {
                best = open[i];
                at = i;
            }
        }
        if (best == none) {
            for (const Index node : round)
                if (!placed[node]) {
                    best = node;
                    break;
                }
        } else {
            open.erase(open.begin() + static_cast<std::ptrdiff_t>(at));
        }
        placed[best] = true;
        order.push_back(best);
        for (const auto& to : near.of(best))
            if (isRound(to.node) && !placed[to.node]) {
                if (joined[to.node]++ == 0 && std::find(open.begin(), open.end(), to.node) == open.end())
                    open.push_back(to.node);
            }
    }
    Composer composer(graph, near, hanging, wish);
    if (order.size() < 3) {
        const Cell cell = composer.cell(anchor, false);
        composer.finish(cell.box, Flow::down, part, drawing);
        return;
    }
    composer.finish(composer.circle(order), Flow::down, part, drawing);
}

} // namespace underridge::layout

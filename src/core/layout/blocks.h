// SPDX-License-Identifier: GPL-3.0-or-later
// What hangs together in a connected part: its blocks (the largest pieces that stay together
// whichever one device is taken away), and which block hangs on which device, seen from an
// anchor. A cable to a leaf is a block of two.
#pragma once
#include "core/layout/graph.h"

namespace underridge::layout {

struct Block {
    Index above = 0;          ///< the device through which it hangs on the anchor
    std::vector<Index> nodes; ///< all others, in their order
    std::vector<Index> edges; ///< among its nodes, and to the one above
};

struct BlockTree {
    std::vector<Block> blocks;             ///< a block comes after all that hang on it
    std::vector<std::vector<Index>> below; ///< of each node: the blocks that hang on it

    const std::vector<Index>& at(Index node) const { return below[node]; }
};

/// Of the part `anchor` is in, by depth-first search (Hopcroft and Tarjan 1973). Linear.
BlockTree blocksOf(const Graph& graph, const Neighbours& near, Index anchor);

} // namespace underridge::layout

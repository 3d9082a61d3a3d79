// SPDX-License-Identifier: GPL-3.0-or-later
// Nodes with two lines only, in rows from one branching node to another: such a row is drawn as
// one line, and where it lies follows from its ends.
#pragma once
#include "core/layout/spring.h"

namespace underridge::layout {

struct Chain {
    Index a = 0, b = 0;       ///< the branching nodes at its ends
    std::vector<Index> nodes; ///< from a to b
};

/// Springs without the nodes of chains, and each chain as one line.
struct Branches {
    Springs springs;
    std::vector<Index> nodes; ///< which those of `springs` were
    std::vector<Chain> chains;
};

/// Nodes of a ring that nothing branches from are in none of it.
Branches branchesOf(const Springs& springs);

/// Puts the nodes of chains between their ends, as near to the straight line as there is room.
/// `middles`: where branching nodes stand; the others follow.
void putChains(const Springs& springs, const Branches& branches, std::vector<PointF>& middles);

} // namespace underridge::layout

// SPDX-License-Identifier: GPL-3.0-or-later
// Which room nodes of several sizes take, for where there is some left: behind spring.h.
#pragma once
#include "core/layout/graph.h"

namespace underridge::layout {

/// Middles and sizes as plain numbers in rows: all are looked at, which is quicker than any index up to some
/// thousand of them.
class Room {
public:
    /// Nodes are apart by `gap` at least.
    Room(const std::vector<PointF>& at, const std::vector<PointF>& sizes, double gap);
    /// A node stands elsewhere.
    void move(Index node, PointF to);
    /// Whether a node has room there, as all others stand.
    bool isFree(Index node, PointF p) const;

private:
    int taken(float x, float y, float w, float h) const;

    std::vector<float> x_, y_, w_, h_; ///< middles, and half of the room each takes
};

} // namespace underridge::layout

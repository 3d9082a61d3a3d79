// SPDX-License-Identifier: GPL-3.0-or-later
// What is arranged: plates of a size, and the lines between them. Every style reads a Graph
// and gives a Drawing of it; neither knows of networks.
#pragma once
#include "core/scene/geometry.h"

#include <cstdint>
#include <span>
#include <vector>

namespace underridge::layout {

using scene::PointF;
using scene::Rect;

using Index = std::uint32_t;
inline constexpr Index none = ~Index{0};

/// Nodes come in the order in which they are read: by name. Where nothing else decides, they
/// are drawn in it.
struct Node {
    double w = 0, h = 0;
    int tier = -1; ///< how near to where the network comes from, by its role; -1: not known
};

/// All links between two nodes: they run side by side.
struct Edge {
    Index a = 0, b = 0;
    double atA = -1, atB = -1; ///< where the tick of its port is, from the left of the plate; -1: not known
    int links = 1;
};

struct Graph {
    std::vector<Node> nodes;
    std::vector<Edge> edges; ///< between two nodes at most one, and none from a node to itself
};

/// The edges at each node, and their other ends.
class Neighbours {
public:
    struct To {
        Index node = 0, edge = 0;
    };
    explicit Neighbours(const Graph& graph);
    std::span<const To> of(Index node) const {
        return {to_.data() + from_[node], to_.data() + from_[node + 1]};
    }
    std::size_t degree(Index node) const { return from_[node + 1] - from_[node]; }

private:
    std::vector<std::size_t> from_;
    std::vector<To> to_;
};

struct Drawing {
    std::vector<PointF> at; ///< upper left corners, of each node
    /// Of each edge from the border of a's plate to the border of b's; empty: straight.
    std::vector<std::vector<PointF>> paths;
};

/// The nodes of each connected part in their order; parts in the order of their first nodes.
std::vector<std::vector<Index>> partsOf(const Graph& graph, const Neighbours& near);

/// Where a straight line from a plate towards a point leaves it: in the middle of a side.
PointF leavingSide(const Rect& plate, PointF towards);
/// The path of each edge as it is drawn: its own, or straight.
std::vector<PointF> pathOf(const Graph& graph, const Drawing& drawing, Index edge);

inline Rect plateOf(const Graph& graph, const Drawing& drawing, Index node) {
    return {drawing.at[node].x, drawing.at[node].y, graph.nodes[node].w, graph.nodes[node].h};
}
/// Of all plates and paths.
Rect boundsOf(const Graph& graph, const Drawing& drawing);

} // namespace underridge::layout

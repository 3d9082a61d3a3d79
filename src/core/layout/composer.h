// SPDX-License-Identifier: GPL-3.0-or-later
// The makers of boxes behind compose(): not for others.
#pragma once
#include "core/layout/blocks.h"
#include "core/layout/boxes.h"
#include "core/layout/styles.h"

#include <optional>

namespace underridge::layout {

/// Distances between what stands side by side and below one another.
inline constexpr double besideGap = 24, rowGap = 28, trackPitch = 6, trackMargin = 14, fanGap = 56;

/// A device with what hangs on it, below.
struct Cell {
    std::size_t box = 0;
    Rect plate;
};

/// A line that leaves a piece over its upper or lower border.
struct Stub {
    Index edge = 0;
    bool below = false;
    std::vector<PointF> path; ///< from the border to the plate
};

/// A line that has to leave a piece, in the order wanted on the border.
struct Outward {
    Index edge = 0;
    Index inner = 0; ///< the device in the piece
    bool below = false;
};

/// A piece with several devices.
struct Piece {
    std::size_t box = 0;
    std::vector<Stub> stubs; ///< of all outward lines it has ways for
};

/// A ring taken to pieces: nodes in their order, and rings that lean on it.
struct RingOrder {
    struct Ear {
        std::size_t from = 0, to = 0; ///< the nodes of the part it goes between
        std::vector<Index> nodes;     ///< in order
    };
    struct Part {
        std::vector<Index> nodes; ///< one, or all that ears go over
        std::vector<Ear> ears;    ///< side by side
    };
    std::vector<Part> parts;
    Index above = none; ///< closes it, and is drawn elsewhere

    bool empty() const { return parts.empty(); }
    std::size_t around() const {
        std::size_t sum = above == none ? 0 : 1;
        for (const Part& part : parts)
            sum += part.nodes.size();
        return sum;
    }
};

struct Ring {
    std::size_t box = 0;
    Rect first, last; ///< plates at the ends of an open one
};

class Composer {
public:
    /// `share`: times the aspect wanted of the whole, for its pieces and for the ring it is.
    Composer(const Graph& graph, const Neighbours& near, const BlockTree& tree, const Wish& asked,
             double share = 1)
        : graph_(graph),
          near_(near),
          tree_(tree),
          asked_(asked),
          share_(share),
          mark_(graph.nodes.size(), 0),
          weight_(graph.nodes.size(), 1) {
        for (const Block& block : tree.blocks) // those that hang on others come first
            for (const Index node : block.nodes)
                weight_[block.above] += weight_[node];
    }

    /// A device and all that hangs on it.
    Cell cell(Index node, bool turned);
    /// A block that hangs on its device no more: it is drawn for itself.
    void leaveOut(Index block) { leftOut_.push_back(block); }
    /// Devices that hang together. `turned`: width and height are changed over.
    Piece piece(const std::vector<Index>& nodes, const std::vector<Outward>& outward, bool turned);
    /// Pieces side by side, each of nodes that hang together.
    Piece beside(std::vector<std::vector<Index>> pieces, const std::vector<Outward>& outward);
    /// A ring, clockwise from its upper left.
    Ring ring(const RingOrder& order, bool turned);
    /// Devices on an ellipse whatever lines there are among them, what hangs on them outside.
    std::size_t circle(const std::vector<Index>& order);

    /// No ladders from here on: what is neither tree nor ring is a mesh.
    void onlyMeshes() { onlyMeshes_ = true; }

    const Boxes& boxes() const { return boxes_; }
    /// Puts a box that holds a part into the drawing, from the origin, turned as it flows.
    void finish(std::size_t box, Flow flow, const std::vector<Index>& part, Drawing& drawing) const;
    void finish(Box box, Flow flow, const std::vector<Index>& part, Drawing& drawing) {
        finish(boxes_.add(std::move(box)), flow, part, drawing);
    }
    Composed found;

    /// A block as a ring, empty when it is none. `above`: the node it hangs on, where that is
    /// drawn elsewhere, else `none`.
    RingOrder ringOf(const std::vector<Index>& nodes, const std::vector<Index>& edges, Index above) const;

private:
    /// A device with everything that hangs on it in plain rows: where pieces hang on pieces
    /// deeper than a thread has stack for.
    Cell heap(Index node, bool turned);
    struct Hung;
    struct Poles;
    class Ladder;
    struct Slot;
    Hung hungOf(const Block& block, bool turned);
    Hung hungRing(const Block& block, const RingOrder& order, bool turned);
    Slot slot(const RingOrder::Part& part, bool backwards, bool turned);
    std::optional<Box> ellipse(const RingOrder& order, bool turned, Ring& out);
    Poles polesOf(const std::vector<Index>& nodes);
    Piece ladder(const Poles& poles, const std::vector<Outward>& outward, bool turned);
    Piece single(Index node, const std::vector<Outward>& outward, bool turned);
    Piece mesh(const std::vector<Index>& nodes, const std::vector<Outward>& outward, bool turned);
    std::vector<std::vector<Index>> without(const std::vector<Index>& nodes, const std::vector<Index>& poles);

    PointF plateSize(Index node, bool turned) const {
        const Node& n = graph_.nodes[node];
        return turned ? PointF{n.h, n.w} : PointF{n.w, n.h};
    }
    double tickOf(Index edge, Index node, bool turned) const {
        if (edge >= graph_.edges.size())
            return -1; // it leaves the whole
        const Edge& e = graph_.edges[edge];
        return turned ? -1 : e.a == node ? e.atA : e.atB;
    }
    Index otherEnd(Index edge, Index node) const {
        const Edge& e = graph_.edges[edge];
        return e.a == node ? e.b : e.a;
    }
    bool isLeftOut(Index block) const {
        return std::find(leftOut_.begin(), leftOut_.end(), block) != leftOut_.end();
    }
    bool hangsOn(Index node) const {
        const auto& below = tree_.at(node);
        return below.size() > 1 || (below.size() == 1 && !isLeftOut(below.front()));
    }
    double wish(bool turned) const {
        const double aspect = depth_ <= 1 ? asked_.aspect : asked_.aspect * share_;
        return turned ? 1 / aspect : aspect;
    }

    const Graph& graph_;
    const Neighbours& near_;
    const BlockTree& tree_;
    const Wish& asked_;
    double share_;
    Boxes boxes_;
    std::vector<Index> mark_;
    std::vector<double> weight_; ///< of each node: how many it and all that hangs on it are
    Index stamp_ = 0;
    int depth_ = 0;              ///< of the piece or cell that is being made
    std::vector<Index> leftOut_; ///< one for each part at most
    bool onlyMeshes_ = false;
};

/// A part of a ring, with its ends.
struct Composer::Slot {
    std::size_t box = 0;
    Rect first, last;
    PointF size;
};

struct Composer::Hung {
    struct Entry {
        Index edge = 0;
        std::vector<PointF> path; ///< from the upper border of its box to the plate
    };
    std::size_t box = 0;
    PointF size;
    std::vector<Entry> entries; ///< by place on the border
};

struct Composer::Poles {
    std::vector<Index> left, right;
    std::vector<std::vector<Index>> between; ///< what is joined to them, in order
};

} // namespace underridge::layout

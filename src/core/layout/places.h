// SPDX-License-Identifier: GPL-3.0-or-later
// Where nodes are, for who is near: behind spring.h.
#pragma once
#include "core/layout/buckets.h"

namespace underridge::layout {

/// Nodes in a grid, for who is near.
class Places {
public:
    Places(const std::vector<PointF>& at, double side)
        : cells_(around(at, side), std::max(side, sideFor(around(at, side), at.size() * 2))) {
        for (Index i = 0; i < at.size(); ++i)
            cells_.add(cells_.cellAt(at[i]), i);
    }
    template <class Each>
    void forEachNear(PointF p, PointF reach, Each each) const {
        cells_.over({p.x - reach.x, p.y - reach.y, 2 * reach.x, 2 * reach.y}, [&](std::size_t cell) {
            for (const Index i : cells_.in(cell))
                each(i);
        });
    }

private:
    static Rect around(const std::vector<PointF>& at, double side) {
        return scene::boundsOf(at).grown(side * 2);
    }
    Buckets cells_;
};

/// Which room nodes of several sizes take as they come, by an index: for very many, of which most stand far
/// away. Where all lines are looked at anyway, and nodes move, Room is quicker.
class Footprints {
public:
    /// Nodes are apart by `gap` at least. `stands`: only these are there yet; empty: all.
    Footprints(const std::vector<PointF>& at, const std::vector<PointF>& sizes, double gap,
               const std::vector<bool>& stands = {})
        : at_(at),
          sizes_(sizes),
          gap_(gap),
          cells_(around(at, sizes),
                 std::max(40.0, std::max(mean(sizes) + gap, sideFor(around(at, sizes), at.size() * 2)))) {
        for (Index i = 0; i < at.size(); ++i)
            if (stands.empty() || stands[i])
                put(i, at[i]);
    }
    void put(Index node, PointF at) {
        cells_.over(rectOf(node, at, 0), [&](std::size_t cell) { cells_.add(cell, node); });
    }
    /// Whether a node has room there, as all others stand.
    bool isFree(Index node, PointF p) const {
        bool free = true;
        cells_.over(rectOf(node, p, gap_), [&](std::size_t cell) {
            for (const Index j : cells_.in(cell)) {
                const PointF d = at_[j] - p;
                free = free && (j == node || std::abs(d.x) >= (sizes_[node].x + sizes_[j].x) / 2 + gap_ ||
                                std::abs(d.y) >= (sizes_[node].y + sizes_[j].y) / 2 + gap_);
            }
        });
        return free;
    }

private:
    static double mean(const std::vector<PointF>& sizes) {
        double sum = 0;
        for (const PointF size : sizes)
            sum += (size.x + size.y) / 2;
        return sum / static_cast<double>(std::max<std::size_t>(1, sizes.size()));
    }
    static Rect around(const std::vector<PointF>& at, const std::vector<PointF>& sizes) {
        Rect all = scene::boundsOf(at);
        double most = 0;
        for (const PointF size : sizes)
            most = std::max({most, size.x, size.y});
        return all.grown(most);
    }
    Rect rectOf(Index node, PointF p, double more) const {
        const PointF size = sizes_[node] + PointF{2 * more, 2 * more};
        return {p.x - size.x / 2, p.y - size.y / 2, size.x, size.y};
    }

    const std::vector<PointF>& at_;
    const std::vector<PointF>& sizes_;
    double gap_;
    Buckets cells_;
};

inline PointF largest(const std::vector<PointF>& sizes) {
    PointF out;
    for (const PointF size : sizes)
        out = {std::max(out.x, size.x), std::max(out.y, size.y)};
    return out;
}

} // namespace underridge::layout

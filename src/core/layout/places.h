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
    void move(Index node, PointF from, PointF to) {
        cells_.remove(cells_.cellAt(from), node);
        cells_.add(cells_.cellAt(to), node);
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

inline PointF largest(const std::vector<PointF>& sizes) {
    PointF out;
    for (const PointF size : sizes)
        out = {std::max(out.x, size.x), std::max(out.y, size.y)};
    return out;
}

} // namespace underridge::layout

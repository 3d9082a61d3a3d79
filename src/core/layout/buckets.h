// SPDX-License-Identifier: GPL-3.0-or-later
// What lies where: numbers in the cells of a grid, for things that have a place and for lines.
#pragma once
#include "core/layout/graph.h"

#include <algorithm>
#include <cmath>

namespace underridge::layout {

class Buckets {
public:
    /// Cells of about `side`, larger where the rectangle would have more than four million.
    Buckets(const Rect& all, double side)
        : origin_{all.x, all.y},
          side_(std::max({side, all.w / 2000, all.h / 2000, 1.0})),
          columns_(static_cast<int>(all.w / side_) + 1),
          rows_(static_cast<int>(all.h / side_) + 1),
          cells_(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(rows_)) {}

    std::size_t count() const { return cells_.size(); }
    std::size_t cellAt(PointF p) const { return index(column(p.x), row(p.y)); }
    const std::vector<Index>& in(std::size_t cell) const { return cells_[cell]; }

    void add(std::size_t cell, Index what) { cells_[cell].push_back(what); }

    /// The cells a rectangle lies in.
    template <class Each>
    void over(const Rect& rect, Each each) const {
        const int left = column(rect.x), right = column(rect.right());
        for (int r = row(rect.y), last = row(rect.bottom()); r <= last; ++r)
            for (int c = left; c <= right; ++c)
                each(index(c, r));
    }
    /// The cells a segment goes through, row by row.
    template <class Each>
    void along(PointF a, PointF b, Each each) const {
        if (a.y > b.y)
            std::swap(a, b);
        const int last = row(b.y);
        const double slope = b.y - a.y > 1e-9 ? (b.x - a.x) / (b.y - a.y) : 0;
        for (int r = row(a.y); r <= last; ++r) {
            const double top = origin_.y + r * side_;
            double x1 = a.x, x2 = b.x;
            if (b.y - a.y > 1e-9) {
                x1 = a.x + slope * (std::max(top, a.y) - a.y);
                x2 = a.x + slope * (std::min(top + side_, b.y) - a.y);
            }
            for (int c = column(std::min(x1, x2)), end = column(std::max(x1, x2)); c <= end; ++c)
                each(index(c, r));
        }
    }

private:
    int column(double x) const {
        return std::clamp(static_cast<int>((x - origin_.x) / side_), 0, columns_ - 1);
    }
    int row(double y) const { return std::clamp(static_cast<int>((y - origin_.y) / side_), 0, rows_ - 1); }
    std::size_t index(int column, int row) const {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>(columns_) +
               static_cast<std::size_t>(column);
    }

    PointF origin_;
    double side_;
    int columns_, rows_;
    std::vector<std::vector<Index>> cells_;
};

/// A side with which about `count` cells cover a rectangle.
inline double sideFor(const Rect& all, std::size_t count) {
    return std::sqrt(all.w * all.h / static_cast<double>(std::max<std::size_t>(count, 1)));
}

} // namespace underridge::layout

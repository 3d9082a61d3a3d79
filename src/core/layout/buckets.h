// SPDX-License-Identifier: GPL-3.0-or-later
// What lies where: numbers in the cells of a grid, for things that have a place and for lines.
#pragma once
#include "core/layout/graph.h"

#include <algorithm>
#include <cmath>

namespace underridge::layout {

/// What is in a cell is chained through one list of all, so that a grid costs two pieces of memory however
/// many cells it has.
class Buckets {
    struct Held {
        Index what, next;
    };
    struct Chain {
        Index first = none, last = none;
    };

public:
    /// What is in a cell, in the order it came.
    class Cell {
    public:
        class Iterator {
        public:
            Iterator(const Held* all, Index at) : all_(all), at_(at) {}
            Index operator*() const { return all_[at_].what; }
            Iterator& operator++() {
                at_ = all_[at_].next;
                return *this;
            }
            bool operator==(const Iterator& o) const { return at_ == o.at_; }

        private:
            const Held* all_;
            Index at_;
        };
        Cell(const Held* all, Index first) : all_(all), first_(first) {}
        Iterator begin() const { return {all_, first_}; }
        Iterator end() const { return {all_, none}; }

    private:
        const Held* all_;
        Index first_;
    };

    /// Cells of about `side`, larger where the rectangle would have more than four million.
    Buckets(const Rect& all, double side)
        : origin_{all.x, all.y},
          side_(std::max({side, all.w / 2000, all.h / 2000, 1.0})),
          columns_(static_cast<int>(all.w / side_) + 1),
          rows_(static_cast<int>(all.h / side_) + 1),
          cells_(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(rows_)) {}

    std::size_t count() const { return cells_.size(); }
    std::size_t cellAt(PointF p) const { return index(column(p.x), row(p.y)); }
    Cell in(std::size_t cell) const { return {held_.data(), cells_[cell].first}; }

    void add(std::size_t cell, Index what) {
        const auto at = static_cast<Index>(held_.size());
        held_.push_back({what, none});
        Chain& chain = cells_[cell];
        (chain.first == none ? chain.first : held_[chain.last].next) = at;
        chain.last = at;
    }

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
    std::vector<Chain> cells_;
    std::vector<Held> held_; ///< of all cells, as they came
};

/// A side with which about `count` cells cover a rectangle.
inline double sideFor(const Rect& all, std::size_t count) {
    return std::sqrt(all.w * all.h / static_cast<double>(std::max<std::size_t>(count, 1)));
}

} // namespace underridge::layout

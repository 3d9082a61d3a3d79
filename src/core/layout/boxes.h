// SPDX-License-Identifier: GPL-3.0-or-later
// Arrangements put together from smaller ones: a box holds plates, lines and turned boxes.
// Whatever makes a box draws downwards, from its upper left corner; whoever puts it into
// another says which way it is turned.
#pragma once
#include "core/layout/graph.h"

namespace underridge::layout {

enum class Turn : std::uint8_t { down, up, right, left };

inline bool isTurned(Turn turn) {
    return turn == Turn::right || turn == Turn::left;
}
/// The size of a plate or box as it is seen when it is turned.
inline PointF sizeTurned(PointF size, Turn turn) {
    return isTurned(turn) ? PointF{size.y, size.x} : size;
}
/// A point of a box of a size, as seen when that is turned.
PointF turned(PointF point, PointF size, Turn turn);
Rect turned(const Rect& rect, PointF size, Turn turn);

/// A line that is whole.
struct Wire {
    Index edge = 0;
    std::vector<PointF> path; ///< from one plate to the other, either way
};

struct Box {
    struct Plate {
        Index node = 0;
        Rect frame;
    };
    struct Inner {
        std::size_t box = 0;
        PointF at; ///< upper left corner, once turned
        Turn turn = Turn::down;
    };
    PointF size;
    std::vector<Plate> plates;
    std::vector<Wire> wires;
    std::vector<Inner> inner;
};

/// All boxes of one arrangement; an inner box comes before what holds it.
class Boxes {
public:
    std::size_t add(Box box) {
        all_.push_back(std::move(box));
        return all_.size() - 1;
    }
    const Box& operator[](std::size_t box) const { return all_[box]; }
    /// How large it is once turned.
    PointF sizeOf(std::size_t box, Turn turn) const { return sizeTurned(all_[box].size, turn); }
    /// Puts everything in a box where it belongs in the drawing.
    void draw(std::size_t box, PointF at, Turn turn, Drawing& drawing) const;

private:
    std::vector<Box> all_;
};

/// Where `count` lines leave an edge of a plate that begins at `from`: evenly about its middle,
/// at most 9 apart; `ticks` are taken instead where all are known and in order.
std::vector<double> exitsAlong(double from, double length, std::size_t count,
                               std::span<const double> ticks = {});

/// A path beside another, so far to its left as one goes along it; negative: to its right.
std::vector<PointF> besidePath(const std::vector<PointF>& path, double by);

} // namespace underridge::layout

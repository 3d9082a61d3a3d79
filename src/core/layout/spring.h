// SPDX-License-Identifier: GPL-3.0-or-later
// Drawing by distances: nodes as far apart on the sheet as they are in the graph.
#pragma once
#include "core/layout/graph.h"

#include <atomic>
#include <random>

namespace underridge::layout {

struct Springs {
    std::vector<PointF> sizes;                  ///< of what stands at each node
    std::vector<std::pair<Index, Index>> lines; ///< hanging together
    std::uint64_t seed = 1;
    double aspect = 1.6;                       ///< width by height, about
    double gap = 36;                           ///< at least, between two nodes
    const std::atomic<bool>* wanted = nullptr; ///< as of Wish
    bool goesOn() const { return !wanted || *wanted; }
};

/// The lines at each node, and their other ends.
struct LineTo {
    Index line, node;
};
std::vector<std::vector<LineTo>> linesAt(const Springs& springs);
/// Evenly from 0 to 1, without 1; the same on every machine.
inline double unitOf(std::mt19937_64& random) {
    return static_cast<double>(random() >> 11) / 9007199254740992.0;
}

/// The middles of the nodes, which may overlap yet: with the least stress (stress.h), along the sheet and
/// as large as plates and lines need.
std::vector<PointF> byStress(const Springs& springs);
/// The same without overlaps.
std::vector<PointF> bySprings(const Springs& springs);

/// Pushes nodes apart that overlap, along the shorter way; what is left of overlaps goes by scale,
/// which keeps the shape, or where that is too much by standing in rows.
void separate(const Springs& springs, std::vector<PointF>& middles);

/// Moves single nodes to where their straight lines cross fewer others (vertex moves,
/// Radermacher, Reichard, Rutter and Wagner 2018), without overlaps; at first to places a little
/// worse, too (simulated annealing, Kirkpatrick, Gelatt and Vecchi 1983). `work`: about how many
/// pairs of lines may be looked at; a third of a nanosecond each.
void untangle(const Springs& springs, std::vector<PointF>& middles, std::size_t work);

/// Takes crossings of straight lines away by small moves: two neighbours of a row or column change
/// over, or one moves aside by less than about its own size. `work` as above.
void uncross(const Springs& springs, std::vector<PointF>& middles, std::size_t work);

/// Both, in larger graphs first of the nodes that branch and then of all; the best of several
/// beginnings where the graph is small: that with the fewest crossings, and of those the one with
/// the fewest lines through nodes.
std::vector<PointF> bySpringsUntangled(Springs springs);

} // namespace underridge::layout

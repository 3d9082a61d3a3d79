// SPDX-License-Identifier: GPL-3.0-or-later
// Arrangements by structure. A connected part is taken to pieces: what hangs on one device
// stands below it in rows (a tree); a ring is drawn as a ring; devices that are joined to the
// same few others stand in rows between those (a ladder: an access layer between its
// distribution pair, leaves between spines, pods between cores, buildings between core
// routers); whatever is left is a mesh and drawn in layers. Lines of trees, rings and ladders
// have ways of their own, in which none crosses another where the piece can be drawn so.
#pragma once
#include "core/layout/graph.h"

namespace underridge::layout {

struct Wish;

/// What a part was found to be, for people.
enum class Shape : std::uint8_t { single, tree, ring, ladder, mesh };

struct Composed {
    Shape shape = Shape::single; ///< of its largest piece
    std::size_t rings = 0, ladders = 0, meshes = 0;
    std::size_t poles = 0; ///< of the outermost ladder
};

/// Arranges a connected part; what it draws begins at the origin. Near linear in nodes and
/// edges, but for meshes.
Composed compose(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
                 Drawing& drawing);

/// Arranges everything, whether it hangs together or not, with ways for wish.outside over the
/// borders of the whole; `stubs`: those ways.
Composed composeWithin(const Graph& graph, const Neighbours& near, const Wish& wish, Drawing& drawing,
                       std::vector<std::vector<PointF>>& stubs);

} // namespace underridge::layout

// SPDX-License-Identifier: GPL-3.0-or-later
// Drawing in layers (Sugiyama, Tagawa and Toda 1981): nodes have a layer, the order in each is
// found so that few lines cross, and then straight long lines.
#pragma once
#include "core/layout/graph.h"

#include <atomic>

namespace underridge::layout {

struct Layering {
    struct Line {
        Index a = 0, b = 0;        ///< in different layers
        double atA = -1, atB = -1; ///< where it ends on the plates, from the left; -1: in the middle
    };
    std::vector<PointF> sizes;
    std::vector<int> layer; ///< of each node, from 0; no layer is empty
    std::vector<Line> lines;
    double gap = 24; ///< between neighbours in a layer
    int sweeps = 12;
    bool ordered = false; ///< in each layer nodes stay in their order; only lines go other ways
    const std::atomic<bool>* wanted = nullptr; ///< as of Wish
};

struct Layered {
    std::vector<PointF> at;
    std::vector<std::vector<PointF>> bends; ///< of each line, from a to b, without its ends
    std::size_t crossings = 0;
    PointF size;
};

/// Order by barycentres up and down with swaps of neighbours, crossings counted by Barth, Jünger
/// and Mutzel (2002); places by Brandes and Köpf (2001). About linear in lines and the layers
/// they pass.
Layered inLayers(const Layering& layering);

/// Layers by longest ways down from `roots`: every line leads from a layer to a deeper one,
/// nodes farther from the roots below nearer ones.
std::vector<int> layersFrom(std::size_t nodes, const std::vector<Layering::Line>& lines,
                            const std::vector<Index>& roots);

} // namespace underridge::layout

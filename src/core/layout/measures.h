// SPDX-License-Identifier: GPL-3.0-or-later
// How good a drawing is, measured on its plates and lines as they are drawn.
#pragma once
#include "core/layout/graph.h"

namespace underridge::layout {

/// A line, and what it goes between; its own plates are not in its way.
struct DrawnLine {
    std::vector<PointF> path;
    Index a = none, b = none;
};

struct Measures {
    std::size_t crossings = 0;           ///< points where two lines without a common end cross, and others
    std::size_t overlaps = 0;            ///< pairs of plates
    std::size_t linksThroughDevices = 0; ///< lines that go through at least one plate that is not theirs
    double edgeLength = 0;               ///< mean of the lines
    double edgeLengthVariation = 0;      ///< standard deviation by mean
    double angularResolution = 0; ///< mean of the least angle at each plate by the best possible: 0 to 1
    double aspect = 1;            ///< width by height
    double area = 0;
};

/// The plates of a and b may be left out where only crossings are asked for.
/// Two lines that share an end cross only where they meet away from it. Segments and plates
/// are looked up by a grid: about linear where no place is crowded.
Measures measured(std::span<const Rect> plates, std::span<const DrawnLine> lines);

/// The plates of a drawing, and its lines as they are drawn.
std::vector<Rect> platesOf(const Graph& graph, const Drawing& drawing);
std::vector<DrawnLine> linesOf(const Graph& graph, const Drawing& drawing);

/// Of a drawing.
Measures measured(const Graph& graph, const Drawing& drawing);

/// How far drawn distances are from those in the graph (Kamada and Kawai 1989, with weights
/// 1/d²), scaled to fit best; 0 is perfect. Measured from at most 64 nodes, evenly taken.
double stressOf(const Graph& graph, const Drawing& drawing);

} // namespace underridge::layout

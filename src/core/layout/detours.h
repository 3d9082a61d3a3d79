// SPDX-License-Identifier: GPL-3.0-or-later
// Ways round plates for lines that go through them.
#pragma once
#include "core/layout/measures.h"

namespace underridge::layout {

/// Bends lines round plates that are not theirs, close by their corners, the shorter way. A line
/// for which there is no such way with few bends stays, and so do lines once all have been
/// looked along for long. Which lines were changed.
std::vector<Index> goRound(std::span<const Rect> plates, std::vector<DrawnLine>& lines);

/// The same for the lines of a drawing.
void goRound(const Graph& graph, Drawing& drawing);

} // namespace underridge::layout

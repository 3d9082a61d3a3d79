// SPDX-License-Identifier: GPL-3.0-or-later
// Styles of one connected part, for styles.cpp alone.
#pragma once
#include "core/layout/styles.h"

namespace underridge::layout {

/// Rows by distance from the anchor, or from all devices of the highest tier (see layers.h). Two devices of a
/// tier that are joined and share most neighbours are a pair: side by side, at one height. Leaves of one
/// device stand in a block beside it.
void drawLayered(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
                 Drawing& drawing);

/// Round the anchor, by distance; every subtree takes a part of the circle by its leaves (Eades
/// 1992).
void drawRadial(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
                Drawing& drawing);

void drawSprings(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
                 Drawing& drawing);

/// Every device on a circle, in an order with few crossings (Baur and Brandes 2004), trees
/// outside it.
void drawRound(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
               Drawing& drawing);

/// The highest tier, and of it the best connected; in a tree without tiers its middle.
Index anchorOf(const Graph& graph, const Neighbours& near, const std::vector<Index>& part);

} // namespace underridge::layout

// SPDX-License-Identifier: GPL-3.0-or-later
// The styles in which plates and lines can be arranged.
#pragma once
#include "core/layout/compose.h"

#include <atomic>
#include <optional>
#include <string_view>

namespace underridge::layout {

enum class Style : std::uint8_t {
    suggest,
    layered,
    radial,
    spring,
    ring,
    fabric,
    grid,
    row,
    rack, ///< what is in a rack in one column, racks side by side
    plan, ///< everything stays, only lines are led
    tidy
};
inline constexpr Style allStyles[] = {Style::suggest, Style::layered, Style::radial, Style::spring,
                                      Style::ring,    Style::fabric,  Style::grid,   Style::row,
                                      Style::rack,    Style::plan,    Style::tidy};
/// Whether a style begins with where things stand.
inline bool beginsAsItStands(Style style) {
    return style == Style::tidy || style == Style::plan;
}
/// The word for it on the command line: "layered".
std::string_view textOf(Style style);
std::optional<Style> styleFromText(std::string_view text);

/// Where layers, trees and ladders go, seen from the anchor.
enum class Flow : std::uint8_t { down, up, right, left };
std::string_view textOf(Flow flow);
std::optional<Flow> flowFromText(std::string_view text);

/// A line that leaves what is arranged, as out of a group, from a node over the upper or lower
/// border.
struct Outside {
    Index node = 0;
    bool below = false;
};

struct Wish {
    Style style = Style::suggest;
    Flow flow = Flow::down;
    Index anchor = none; ///< none: by tier and structure
    double spacing = 1;  ///< 0.5 to 3, times the usual distances
    double aspect = 1.6; ///< width by height, about
    std::uint64_t seed = 1;
    /// Of each node: where it stands, its upper left corner. `tidy` moves as little from there as it
    /// has to, `plan` nothing; without it nodes come in rows.
    std::vector<PointF> before;
    /// The order of the nodes is one somebody made: it goes before ports, sizes and crossings
    /// where a style puts nodes in rows.
    bool keepOrder = false;
    /// Once it says no, nothing is made better any more: what there is so far is drawn. Null: nobody
    /// asks.
    const std::atomic<bool>* wanted = nullptr;
    bool goesOn() const { return !wanted || *wanted; }
    /// Ways for these are made by the styles that have some; in the order wanted on the border.
    std::vector<Outside> outside;
};

struct Arranged {
    /// Of each line that leaves: from the border of all that is drawn to the plate; empty: none.
    std::vector<std::vector<PointF>> stubs;
    Drawing drawing;              ///< from the origin
    std::vector<Composed> shapes; ///< of each connected part, largest first, for suggest()
};

/// Arranges a graph: connected parts each for itself, then side by side, the largest first;
/// devices without links stand in rows after them. The same for the same graph and wish.
Arranged arranged(const Graph& graph, const Wish& wish);

} // namespace underridge::layout

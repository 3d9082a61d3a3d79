// SPDX-License-Identifier: GPL-3.0-or-later
// What is arranged, level by level of groups: each a few items, some of them groups, and the
// links between them. Behind arrange_levels.cpp.
#pragma once
#include "core/edit/arranging.h"
#include "core/scene/items.h"

#include <map>
#include <unordered_map>

namespace underridge::edit::levels {

/// What stands as one on a level.
struct Item {
    model::DeviceId device; ///< none: it is a group
    model::GroupId group;
    scene::PointF size;
};

/// The links between two items, as one line.
struct Bundle {
    layout::Index a = 0, b = 0;
    std::vector<const model::Link*> links;
};

/// A link that leaves a level, from an item of it.
struct Leaving {
    const model::Link* link = nullptr;
    layout::Index item = 0;
    bool below = false;
    double order = 0;               ///< along the border
    std::vector<scene::PointF> way; ///< from the border of the drawing to the item; empty: it has none
};

/// A group, or the whole: what is directly in it.
struct Level {
    model::GroupId group, parent;
    bool asIs = false; ///< what is in it stays as it is
    std::vector<Item> items;
    std::vector<Bundle> bundles;
    std::vector<Leaving> leaving;
    layout::Drawing drawing;
    scene::Rect bounds; ///< of the drawing
    scene::PointF by;   ///< from the drawing to the sheet
    std::size_t depth = 0;
};

struct LevelTree {
    std::map<std::uint64_t, Level> levels; ///< by group; 0: the whole
    /// Of devices and groups: the group of the level they are on, and which item of it.
    std::unordered_map<std::uint64_t, std::pair<std::uint64_t, layout::Index>> itemOf;
    std::unordered_map<std::uint64_t, scene::Plate> plates; ///< of the devices, as they stand now

    /// What stands for a device on a level.
    std::optional<layout::Index> itemOn(const Level& level, model::DeviceId device) const;
};

/// The levels of what a look shows, or of what is wished of it, with items in the order wished.
/// Pointers in it are into the network.
LevelTree gathered(const model::Network& network, const Look& look, const ArrangeWish& wish,
                   const scene::Folding& folding);

/// Whether a level is a rack that is arranged as one.
bool isOfRack(const model::Network& network, const ArrangeWish& wish, const Level& level);

} // namespace underridge::edit::levels

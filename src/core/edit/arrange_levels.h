// SPDX-License-Identifier: GPL-3.0-or-later
// A sheet taken apart into levels of groups, each arranged by core/layout: where everything
// would go. Behind arranging.h.
#pragma once
#include "core/edit/arranging.h"
#include "core/scene/items.h"

#include <map>
#include <unordered_map>

namespace underridge::edit {

struct SheetDrawing {
    std::unordered_map<std::uint64_t, scene::Plate> plates;    ///< of the devices arranged, as they stand now
    std::map<std::uint64_t, scene::PointF> at;                 ///< of devices: the upper left corner
    std::map<std::uint64_t, std::vector<scene::PointF>> paths; ///< of links among them; empty: straight
    struct Kept {                                              ///< a group that stays as it is
        model::GroupId group;
        scene::PointF by; ///< how far it goes
        scene::Rect at;   ///< the room it takes there
    };
    std::vector<Kept> kept;
    struct Frame {
        model::GroupId group;
        std::optional<scene::Rect> drawn; ///< where ways of its links need more room than its members
    };
    std::vector<Frame> frames; ///< of the groups arranged
    std::vector<layout::Composed> shapes;
    scene::Rect bounds; ///< of everything

    void move(scene::PointF by);
};

/// From the origin. Refuses where there is nothing to arrange.
Result<SheetDrawing> drawingOf(const model::Network& network, const Look& look, const ArrangeWish& wish,
                               const scene::Folding& folding, const std::atomic<bool>* wanted);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// The items of a sheet that shows groups: plates where folding puts them, frames, tiles,
// doorways, and lines between whatever stands for the ends of links.
#pragma once
#include "core/model/length.h"
#include "core/scene/folding.h"
#include "core/scene/grid.h"

#include <map>

namespace underridge::scene {

struct GroupedItems {
    std::vector<ItemPtr> plates, lines, others;
    Standings standing;
    std::shared_ptr<const Folding> folding; ///< null: the sheet has no groups, and nothing was made
    std::map<model::LinkId, model::LinkId> mergedInto; ///< links drawn as another's line
};

/// `plates`: of the devices on the sheet, by id, as their positions say; `links`: those drawn at them, by
/// id. Lengths on labels are in `unit`.
GroupedItems groupedItems(const model::Network& network, const model::Sheet& sheet, model::GroupId entered,
                          const std::vector<ItemPtr>& plates, const std::vector<const model::Link*>& links,
                          model::LengthUnit unit);

/// The frame or tile of a group.
Item itemOfGroup(const model::Network& network, const model::Sheet& sheet, const ShownGroup& shown,
                 model::GroupId entered);

/// The links drawn on a sheet between what stands for their ends, `a` and `b`, by id.
std::vector<const model::Link*> linksBehind(const model::Network& network, model::SheetId sheet,
                                            const Folding& folding, model::ObjectRef a, model::ObjectRef b);

} // namespace underridge::scene

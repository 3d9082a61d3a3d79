// SPDX-License-Identifier: GPL-3.0-or-later
// What hangs inside the door of a rack or beside a panel: a table of what is where.
#pragma once
#include "core/base/result.h"
#include "core/model/network.h"

namespace underridge::edit {

struct DoorSheet {
    model::ObjectRef of; ///< a rack or a panel
    std::string title, subtitle;
    std::vector<std::string> columns;
    std::vector<int> widths; ///< of the columns, in per cent
    std::vector<std::vector<std::string>> rows;
};

/// Of a rack: unit, side, device, model, what its supplies hang on, from the top down. Of a
/// panel: for each port of its front the label, the cord and where it goes, and the cable
/// behind it and where that goes, in the end. Objects that are neither are passed over;
/// refuses when none is left.
Result<std::vector<DoorSheet>> doorSheets(const model::Network& network,
                                          const std::vector<model::ObjectRef>& objects);

/// All racks with units, by name, then all panels that have a link, by name.
std::vector<model::ObjectRef> racksAndPanels(const model::Network& network);

} // namespace underridge::edit

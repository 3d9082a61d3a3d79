// SPDX-License-Identifier: GPL-3.0-or-later
// Sheets of the layers above the cables. What is on them follows from the network: nothing is
// added or taken off by hand, only where it stands is somebody's.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Adds a sheet of the data link or the network layer with all that is on that layer,
/// arranged as suggested. Endpoints of the data link layer are tucked into what they are on.
/// Refuses an empty name, one a sheet has, and the physical layer.
ActResult addLayerSheet(const model::Network& network, const std::string& name, model::SheetLayer layer,
                        model::IdSource& ids);

/// After an act: devices and subnets that came onto a layer stand beside what they are joined
/// to on its sheets, and what left it is there no longer.
void followLayers(const model::Network& before, model::Network& after);

} // namespace underridge::edit

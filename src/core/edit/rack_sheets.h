// SPDX-License-Identifier: GPL-3.0-or-later
// Sheets on which racks are drawn by unit, front and rear beside one another, with the
// links between what is in them. On such a sheet where a plate stands and in which unit its
// device is mounted are one.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Adds a sheet with racks side by side and what is mounted in them. `racks`: none: all there
/// are. Refuses where none has units, and a name that is empty or there already.
ActResult sheetOfRacks(const model::Network& network, const std::vector<model::GroupId>& racks,
                       const std::string& name, model::IdSource& ids);

/// After an act: devices whose plate was moved on a sheet of racks are mounted in the unit
/// there, or in the nearest one with room for them, and plates stand at the units of their devices.
void followRacks(const model::Network& before, model::Network& after);

} // namespace underridge::edit

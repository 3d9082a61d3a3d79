// SPDX-License-Identifier: GPL-3.0-or-later
// Endpoints tucked into the plate of the device they are on, and brought out again.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// The devices of a sheet that have endpoints to tuck in, or have them tucked in; among
/// `devices`, or all on the sheet where that is empty.
std::vector<model::DeviceId> tuckers(const model::Network& network, model::SheetId sheet,
                                     const std::vector<model::DeviceId>& devices);

/// Tucks in the endpoints of devices on a sheet, or brings them out where they were.
/// Refuses where none of the devices has endpoints of its own.
ActResult setTucked(const model::Network& network, model::SheetId sheet,
                    const std::vector<model::DeviceId>& devices, bool tucked);

/// Whether groups of a sheet close where one looks from far away.
ActResult setSheetClosing(const model::Network& network, model::SheetId sheet, bool closing);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// Devices that come to a drawing, put where there is room near what they are linked to; nothing
// else is moved.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Moves each device to the nearest free place by what it is linked to on a sheet, below what is
/// nearer to where the network comes from and above what is farther: where its links cross no
/// plate if there is such a place, and in its group. The next is put with regard to those before
/// it, those first that are linked to what stands. Devices that are pinned or linked to nothing there stay.
/// Refuses when a device is not on the sheet, or the sheet is drawn to scale.
ActResult fitIn(const model::Network& network, model::SheetId sheet,
                const std::vector<model::DeviceId>& devices);

} // namespace underridge::edit

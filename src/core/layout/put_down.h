// SPDX-License-Identifier: GPL-3.0-or-later
// A first arrangement for devices that have no position yet: readable, quick, and the
// same for the same network. Each connected part becomes rows by distance from its
// best-connected device; neighbours stand under one another, long rows are broken, and
// the parts are set side by side.
#pragma once
#include "core/model/network.h"

namespace underridge::layout {

/// Gives every device in `devices` a position on the sheet, below whatever is drawn there
/// already. Only links among these devices count. Cost grows linearly with devices and
/// links.
void putDown(model::Network& network, model::SheetId sheet, const std::vector<model::DeviceId>& devices);

} // namespace underridge::layout

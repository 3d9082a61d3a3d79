// SPDX-License-Identifier: GPL-3.0-or-later
// The sheet for screen readers: a lazy tree of what is in view. A device tells its role,
// name, address, ports and links; a link its two ends. Objects are made when they are
// asked for and dropped when the scene changes.
#pragma once

namespace underridge::app {

/// Installs the factory that makes the sheet's accessible tree; once, before the first
/// sheet is shown.
void installSheetAccessibility();

} // namespace underridge::app

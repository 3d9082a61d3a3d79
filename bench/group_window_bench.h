// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace underridge::bench {

/// Gestures with groups in a network of so many devices.
void registerGroupBenches(int devices);
/// Takes down the window they used, before the application goes.
void endGroupBenches();

} // namespace underridge::bench

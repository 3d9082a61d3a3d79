// SPDX-License-Identifier: GPL-3.0-or-later
// Switching and routing of Fennick Quay as acts, and the mistakes of the same place as it
// was found.
#pragma once
#include "core/model/network.h"

namespace underridge::demo {

/// Trees, VLAN interfaces, routes, filters and statements. Hosts get the gateway of the
/// subnet their address is in.
std::string fennickForwarding(const model::Network& network);
/// A dozen, each of another kind.
std::string fennickMistakes();

} // namespace underridge::demo

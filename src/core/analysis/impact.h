// SPDX-License-Identifier: GPL-3.0-or-later
// What is cut off when a device or a link fails.
#pragma once
#include "core/analysis/wiring.h"

namespace underridge::analysis {

struct Impact {
    std::vector<model::DeviceId> cutOff; ///< have no way left to the largest part of what they were joined to
    std::size_t joined = 0;              ///< devices that were joined to it, cut off or not
};

/// By wiring alone: frames may take any link that is up, whatever trees, VLANs and routes
/// say today. Of two parts as large the one with the lowest id counts as the rest. The
/// object itself is not told. Nothing for what is neither device nor link, or carries
/// nothing.
Impact impactOf(const model::Network& network, model::ObjectRef object);

} // namespace underridge::analysis

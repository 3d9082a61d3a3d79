// SPDX-License-Identifier: GPL-3.0-or-later
// What devices and links are in themselves, laid over a sheet: how fast, how much power they
// give, when they were last seen, what a filter finds, and what hangs on one of them.
#pragma once
#include "core/analysis/impact.h"
#include "core/find/matching.h"
#include "paint/overlays/network_overlay.h"

namespace underridge::paint {

/// The speed links come up at: the faster, the stronger.
class SpeedOverlay : public NetworkOverlay {
public:
    explicit SpeedOverlay(const model::Network& network);
};

/// What devices that power others over their cables give, of what they can; and whom.
class PowerOverlay : public NetworkOverlay {
public:
    explicit PowerOverlay(const model::Network& network);
};

/// How long ago the source of a device or link had seen it. `now`: seconds since 1970.
class AgeOverlay : public NetworkOverlay {
public:
    AgeOverlay(const model::Network& network, std::int64_t now);
};

/// Devices and links a filter finds.
class FilterOverlay : public NetworkOverlay {
public:
    FilterOverlay(const model::Network& network, const find::Filter& filter, const find::Findings& findings);
};

/// Devices that are cut off from the rest when one device or link fails.
class ImpactOverlay : public NetworkOverlay {
public:
    ImpactOverlay(const model::Network& network, model::ObjectRef object);
};

} // namespace underridge::paint

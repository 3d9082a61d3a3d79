// SPDX-License-Identifier: GPL-3.0-or-later
// Mains power laid over a sheet: what each device hangs on, and what its sources carry.
#pragma once
#include "core/model/power.h"
#include "paint/overlays/network_overlay.h"

namespace underridge::paint {

/// Cords from outlets to what they feed; the load of what feeds others, with what goes dark without
/// it; and which devices are not fed, or would be dark without one source.
class MainsOverlay : public NetworkOverlay {
public:
    explicit MainsOverlay(const model::Network& network);

private:
    Mark ofSource(const model::Network& network, const model::PowerLoad& load,
                  const model::PowerTree::Loss& loss);
    Mark ofLoad(const model::PowerTree& tree, const model::Device& device);

    int sources_ = 0, fed_ = 0, alone_ = 0, unfed_ = 0;
};

} // namespace underridge::paint

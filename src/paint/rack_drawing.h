// SPDX-License-Identifier: GPL-3.0-or-later
// A rack as one stands before it, and behind it.
#pragma once
#include "core/scene/rack.h"
#include "paint/theme.h"

#include <QPainter>

namespace underridge::paint {

/// From the origin at 100 %. `chosen`: those that stand out.
void paintRack(QPainter& painter, const model::Network& network, const scene::RackPicture& rack,
               const Theme& theme, const std::vector<model::DeviceId>& chosen = {});

} // namespace underridge::paint

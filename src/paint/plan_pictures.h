// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures under floors, decoded once however many threads draw tiles of them.
#pragma once
#include "core/scene/items.h"
#include "paint/theme.h"

#include <QPainter>

namespace underridge::paint {

/// Draws what of a plan meets `area`, in sheet units. An ink drawing takes the theme's ink.
/// What cannot be decoded is drawn as an empty outline. May be called from any thread.
void drawPlan(QPainter& painter, const scene::PlanPicture& plan, const scene::Rect& area, const Theme& theme);

/// A picture as it is in a list, no larger than `size`; null when it cannot be decoded.
QImage smallPicture(const QByteArray& bytes, QSize size);

} // namespace underridge::paint

// SPDX-License-Identifier: GPL-3.0-or-later
// Overlays drawn live over the tiles of a sheet, with their legend in a corner.
#pragma once
#include "app/overlays/overlay.h"
#include "core/scene/scene.h"
#include "paint/sheet_painter.h"

namespace underridge::app {

/// Halos of what is marked, in sheet units; plates stay above the links that end at them.
void paintOverlays(QPainter& painter, paint::SheetPainter& sheetPainter, const Overlays& overlays,
                   const scene::Scene& scene, const scene::Rect& seen, double zoom);

/// The badges of what is marked, as large on the screen at every zoom.
void paintBadges(QPainter& painter, const paint::Theme& theme, const Overlays& overlays,
                 const scene::Scene& scene, const scene::Rect& seen, double zoom);

/// The legends, one line each, upwards from the lower left corner of a surface of this
/// size in pixels.
void paintLegends(QPainter& painter, const paint::Theme& theme, const Overlays& overlays, QSize surface);

} // namespace underridge::app

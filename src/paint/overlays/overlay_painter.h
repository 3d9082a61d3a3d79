// SPDX-License-Identifier: GPL-3.0-or-later
// Overlays drawn over a scene, with their legend in a corner.
#pragma once
#include "core/scene/scene.h"
#include "paint/overlays/overlay.h"
#include "paint/sheet_painter.h"

namespace underridge::paint {

/// What is marked of one item of a scene: of the object itself, or of all that are hidden
/// in the tile or behind the plate that stands for them.
struct ShownMark {
    model::ObjectRef item;
    scene::Rect bounds;
    float strength = 0;
    QString badge; ///< of several: "break", "2 × break, root"
    int rank = 0;  ///< of the first of them
    scene::PointF badgeAt;
};

/// Ways of overlays where they are drawn: straight from border to border, or along the side of two
/// that stand one over the other, as cords at the side of a rack.
std::vector<std::vector<scene::PointF>> shownWays(const scene::Scene& scene,
                                                  const std::vector<Overlay::Way>& ways);

/// Where the marks of overlays are on a scene, worked out once for many frames. An object
/// that is not drawn itself is marked at what stands for it: a folded or closed group, the
/// plate an endpoint is tucked into.
class ShownMarks {
public:
    ShownMarks() = default;
    ShownMarks(const model::Network& network, const scene::Scene& scene, const OverlayList& overlays);

    const std::vector<ShownMark>& all() const { return marks_; }

    /// Halos of what is marked, in sheet units, and ways; plates stay above the links that end
    /// at them. `scene` is the one the marks were made for.
    void paintHalos(QPainter& painter, SheetPainter& sheetPainter, const scene::Scene& scene,
                    const scene::Rect& seen, double zoom) const;
    /// The badges, as large on the screen at every zoom: of those that would lie over one
    /// another the one of the lowest rank.
    void paintBadges(QPainter& painter, const Theme& theme, const scene::Rect& seen, double zoom) const;
    /// Those that are painted at a zoom, whatever part is seen; by their place in all().
    const std::vector<std::size_t>& badgesAt(double zoom) const;

private:
    void paintWays(QPainter& painter, const Theme& theme, const scene::Rect& seen, double zoom) const;

    std::vector<ShownMark> marks_;
    std::vector<std::vector<scene::PointF>> ways_;
    mutable std::vector<std::size_t> badges_; ///< at this zoom
    mutable double badgeZoom_ = 0;
};

/// The legends, one line each, upwards from the lower left corner of a surface of this
/// size in pixels.
void paintLegends(QPainter& painter, const Theme& theme, const OverlayList& overlays, QSize surface);

} // namespace underridge::paint

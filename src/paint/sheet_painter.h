// SPDX-License-Identifier: GPL-3.0-or-later
// The one painter: a scene onto whatever a QPainter draws on. The painter's transform
// goes from sheet units to the device. A SheetPainter belongs to one thread; it holds its
// own fonts and paths.
#pragma once
#include "core/scene/scene.h"
#include "core/scene/text_width.h"
#include "core/scene/underpasses.h"
#include "paint/theme.h"

#include <QFont>
#include <QPainter>
#include <QPainterPath>
#include <array>

namespace underridge::paint {

QRectF toQt(const scene::Rect& r);
QPointF toQt(scene::PointF p);
scene::Rect fromQt(const QRectF& r);
scene::PointF fromQt(QPointF p);

class SheetPainter {
public:
    explicit SheetPainter(const Theme& theme);

    const Theme& theme() const { return theme_; }
    /// Whether texts are drawn as outlines, for files that carry no fonts.
    void outlineText(bool on) { outlineText_ = on; }

    /// Background with its dots, then everything that meets `area`, at this zoom's
    /// detail.
    void paint(QPainter& painter, const scene::Scene& scene, const scene::Rect& area, double zoom);
    /// The same with the detail chosen by the caller (`render --detail`).
    void paint(QPainter& painter, const scene::Scene& scene, const scene::Rect& area, double zoom,
               scene::Detail detail);

    void background(QPainter& painter, const scene::Rect& area, double zoom);
    /// `zoom` matters at Detail::middle, where names are as large as the screen asks for.
    void plate(QPainter& painter, const scene::Plate& plate, scene::Detail detail, double zoom = 1);
    /// Ticks of the rail with the keys of ports when there is room.
    void line(QPainter& painter, const scene::LinkLine& line, scene::Detail detail, double zoom);
    void label(QPainter& painter, const scene::Label& label);
    void note(QPainter& painter, const scene::NoteCard& note, scene::Detail detail);
    /// `zoom` as for plates.
    void frame(QPainter& painter, const scene::Frame& frame, scene::Detail detail, double zoom = 1);
    void tile(QPainter& painter, const scene::Tile& tile, scene::Detail detail, double zoom = 1);
    /// `zoom` keeps it broad enough to be seen far away.
    void route(QPainter& painter, const scene::RouteLine& route, scene::Detail detail, double zoom = 1);
    void routeLabel(QPainter& painter, const scene::RouteLine& route);
    void doorway(QPainter& painter, const scene::Doorway& doorway, scene::Detail detail);

    /// A solid accent line with a dot at the free end: a link in the making.
    void linkInHand(QPainter& painter, scene::PointF from, scene::PointF to, double zoom);
    /// The outline that says "selected" or "has the focus", in screen pixels at any zoom.
    void selection(QPainter& painter, const scene::Rect& frame, double zoom);
    /// A link that an overlay marks; `strength` of its halo, 0 to 1.
    void markedLine(QPainter& painter, const scene::LinkLine& line, double zoom, float strength);
    void selectedLine(QPainter& painter, const scene::LinkLine& line, double zoom);
    void hoveredLine(QPainter& painter, const scene::LinkLine& line, double zoom);

    void text(QPainter& painter, QPointF baseline, const std::string& text, double size, scene::Weight weight,
              const QColor& colour);

private:
    struct Stroke;
    void haloed(QPainter& painter, const scene::LinkLine& line, double zoom, float strength);
    void each(QPainter& painter, const std::vector<const scene::Item*>& items, scene::Detail detail,
              double zoom);
    /// The lines that were drawn as one.
    std::vector<scene::Bundle> far(QPainter& painter, const scene::Items& items, double zoom);
    void farNames(QPainter& painter, const scene::Scene& scene, const std::vector<scene::Bundle>& bundles,
                  const scene::Rect& area, double zoom);
    void bundleCount(QPainter& painter, const scene::Bundle& bundle, double zoom);
    void farName(QPainter& painter, const scene::FarName& name, double zoom);
    void strands(QPainter& painter, const scene::LinkLine& item, double offset, const QPen& pen);
    /// A path or a piece of one, moved sideways.
    void strand(QPainter& painter, const std::vector<scene::PointF>& path, double offset, bool rounds);
    void crossTicks(QPainter& painter, const std::vector<scene::PointF>& path, const QColor& colour);
    /// The band that ties the members of a LAG.
    void tie(QPainter& painter, const scene::LinkLine& item);
    void marks(QPainter& painter, const scene::LinkLine& line);
    void rail(QPainter& painter, const scene::Plate& plate);
    void plateText(QPainter& painter, const scene::Plate& item, scene::Detail detail, double zoom);
    void subnet(QPainter& painter, const scene::Plate& item, scene::Detail detail, double zoom);
    void badge(QPainter& painter, const scene::Plate& plate);
    /// A sign of roles or kinds, its box from a corner.
    void glyph(QPainter& painter, const QPainterPath& path, QPointF corner, const QColor& colour,
               double scale = 1);
    void counts(QPainter& painter, const scene::Tile& tile, QPointF corner, double size);
    void closedTile(QPainter& painter, const scene::Tile& tile, double zoom);
    void mergedCount(QPainter& painter, const scene::Scene& scene, const scene::LinkLine& line, double zoom);
    void rackUnits(QPainter& painter, const scene::Frame& frame);
    void frameBorder(QPainter& painter, const scene::Frame& frame);

    const Theme& theme_;
    /// What is drawn of lines that pass under others of those being painted.
    std::unordered_map<std::uint64_t, scene::Pieces> underpasses_;
    bool outlineText_ = false;
    QFont regular_, semiBold_;
};

} // namespace underridge::paint

// SPDX-License-Identifier: GPL-3.0-or-later
// How a sheet is drawn far away: marks instead of plates, lines between the same two as
// one, names as on a map.
#include "core/scene/text_width.h"
#include "paint/pens.h"
#include "paint/sheet_painter.h"

namespace underridge::paint {
using scene::Detail;
using scene::LinkLine;
using scene::Plate;
using scene::PointF;
using scene::Rect;
using scene::Weight;
namespace {

/// The room of the count on lines drawn as one, on the screen.
constexpr double farCountPx = 18;

/// Whether a count in the middle of a line would lie on something the line runs behind.
bool isCovered(const scene::Scene& scene, const Rect& place) {
    const scene::Items near = scene.itemsIn(place);
    return std::any_of(near.all().begin(), near.all().end(), [&](const scene::Item* each) {
        return each->layer == scene::Layer::plates && scene::liesUnder(*each, place);
    });
}

Rect countPlace(const scene::Bundle& bundle, double zoom) {
    const PointF middle = (bundle.a + bundle.b) * 0.5;
    return Rect{middle.x, middle.y, 0, 0}.grown(farCountPx / 2 / zoom);
}

} // namespace

std::vector<scene::Bundle> SheetPainter::far(QPainter& painter, const scene::Items& items, double zoom) {
    painter.setRenderHint(QPainter::Antialiasing, false);
    std::vector<const LinkLine*> straight;
    for (const scene::NoteCard* item : items.of<scene::NoteCard>())
        if (item->zone || item->behind)
            note(painter, *item, Detail::far);
    for (const scene::Frame* item : items.of<scene::Frame>())
        frame(painter, *item, Detail::far);
    for (const scene::RouteLine* item : items.of<scene::RouteLine>())
        route(painter, *item, Detail::far, zoom);
    painter.setRenderHint(QPainter::Antialiasing, false);
    for (const LinkLine* item : items.of<LinkLine>())
        if (item->path.size() > 2) {
            painter.setPen(QPen(theme_.muted, 0));
            painter.drawPolyline(polygon(item->path));
        } else {
            straight.push_back(item);
        }
    const std::vector<scene::Bundle> bundles = scene::bundlesOf(straight);
    std::vector<QLineF> single, several;
    for (const scene::Bundle& bundle : bundles)
        (bundle.count == 1 ? single : several).emplace_back(toQt(bundle.a), toQt(bundle.b));
    painter.setPen(QPen(theme_.muted, 0));
    painter.drawLines(single.data(), static_cast<int>(single.size()));
    painter.setPen(flat(theme_.muted, 2.2 / zoom));
    painter.drawLines(several.data(), static_cast<int>(several.size()));
    for (const Plate* item : items.of<Plate>())
        painter.fillRect(toQt(item->frame), item->subnet ? theme_.socket : theme_.spine(item->role));
    for (const Plate* item : items.of<Plate>())
        if (!item->tucked.empty())
            painter.fillRect(toQt(item->badge()), theme_.socket);
    for (const scene::Tile* item : items.of<scene::Tile>())
        tile(painter, *item, Detail::far, zoom);
    for (const scene::Doorway* item : items.of<scene::Doorway>())
        doorway(painter, *item, Detail::far);
    for (const scene::NoteCard* item : items.of<scene::NoteCard>())
        if (!item->zone && !item->behind)
            painter.fillRect(toQt(item->frame), theme_.frame);
    return bundles;
}

void SheetPainter::farNames(QPainter& painter, const scene::Scene& scene,
                            const std::vector<scene::Bundle>& bundles, const Rect& area, double zoom) {
    const std::vector<scene::FarName> names = scene.namesIn(area.grown(farCountPx / zoom), zoom);
    for (const scene::Bundle& bundle : bundles) {
        const Rect place = countPlace(bundle, zoom);
        if (bundle.count > 1 && !isCovered(scene, place) &&
            std::none_of(names.begin(), names.end(),
                         [&](const scene::FarName& name) { return name.area.intersects(place); }))
            bundleCount(painter, bundle, zoom);
    }
    for (const scene::FarName& name : names)
        farName(painter, name, zoom);
}

void SheetPainter::mergedCount(QPainter& painter, const scene::Scene& scene, const LinkLine& item,
                               double zoom) {
    const scene::Bundle bundle{item.path.front(), item.path.back(), static_cast<int>(item.merged.size())};
    if (bundle.count > 1 && !isCovered(scene, countPlace(bundle, zoom)))
        bundleCount(painter, bundle, zoom);
}

void SheetPainter::bundleCount(QPainter& painter, const scene::Bundle& bundle, double zoom) {
    constexpr double shortestPx = 40;
    if (bundle.count < 2 || length(bundle.b - bundle.a) * zoom < shortestPx)
        return;
    const std::string count = "×" + std::to_string(bundle.count);
    const double size = 9 / zoom, width = scene::textWidth(count, size, Weight::semiBold);
    const PointF middle = (bundle.a + bundle.b) * 0.5;
    painter.fillRect(
        QRectF(middle.x - width / 2 - 2 / zoom, middle.y - size * 0.7, width + 4 / zoom, size * 1.4),
        theme_.sheet);
    text(painter, {middle.x - width / 2, middle.y + size * 0.36}, count, size, Weight::semiBold, theme_.ink);
}

void SheetPainter::farName(QPainter& painter, const scene::FarName& name, double zoom) {
    if (!name.inside) {
        QColor ground = theme_.sheet;
        ground.setAlphaF(0.85F);
        painter.fillRect(toQt(name.area), ground);
    }
    text(painter, {name.area.x + 2 / zoom, name.area.y + 11 / zoom}, name.text, scene::farNamePx / zoom,
         Weight::semiBold, theme_.ink);
}

} // namespace underridge::paint

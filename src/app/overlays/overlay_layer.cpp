// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/overlays/overlay_layer.h"

namespace underridge::app {
using scene::LinkLine;
using scene::Plate;

void paintOverlays(QPainter& painter, paint::SheetPainter& sheetPainter, const Overlays& overlays,
                   const scene::Scene& scene, const scene::Rect& seen, double zoom) {
    for (const auto& overlay : overlays.shown())
        for (const auto& [object, mark] : overlay->marks()) {
            const scene::Item* item = scene.item(object);
            if (!item || !item->bounds.intersects(seen))
                continue;
            if (const auto* line = item->as<LinkLine>()) {
                sheetPainter.markedLine(painter, *line, zoom, mark.strength);
                for (const model::ObjectRef end : {line->a, line->b})
                    if (const Plate* plate = scene.plate({end.id}))
                        sheetPainter.plate(painter, *plate, scene::detailFor(zoom), zoom);
            } else {
                sheetPainter.selection(painter, item->bounds, zoom);
            }
        }
}

void paintLegends(QPainter& painter, const paint::Theme& theme, const Overlays& overlays, QSize surface) {
    constexpr int edge = 12, padding = 8;
    const int height = painter.fontMetrics().height() + 2 * padding;
    int y = surface.height() - edge - height;
    painter.setRenderHint(QPainter::Antialiasing);
    for (const auto& overlay : overlays.shown()) {
        const QString words = painter.fontMetrics().elidedText(
            overlay->legend(), Qt::ElideMiddle, std::max(60, surface.width() / 2 - edge - 4 * padding));
        const QRect box(edge, y, painter.fontMetrics().horizontalAdvance(words) + 4 * padding, height);
        painter.setPen(QPen(theme.edge, 1));
        painter.setBrush(theme.plate);
        painter.drawRoundedRect(box, 6, 6);
        QColor halo = theme.accent;
        halo.setAlphaF(0.4F);
        painter.fillRect(QRect(box.left() + padding, box.center().y() - 3, padding + 4, 7), halo);
        painter.setPen(theme.ink);
        painter.drawText(box.adjusted(3 * padding, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, words);
        y -= height + 4;
    }
}

} // namespace underridge::app

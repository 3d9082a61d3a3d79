// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/overlays/overlay_layer.h"

#include <QGuiApplication>
#include <cmath>

namespace underridge::app {
using scene::LinkLine;
using scene::Plate;
namespace {

/// The point half way along a line.
scene::PointF middleOf(const std::vector<scene::PointF>& path) {
    double length = 0;
    const auto piece = [&](std::size_t i) {
        return std::hypot(path[i + 1].x - path[i].x, path[i + 1].y - path[i].y);
    };
    for (std::size_t i = 0; i + 1 < path.size(); ++i)
        length += piece(i);
    double left = length / 2;
    for (std::size_t i = 0; i + 1 < path.size(); ++i) {
        if (left <= piece(i) && piece(i) > 0) {
            const double t = left / piece(i);
            return {path[i].x + t * (path[i + 1].x - path[i].x), path[i].y + t * (path[i + 1].y - path[i].y)};
        }
        left -= piece(i);
    }
    return path.front();
}

} // namespace

void paintOverlays(QPainter& painter, paint::SheetPainter& sheetPainter, const Overlays& overlays,
                   const scene::Scene& scene, const scene::Rect& seen, double zoom) {
    for (const auto& overlay : overlays.shown())
        for (const auto& [object, mark] : overlay->marks()) {
            const scene::Item* item = scene.item(object);
            if (!item || !item->bounds.intersects(seen))
                continue;
            if (const auto* line = item->as<LinkLine>()) {
                if (mark.strength > 0)
                    sheetPainter.markedLine(painter, *line, zoom, mark.strength);
                for (const model::ObjectRef end : {line->a, line->b})
                    if (const Plate* plate = scene.plate({end.id}))
                        sheetPainter.plate(painter, *plate, scene::detailFor(zoom), zoom);
            } else {
                sheetPainter.selection(painter, item->bounds, zoom);
            }
        }
}

void paintBadges(QPainter& painter, const paint::Theme& theme, const Overlays& overlays,
                 const scene::Scene& scene, const scene::Rect& seen, double zoom) {
    constexpr double textPx = 12, padding = 4; // on the screen
    QFont font = painter.font();
    font.setPixelSize(std::max(1, static_cast<int>(std::lround(textPx))));
    font.setWeight(QFont::DemiBold);
    painter.setRenderHint(QPainter::Antialiasing);
    for (const auto& overlay : overlays.shown())
        for (const auto& [object, mark] : overlay->marks()) {
            const scene::Item* item = mark.badge.isEmpty() ? nullptr : scene.item(object);
            if (!item || !item->bounds.intersects(seen))
                continue;
            scene::PointF at{item->bounds.x, item->bounds.y}; // a plate's upper left corner
            const auto* line = item->as<LinkLine>();
            if (line && !line->path.empty())
                at = middleOf(line->path);
            painter.save();
            painter.translate(at.x, at.y);
            painter.scale(1 / zoom, 1 / zoom);
            painter.setFont(font);
            const double w = painter.fontMetrics().horizontalAdvance(mark.badge) + 2 * padding,
                         h = textPx + 2 * padding;
            const QRectF box(-w / 2, -h / 2, w, h);
            painter.setPen(QPen(theme.accent, 1.5));
            painter.setBrush(theme.plate);
            painter.drawRoundedRect(box, h / 2, h / 2);
            painter.setPen(theme.ink);
            painter.drawText(box, Qt::AlignCenter, mark.badge);
            painter.restore();
        }
}

void paintLegends(QPainter& painter, const paint::Theme& theme, const Overlays& overlays, QSize surface) {
    constexpr int edge = 12, padding = 8;
    painter.setFont(QGuiApplication::font()); // whatever was painted before
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

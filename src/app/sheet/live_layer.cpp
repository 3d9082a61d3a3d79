// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/live_layer.h"

#include "app/session/session.h"
#include "app/sheet/camera.h"
#include "core/model/group_tree.h"

#include <QApplication>
#include <QPainter>
#include <QPixmap>

#include <set>

namespace underridge::app {
using namespace model;
LiveLayer::LiveLayer(const Session& session) : session_(session) {
    setTheme(paint::lightTheme());
}

void LiveLayer::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    boxes_.clear();
    painter_ = std::make_unique<paint::SheetPainter>(theme);
}

void LiveLayer::paintSelection(QPainter& painter, const Camera& camera) const {
    const scene::Rect seen = camera.visible();
    paintOnDemand(painter, camera);
    for (const ObjectRef ref : session_.selection())
        if (const scene::Item* item = session_.scene().item(ref);
            item && item->bounds.grown(8).intersects(seen))
            paintSelected(painter, *item, seen, camera.zoom());
}

/// The links of what is selected, on a sheet that draws no others.
void LiveLayer::paintOnDemand(QPainter& painter, const Camera& camera) const {
    const scene::Scene& scene = session_.scene();
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    constexpr std::size_t most = 2'000; // more are not told apart anyway
    if (!sheet || !sheet->linksOnDemand)
        return;
    std::set<LinkId> wanted;
    const auto take = [&](DeviceId id) {
        session_.network().forEachLinkOf(id, [&](const Link& link) {
            if (wanted.size() < most)
                wanted.insert(link.id);
        });
    };
    for (const ObjectRef ref : session_.selection()) {
        if (ref.kind == Kind::device)
            take({ref.id});
        else if (ref.kind == Kind::link)
            wanted.insert({ref.id});
        else if (ref.kind == Kind::group)
            for (const DeviceId id : devicesWithin(session_.network(), {ref.id}))
                take(id);
    }
    const auto detail = scene::detailFor(camera.zoom());
    std::set<const scene::LinkLine*> lines;
    for (const LinkId id : wanted)
        if (const scene::LinkLine* line = scene.link(id);
            line && scene::boundsOf(line->path).grown(8).intersects(camera.visible()))
            lines.insert(line);
    painter.setRenderHint(QPainter::Antialiasing);
    std::set<std::uint64_t> ends;
    for (const scene::LinkLine* line : lines) {
        painter_->line(painter, *line, detail, camera.zoom());
        ends.insert({line->a.id, line->b.id});
    }
    for (const std::uint64_t id : ends) // plates stay above links
        if (const scene::Plate* plate = scene.plate({id}))
            painter_->plate(painter, *plate, detail, camera.zoom());
    if (detail == scene::Detail::near || detail == scene::Detail::close)
        for (const scene::LinkLine* line : lines)
            for (const scene::Label& label : line->labels)
                painter_->label(painter, scene.settled(*line, label));
}

void LiveLayer::paintFocus(QPainter& painter, ObjectRef focused, double zoom) const {
    const scene::Item* item = session_.scene().item(focused);
    if (!item || item->layer == scene::Layer::links)
        return;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme_->accent, 1 / zoom));
    painter.setBrush(Qt::NoBrush);
    const scene::Rect frame = scene::frameOf(*item);
    painter.drawRoundedRect(paint::toQt(frame.grown(8 / std::max(zoom, 0.5))), 10, 10);
}

/// Of a long line only what is seen is worth a frame's time.
void LiveLayer::paintSelected(QPainter& painter, const scene::Item& item, const scene::Rect& seen,
                              double zoom) const {
    constexpr std::size_t mostPlatesAgain = 60; // plates stay above links
    const auto* line = item.as<scene::LinkLine>();
    if (const auto* route = item.as<scene::RouteLine>()) {
        QColor halo = theme_->accent;
        halo.setAlphaF(0.42F);
        QPolygonF path;
        for (const scene::PointF point : route->path)
            path << paint::toQt(point);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(halo, route->width + 5 / zoom, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolyline(path);
        painter_->routeLabel(painter, *route); // stays to be read
        return;
    }
    if (!line) {
        painter_->selection(painter, scene::frameOf(item), zoom);
        return;
    }
    const auto detail = scene::detailFor(zoom);
    const scene::Rect there = item.bounds.common(seen);
    painter_->selectedLine(painter, *line, zoom);
    if (const auto plates = session_.scene().itemsIn(there).of<scene::Plate>();
        plates.size() <= mostPlatesAgain)
        for (const scene::Plate* above : plates)
            painter_->plate(painter, *above, detail, zoom);
    for (std::size_t i = 1; i + 1 < line->path.size(); ++i) {
        const QPointF c = paint::toQt(line->path[i]);
        painter.setBrush(theme_->plate);
        painter.drawRect(QRectF(c.x() - 4 / zoom, c.y() - 4 / zoom, 8 / zoom, 8 / zoom));
    }
    if (detail == scene::Detail::near || detail == scene::Detail::close) { // labels stay above too
        for (const scene::Label& label : session_.scene().labelsIn(there))
            painter_->label(painter, label);
        for (const scene::Label& label : line->labels)
            painter_->label(painter, session_.scene().settled(*line, label));
    }
}

/// Errors in a filled box, warnings in an empty one, on the upper right corner of the tile.
namespace {
constexpr int boxHeight = 16, boxMargin = 1; // of its outline
}

const QPixmap& LiveLayer::box(int count, bool isError, double pixelRatio) const {
    QPixmap& held = boxes_[{count, isError}];
    if (!held.isNull() && held.devicePixelRatio() == pixelRatio)
        return held;
    QFont font = QApplication::font();
    font.setPixelSize(11);
    font.setWeight(QFont::DemiBold);
    const QString number = QLocale().toString(count);
    const int width = QFontMetrics(font).horizontalAdvance(number) + 10;
    held = QPixmap((QSizeF(width + 2 * boxMargin, boxHeight + 2 * boxMargin) * pixelRatio).toSize());
    held.setDevicePixelRatio(pixelRatio);
    held.fill(Qt::transparent);
    QPainter painter(&held);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(font);
    const QColor& colour = isError ? theme_->error : theme_->warning;
    const QRectF place(boxMargin, boxMargin, width, boxHeight);
    painter.setPen(QPen(colour, 1.5));
    painter.setBrush(isError ? colour : theme_->plate);
    painter.drawRoundedRect(place, 4, 4);
    painter.setPen(isError ? theme_->plate : theme_->ink);
    painter.drawText(place, Qt::AlignCenter, number);
    return held;
}

void LiveLayer::paintTrouble(QPainter& painter, const scene::Scene& seen, const Camera& camera,
                             const std::map<GroupId, scene::Trouble>& trouble) const {
    constexpr int smallest = 34;
    constexpr std::size_t mostBoxes = 4000;
    if (boxes_.size() > mostBoxes)
        boxes_.clear();
    const double pixelRatio = painter.device()->devicePixelRatioF();
    for (const scene::Tile* tile : seen.itemsIn(camera.visible()).of<scene::Tile>()) {
        const auto at = trouble.find(tile->id);
        if (at == trouble.end() || tile->frame.w * camera.zoom() < smallest)
            continue;
        const QPointF corner = camera.toScreen({tile->frame.right(), tile->frame.y});
        int right = qRound(corner.x()) - 4 + boxMargin;
        const int top = qRound(corner.y() - boxHeight / 2.0) - boxMargin;
        for (const auto& [count, isError] :
             {std::pair(at->second.errors, true), std::pair(at->second.warnings, false)}) {
            if (count == 0)
                continue;
            const QPixmap& drawn = box(count, isError, pixelRatio);
            right -= qRound(drawn.width() / pixelRatio);
            painter.drawPixmap(right, top, drawn);
            right -= 4 - 2 * boxMargin;
        }
    }
}

void LiveLayer::paintEmptyHelp(QPainter& painter, QSize size) const {
    const QStringList lines{tr("Press A and type, such as 4 access switch 24"),
                            tr("Drag a model from the catalogue"), tr("Open a network: Ctrl+O")};
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(theme_->muted);
    QFont large = painter.font();
    large.setPointSizeF(large.pointSizeF() * 1.15);
    painter.setFont(large);
    const int step = painter.fontMetrics().height() + 8;
    int y = size.height() / 2 - step * static_cast<int>(lines.size()) / 2;
    for (const QString& line : lines) {
        painter.drawText(QRect(0, y, size.width(), step), Qt::AlignCenter, line);
        y += step;
    }
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/tile_cache.h"

#include "paint/sheet_painter.h"

#include <QPainter>

namespace underridge::app {
using scene::Rect;
namespace {
constexpr std::size_t maxTiles = 160; // 160 MB of 512 x 512 x 4 bytes
}

TileCache::TileCache(QObject* parent)
    : QObject(parent), worker_([this](Order order) { paintTile(std::move(order)); }) {}

TileCache::~TileCache() = default;

void TileCache::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    setScene(scene_, {}, true);
}

void TileCache::setScene(const scene::Scene& scene, const std::vector<Rect>& damage, bool all) {
    scene_ = scene;
    for (auto& [place, tile] : now_.tiles) {
        const Rect area = areaOf(place, now_.scale);
        const bool stale = all || std::any_of(damage.begin(), damage.end(), [&](const Rect& r) {
                               // Labels are hidden by neighbours that lie a label's
                               // length away.
                               return r.grown(100).intersects(area);
                           });
        if (stale)
            tile.fresh = tile.asked = false;
    }
    last_.tiles.clear();
    ++generation_;
    worker_.change([](std::vector<Order>& held) { held.clear(); });
    for (auto& [place, tile] : now_.tiles)
        tile.asked = false;
}

Rect TileCache::areaOf(Place place, double scale) const {
    const double side = tilePixels / scale;
    return {place.x * side, place.y * side, side, side};
}

void TileCache::drawMoved(QPainter& painter, const Camera& camera, double pixelRatio, const Rect& area,
                          scene::PointF by) const {
    const double scale = camera.zoom() * pixelRatio;
    if (scale != now_.scale)
        return;
    const Rect there = area.moved(by);
    painter.save();
    painter.resetTransform();
    painter.setClipRect(
        QRectF(camera.toScreen({there.x, there.y}), camera.toScreen({there.right(), there.bottom()})));
    for (const auto& [place, tile] : now_.tiles) {
        const Rect shown = areaOf(place, scale);
        if (tile.image.isNull() || !shown.intersects(area))
            continue;
        // Whole device pixels, so that tiles are copied, not resampled.
        const QPointF corner = camera.toScreen(scene::PointF{shown.x, shown.y} + by) * pixelRatio;
        const double logical = tilePixels / pixelRatio;
        painter.drawImage(QRectF(QPointF(corner.toPoint()) / pixelRatio, QSizeF(logical, logical)),
                          tile.image);
    }
    painter.restore();
}

void TileCache::draw(QPainter& painter, const Camera& camera, double pixelRatio) {
    const double scale = camera.zoom() * pixelRatio;
    if (scale != now_.scale) {
        // The layer with something in it is the better stand-in.
        const bool useful = std::any_of(now_.tiles.begin(), now_.tiles.end(),
                                        [](const auto& entry) { return !entry.second.image.isNull(); });
        if (useful)
            last_ = std::move(now_);
        now_ = {scale, {}};
        ++generation_;
    }
    ++clock_;
    missing_ = 0;
    const Rect seen = camera.visible();
    const double side = tilePixels / scale;
    const auto index = [&](double v) { return static_cast<int>(std::floor(v / side)); };
    // Whole device pixels, so that tiles are copied, not resampled.
    const QPointF corner = camera.toScreen({index(seen.x) * side, index(seen.y) * side}) * pixelRatio;
    const QPoint origin = corner.toPoint();
    const double logical = tilePixels / pixelRatio;
    std::vector<Order> orders;
    painter.save();
    painter.resetTransform();
    painter.setRenderHint(QPainter::SmoothPixmapTransform, false);
    for (int y = index(seen.y); y <= index(seen.bottom()); ++y)
        for (int x = index(seen.x); x <= index(seen.right()); ++x) {
            Tile& tile = now_.tiles[{x, y}];
            tile.lastUsed = clock_;
            const QRectF target(QPointF(origin) / pixelRatio +
                                    QPointF((x - index(seen.x)) * logical, (y - index(seen.y)) * logical),
                                QSizeF(logical, logical));
            if (!tile.image.isNull())
                painter.drawImage(target, tile.image);
            else
                drawStandIn(painter, target, areaOf({x, y}, scale), pixelRatio);
            if (!tile.fresh)
                ++missing_;
            if (!tile.fresh && !tile.asked) {
                tile.asked = true;
                orders.push_back({scene_, theme_, {x, y}, scale, camera.zoom(), generation_});
            }
        }
    painter.restore();
    if (!orders.empty()) {
        const scene::PointF middle = seen.centre();
        std::sort(orders.begin(), orders.end(), [&](const Order& a, const Order& b) {
            return length(areaOf(a.place, scale).centre() - middle) >
                   length(areaOf(b.place, scale).centre() - middle);
        });
        worker_.change([&](std::vector<Order>& held) {
            std::erase_if(held, [&](const Order& order) { return order.generation != generation_; });
            held.insert(held.end(), std::make_move_iterator(orders.begin()),
                        std::make_move_iterator(orders.end()));
        });
    }
    evict();
}

void TileCache::drawStandIn(QPainter& painter, const QRectF& target, const Rect& area, double pixelRatio) {
    painter.fillRect(target, theme_->sheet);
    if (last_.scale == 0)
        return;
    painter.save();
    painter.setClipRect(target);
    const double factor = now_.scale / last_.scale;
    for (const auto& [place, tile] : last_.tiles) {
        const Rect old = areaOf(place, last_.scale);
        if (tile.image.isNull() || !old.intersects(area))
            continue;
        const double perUnit = now_.scale / pixelRatio, wide = tilePixels * factor / pixelRatio;
        const QPointF at = target.topLeft() + QPointF((old.x - area.x) * perUnit, (old.y - area.y) * perUnit);
        painter.drawImage(QRectF(at, QSizeF(wide, wide)), tile.image);
    }
    painter.restore();
}

void TileCache::paintTile(Order order) {
    if (order.theme != painted_) {
        painted_ = order.theme;
        sheetPainter_ = std::make_unique<paint::SheetPainter>(*painted_);
    }
    QImage image(tilePixels, tilePixels, QImage::Format_RGB32);
    QPainter painter(&image);
    const Rect area = areaOf(order.place, order.scale);
    painter.scale(order.scale, order.scale);
    painter.translate(-area.x, -area.y);
    sheetPainter_->paint(painter, order.scene, area, order.zoom);
    painter.end();
    QMetaObject::invokeMethod(
        this, [this, order = std::move(order), image = std::move(image)] { take(order, image); },
        Qt::QueuedConnection);
}

void TileCache::take(const Order& order, QImage image) {
    if (order.scale != now_.scale)
        return;
    const auto at = now_.tiles.find(order.place);
    if (at == now_.tiles.end())
        return;
    at->second.image = std::move(image);
    // A tile painted before the last edit is better than none but must be painted again.
    at->second.fresh = order.generation == generation_ && order.theme == theme_;
    at->second.asked = at->second.fresh;
    Q_EMIT tileReady();
}

void TileCache::evict() {
    if (now_.tiles.size() <= maxTiles)
        return;
    std::vector<std::pair<std::uint64_t, Place>> ages;
    for (const auto& [place, tile] : now_.tiles)
        if (tile.lastUsed != clock_)
            ages.emplace_back(tile.lastUsed, place);
    std::sort(ages.begin(), ages.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (const auto& [age, place] : ages) {
        if (now_.tiles.size() <= maxTiles * 3 / 4)
            break;
        now_.tiles.erase(place);
    }
}

} // namespace underridge::app

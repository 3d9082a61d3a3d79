// SPDX-License-Identifier: GPL-3.0-or-later
// Painted pieces of the sheet. Tiles are painted by a worker thread into opaque images;
// until a fresh one is there the stale one, or the last zoom's scaled, is shown. The
// cache belongs to the window's thread.
#pragma once
#include "app/jobs/worker.h"
#include "app/sheet/camera.h"
#include "core/scene/scene.h"
#include "paint/theme.h"

#include <QImage>
#include <QObject>
#include <memory>
#include <unordered_map>

namespace underridge::paint {
class SheetPainter;
}

namespace underridge::app {

class TileCache : public QObject {
    Q_OBJECT
public:
    static constexpr int tilePixels = 512;

    explicit TileCache(QObject* parent = nullptr);
    ~TileCache() override;

    void setTheme(const paint::Theme& theme);
    /// The scene now shown. Tiles that meet the damage become stale; `all`: every tile.
    void setScene(const scene::Scene& scene, const std::vector<scene::Rect>& damage, bool all);

    /// Draws what there is and asks the worker for what is missing.
    void draw(QPainter& painter, const Camera& camera, double pixelRatio);

    /// What there is of an area at the zoom drawn last, moved: nothing is asked for.
    void drawMoved(QPainter& painter, const Camera& camera, double pixelRatio, const scene::Rect& area,
                   scene::PointF by) const;

    /// Whether every tile of the last draw() was fresh.
    bool complete() const { return missing_ == 0; }

Q_SIGNALS:
    void tileReady();

private:
    struct Place {
        int x = 0, y = 0;
        bool operator==(const Place&) const = default;
    };
    struct PlaceHash {
        std::size_t operator()(const Place& p) const {
            return static_cast<std::size_t>(p.x) * 0x9E3779B97F4A7C15ULL + static_cast<std::size_t>(p.y);
        }
    };
    struct Tile {
        QImage image;
        bool fresh = false;
        bool asked = false;
        std::uint64_t lastUsed = 0;
    };
    using Tiles = std::unordered_map<Place, Tile, PlaceHash>;
    struct Layer {
        double scale = 0; ///< device pixels a sheet unit
        Tiles tiles;
    };
    struct Order {
        scene::Scene scene;
        const paint::Theme* theme = nullptr;
        Place place;
        double scale = 1, zoom = 1;
        std::uint64_t generation = 0;
    };

    scene::Rect areaOf(Place place, double scale) const;
    void paintTile(Order order);
    void take(const Order& order, QImage image);
    void evict();
    void drawStandIn(QPainter& painter, const QRectF& target, const scene::Rect& area, double pixelRatio);

    scene::Scene scene_;
    const paint::Theme* theme_ = &paint::lightTheme();
    Layer now_, last_;
    std::uint64_t generation_ = 0, clock_ = 0;
    int missing_ = 0;

    const paint::Theme* painted_ = nullptr;             ///< of the worker alone, as is the painter
    std::unique_ptr<paint::SheetPainter> sheetPainter_; ///< for that theme
    Worker<Order> worker_; ///< the newest draw's tiles, the nearest to the middle next
};

} // namespace underridge::app

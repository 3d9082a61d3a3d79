// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/morph.h"

#include "app/style/drawing.h"

#include <QPainter>
#include <unordered_map>

namespace underridge::app {
namespace {
constexpr int morphMs = 420;
constexpr std::size_t most = 3000; ///< so many can be painted anew in each frame
} // namespace

Morph::Morph(QObject* parent) : QVariantAnimation(parent) {
    setStartValue(0.0);
    setEndValue(1.0);
    setDuration(morphMs);
    setEasingCurve(QEasingCurve::InOutCubic);
}

void Morph::begin(const scene::Scene& before, const scene::Scene& after) {
    stop();
    ways_.clear();
    lines_.clear();
    std::unordered_map<std::uint64_t, std::size_t> index;
    bool any = false;
    after.forEachPlate([&](const scene::Plate& plate) {
        if (const scene::Plate* was = before.plate(plate.id)) {
            index[plate.id.value] = ways_.size();
            ways_.push_back({was->frame, plate.frame, plate.role});
            any |= was->frame != plate.frame;
        }
    });
    if (!any || ways_.size() > most)
        return;
    after.forEach<scene::LinkLine>([&](const scene::LinkLine& line) {
        const auto a = index.find(line.a.id), b = index.find(line.b.id);
        if (a != index.end() && b != index.end() && !line.onDemand)
            lines_.emplace_back(a->second, b->second);
    });
    start();
}

void Morph::paint(QPainter& painter, const paint::Theme& theme, double zoom) const {
    const double part = currentValue().toDouble();
    const auto now = [&](const Way& way) {
        return QRectF(way.from.x + (way.to.x - way.from.x) * part,
                      way.from.y + (way.to.y - way.from.y) * part, way.to.w, way.to.h);
    };
    painter.setPen(QPen(theme.muted, 1 / zoom));
    for (const auto& [a, b] : lines_)
        painter.drawLine(now(ways_[a]).center(), now(ways_[b]).center());
    for (const Way& way : ways_) {
        const QRectF plate = now(way);
        painter.setPen(QPen(theme.edge, 1 / zoom));
        painter.setBrush(theme.plate);
        painter.drawRoundedRect(plate, 4, 4);
        painter.fillRect(
            QRectF(plate.left(), plate.top(), std::min(plate.width(), scene::spineWidth), plate.height()),
            theme.spine(way.role));
    }
}

} // namespace underridge::app

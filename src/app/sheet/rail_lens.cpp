// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/rail_lens.h"

#include "core/scene/text_width.h"

namespace underridge::app {
using scene::PointF;
using scene::Rect;

RailLens::RailLens(const scene::Plate& plate, std::vector<model::PortView> ports, PointF pointer, double zoom)
    : device_(plate.id), zoom_(zoom) {
    const int columns = plate.rail.columns;
    const double cellHeight = std::max(cellHeightPixels / zoom, scene::plateHeight / 5);
    const double least = std::max(cellPixels / zoom, plate.rail.area.w / columns);
    const int entered = plate.rail.nearest(pointer) % columns;
    double x = 0, widest = 0, underPointer = 0;
    for (int i = 0; i < static_cast<int>(ports.size()); ++i) {
        keys_.push_back(std::move(ports[static_cast<std::size_t>(i)].key));
        if (i % columns == 0)
            x = 0;
        // Long keys need room of their own.
        const double width =
            std::max(least, scene::textWidth(keys_.back(), 8 / zoom, scene::Weight::semiBold) + 5 / zoom);
        cells_.push_back({x, (i / columns) * cellHeight, width, cellHeight});
        if (i == entered)
            underPointer = x + width / 2;
        x += width;
        widest = std::max(widest, x);
    }
    const double height = cellHeight * plate.rail.rows;
    area_ = {pointer.x - underPointer, plate.rail.area.centre().y - height / 2, widest, height};
    for (Rect& cell : cells_)
        cell = cell.moved({area_.x, area_.y});
}

int RailLens::portAt(PointF p) const {
    for (std::size_t i = 0; i < cells_.size(); ++i)
        if (cells_[i].contains(p))
            return static_cast<int>(i);
    return -1;
}

void RailLens::paint(QPainter& painter, paint::SheetPainter& sheetPainter, const scene::Plate& plate,
                     int hovered) const {
    const paint::Theme& theme = sheetPainter.theme();
    painter.setPen(QPen(theme.accent, 1 / zoom_));
    painter.setBrush(theme.plate);
    painter.drawRoundedRect(paint::toQt(area_.grown(3 / zoom_)), 4 / zoom_, 4 / zoom_);
    for (int i = 0; i < static_cast<int>(keys_.size()); ++i) {
        const bool used = i < static_cast<int>(plate.ticks.size()) &&
                          plate.ticks[static_cast<std::size_t>(i)] == scene::Tick::used;
        const Rect box = cell(i).grown(-1 / zoom_);
        painter.setPen(QPen(i == hovered ? theme.accent : theme.socket, (i == hovered ? 1.8 : 0.8) / zoom_));
        painter.setBrush(used ? QBrush(theme.ink) : Qt::NoBrush);
        painter.drawRect(paint::toQt(box));
        const double size = 8 / zoom_;
        const double width = scene::textWidth(key(i), size, scene::Weight::semiBold);
        sheetPainter.text(painter, {box.centre().x - width / 2, box.centre().y + size * 0.36}, key(i), size,
                          scene::Weight::semiBold, used ? theme.plate : theme.ink);
    }
}

} // namespace underridge::app

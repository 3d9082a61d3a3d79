// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/rail_lens.h"

#include "core/scene/text_width.h"

namespace underridge::app {
using scene::PointF;
using scene::Rect;

RailLens::RailLens(const scene::Plate& plate, std::vector<model::PortView> ports, PointF pointer, double zoom)
    : device_(plate.id), zoom_(zoom), columns_(plate.rail.columns) {
    for (model::PortView& port : ports)
        keys_.push_back(std::move(port.key));
    cellWidth_ = std::max(cellPixels / zoom, plate.rail.area.w / columns_);
    for (const std::string& key : keys_) // long keys need room too
        cellWidth_ = std::max(cellWidth_, scene::textWidth(key, 8 / zoom, scene::Weight::semiBold) + 4 / zoom);
    cellHeight_ = std::max(cellHeightPixels / zoom, scene::plateHeight / 5);
    const double share = std::clamp((pointer.x - plate.rail.area.x) / plate.rail.area.w, 0.0, 1.0);
    const double width = cellWidth_ * columns_;
    area_ = {pointer.x - share * width, plate.rail.area.centre().y - cellHeight_ * plate.rail.rows / 2, width,
             cellHeight_ * plate.rail.rows};
}

int RailLens::portAt(PointF p) const {
    if (!area_.contains(p))
        return -1;
    const int column = std::min(static_cast<int>((p.x - area_.x) / cellWidth_), columns_ - 1);
    const int port = static_cast<int>((p.y - area_.y) / cellHeight_) * columns_ + column;
    return port < static_cast<int>(keys_.size()) ? port : -1;
}

Rect RailLens::cell(int port) const {
    return {area_.x + (port % columns_) * cellWidth_, area_.y + (port / columns_) * cellHeight_, cellWidth_, cellHeight_};
}

void RailLens::paint(QPainter& painter, paint::SheetPainter& sheetPainter, const scene::Plate& plate, int hovered) const {
    const paint::Theme& theme = sheetPainter.theme();
    painter.setPen(QPen(theme.accent, 1 / zoom_));
    painter.setBrush(theme.plate);
    painter.drawRoundedRect(paint::toQt(area_.grown(3 / zoom_)), 4 / zoom_, 4 / zoom_);
    for (int i = 0; i < static_cast<int>(keys_.size()); ++i) {
        const bool used = i < static_cast<int>(plate.ticks.size()) && plate.ticks[static_cast<std::size_t>(i)] == scene::Tick::used;
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

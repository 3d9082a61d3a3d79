// SPDX-License-Identifier: GPL-3.0-or-later
// The port rail under the pointer, magnified so that each port is at least 12 pixels
// wide. It is laid out so that the port the pointer came in on stays under it.
#pragma once
#include "core/model/ports.h"
#include "paint/sheet_painter.h"

#include <optional>

namespace underridge::app {

class RailLens {
public:
    static constexpr double cellPixels = 14, cellHeightPixels = 16;

    /// Opens over a plate's rail. REQUIRES: the plate has ports.
    RailLens(const scene::Plate& plate, std::vector<model::PortView> ports, scene::PointF pointer,
             double zoom);

    model::DeviceId device() const { return device_; }
    /// The port at a point; -1 outside.
    int portAt(scene::PointF p) const;
    const std::string& key(int port) const { return keys_[static_cast<std::size_t>(port)]; }
    scene::Rect cell(int port) const { return cells_[static_cast<std::size_t>(port)]; }
    scene::Rect area() const { return area_; }
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, const scene::Plate& plate,
               int hovered) const;

private:
    model::DeviceId device_;
    std::vector<std::string> keys_;
    std::vector<scene::Rect> cells_;
    scene::Rect area_;
    double zoom_ = 1;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// A device or a model as its front, and its rear where it has ports there: sockets by block, in pairs of
// rows, with their keys.
#pragma once
#include "core/model/ports.h"
#include "paint/theme.h"

#include <QPainter>
#include <functional>

namespace underridge::paint {

struct FacePort {
    std::string key;
    model::PortBlock like;
    QRectF area; ///< of the socket, in pixels at 100 %
};

/// Where everything is on a face. Sides are its plates: the front, and the rear below it.
struct Face {
    QSizeF size;
    std::vector<QRectF> sides;
    std::vector<FacePort> ports; ///< in the order of the device

    /// The port at or within a few pixels of a point; -1 when there is none.
    int at(QPointF point) const;
};

Face faceOf(const model::DeviceModel& model);
/// With the ports of its modules, its additional ones and those a source has named.
Face faceOf(const model::Network& network, const model::Device& device);

/// How a port is drawn; told apart by shape as well as by colour.
enum class PortState {
    free,
    used,     ///< filled
    reserved, ///< a bar across the corner
    disabled, ///< crossed out
    fails     ///< used, with a notch: its link will not come up
};

struct PortLook {
    PortState state = PortState::free;
    bool chosen = false, hovered = false;
    bool givesPower = false;
};

void paintFace(QPainter& painter, const Face& face, const Theme& theme,
               const std::function<PortLook(const FacePort&)>& look);

/// The size a model's faceplate wants, in pixels at 100 %; as wide as its ports need.
inline QSizeF faceplateSize(const model::DeviceModel& model) {
    return faceOf(model).size;
}
/// Draws it from the origin at that size, with all ports free.
void paintFaceplate(QPainter& painter, const model::DeviceModel& model, const Theme& theme);

} // namespace underridge::paint

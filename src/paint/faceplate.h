// SPDX-License-Identifier: GPL-3.0-or-later
// A device or a model as its front, and its rear where it has ports there: sockets by
// block, in pairs of rows, with their keys.
#pragma once
#include "core/model/ports.h"
#include "paint/theme.h"

#include <QPainter>
#include <functional>

namespace underridge::paint {

struct FacePort {
    std::string key;
    model::PortBlock like;
    QRectF area;                                      ///< of the socket, in pixels at 100 %
    model::Connector fitted = model::Connector::none; ///< of the transceiver in its cage
};

/// A place for a module, with the ports of the one that is in it.
struct FaceSlot {
    std::string key;
    std::string caption; ///< "slot 2 · 12 × SFP+ line module", "slot 3 · empty"
    bool fitted = false;
    QRectF area;
};

/// What a run of like ports can do at most, above its right end: "1G", "10G".
struct FaceSpeed {
    std::string text;
    QPointF right; ///< of its baseline
};

/// The front or the rear of one chassis.
struct FaceSide {
    std::string caption; ///< "front", "rear 2"
    QRectF area;
};

/// Where everything is on a face: sides below one another, each with its own ports first,
/// then its slots.
struct Face {
    QSizeF size;
    std::vector<FaceSide> sides;
    std::vector<FacePort> ports; ///< in the order of the device
    std::vector<FaceSlot> slots;
    std::vector<FaceSpeed> speeds; ///< of the chassis' own ports; a module's name says its ports

    /// The port at or within a few pixels of a point; -1 when there is none.
    int at(QPointF point) const;
    /// The slot at a point; -1 when there is none.
    int slotAt(QPointF point) const;
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

/// `chosenSlot`: the index of one that stands out; -1: none.
void paintFace(QPainter& painter, const Face& face, const Theme& theme,
               const std::function<PortLook(const FacePort&)>& look, int chosenSlot = -1);

/// The size a model's faceplate wants, in pixels at 100 %; as wide as its ports need.
inline QSizeF faceplateSize(const model::DeviceModel& model) {
    return faceOf(model).size;
}
/// Draws it from the origin at that size, with all ports free.
void paintFaceplate(QPainter& painter, const model::DeviceModel& model, const Theme& theme);

} // namespace underridge::paint

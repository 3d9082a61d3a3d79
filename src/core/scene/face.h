// SPDX-License-Identifier: GPL-3.0-or-later
// A device or a model as its front, and its rear where it has ports there, laid out:
// sockets by block, in pairs of rows, bays of modules below, stacked chassis below one
// another.
#pragma once
#include "core/model/ports.h"
#include "core/scene/geometry.h"

namespace underridge::scene {

struct FacePort {
    std::string key;
    model::PortBlock like;
    Rect area;                                        ///< of the socket, in pixels at 100 %
    model::Connector fitted = model::Connector::none; ///< of the transceiver in its cage
};

/// A place for a module, with the ports of the one that is in it.
struct FaceSlot {
    std::string key;
    std::string caption; ///< "slot 2 · 12 × SFP+ line module", "slot 3 · empty"
    bool fitted = false;
    Rect area;
};

/// What a run of like ports can do at most, above its right end: "1G", "10G".
struct FaceSpeed {
    std::string text;
    PointF right; ///< of its baseline
};

/// The front or the rear of one chassis.
struct FaceSide {
    std::string caption; ///< "front", "rear 2"
    Rect area;
};

/// How far the words at an edge are from it, and how high captions and keys are.
inline constexpr double faceMargin = 12, faceBayMargin = 6, faceGap = 4, faceKeyHeight = 10,
                        faceCaptionSize = 7;

/// Where everything is on a face: sides below one another, each with its own ports first,
/// then its slots.
struct Face {
    double width = 0, height = 0;
    std::vector<FaceSide> sides;
    std::vector<FacePort> ports; ///< in the order of the device
    std::vector<FaceSlot> slots;
    std::vector<FaceSpeed> speeds; ///< of the chassis' own ports; a module's name says its ports

    /// The port at or within a few pixels of a point; -1 when there is none.
    int at(PointF point) const;
    /// The slot at a point; -1 when there is none.
    int slotAt(PointF point) const;
};

Face faceOf(const model::DeviceModel& model);
/// With the ports of its modules, its additional ones and those a source has named.
Face faceOf(const model::Network& network, const model::Device& device);

} // namespace underridge::scene

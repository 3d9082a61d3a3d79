// SPDX-License-Identifier: GPL-3.0-or-later
// Draws the faces that core/scene/face.h lays out: sockets by their form, with their keys
// and their state.
#pragma once
#include "core/scene/face.h"
#include "paint/theme.h"

#include <QPainter>
#include <functional>

namespace underridge::paint {

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
void paintFace(QPainter& painter, const scene::Face& face, const Theme& theme,
               const std::function<PortLook(const scene::FacePort&)>& look, int chosenSlot = -1);

/// The size a model's faceplate wants, in pixels at 100 %; as wide as its ports need.
inline QSizeF faceplateSize(const model::DeviceModel& model) {
    const scene::Face face = scene::faceOf(model);
    return {face.width, face.height};
}
/// Draws it from the origin at that size, with all ports free.
void paintFaceplate(QPainter& painter, const model::DeviceModel& model, const Theme& theme);

} // namespace underridge::paint

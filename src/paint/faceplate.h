// SPDX-License-Identifier: GPL-3.0-or-later
// A device model as its front, and its rear where it has ports there: sockets by block, in pairs of rows,
// with their keys.
#pragma once
#include "core/model/catalogue.h"
#include "paint/theme.h"

#include <QPainter>

namespace underridge::paint {

/// The size a faceplate wants, in pixels at 100 %; as wide as its ports need.
QSizeF faceplateSize(const model::DeviceModel& model);
/// Draws it from the origin at that size.
void paintFaceplate(QPainter& painter, const model::DeviceModel& model, const Theme& theme);

} // namespace underridge::paint

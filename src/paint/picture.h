// SPDX-License-Identifier: GPL-3.0-or-later
// A sheet as a picture file: PNG, SVG or PDF, through the one painter.
#pragma once
#include "core/base/result.h"
#include "core/scene/scene.h"
#include "paint/overlays/overlay.h"
#include "paint/theme.h"

#include <QByteArray>
#include <QSize>
#include <optional>
#include <string>

namespace underridge::paint {

enum class PictureFormat { png, svg, pdf };

struct PictureOptions {
    PictureFormat format = PictureFormat::png;
    const Theme* theme = &lightTheme();
    std::optional<QSize> size;           ///< pixels; the sheet is fitted into it
    double scale = 1;                    ///< pixels a sheet unit when no size is given
    std::optional<scene::Detail> detail; ///< else as the scale has it
    LaidOver laidOver = {};              ///< drawn over the sheet, with legends in the corner
};

struct PictureInfo {
    int width = 0, height = 0; ///< pixels
};

inline constexpr double pictureMargin = 24; ///< sheet units round the drawing
inline constexpr int maxPictureSide = 20'000;

std::optional<PictureFormat> formatFromSuffix(const std::string& path);

/// The whole sheet as the bytes of a picture file. Refuses sizes over maxPictureSide.
Result<QByteArray> pictureBytes(const scene::Scene& scene, const PictureOptions& options,
                                const std::string& title, PictureInfo* info = nullptr);

/// Draws the whole sheet into a file. Refuses sizes over maxPictureSide and files that
/// cannot be written.
Result<PictureInfo> writePicture(const scene::Scene& scene, const std::string& path,
                                 const PictureOptions& options, const std::string& title);

} // namespace underridge::paint

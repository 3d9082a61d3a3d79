// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/picture.h"

#include "core/base/text.h"
#include "paint/overlays/overlay_painter.h"
#include "paint/sheet_painter.h"

#include <QBuffer>
#include <QFile>
#include <QPdfWriter>
#include <QSaveFile>
#include <QSvgGenerator>
#include <fmt/format.h>

namespace underridge::paint {
using scene::Rect;
namespace {

constexpr int pointsPerInch = 72;

struct Layout {
    Rect area; ///< sheet units
    double scale = 1;
    QSize size; ///< pixels
};

Layout layoutFor(const scene::Scene& scene, const PictureOptions& options) {
    Layout out;
    out.area = scene.bounds();
    if (out.area.empty())
        out.area = {0, 0, 400, 240};
    out.area = out.area.grown(pictureMargin);
    out.scale = options.scale;
    if (options.size) {
        out.size = *options.size;
        out.scale = std::min(options.size->width() / out.area.w, options.size->height() / out.area.h);
        const Rect fitted{out.area.centre().x - out.size.width() / out.scale / 2,
                          out.area.centre().y - out.size.height() / out.scale / 2,
                          out.size.width() / out.scale, out.size.height() / out.scale};
        out.area = fitted;
    } else {
        out.size = QSize(static_cast<int>(std::ceil(out.area.w * out.scale)),
                         static_cast<int>(std::ceil(out.area.h * out.scale)));
    }
    return out;
}

void draw(QPaintDevice& device, const scene::Scene& scene, const Layout& layout,
          const PictureOptions& options, double unit) {
    QPainter painter(&device);
    painter.fillRect(QRectF(0, 0, layout.size.width() * unit, layout.size.height() * unit),
                     options.theme->sheet);
    painter.scale(layout.scale * unit, layout.scale * unit);
    painter.translate(-layout.area.x, -layout.area.y);
    SheetPainter sheet(*options.theme);
    sheet.outlineText(options.format == PictureFormat::svg); // PDF embeds its fonts, SVG does not
    sheet.paint(painter, scene, layout.area, layout.scale,
                options.detail.value_or(scene::detailFor(layout.scale)));
    if (options.laidOver.overlays.empty())
        return;
    const ShownMarks marks(options.laidOver.network, scene, options.laidOver.overlays);
    marks.paintHalos(painter, sheet, scene, layout.area, layout.scale);
    marks.paintBadges(painter, *options.theme, layout.area, layout.scale);
    painter.resetTransform();
    painter.scale(unit, unit);
    paintLegends(painter, *options.theme, options.laidOver.overlays, layout.size);
}

QByteArray bytesOf(const scene::Scene& scene, const Layout& layout, const PictureOptions& options,
                   const QString& title) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    switch (options.format) {
    case PictureFormat::png: {
        QImage image(layout.size, QImage::Format_RGB32);
        draw(image, scene, layout, options, 1);
        image.save(&buffer, "PNG");
        break;
    }
    case PictureFormat::svg: {
        QSvgGenerator svg;
        svg.setOutputDevice(&buffer);
        svg.setSize(layout.size);
        svg.setViewBox(QRect(QPoint(0, 0), layout.size));
        svg.setTitle(title.toHtmlEscaped()); // QSvgGenerator writes it as it is
        draw(svg, scene, layout, options, 1);
        break;
    }
    case PictureFormat::pdf: {
        QPdfWriter pdf(&buffer);
        pdf.setTitle(title);
        pdf.setCreator(QStringLiteral("Underridge"));
        pdf.setPageSize(QPageSize(QSizeF(layout.size), QPageSize::Point));
        pdf.setPageMargins(QMarginsF(0, 0, 0, 0));
        pdf.setResolution(pointsPerInch * 4);
        draw(pdf, scene, layout, options, 4);
        break;
    }
    }
    return bytes;
}

} // namespace

std::optional<PictureFormat> formatFromSuffix(const std::string& path) {
    const std::string low = lowered(path);
    if (low.ends_with(".png"))
        return PictureFormat::png;
    if (low.ends_with(".svg"))
        return PictureFormat::svg;
    if (low.ends_with(".pdf"))
        return PictureFormat::pdf;
    return std::nullopt;
}

Result<QByteArray> pictureBytes(const scene::Scene& scene, const PictureOptions& options,
                                const std::string& title, PictureInfo* info) {
    const Layout layout = layoutFor(scene, options);
    if (layout.size.width() < 1 || layout.size.height() < 1 || layout.size.width() > maxPictureSide ||
        layout.size.height() > maxPictureSide)
        return error(
            fmt::format("the picture would be {} by {} pixels", layout.size.width(), layout.size.height()),
            fmt::format("choose a size up to {} a side", maxPictureSide));
    if (info)
        *info = {layout.size.width(), layout.size.height()};
    return bytesOf(scene, layout, options, QString::fromStdString(title));
}

Result<PictureInfo> writePicture(const scene::Scene& scene, const std::string& path,
                                 const PictureOptions& options, const std::string& title) {
    PictureInfo info;
    const auto bytes = pictureBytes(scene, options, title, &info);
    if (!bytes) {
        Remark refusal = bytes.refusal();
        refusal.where.file = path;
        return refusal;
    }
    QSaveFile file(QString::fromStdString(path));
    const bool written =
        file.open(QIODevice::WriteOnly) && file.write(*bytes) == bytes->size() && file.commit();
    if (!written)
        return error(fmt::format("cannot write: {}", file.errorString().toStdString()),
                     "choose another place", {path, 0, 0, {}});
    return info;
}

} // namespace underridge::paint

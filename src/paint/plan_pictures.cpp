// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/plan_pictures.h"

#include "paint/sheet_painter.h"

#include <QBuffer>
#include <QImageReader>
#include <QSvgRenderer>
#include <map>
#include <mutex>

namespace underridge::paint {
using scene::PlanPicture;
namespace {

constexpr std::size_t mostKept = 12;
/// A picture is drawn from the copy that has at least as many pixels as the screen, so that
/// far away a small one is scaled, not the whole.
constexpr int smallestCopy = 256;
constexpr double largestTile = 4096;

/// A picture decoded: a drawing, or pixels with copies of half the size each.
struct Decoded {
    std::unique_ptr<QSvgRenderer> drawing;
    std::vector<QImage> copies;
    std::mutex drawing_mutex;

    bool empty() const { return !drawing && copies.empty(); }
};

QByteArray bytesOf(const PlanPicture& plan) {
    QByteArray text;
    for (const model::SharedText& part : plan.parts)
        text.append(part.view().data(), static_cast<qsizetype>(part.view().size()));
    return QByteArray::fromBase64(text);
}

std::shared_ptr<Decoded> decode(const PlanPicture& plan) {
    auto out = std::make_shared<Decoded>();
    QByteArray bytes = bytesOf(plan);
    if (plan.media == "image/svg+xml") {
        auto drawing = std::make_unique<QSvgRenderer>(bytes);
        if (drawing->isValid()) {
            drawing->setAspectRatioMode(Qt::IgnoreAspectRatio);
            out->drawing = std::move(drawing);
        }
        return out;
    }
    QBuffer buffer(&bytes);
    QImageReader reader(&buffer);
    reader.setAllocationLimit(0); // its size was looked at when it was taken in
    QImage image = reader.read();
    if (image.isNull())
        return out;
    image = image.convertToFormat(QImage::Format_ARGB32_Premultiplied);
    out->copies.push_back(image);
    while (std::min(image.width(), image.height()) > 2 * smallestCopy) {
        image = image.scaled(image.size() / 2, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
        out->copies.push_back(image);
    }
    return out;
}

std::shared_ptr<Decoded> decodedOf(const PlanPicture& plan) {
    static std::mutex mutex;
    static std::map<model::AssetId, std::shared_ptr<Decoded>> kept;
    {
        const std::lock_guard lock(mutex);
        if (const auto at = kept.find(plan.asset); at != kept.end())
            return at->second;
    }
    auto fresh = decode(plan);
    const std::lock_guard lock(mutex);
    if (kept.size() >= mostKept)
        kept.erase(kept.begin());
    return kept.emplace(plan.asset, std::move(fresh)).first->second;
}

/// The darkness of a picture as the ink of a theme.
void toInk(QImage& image, const QColor& ink) {
    for (int y = 0; y < image.height(); ++y) {
        auto* line = reinterpret_cast<QRgb*>(image.scanLine(y));
        for (int x = 0; x < image.width(); ++x) {
            const QRgb p = line[x]; // premultiplied
            const int alpha = qAlpha(p) - qGray(p);
            line[x] = alpha <= 0 ? 0 : qPremultiply(qRgba(ink.red(), ink.green(), ink.blue(), alpha));
        }
    }
}

void drawCopy(QPainter& painter, const Decoded& picture, const QRectF& frame, double scale) {
    const QImage* copy = &picture.copies.front();
    for (const QImage& each : picture.copies)
        if (each.width() >= frame.width() * scale)
            copy = &each;
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(frame, *copy);
}

void drawWhole(QPainter& painter, Decoded& picture, const QRectF& frame, double scale) {
    if (!picture.drawing)
        return drawCopy(painter, picture, frame, scale);
    const std::lock_guard lock(picture.drawing_mutex);
    picture.drawing->render(&painter, frame);
}

/// By way of an image in which everything becomes ink.
void drawInk(QPainter& painter, Decoded& picture, const QRectF& frame, const QColor& ink) {
    const QTransform device = painter.deviceTransform();
    const QRectF clip = painter.hasClipping()
                            ? device.mapRect(painter.clipBoundingRect())
                            : QRectF(0, 0, painter.device()->width(), painter.device()->height());
    const QRectF seen = device.mapRect(frame).intersected(clip).adjusted(-1, -1, 1, 1);
    if (seen.isEmpty() || seen.width() > largestTile || seen.height() > largestTile)
        return;
    QImage image(seen.size().toSize(), QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::transparent);
    QPainter inner(&image);
    inner.setRenderHint(QPainter::Antialiasing);
    const QPoint corner = seen.topLeft().toPoint();
    inner.setTransform(device * QTransform::fromTranslate(-corner.x(), -corner.y()));
    drawWhole(inner, picture, frame, device.m11());
    inner.end();
    toInk(image, ink);
    painter.save();
    painter.setTransform(QTransform());
    painter.resetTransform();
    painter.drawImage(corner, image);
    painter.restore();
}

} // namespace

void drawPlan(QPainter& painter, const PlanPicture& plan, const scene::Rect& area, const Theme& theme) {
    if (!plan.covered().intersects(area))
        return;
    const auto picture = decodedOf(plan);
    painter.save();
    painter.setOpacity(painter.opacity() * (100 - plan.dim) / 100);
    painter.translate(plan.frame.x, plan.frame.y);
    painter.rotate(plan.turn);
    const QRectF frame(0, 0, plan.frame.w, plan.frame.h);
    const double scale = std::hypot(painter.worldTransform().m11(), painter.worldTransform().m12());
    if (picture->empty()) {
        painter.setPen(QPen(theme.edge, 0));
        painter.drawRect(frame);
    } else if (plan.ink && painter.device()->devType() == QInternal::Image) {
        drawInk(painter, *picture, frame, theme.ink);
    } else {
        drawWhole(painter, *picture, frame, scale);
    }
    painter.restore();
}

QImage smallPicture(const QByteArray& bytes, QSize size) {
    QSvgRenderer drawing(bytes);
    QImage image;
    if (drawing.isValid()) {
        image = QImage(drawing.defaultSize().scaled(size, Qt::KeepAspectRatio),
                       QImage::Format_ARGB32_Premultiplied);
        image.fill(Qt::transparent);
        QPainter painter(&image);
        drawing.render(&painter);
        return image;
    }
    image.loadFromData(bytes);
    return image.isNull() ? image : image.scaled(size, Qt::KeepAspectRatio, Qt::SmoothTransformation);
}

} // namespace underridge::paint

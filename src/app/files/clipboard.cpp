// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/clipboard.h"

#include "app/shown_text.h"
#include "core/edit/placed_reading.h"
#include "paint/picture.h"

#include <QCoreApplication>
#include <QFile>
#include <QUrl>

namespace underridge::app {
using namespace model;
namespace {

const QString svgType = QStringLiteral("image/svg+xml"), pngType = QStringLiteral("image/png"),
              csvType = QStringLiteral("text/csv"), textType = QStringLiteral("text/plain"),
              uriType = QStringLiteral("text/uri-list");

} // namespace

QStringList ClipData::formats() const {
    QStringList types{QString::fromLatin1(networkMimeType),    textType, csvType, svgType, pngType,
                      QStringLiteral("application/x-qt-image")};
    if (!svgPath_.isEmpty())
        types << uriType;
    return types;
}

QVariant ClipData::retrieveData(const QString& type, QMetaType wanted) const {
    if (type == QLatin1String(networkMimeType))
        return QByteArray::fromStdString(exchange::writeOwn(clip_.piece));
    if (type == textType || type == csvType) {
        const QByteArray csv = QByteArray::fromStdString(exchange::writeCsv(clip_.piece).bytes);
        return wanted.id() == QMetaType::QString ? QVariant(QString::fromUtf8(csv)) : QVariant(csv);
    }
    if (type == svgType)
        return picture(type);
    if (type == uriType) {
        QFile file(svgPath_);
        if (file.open(QIODevice::WriteOnly))
            file.write(picture(svgType));
        return QVariantList{QUrl::fromLocalFile(svgPath_)};
    }
    if (type == pngType)
        return picture(type);
    if (type == QStringLiteral("application/x-qt-image")) {
        QImage image;
        image.loadFromData(picture(pngType), "PNG");
        return image;
    }
    return {};
}

QByteArray ClipData::picture(const QString& type) const {
    const auto sheets = clip_.piece.sheetsInOrder();
    if (sheets.empty())
        return {};
    paint::PictureOptions options;
    options.theme = &theme_;
    options.format = type == svgType ? paint::PictureFormat::svg : paint::PictureFormat::png;
    options.scale = options.format == paint::PictureFormat::png ? 2 : 1;
    options.detail = scene::Detail::near;
    const auto bytes = paint::pictureBytes(scene::Scene::build(clip_.piece, sheets.front().id), options,
                                           said(QCoreApplication::translate("Clipboard", "Selection")));
    return bytes ? *bytes : QByteArray();
}

QByteArray clipBytes(const QMimeData& data) {
    const QString own = QString::fromLatin1(networkMimeType);
    return data.hasFormat(own) ? data.data(own) : data.text().toUtf8();
}

Result<edit::Clip> clipFrom(const QByteArray& bytes, const Catalogue& catalogue) {
    if (bytes.isEmpty())
        return advice(QCoreApplication::translate("Clipboard", "there is nothing to paste"),
                      QCoreApplication::translate("Clipboard", "copy some devices first"));
    auto loaded =
        edit::readPlaced({bytes.data(), static_cast<std::size_t>(bytes.size())}, {"clipboard", catalogue});
    if (!loaded)
        return loaded.refusal();
    return edit::Clip{std::move(loaded->network)};
}

bool mayHoldClip(const QMimeData& data) {
    return data.hasFormat(QString::fromLatin1(networkMimeType)) || data.hasText();
}

} // namespace underridge::app

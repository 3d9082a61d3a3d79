// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/small_pictures.h"

#include "app/shown_text.h"
#include "paint/picture.h"

#include <QCryptographicHash>
#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QImage>
#include <QSaveFile>
#include <QUrl>

namespace underridge::app {
namespace {

constexpr QSize pictureSize(256, 160);
const QString uriKey = QStringLiteral("Thumb::URI"), timeKey = QStringLiteral("Thumb::MTime");

QByteArray uriOf(const QString& path) {
    return QUrl::fromLocalFile(QFileInfo(path).absoluteFilePath()).toEncoded();
}

QString timeOf(const QString& path) {
    return QString::number(QFileInfo(path).lastModified().toSecsSinceEpoch());
}

} // namespace

QString SmallPictures::pictureOf(const QString& path) const {
    return QStringLiteral("%1/large/%2.png")
        .arg(folder_,
             QString::fromLatin1(QCryptographicHash::hash(uriOf(path), QCryptographicHash::Md5).toHex()));
}

Result<Done> SmallPictures::keep(const QString& path, const scene::Scene& scene,
                                 const std::string& title) const {
    paint::PictureOptions options;
    options.size = pictureSize;
    const auto bytes = paint::pictureBytes(scene, options, title);
    if (!bytes)
        return bytes.refusal();
    QImage image = QImage::fromData(*bytes, "PNG");
    image.setText(uriKey, QString::fromLatin1(uriOf(path)));
    image.setText(timeKey, timeOf(path));
    const QString to = pictureOf(path);
    QDir().mkpath(QFileInfo(to).absolutePath());
    QSaveFile file(to);
    if (!file.open(QIODevice::WriteOnly) || !image.save(&file, "PNG") || !file.commit())
        return warning(tr("the small picture cannot be kept"), tr("make room in the cache"),
                       {to.toStdString()});
    // For oneself alone, as the standard says: it shows what is in the file.
    QFile::setPermissions(to, QFileDevice::ReadOwner | QFileDevice::WriteOwner);
    return Done{};
}

QPixmap SmallPictures::of(const QString& path) const {
    return has(path) ? QPixmap(pictureOf(path)) : QPixmap();
}

bool SmallPictures::has(const QString& path) const {
    return isKept() && QImage(pictureOf(path)).text(timeKey) == timeOf(path);
}

} // namespace underridge::app

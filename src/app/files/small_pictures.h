// SPDX-License-Identifier: GPL-3.0-or-later
// Small pictures of files, kept where other programs find them too: freedesktop.org's
// Thumbnail Managing Standard, the "large" ones of at most 256 pixels.
#pragma once
#include "core/base/result.h"
#include "core/scene/scene.h"

#include <QCoreApplication>
#include <QPixmap>
#include <QString>

namespace underridge::app {

class SmallPictures {
    Q_DECLARE_TR_FUNCTIONS(SmallPictures)
public:
    SmallPictures() = default;
    /// `folder`: where thumbnails are kept, such as ~/.cache/thumbnails; empty: nowhere.
    explicit SmallPictures(QString folder) : folder_(std::move(folder)) {}

    bool isKept() const { return !folder_.isEmpty(); }
    /// Draws the sheet and keeps it as the picture of a file as that is now. May run on
    /// any thread. Refuses what cannot be drawn or written.
    Result<Done> keep(const QString& path, const scene::Scene& scene, const std::string& title) const;
    /// The picture of a file; a null one when there is none, or the file has changed
    /// since.
    QPixmap of(const QString& path) const;
    /// Whether there is one.
    bool has(const QString& path) const;

private:
    QString pictureOf(const QString& path) const;

    QString folder_;
};

} // namespace underridge::app

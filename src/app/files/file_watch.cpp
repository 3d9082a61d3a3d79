// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/file_watch.h"

#include "core/base/text.h"

namespace underridge::app {
namespace {
constexpr int settleMs = 250;
}

FileWatch::FileWatch(Files& files, QObject* parent) : QObject(parent), files_(files) {
    settle_.setSingleShot(true);
    settle_.setInterval(settleMs);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, &settle_, qOverload<>(&QTimer::start));
    connect(&settle_, &QTimer::timeout, this, &FileWatch::look);
}

void FileWatch::watch(const QString& path, quint64 hash) {
    hash_ = hash;
    if (!path.isEmpty() && path == path_ && watcher_.files().contains(path))
        return;
    if (!watcher_.files().isEmpty())
        watcher_.removePaths(watcher_.files());
    path_ = path;
    if (!path_.isEmpty())
        watcher_.addPath(path_);
}

void FileWatch::look() {
    if (path_.isEmpty() || looking_)
        return;
    looking_ = true;
    reader_ = std::jthread([this, path = path_] {
        auto bytes = files_.read(path.toStdString());
        const quint64 hash = bytes ? fnv1a(*bytes) : 0;
        const QByteArray held = bytes ? QByteArray::fromStdString(*bytes) : QByteArray();
        QMetaObject::invokeMethod(
            this,
            [this, path, held, hash] {
                looking_ = false;
                if (path != path_ || hash == 0)
                    return;
                if (!watcher_.files().contains(
                        path_)) // a file put in place of another has to be watched anew
                    watcher_.addPath(path_);
                if (hash == hash_)
                    return;
                hash_ = hash; // asked once for each change
                Q_EMIT changed(held, hash);
            },
            Qt::QueuedConnection);
    });
}

} // namespace underridge::app

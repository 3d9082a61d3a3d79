// SPDX-License-Identifier: GPL-3.0-or-later
// Notices that another program changed the file of the open network. The file may be on a
// slow disk or gone: it is read on a worker, and what cannot be read is not a change.
#pragma once
#include "core/base/files.h"

#include <QFileSystemWatcher>
#include <QObject>
#include <QTimer>
#include <memory>
#include <thread>

namespace underridge::app {

class FileWatch : public QObject {
    Q_OBJECT
public:
    explicit FileWatch(Files& files, QObject* parent = nullptr);

    /// Watches a file whose bytes have this FNV-1a; an empty path: nothing.
    void watch(const QString& path, quint64 hash);
    /// Looks at once: the window came to the front.
    void look();

Q_SIGNALS:
    void changed(const QByteArray& bytes, quint64 hash);

private:
    Files& files_;
    QFileSystemWatcher watcher_;
    QTimer settle_; ///< a file is written in more than one step
    QString path_;
    quint64 hash_ = 0;
    bool looking_ = false;
    std::jthread reader_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// Choosing files: with titles of their own, where one chose last, under a proposed name,
// and never over a file that the person did not name.
#pragma once
#include "app/dialogs/dialogs.h"
#include "app/session/settings.h"

namespace underridge::app {

struct FileQuestion {
    QString title;
    QString filter;        ///< as QFileDialog takes it
    QString suffix = {};   ///< of a file to be written that is named without one
    QString proposed = {}; ///< a name, or a path
    bool saving = false;
};

class FileDialogs {
public:
    FileDialogs(Dialogs& dialogs, Settings& settings, QWidget* window)
        : dialogs_(dialogs), settings_(settings), window_(window) {}

    /// `then` is told the file; it is not called when choosing is cancelled.
    void choose(const FileQuestion& question, std::function<void(const QString&)> then);

    /// Answers instead of a person, for tests; an empty path cancels.
    std::function<QString(const FileQuestion&)> answer;

private:
    void show(const FileQuestion& question, std::function<void(const QString&)> then);
    /// The path with a suffix; asks first if a file of that name is there though the
    /// person did not name it.
    void withSuffix(const QString& path, const QString& suffix, std::function<void(const QString&)> then);

    Dialogs& dialogs_;
    Settings& settings_;
    QWidget* window_;
};

} // namespace underridge::app

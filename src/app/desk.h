// SPDX-License-Identifier: GPL-3.0-or-later
// What those parts of a window share that read and write files.
#pragma once
#include "app/dialogs/file_dialogs.h"
#include "app/jobs/jobs.h"
#include "app/session/messages.h"
#include "app/session/session.h"
#include "app/session/settings.h"
#include "app/session/typed_fields.h"
#include "app/session/when_done.h"

namespace underridge::app {

struct Desk {
    Session& session;
    Settings& settings;
    TypedFields& typed;
    Jobs& jobs;
    Dialogs& dialogs;
    FileDialogs& fileDialogs;
    Messages& messages;
    QWidget* window; ///< that dialogs belong to

    Files& files() const { return session.workspace().world().files; }
    /// Asks which network file to read.
    void chooseNetwork(const QString& title, std::function<void(const QString&)> then) const;
    /// What the open network is called, as a file may be.
    QString networkName() const;
    /// The name of its own file, where it has one, else that.
    QString proposedName() const;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The file of the open network where others have it open too, or change it: claims, and
// what to do when the file is not as it was left.
#pragma once
#include "app/desk.h"
#include "app/files/changed_dialog.h"
#include "app/files/file_watch.h"
#include "core/edit/claim.h"

namespace underridge::app {

class SharedFile : public QObject {
    Q_OBJECT
public:
    SharedFile(const Desk& desk, QObject* parent);

    /// How a file may be used.
    enum class Use { own, readOnly, copy };
    /// Claims a file to be opened; asks when somebody else has it. Told nothing: it is
    /// not to be opened.
    void claim(const QString& path, std::function<void(std::optional<Use>)> then);
    /// Claims a file to be written. A refusal is shown.
    bool claimForSaving(const QString& path);
    /// The open network's file is this from now on, with these bytes' FNV-1a: the claim
    /// made last counts, that before is let go of. An empty path: it has no file.
    void keep(const QString& path, quint64 hash);
    /// The claim made last is not needed after all.
    void forget() { next_.reset(); }
    /// Lets go of the file.
    void release() { held_.reset(); }

    /// While it is being written, changes are our own.
    void setBeingWritten(bool on);
    /// Looks at once whether the file has changed.
    void look() { watch_.look(); }

Q_SIGNALS:
    /// What "modified" is measured against is another.
    void rebased();
    void saveAsWanted();

private:
    bool holds(const QString& path) const;
    void compare(const QByteArray& bytes, quint64 hash);
    struct Read;
    /// A file as another program left it, and how that differs from what was open when
    /// it was read.
    struct Changed;
    void compared(const Read& read);
    void ask();
    void answered(const Changed& file, ChangedDialog::Answer answer);

    Desk desk_;
    FileWatch watch_;
    std::unique_ptr<edit::Claim> held_, next_;
    std::shared_ptr<Changed> changed_; ///< to be asked about
    bool beingWritten_ = false;
};

} // namespace underridge::app

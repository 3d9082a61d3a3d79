// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/shared_file.h"

#include "app/shown_text.h"
#include "core/exchange/own_format.h"

#include <QDateTime>
#include <QFileInfo>
#include <QSysInfo>

namespace underridge::app {
using namespace model;
namespace {

edit::Claimant me() {
    return {qEnvironmentVariable("USER", qEnvironmentVariable("LOGNAME")).toStdString(),
            QSysInfo::machineHostName().toStdString(),
            QDateTime::currentDateTime().toString(QStringLiteral("d MMM hh:mm")).toStdString()};
}

} // namespace

struct SharedFile::Read {
    std::string path;
    quint64 hash = 0;
    Network open; ///< that it is compared with
    Result<exchange::Loaded> loaded;
    std::vector<edit::Difference> differences;
};

struct SharedFile::Changed {
    Network now, open;
    quint64 hash = 0;
    std::string path;
    std::vector<edit::Difference> differences;
};

SharedFile::SharedFile(const Desk& desk, QObject* parent)
    : QObject(parent), desk_(desk), watch_(desk_.files()) {
    connect(&watch_, &FileWatch::changed, this, &SharedFile::compare);
}

bool SharedFile::holds(const QString& path) const {
    return held_ && QString::fromStdString(held_->path()) == path;
}

bool SharedFile::claimForSaving(const QString& path) {
    if (holds(path))
        return true;
    auto taken = edit::Claim::take(desk_.files(), path.toStdString(), me());
    if (taken) {
        next_ = *std::move(taken);
        return true;
    }
    Remark why = taken.refusal();
    why.remedy = said(tr("save under another name"));
    desk_.messages.refuse(tr("Save"), why);
    return false;
}

void SharedFile::claim(const QString& path, std::function<void(std::optional<Use>)> then) {
    if (holds(path))
        return then(Use::own); // opened again in this very window
    auto taken = edit::Claim::take(desk_.files(), path.toStdString(), me());
    if (taken) {
        next_ = *std::move(taken);
        return then(Use::own);
    }
    const auto who = edit::Claim::holder(desk_.files(), path.toStdString());
    desk_.dialogs.choose(
        {tr("Open elsewhere"),
         tr("%1 is open elsewhere, by %2.")
             .arg(QFileInfo(path).fileName(), QString::fromStdString(who ? who->text() : "somebody")),
         {{tr("Open read-only"), QMessageBox::AcceptRole},
          {tr("Open a copy"), QMessageBox::ActionRole},
          {tr("Cancel"), QMessageBox::RejectRole}}},
        [then = std::move(then)](int choice) {
            then(choice == 0   ? std::optional(Use::readOnly)
                 : choice == 1 ? std::optional(Use::copy)
                               : std::nullopt);
        });
}

void SharedFile::keep(const QString& path, quint64 hash) {
    if (next_ || !holds(path))
        held_ = std::move(next_);
    watch_.watch(path, hash);
}

void SharedFile::setBeingWritten(bool on) {
    beingWritten_ = on;
    if (!on)
        watch_.look(); // what was passed over meanwhile
}

void SharedFile::compare(const QByteArray& bytes, quint64 hash) {
    if (beingWritten_)
        return; // our own save, or one that it writes over
    desk_.jobs.run<std::shared_ptr<Read>>(
        tr("Comparing with the file"),
        [bytes, hash, path = desk_.session.document().path(), open = desk_.session.network()](const Wanted&) {
            auto read = std::make_shared<Read>(
                Read{path,
                     hash,
                     open,
                     exchange::readOwn({bytes.data(), static_cast<std::size_t>(bytes.size())}, path),
                     {}});
            if (read->loaded)
                read->differences = edit::differences(open, read->loaded->network);
            return read;
        },
        [this](std::shared_ptr<Read> read) { compared(*read); });
}

void SharedFile::compared(const Read& read) {
    if (desk_.session.document().path() != read.path || beingWritten_)
        return; // another is open, or it is being written over
    if (!read.loaded)
        return desk_.messages.tell(warning(tr("another program changed the file, and it cannot be read: %1")
                                               .arg(shownText(read.loaded.refusal().what)),
                                           tr("save under another name"), {read.path}));
    if (read.differences.empty()) {
        desk_.session.document().rebase(read.loaded->network, read.hash);
        Q_EMIT rebased();
        return;
    }
    const bool asked = changed_ != nullptr; // the latest counts when the question is shown
    changed_ = std::make_shared<Changed>(
        Changed{read.loaded->network, read.open, read.hash, read.path, read.differences});
    auto* shown = qobject_cast<ChangedDialog*>(desk_.dialogs.open());
    if (shown)
        shown->reject(); // it shows what is older; the next one follows
    if (shown || !asked)
        ask();
}

void SharedFile::ask() {
    auto shown = std::make_shared<std::shared_ptr<Changed>>();
    desk_.dialogs.show<ChangedDialog>(
        [this, shown]() -> ChangedDialog* {
            *shown = changed_;
            if (!*shown || (*shown)->path != desk_.session.document().path())
                return nullptr;
            return new ChangedDialog(QFileInfo(QString::fromStdString((*shown)->path)).fileName(),
                                     (*shown)->differences, desk_.window);
        },
        [this, shown](ChangedDialog& dialog, bool) {
            if (changed_ != *shown)
                return; // it has changed again while this was open
            changed_.reset();
            answered(**shown, dialog.answer());
        });
}

void SharedFile::answered(const Changed& file, ChangedDialog::Answer answer) {
    if (desk_.session.document().path() != file.path)
        return;
    // Either way the file as it is now is what further changes are measured against.
    desk_.session.document().rebase(file.now, file.hash);
    if (answer == ChangedDialog::Answer::takeFile)
        desk_.session.apply(edit::Act{said(tr("Take over the changed file")), file.now, {}, file.open});
    Q_EMIT rebased();
    if (answer == ChangedDialog::Answer::saveAs)
        Q_EMIT saveAsWanted();
}

} // namespace underridge::app

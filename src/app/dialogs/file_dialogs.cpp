// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/dialogs/file_dialogs.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QRegularExpression>

namespace underridge::app {

void FileDialogs::choose(const FileQuestion& question, std::function<void(const QString&)> then) {
    const auto chosen = [this, question, then = std::move(then)](const QString& path) {
        if (path.isEmpty())
            return;
        settings_.setFolder(QFileInfo(path).absolutePath());
        if (question.saving)
            withSuffix(path, question.suffix, then);
        else
            then(path);
    };
    if (answer)
        chosen(answer(question));
    else
        show(question, chosen);
}

void FileDialogs::show(const FileQuestion& question, std::function<void(const QString&)> then) {
    dialogs_.show<QFileDialog>(
        [this, question] {
            const QFileInfo proposed(question.proposed);
            const bool hasFolder = question.proposed.contains(QLatin1Char('/'));
            const QString folder = hasFolder ? proposed.absolutePath() : settings_.folder();
            auto* dialog = new QFileDialog(window_, question.title, folder, question.filter);
            dialog->setAcceptMode(question.saving ? QFileDialog::AcceptSave : QFileDialog::AcceptOpen);
            dialog->setFileMode(question.saving ? QFileDialog::AnyFile : QFileDialog::ExistingFile);
            if (question.saving) {
                dialog->selectFile(proposed.fileName());
                dialog->setDefaultSuffix(question.suffix); // so that its own question is about the right file
                QObject::connect(dialog, &QFileDialog::filterSelected, dialog,
                                 [dialog](const QString& filter) {
                                     static const QRegularExpression suffix(QStringLiteral("\\*\\.(\\w+)"));
                                     dialog->setDefaultSuffix(suffix.match(filter).captured(1));
                                 });
            }
            return dialog;
        },
        [then = std::move(then)](QFileDialog& dialog, bool accepted) {
            const QStringList files = dialog.selectedFiles();
            if (accepted && !files.isEmpty())
                then(files.front());
        });
}

void FileDialogs::withSuffix(const QString& path, const QString& suffix,
                             std::function<void(const QString&)> then) {
    if (suffix.isEmpty() || !QFileInfo(path).suffix().isEmpty())
        return then(path);
    const QString whole = path + QLatin1Char('.') + suffix;
    if (!QFileInfo::exists(whole))
        return then(whole);
    dialogs_.choose({QObject::tr("File is there"),
                     QObject::tr("%1 is there already.").arg(QFileInfo(whole).fileName()),
                     {{QObject::tr("Write over it"), QMessageBox::DestructiveRole},
                      {QObject::tr("Cancel"), QMessageBox::RejectRole}}},
                    [whole, then = std::move(then)](int choice) {
                        if (choice == 0)
                            then(whole);
                    });
}

} // namespace underridge::app

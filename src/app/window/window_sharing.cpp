// SPDX-License-Identifier: GPL-3.0-or-later
// The main window where others have the same file open, or change it.
#include "app/window/file_watch.h"
#include "app/window/main_window.h"
#include "core/edit/differences.h"
#include "core/exchange/own_format.h"

#include <QDateTime>
#include <QFileInfo>
#include <QHeaderView>
#include <QMessageBox>
#include <QPushButton>
#include <QSysInfo>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
namespace {

constexpr int mostLines = 500;

QString changeText(edit::Change change) {
    switch (change) {
    case edit::Change::added:
        return MainWindow::tr("added");
    case edit::Change::removed:
        return MainWindow::tr("removed");
    case edit::Change::changed:
        return MainWindow::tr("changed");
    }
    return {};
}

} // namespace

std::optional<MainWindow::SharedAnswer> MainWindow::claim(const QString& path) {
    if (claim_ && QString::fromStdString(claim_->path()) == path)
        return SharedAnswer::own; // opened again in this very window
    const edit::Claimant me{
        qEnvironmentVariable("USER", qEnvironmentVariable("LOGNAME")).toStdString(),
        QSysInfo::machineHostName().toStdString(),
        QDateTime::currentDateTime().toString(QStringLiteral("d MMM hh:mm")).toStdString()};
    auto taken = edit::Claim::take(world_.world.files, path.toStdString(), me);
    if (taken) {
        nextClaim_ = *std::move(taken);
        return SharedAnswer::own;
    }
    if (askShared)
        return askShared(QString::fromStdString(taken.refusal().text()));
    const auto who = edit::Claim::holder(world_.world.files, path.toStdString());
    QMessageBox box(
        QMessageBox::Question, tr("Open elsewhere"),
        tr("%1 is open elsewhere, by %2.")
            .arg(QFileInfo(path).fileName(), QString::fromStdString(who ? who->text() : "somebody")),
        {}, this);
    QPushButton* readOnly = box.addButton(tr("Open read-only"), QMessageBox::AcceptRole);
    QPushButton* copy = box.addButton(tr("Open a copy"), QMessageBox::AcceptRole);
    box.addButton(tr("Cancel"), QMessageBox::RejectRole);
    box.setDefaultButton(readOnly);
    box.exec();
    if (box.clickedButton() == readOnly)
        return SharedAnswer::readOnly;
    if (box.clickedButton() == copy)
        return SharedAnswer::copy;
    return std::nullopt;
}

void MainWindow::fileChanged(const QByteArray& bytes, quint64 hash) {
    auto loaded =
        exchange::readOwn({bytes.data(), static_cast<std::size_t>(bytes.size())}, editor_->document().path());
    if (!loaded) {
        tell(warning("another program changed the file, and it cannot be read: " + loaded.refusal().what,
                     "save under another name", {editor_->document().path()}));
        return;
    }
    const auto differences = edit::differences(editor_->network(), loaded->network);
    if (differences.empty()) {
        editor_->document().rebase(loaded->network, hash);
        refreshState();
        return;
    }
    const ChangedAnswer answer = askChanged ? askChanged(differences) : askAboutChange(differences);
    // Either way the file as it is now is what further changes are measured against.
    editor_->document().rebase(loaded->network, hash);
    if (answer == ChangedAnswer::takeFile)
        editor_->apply(edit::Act{"Take over the changed file", std::move(loaded->network), {}});
    refreshState();
    if (answer == ChangedAnswer::saveAs)
        run(CommandId::saveAs);
}

MainWindow::ChangedAnswer MainWindow::askAboutChange(const std::vector<edit::Difference>& differences) {
    QDialog dialog(this);
    dialog.setWindowTitle(tr("The file has changed"));
    auto* layout = new QVBoxLayout(&dialog);
    auto* words =
        new QLabel(tr("Another program changed %1. From what is open here to the file: %2.")
                       .arg(QFileInfo(QString::fromStdString(editor_->document().path())).fileName(),
                            QString::fromStdString(edit::countsText(differences))));
    words->setTextFormat(Qt::PlainText);
    words->setWordWrap(true);
    layout->addWidget(words);
    auto* list = new QTreeWidget;
    list->setAccessibleName(tr("Differences"));
    list->setRootIsDecorated(false);
    list->setHeaderLabels({tr("Change"), tr("Kind"), tr("Object")});
    for (std::size_t i = 0; i < differences.size() && i < mostLines; ++i)
        new QTreeWidgetItem(list, {changeText(differences[i].change),
                                   QString::fromUtf8(titleOf(differences[i].kind).data()),
                                   QString::fromStdString(differences[i].what)});
    if (differences.size() > mostLines)
        new QTreeWidgetItem(list, {{}, {}, tr("and %1 more").arg(differences.size() - mostLines)});
    list->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    layout->addWidget(list, 1);
    auto* buttons = new QHBoxLayout;
    ChangedAnswer answer = ChangedAnswer::keepMine;
    const auto offer = [&](const QString& text, const QString& tip, ChangedAnswer means) {
        auto* button = new QPushButton(text);
        button->setToolTip(tip);
        connect(button, &QPushButton::clicked, &dialog, [&dialog, &answer, means] {
            answer = means;
            dialog.accept();
        });
        buttons->addWidget(button);
        return button;
    };
    buttons->addStretch();
    offer(tr("Take the file's"), tr("Show the file as it is now; one undo brings back what was open"),
          ChangedAnswer::takeFile)
        ->setDefault(true);
    offer(tr("Keep mine"), tr("Leave what is open as it is; the next save writes over the file"),
          ChangedAnswer::keepMine);
    offer(tr("Save mine as…"), tr("Keep both"), ChangedAnswer::saveAs);
    layout->addLayout(buttons);
    dialog.resize(620, 420);
    dialog.exec();
    return answer;
}

} // namespace underridge::app

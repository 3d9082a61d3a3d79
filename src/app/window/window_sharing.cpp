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

/// A file as another program left it, and how that differs from what was open when it was
/// read.
struct MainWindow::ChangedFile {
    Network now, open;
    quint64 hash = 0;
    std::string path;
    std::vector<edit::Difference> differences;
};

namespace {

edit::Claimant me() {
    return {qEnvironmentVariable("USER", qEnvironmentVariable("LOGNAME")).toStdString(),
            QSysInfo::machineHostName().toStdString(),
            QDateTime::currentDateTime().toString(QStringLiteral("d MMM hh:mm")).toStdString()};
}

/// "The file has changed": the differences, and three ways to go on.
class ChangedDialog : public QDialog {
public:
    ChangedDialog(const QString& file, const std::vector<edit::Difference>& differences, QWidget* parent)
        : QDialog(parent) {
        setObjectName(QStringLiteral("fileChanged"));
        setWindowTitle(MainWindow::tr("The file has changed"));
        auto* layout = new QVBoxLayout(this);
        auto* words =
            new QLabel(MainWindow::tr("Another program changed %1. From what is open here to the file: %2.")
                           .arg(file, QString::fromStdString(edit::countsText(differences))));
        words->setTextFormat(Qt::PlainText);
        words->setWordWrap(true);
        layout->addWidget(words);
        layout->addWidget(listOf(differences), 1);
        auto* buttons = new QHBoxLayout;
        buttons->addStretch();
        const auto offer = [&](const QString& text, const QString& tip, MainWindow::ChangedAnswer means) {
            auto* button = new QPushButton(text);
            button->setToolTip(tip);
            connect(button, &QPushButton::clicked, this, [this, means] {
                answer = means;
                accept();
            });
            buttons->addWidget(button);
            return button;
        };
        using Answer = MainWindow::ChangedAnswer;
        offer(MainWindow::tr("Take the file's"),
              MainWindow::tr("Show the file as it is now; one undo brings back what was open"),
              Answer::takeFile)
            ->setDefault(true);
        offer(MainWindow::tr("Keep mine"),
              MainWindow::tr("Leave what is open as it is; the next save writes over the file"),
              Answer::keepMine);
        offer(MainWindow::tr("Save mine as…"), MainWindow::tr("Keep both"), Answer::saveAs);
        layout->addLayout(buttons);
        resize(620, 420);
    }

    MainWindow::ChangedAnswer answer = MainWindow::ChangedAnswer::keepMine;

private:
    static QTreeWidget* listOf(const std::vector<edit::Difference>& differences) {
        auto* list = new QTreeWidget;
        list->setAccessibleName(MainWindow::tr("Differences"));
        list->setRootIsDecorated(false);
        list->setHeaderLabels({MainWindow::tr("Change"), MainWindow::tr("Kind"), MainWindow::tr("Object")});
        for (std::size_t i = 0; i < differences.size() && i < mostLines; ++i)
            new QTreeWidgetItem(list, {changeText(differences[i].change),
                                       QString::fromUtf8(titleOf(differences[i].kind).data()),
                                       QString::fromStdString(differences[i].what)});
        if (differences.size() > mostLines)
            new QTreeWidgetItem(list,
                                {{}, {}, MainWindow::tr("and %1 more").arg(differences.size() - mostLines)});
        list->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
        return list;
    }
};

} // namespace

bool MainWindow::claimForSaving(const QString& path) {
    if (claim_ && QString::fromStdString(claim_->path()) == path)
        return true;
    auto taken = edit::Claim::take(world_.world.files, path.toStdString(), me());
    if (taken) {
        nextClaim_ = *std::move(taken);
        return true;
    }
    Remark why = taken.refusal();
    why.remedy = "save under another name";
    report(tr("Save"), why);
    return false;
}

void MainWindow::claim(const QString& path, std::function<void(std::optional<SharedAnswer>)> then) {
    if (claim_ && QString::fromStdString(claim_->path()) == path)
        return then(SharedAnswer::own); // opened again in this very window
    auto taken = edit::Claim::take(world_.world.files, path.toStdString(), me());
    if (taken) {
        nextClaim_ = *std::move(taken);
        return then(SharedAnswer::own);
    }
    if (askShared)
        return then(askShared(QString::fromStdString(taken.refusal().text())));
    dialogs_->ask(
        [this, path] {
            const auto who = edit::Claim::holder(world_.world.files, path.toStdString());
            auto* box = new QMessageBox(
                QMessageBox::Question, tr("Open elsewhere"),
                tr("%1 is open elsewhere, by %2.")
                    .arg(QFileInfo(path).fileName(), QString::fromStdString(who ? who->text() : "somebody")),
                {}, this);
            box->setDefaultButton(box->addButton(tr("Open read-only"), QMessageBox::AcceptRole));
            box->addButton(tr("Open a copy"), QMessageBox::ActionRole);
            box->setEscapeButton(box->addButton(tr("Cancel"), QMessageBox::RejectRole));
            return box;
        },
        [then = std::move(then)](QDialog& dialog, int) {
            auto& box = static_cast<QMessageBox&>(dialog);
            const auto role =
                box.clickedButton() ? box.buttonRole(box.clickedButton()) : QMessageBox::RejectRole;
            then(role == QMessageBox::AcceptRole   ? std::optional(SharedAnswer::readOnly)
                 : role == QMessageBox::ActionRole ? std::optional(SharedAnswer::copy)
                                                   : std::nullopt);
        });
}

void MainWindow::fileChanged(const QByteArray& bytes, quint64 hash) {
    if (saving_)
        return; // our own save, or one that it writes over: looked at again when it has ended
    struct Read {
        Result<exchange::Loaded> loaded;
        std::vector<edit::Difference> differences;
    };
    const std::string path = session_->document().path();
    jobs_->run<std::shared_ptr<Read>>(
        tr("Comparing with the file"),
        [bytes, path, open = session_->network()](const Wanted&) {
            auto read = std::make_shared<Read>(
                Read{exchange::readOwn({bytes.data(), static_cast<std::size_t>(bytes.size())}, path), {}});
            if (read->loaded)
                read->differences = edit::differences(open, read->loaded->network);
            return read;
        },
        [this, hash, path, open = session_->network()](std::shared_ptr<Read> read) {
            if (session_->document().path() != path || saving_)
                return; // another is open, or it is being written over
            if (!read->loaded) {
                tell(warning("another program changed the file, and it cannot be read: " +
                                 read->loaded.refusal().what,
                             "save under another name", {path}));
                return;
            }
            if (read->differences.empty()) {
                session_->document().rebase(read->loaded->network, hash);
                refreshState();
                return;
            }
            const bool asked = changedFile_ != nullptr; // the latest counts when the question is shown
            changedFile_ = std::make_shared<ChangedFile>(ChangedFile{
                std::move(read->loaded->network), open, hash, path, std::move(read->differences)});
            if (askChanged) {
                const auto file = std::exchange(changedFile_, nullptr);
                answerChangedFile(*file, askChanged(file->differences));
            } else if (asked && dialogs_->open() &&
                       dialogs_->open()->objectName() == QStringLiteral("fileChanged")) {
                dialogs_->open()->reject(); // it showed what is older; the next one follows
                showChangedFile();
            } else if (!asked) {
                showChangedFile();
            }
        });
}

void MainWindow::showChangedFile() {
    auto shown = std::make_shared<std::shared_ptr<ChangedFile>>();
    dialogs_->ask(
        [this, shown]() -> QDialog* {
            *shown = changedFile_;
            if (!*shown || (*shown)->path != session_->document().path())
                return nullptr;
            return new ChangedDialog(QFileInfo(QString::fromStdString((*shown)->path)).fileName(),
                                     (*shown)->differences, this);
        },
        [this, shown](QDialog& dialog, int) {
            if (changedFile_ != *shown)
                return; // it has changed again while this was open
            changedFile_.reset();
            answerChangedFile(**shown, static_cast<ChangedDialog&>(dialog).answer);
        });
}

void MainWindow::answerChangedFile(const ChangedFile& file, ChangedAnswer answer) {
    if (session_->document().path() != file.path)
        return;
    // Either way the file as it is now is what further changes are measured against.
    session_->document().rebase(file.now, file.hash);
    if (answer == ChangedAnswer::takeFile)
        session_->apply(edit::Act{"Take over the changed file", file.now, {}, file.open});
    refreshState();
    if (answer == ChangedAnswer::saveAs)
        commands_->run(CommandId::saveAs);
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's library of own models, and taking changed models over into the open
// network.
#include "app/window/main_window.h"
#include "app/window/model_editor.h"
#include "core/edit/models.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/library.h"

#include <QDialogButtonBox>
#include <QFileInfo>
#include <QPushButton>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;

void MainWindow::loadLibrary() {
    const std::string path = world_.libraryPath.toStdString();
    if (path.empty() || !world_.world.files.exists(path))
        return;
    const auto bytes = world_.world.files.read(path);
    auto models =
        bytes ? exchange::readModels(*bytes, path) : Result<std::vector<DeviceModel>>(bytes.refusal());
    if (!models) {
        tell(models.refusal());
        return;
    }
    session_->workspace().setLibrary(*std::move(models));
}

void MainWindow::editModels() {
    commitTyped();
    dialogs_->ask(
        [this] {
            auto* dialog = new ModelEditor(exchange::builtInCatalogue(), session_->workspace().library(),
                                           theme_->theme(), this);
            connect(dialog, &ModelEditor::saved, this, [this, dialog] {
                session_->workspace().setLibrary(dialog->own());
                const std::string path = world_.libraryPath.toStdString();
                if (path.empty())
                    return;
                QDir().mkpath(QFileInfo(world_.libraryPath).absolutePath());
                if (auto kept =
                        world_.world.files.writeAtomically(path, exchange::writeModels(dialog->own()));
                    !kept)
                    tell(kept.refusal());
            });
            return dialog;
        },
        [this](QDialog&, int) {
            if (!edit::outdatedModels(session_->network(), session_->catalogue()).empty())
                updateModels();
        });
}

namespace {

/// Models that have changed since the network took its copy: which to take over.
class UpdateDialog : public QDialog {
public:
    UpdateDialog(const std::vector<edit::Outdated>& outdated, QWidget* parent) : QDialog(parent) {
        setObjectName(QStringLiteral("updateModels"));
        setWindowTitle(MainWindow::tr("Update models"));
        auto* layout = new QVBoxLayout(this);
        auto* words =
            new QLabel(MainWindow::tr("These models have changed since this network took its copy of them."));
        words->setWordWrap(true);
        layout->addWidget(words);
        tree_ = new QTreeWidget;
        tree_->setAccessibleName(MainWindow::tr("Changed models"));
        tree_->setHeaderLabels({MainWindow::tr("Model and what changes")});
        for (const edit::Outdated& each : outdated)
            add(each);
        layout->addWidget(tree_, 1);
        auto* buttons = new QDialogButtonBox;
        buttons->addButton(MainWindow::tr("Update"), QDialogButtonBox::AcceptRole);
        buttons->addButton(MainWindow::tr("Leave as they are"), QDialogButtonBox::RejectRole);
        layout->addWidget(buttons);
        connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
        connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
        resize(560, 380);
    }

    std::vector<std::string> chosen() const {
        std::vector<std::string> ids;
        for (int i = 0; i < tree_->topLevelItemCount(); ++i)
            if (tree_->topLevelItem(i)->checkState(0) == Qt::Checked)
                ids.push_back(tree_->topLevelItem(i)->data(0, Qt::UserRole).toString().toStdString());
        return ids;
    }

private:
    void add(const edit::Outdated& each) {
        auto* item = new QTreeWidgetItem(
            tree_,
            {MainWindow::tr("%1, used by %2")
                 .arg(QString::fromStdString(each.held.name))
                 .arg(each.usedBy.size() == 1 ? MainWindow::tr("1 device")
                                              : MainWindow::tr("%1 devices").arg(each.usedBy.size()))});
        item->setData(0, Qt::UserRole, QString::fromStdString(each.now.id));
        item->setCheckState(0, Qt::Checked);
        for (const std::string& change : each.changes)
            new QTreeWidgetItem(item, {QString::fromStdString(change)});
        if (!each.lost.empty())
            new QTreeWidgetItem(
                item,
                {MainWindow::tr("%1 ports in use are not in the changed model; they stay as ports whose "
                                "connector is not known")
                     .arg(each.lost.size())});
        item->setExpanded(true);
    }

    QTreeWidget* tree_;
};

} // namespace

void MainWindow::updateModels() {
    const auto outdated = edit::outdatedModels(session_->network(), session_->catalogue());
    if (outdated.empty()) {
        tell(advice("every model in this network is as in the catalogue and the library"));
        return;
    }
    dialogs_->show<UpdateDialog>(
        [this, outdated] { return new UpdateDialog(outdated, this); },
        [this](UpdateDialog& dialog, bool accepted) {
            if (const auto ids = dialog.chosen(); accepted && !ids.empty())
                session_->apply(edit::updateModels(session_->network(), session_->catalogue(), ids));
        });
}

} // namespace underridge::app

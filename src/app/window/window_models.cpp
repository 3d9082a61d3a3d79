// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's library of own models, and taking changed models over into the open network.
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
    editor_->setLibrary(*std::move(models));
}

void MainWindow::editModels() {
    ModelEditor dialog(exchange::builtInCatalogue(), editor_->library(), theme_->theme(), this);
    connect(&dialog, &ModelEditor::saved, this, [this, &dialog] {
        editor_->setLibrary(dialog.own());
        const std::string path = world_.libraryPath.toStdString();
        if (path.empty())
            return;
        QDir().mkpath(QFileInfo(world_.libraryPath).absolutePath());
        if (auto kept = world_.world.files.writeAtomically(path, exchange::writeModels(dialog.own())); !kept)
            tell(kept.refusal());
    });
    askModels ? askModels(dialog) : static_cast<void>(dialog.exec());
    if (!edit::outdatedModels(editor_->network(), editor_->catalogue()).empty())
        updateModels();
}

void MainWindow::updateModels() {
    const auto outdated = edit::outdatedModels(editor_->network(), editor_->catalogue());
    if (outdated.empty()) {
        tell(advice("every model in this network is as in the catalogue and the library"));
        return;
    }
    QDialog dialog(this);
    dialog.setObjectName(QStringLiteral("updateModels"));
    dialog.setWindowTitle(tr("Update models"));
    auto* layout = new QVBoxLayout(&dialog);
    auto* words = new QLabel(tr("These models have changed since this network took its copy of them."));
    words->setWordWrap(true);
    layout->addWidget(words);
    auto* tree = new QTreeWidget;
    tree->setAccessibleName(tr("Changed models"));
    tree->setHeaderLabels({tr("Model and what changes")});
    for (const edit::Outdated& each : outdated) {
        auto* item = new QTreeWidgetItem(
            tree,
            {tr("%1, used by %2")
                 .arg(QString::fromStdString(each.held.name))
                 .arg(each.usedBy.size() == 1 ? tr("1 device") : tr("%1 devices").arg(each.usedBy.size()))});
        item->setData(0, Qt::UserRole, QString::fromStdString(each.now.id));
        item->setCheckState(0, Qt::Checked);
        for (const std::string& change : each.changes)
            new QTreeWidgetItem(item, {QString::fromStdString(change)});
        if (!each.lost.empty())
            new QTreeWidgetItem(item,
                                {tr("%1 ports in use are not in the changed model; they stay as ports whose "
                                    "connector is not known")
                                     .arg(each.lost.size())});
        item->setExpanded(true);
    }
    layout->addWidget(tree, 1);
    auto* buttons = new QDialogButtonBox;
    buttons->addButton(tr("Update"), QDialogButtonBox::AcceptRole);
    buttons->addButton(tr("Leave as they are"), QDialogButtonBox::RejectRole);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    dialog.resize(560, 380);
    const bool wanted = askUpdate ? askUpdate(*tree) : dialog.exec() == QDialog::Accepted;
    if (!wanted)
        return;
    std::vector<std::string> ids;
    for (int i = 0; i < tree->topLevelItemCount(); ++i)
        if (tree->topLevelItem(i)->checkState(0) == Qt::Checked)
            ids.push_back(tree->topLevelItem(i)->data(0, Qt::UserRole).toString().toStdString());
    if (!ids.empty())
        editor_->apply(edit::updateModels(editor_->network(), editor_->catalogue(), ids));
}

} // namespace underridge::app

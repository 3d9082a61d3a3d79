// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/update_dialog.h"

#include <QDialogButtonBox>
#include <QLabel>
#include <QVBoxLayout>

namespace underridge::app {

UpdateDialog::UpdateDialog(const std::vector<edit::Outdated>& outdated, QWidget* parent) : QDialog(parent) {
    setObjectName(QStringLiteral("updateModels"));
    setWindowTitle(tr("Update models"));
    auto* layout = new QVBoxLayout(this);
    auto* words = new QLabel(tr("These models have changed since this network took its copy of them."));
    words->setWordWrap(true);
    layout->addWidget(words);
    tree_ = new QTreeWidget;
    tree_->setAccessibleName(tr("Changed models"));
    tree_->setHeaderLabels({tr("Model and what changes")});
    for (const edit::Outdated& each : outdated)
        add(each);
    layout->addWidget(tree_, 1);
    auto* buttons = new QDialogButtonBox;
    buttons->addButton(tr("Update"), QDialogButtonBox::AcceptRole);
    buttons->addButton(tr("Leave as they are"), QDialogButtonBox::RejectRole);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    resize(560, 380);
}

std::vector<std::string> UpdateDialog::chosen() const {
    std::vector<std::string> ids;
    for (int i = 0; i < tree_->topLevelItemCount(); ++i)
        if (tree_->topLevelItem(i)->checkState(0) == Qt::Checked)
            ids.push_back(tree_->topLevelItem(i)->data(0, Qt::UserRole).toString().toStdString());
    return ids;
}

void UpdateDialog::add(const edit::Outdated& each) {
    auto* item = new QTreeWidgetItem(
        tree_, {tr("%1, used by %2")
                    .arg(QString::fromStdString(each.held.name))
                    .arg(tr("%Ln device(s)", nullptr, static_cast<int>(each.usedBy.size())))});
    item->setData(0, Qt::UserRole, QString::fromStdString(each.now.id));
    item->setCheckState(0, Qt::Checked);
    for (const std::string& change : each.changes)
        new QTreeWidgetItem(item, {QString::fromStdString(change)});
    if (!each.lost.empty())
        new QTreeWidgetItem(
            item, {tr("%Ln port(s) in use not in the changed model: they stay, their connector not known",
                      nullptr, static_cast<int>(each.lost.size()))});
    item->setExpanded(true);
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/changed_dialog.h"

#include "app/style/pieces.h"
#include "core/model/words.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace underridge::app {
namespace {

constexpr int mostLines = 500;

QString changeText(edit::Change change) {
    switch (change) {
    case edit::Change::added:
        return ChangedDialog::tr("added");
    case edit::Change::removed:
        return ChangedDialog::tr("removed");
    case edit::Change::changed:
        return ChangedDialog::tr("changed");
    }
    return {};
}

QTreeWidget* listOf(const std::vector<edit::Difference>& differences) {
    auto* list = new QTreeWidget;
    list->setAccessibleName(ChangedDialog::tr("Differences"));
    list->setRootIsDecorated(false);
    list->setHeaderLabels(
        {ChangedDialog::tr("Change"), ChangedDialog::tr("Kind"), ChangedDialog::tr("Object")});
    for (std::size_t i = 0; i < differences.size() && i < mostLines; ++i)
        new QTreeWidgetItem(list, {changeText(differences[i].change),
                                   QString::fromUtf8(titleOf(differences[i].kind).data()),
                                   QString::fromStdString(differences[i].what)});
    if (differences.size() > mostLines)
        new QTreeWidgetItem(list,
                            {{}, {}, ChangedDialog::tr("and %L1 more").arg(differences.size() - mostLines)});
    list->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    return list;
}

} // namespace

ChangedDialog::ChangedDialog(const QString& file, std::vector<edit::Difference> differences, QWidget* parent)
    : QDialog(parent), differences_(std::move(differences)) {
    setObjectName(QStringLiteral("fileChanged"));
    setWindowTitle(tr("The file has changed"));
    auto* layout = new QVBoxLayout(this);
    auto* words = plainLabel(tr("Another program changed %1. From what is open here to the file: %2.")
                                 .arg(file, QString::fromStdString(edit::countsText(differences_))));
    layout->addWidget(words);
    layout->addWidget(listOf(differences_), 1);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    const auto offer = [&](const QString& text, const QString& tip, Answer means) {
        auto* button = new QPushButton(text);
        button->setToolTip(tip);
        connect(button, &QPushButton::clicked, this, [this, means] { choose(means); });
        buttons->addWidget(button);
        return button;
    };
    offer(tr("Take the file's"), tr("Show the file as it is now; one undo brings back what was open"),
          Answer::takeFile)
        ->setDefault(true);
    offer(tr("Keep mine"), tr("Leave what is open as it is; the next save writes over the file"),
          Answer::keepMine);
    offer(tr("Save mine as…"), tr("Keep both"), Answer::saveAs);
    layout->addLayout(buttons);
    resize(620, 420);
}

} // namespace underridge::app

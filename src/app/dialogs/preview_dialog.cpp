// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/dialogs/preview_dialog.h"

#include "app/style/pieces.h"

#include <QVBoxLayout>

namespace underridge::app {

PreviewDialog::PreviewDialog(const QString& name, const QString& title, const QStringList& columns,
                             const QString& rowsName, const QString& action, QWidget* parent)
    : QDialog(parent),
      form_(new QFormLayout),
      summary_(plainLabel()),
      list_(new QTreeWidget),
      buttons_(new QDialogButtonBox),
      act_(buttons_->addButton(action, QDialogButtonBox::AcceptRole)) {
    setObjectName(name);
    setWindowTitle(title);
    resize(780, 500);
    list_->setAccessibleName(rowsName);
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setHeaderLabels(columns);
    buttons_->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    act_->setDefault(true);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form_);
    layout->addWidget(summary_);
    layout->addWidget(list_, 1);
    layout->addWidget(buttons_);
    connect(buttons_, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons_, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

void PreviewDialog::sumUp(const QString& sentence, bool canAct) {
    summary_->setText(sentence);
    summary_->setVisible(!sentence.isEmpty());
    act_->setEnabled(canAct);
}

QTreeWidgetItem* PreviewDialog::addRow(const QStringList& cells, bool dim) {
    if (list_->topLevelItemCount() >= mostRows)
        return nullptr;
    auto* item = new QTreeWidgetItem(list_, cells);
    for (int column = 0; column < cells.size(); ++column) {
        // A tool tip would take a leading tag for rich text.
        item->setToolTip(column, QStringLiteral("<p>%1</p>").arg(cells[column].toHtmlEscaped()));
        if (dim)
            item->setForeground(column, palette().color(QPalette::PlaceholderText));
    }
    return item;
}

void PreviewDialog::fitColumns() {
    for (int column = 0; column + 1 < list_->columnCount(); ++column)
        list_->resizeColumnToContents(column);
}

} // namespace underridge::app

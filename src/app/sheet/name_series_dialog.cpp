// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/name_series_dialog.h"

#include "app/window/editor.h"

#include <QDialogButtonBox>
#include <QFormLayout>

namespace underridge::app {
using namespace model;

NameSeriesDialog::NameSeriesDialog(const Editor& editor, std::vector<DeviceId> devices, QWidget* parent)
    : QDialog(parent),
      editor_(editor),
      devices_(std::move(devices)),
      pattern_(new QLineEdit),
      order_(new QComboBox),
      list_(new QTreeWidget),
      remark_(new QLabel) {
    setObjectName(QStringLiteral("nameSeries"));
    setWindowTitle(tr("Rename %1 devices").arg(devices_.size()));
    resize(560, 440);
    const Device* first = devices_.empty() ? nullptr : editor_.network().device(devices_.front());
    QString start = first ? QString::fromStdString(first->name) : QString();
    while (!start.isEmpty() && start.back().isDigit())
        start.chop(1);
    pattern_->setText(start + QStringLiteral("{1..}"));
    pattern_->setToolTip(tr("Fields: {role}, {model}, {name}, {site}, {building}, {floor}, {room}, {rack}, "
                            "{group}; numbers: {n}, "
                            "{01..}"));
    order_->addItems({tr("As selected"), tr("Row by row on the sheet"), tr("Column by column on the sheet")});
    list_->setAccessibleName(tr("New names"));
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setHeaderLabels({tr("Now"), tr("Will be"), tr("Remark")});
    remark_->setTextFormat(Qt::PlainText);
    remark_->setWordWrap(true);
    remark_->setObjectName(QStringLiteral("wrong"));
    auto* form = new QFormLayout;
    form->addRow(tr("Name series"), pattern_);
    form->addRow(tr("In order"), order_);
    auto* buttons = new QDialogButtonBox;
    rename_ = buttons->addButton(tr("Rename"), QDialogButtonBox::AcceptRole);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form);
    layout->addWidget(list_, 1);
    layout->addWidget(remark_);
    layout->addWidget(buttons);
    connect(pattern_, &QLineEdit::textChanged, this, &NameSeriesDialog::refresh);
    connect(order_, &QComboBox::currentIndexChanged, this, &NameSeriesDialog::refresh);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    refresh();
    pattern_->selectAll();
}

void NameSeriesDialog::refresh() {
    const auto names =
        edit::newNames(editor_.network(), editor_.sheet(), devices_, pattern_->text().toStdString(),
                       static_cast<edit::NameOrder>(order_->currentIndex()));
    list_->clear();
    names_.clear();
    rename_->setEnabled(static_cast<bool>(names));
    if (!names) {
        remark_->setText(QString::fromStdString(names.refusal().text()));
        return;
    }
    names_ = *names;
    int collisions = 0;
    for (const edit::NewName& name : names_) {
        collisions += !name.remark.empty();
        new QTreeWidgetItem(list_, {QString::fromStdString(name.before), QString::fromStdString(name.after),
                                    QString::fromStdString(name.remark)});
    }
    for (int column = 0; column < 3; ++column)
        list_->resizeColumnToContents(column);
    remark_->setText(collisions == 0 ? QString() : tr("%1 names are taken already").arg(collisions));
}

} // namespace underridge::app

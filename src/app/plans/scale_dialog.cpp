// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/plans/scale_dialog.h"

#include "app/shown_text.h"
#include "app/style/pieces.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QVBoxLayout>

namespace underridge::app {

ScaleDialog::ScaleDialog(double nowMm, model::LengthUnit unit, QWidget* parent)
    : QDialog(parent),
      unit_(unit),
      field_(new QLineEdit),
      devices_(new QCheckBox(tr("Devices stay where they are on the picture"))),
      act_(new QPushButton(tr("Set scale"))) {
    setObjectName(QStringLiteral("scale"));
    setWindowTitle(tr("Scale of the plan"));
    const QString now = shownLength(std::llround(nowMm), unit);
    field_->setText(now);
    field_->selectAll();
    field_->setAccessibleName(tr("Its real length"));
    devices_->setChecked(true);
    auto* form = new QFormLayout;
    form->addRow(tr("Its real length"), field_);
    form->addRow(devices_);
    auto* buttons = new QDialogButtonBox;
    buttons->addButton(act_, QDialogButtonBox::AcceptRole);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    auto* column = new QVBoxLayout(this);
    column->addWidget(plainLabel(tr("The line is %1 long as the plan is scaled now.").arg(now)));
    column->addLayout(form);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(field_, &QLineEdit::textChanged, this, [this] { act_->setEnabled(lengthMm() > 0); });
}

std::int64_t ScaleDialog::lengthMm() const {
    return model::parseLength(said(field_->text()), unit_).value_or(0);
}

} // namespace underridge::app

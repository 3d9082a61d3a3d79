// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/cabling/labels_dialog.h"

#include "app/session/session.h"
#include "app/shown_text.h"

namespace underridge::app {
using namespace model;

LabelsDialog::LabelsDialog(const Session& session, QWidget* parent)
    : PreviewDialog(QStringLiteral("labels"), tr("Label cables"), {tr("Cable"), tr("Now"), tr("Will be")},
                    tr("Labels"), tr("Label"), parent),
      session_(session),
      scheme_(new QLineEdit),
      scope_(new CableScope(session, tr("Those without a label"),
                            [](const Cable& cable) { return cable.label.empty(); })) {
    const std::string& held = session.network().info().labels;
    scheme_->setText(held.empty() ? QStringLiteral("C-{0001..}") : shownText(held));
    scheme_->setToolTip(
        tr("Fields: {from}, {from-port}, {to}, {to-port}, {type}, {medium}, {site}, {building}, "
           "{floor}, {room}, {rack}; numbers: {n}, {0001..}"));
    form().addRow(tr("Cables"), scope_);
    form().addRow(tr("Scheme"), scheme_);
    connect(scheme_, &QLineEdit::textChanged, this, &LabelsDialog::refresh);
    connect(scope_, &QComboBox::currentIndexChanged, this, &LabelsDialog::refresh);
    refresh();
    scheme_->selectAll();
    scheme_->setFocus();
}

void LabelsDialog::refresh() {
    clearRows();
    labels_.clear();
    const auto labels = edit::newLabels(session_.network(), scope_->cables(), scheme_->text().toStdString());
    if (!labels) {
        sumUp(shownText(labels.refusal().text()), false);
        return;
    }
    labels_ = *labels;
    for (const edit::CableChange& each : labels_)
        addRow({cableText(session_.network(), each.cable), shownText(each.before), shownText(each.after)},
               each.before == each.after);
    fitColumns();
    const auto changed = std::count_if(labels_.begin(), labels_.end(), [](const edit::CableChange& each) {
        return each.before != each.after;
    });
    sumUp(tr("%L1 of %Ln label(s) to change.", nullptr, static_cast<int>(labels_.size())).arg(changed),
          changed > 0);
}

} // namespace underridge::app

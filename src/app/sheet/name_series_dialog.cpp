// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/name_series_dialog.h"

#include "app/session/session.h"
#include "app/shown_text.h"

namespace underridge::app {
using namespace model;

NameSeriesDialog::NameSeriesDialog(const Session& session, std::vector<DeviceId> devices, QWidget* parent)
    : PreviewDialog(QStringLiteral("nameSeries"),
                    tr("Rename %Ln device(s)", nullptr, static_cast<int>(devices.size())),
                    {tr("Now"), tr("Will be"), tr("Remark")}, tr("New names"), tr("Rename"), parent),
      session_(session),
      devices_(std::move(devices)),
      pattern_(new QLineEdit),
      order_(new QComboBox) {
    resize(560, 440);
    const Device* first = devices_.empty() ? nullptr : session_.network().device(devices_.front());
    QString start = first ? shownText(first->name) : QString();
    while (!start.isEmpty() && start.back().isDigit())
        start.chop(1);
    pattern_->setText(start + QStringLiteral("{1..}"));
    pattern_->setToolTip(tr("Fields: {role}, {model}, {name}, {site}, {building}, {floor}, {room}, {rack}, "
                            "{group}; numbers: {n}, "
                            "{01..}"));
    order_->addItems({tr("As selected"), tr("Row by row on the sheet"), tr("Column by column on the sheet")});
    form().addRow(tr("Name series"), pattern_);
    form().addRow(tr("In order"), order_);
    connect(pattern_, &QLineEdit::textChanged, this, &NameSeriesDialog::refresh);
    connect(order_, &QComboBox::currentIndexChanged, this, &NameSeriesDialog::refresh);
    refresh();
    pattern_->selectAll();
}

void NameSeriesDialog::refresh() {
    const auto names =
        edit::newNames(session_.network(), session_.sheet(), devices_, pattern_->text().toStdString(),
                       static_cast<edit::NameOrder>(order_->currentIndex()));
    clearRows();
    names_.clear();
    if (!names) {
        sumUp(shownText(names.refusal().text()), false);
        return;
    }
    names_ = *names;
    int collisions = 0;
    for (const edit::NewName& name : names_) {
        collisions += !name.remark.empty();
        addRow({shownText(name.before), shownText(name.after), shownText(name.remark)});
    }
    fitColumns();
    sumUp(collisions == 0 ? QString() : tr("%Ln name(s) taken already", nullptr, collisions), true);
}

} // namespace underridge::app

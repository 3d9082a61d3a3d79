// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/columns_dialog.h"

#include "app/shown_text.h"

namespace underridge::app {

ColumnsDialog::ColumnsDialog(edit::ScheduleTable& table, const QString& file, QWidget* parent)
    : PreviewDialog(QStringLiteral("columns"), tr("Columns of %1").arg(file),
                    {tr("Title"), tr("Taken for"), tr("First rows")}, tr("Columns"), tr("Go on"), parent),
      table_(table) {
    list().setUniformRowHeights(false);
    const auto& header = table_.rows.front().cells;
    for (std::size_t i = 0; i < header.size(); ++i) {
        QStringList samples;
        for (std::size_t row = 1; row < table_.rows.size() && samples.size() < 3; ++row)
            if (i < table_.rows[row].cells.size() && !table_.rows[row].cells[i].empty())
                samples << shownText(table_.rows[row].cells[i]);
        auto* item = addRow({shownText(header[i]), {}, samples.join(QStringLiteral("; "))});
        auto* choice = new QComboBox;
        choice->setAccessibleName(tr("%1 is taken for").arg(shownText(header[i])));
        choice->addItem(tr("not used"));
        for (const edit::ScheduleField& field : edit::scheduleFields())
            choice->addItem(tr(field.title.data()));
        choice->setCurrentIndex(table_.fields[i] + 1);
        choices_.push_back(choice);
        list().setItemWidget(item, 1, choice);
        connect(choice, &QComboBox::currentIndexChanged, this, &ColumnsDialog::refresh);
    }
    fitColumns();
    list().setColumnWidth(1, 140);
    refresh();
}

void ColumnsDialog::refresh() {
    std::vector<int> taken(edit::scheduleFields().size(), 0);
    for (std::size_t i = 0; i < choices_.size(); ++i) {
        const int field = choices_[i]->currentIndex() - 1;
        table_.fields[i] = field;
        if (field >= 0)
            ++taken[static_cast<std::size_t>(field)];
    }
    const auto fields = edit::scheduleFields();
    for (std::size_t i = 0; i < fields.size(); ++i)
        if (taken[i] > 1) {
            sumUp(
                tr("%1 is chosen for %2 columns; one can be.").arg(tr(fields[i].title.data())).arg(taken[i]),
                false);
            return;
        }
    const bool ends = taken[0] == 1 && taken[2] == 1;
    sumUp(ends ? tr("The first line does not name every column in words that are known. Say what they are.")
               : tr("Choose the columns that name the devices at both ends: From and To."),
          ends);
}

} // namespace underridge::app

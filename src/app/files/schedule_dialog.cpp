// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/schedule_dialog.h"

#include "app/shown_text.h"

namespace underridge::app {
using edit::Match;
namespace {

QString matchText(Match match) {
    switch (match) {
    case Match::same:
        return ScheduleDialog::tr("Same");
    case Match::added:
        return ScheduleDialog::tr("New");
    case Match::changed:
        return ScheduleDialog::tr("Changed");
    case Match::wrong:
        return ScheduleDialog::tr("Wrong");
    }
    return {};
}

} // namespace

ScheduleDialog::ScheduleDialog(const edit::Schedule& schedule, const QString& file, QWidget* parent)
    : PreviewDialog(QStringLiteral("schedule"), tr("Merge %1").arg(file),
                    {tr("Line"), tr("Becomes"), tr("Cable"), tr("What changes, or is wrong")},
                    tr("Rows of the schedule"), tr("Merge"), parent),
      schedule_(schedule),
      hideSame_(new QCheckBox(tr("Leave out what is the same"))) {
    resize(900, 540);
    hideSame_->setChecked(true);
    form().addRow(hideSame_);
    sumUp(tr("Rows as drawn already: %L1; new: %L2; with changes: %L3; wrong and left out: %L4.")
              .arg(schedule.count(Match::same))
              .arg(schedule.count(Match::added))
              .arg(schedule.count(Match::changed))
              .arg(schedule.count(Match::wrong)),
          schedule.count(Match::added) + schedule.count(Match::changed) > 0);
    connect(hideSame_, &QCheckBox::toggled, this, &ScheduleDialog::fill);
    fill();
}

void ScheduleDialog::fill() {
    clearRows();
    for (const edit::ScheduleRow& row : schedule_.rows)
        if (!hideSame_->isChecked() || row.match != Match::same)
            addRow(
                {QString::number(row.line), matchText(row.match), shownText(row.what), shownText(row.why)});
    fitColumns();
}

} // namespace underridge::app

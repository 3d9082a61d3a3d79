// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/schedule_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace underridge::app {
using edit::Match;
namespace {

constexpr int mostRows = 5000;

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
    : QDialog(parent),
      schedule_(schedule),
      list_(new QTreeWidget),
      hideSame_(new QCheckBox(tr("Leave out what is the same"))) {
    setObjectName(QStringLiteral("schedule"));
    setWindowTitle(tr("Merge %1").arg(file));
    resize(900, 540);
    auto* words =
        new QLabel(tr("%1 cables are drawn already, %2 are new, %3 change, %4 are wrong and are left out.")
                       .arg(schedule.count(Match::same))
                       .arg(schedule.count(Match::added))
                       .arg(schedule.count(Match::changed))
                       .arg(schedule.count(Match::wrong)));
    words->setTextFormat(Qt::PlainText);
    words->setWordWrap(true);
    hideSame_->setChecked(true);
    list_->setAccessibleName(tr("Rows of the schedule"));
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setHeaderLabels({tr("Line"), tr("Becomes"), tr("Cable"), tr("What changes, or is wrong")});
    auto* buttons = new QDialogButtonBox;
    auto* merge = buttons->addButton(tr("Merge"), QDialogButtonBox::AcceptRole);
    merge->setEnabled(schedule.count(Match::added) + schedule.count(Match::changed) > 0);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(words);
    layout->addWidget(list_, 1);
    layout->addWidget(hideSame_);
    layout->addWidget(buttons);
    connect(hideSame_, &QCheckBox::toggled, this, &ScheduleDialog::fill);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    fill();
}

void ScheduleDialog::fill() {
    list_->clear();
    QList<QTreeWidgetItem*> items;
    for (const edit::ScheduleRow& row : schedule_.rows) {
        if ((hideSame_->isChecked() && row.match == Match::same) || items.size() >= mostRows)
            continue;
        auto* item = new QTreeWidgetItem({QString::number(row.line), matchText(row.match),
                                          QString::fromStdString(row.what), QString::fromStdString(row.why)});
        for (int column = 2; column < 4; ++column) // a tool tip would take a leading tag for rich text
            item->setToolTip(column, QStringLiteral("<p>%1</p>").arg(item->text(column).toHtmlEscaped()));
        items << item;
    }
    list_->addTopLevelItems(items);
    for (int column = 0; column < 3; ++column)
        list_->resizeColumnToContents(column);
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// What a cable schedule would do to the drawing, row by row, before it is done.
#pragma once
#include "core/edit/schedule.h"

#include <QCheckBox>
#include <QDialog>
#include <QTreeWidget>

namespace underridge::app {

class ScheduleDialog : public QDialog {
    Q_OBJECT
public:
    ScheduleDialog(const edit::Schedule& schedule, const QString& file, QWidget* parent);
    QTreeWidget& list() { return *list_; }
    QCheckBox& hideSame() { return *hideSame_; }

private:
    void fill();

    const edit::Schedule& schedule_;
    QTreeWidget* list_;
    QCheckBox* hideSame_;
};

} // namespace underridge::app

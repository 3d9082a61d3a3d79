// SPDX-License-Identifier: GPL-3.0-or-later
// What a table of cables or of a tester's results would do to the drawing, row by row,
// before it is done.
#pragma once
#include "app/dialogs/preview_dialog.h"
#include "core/edit/schedule.h"

#include <QCheckBox>

namespace underridge::app {

class ScheduleDialog : public PreviewDialog {
    Q_OBJECT
public:
    ScheduleDialog(const edit::Schedule& schedule, const QString& file, QWidget* parent);
    QCheckBox& hideSame() { return *hideSame_; }

private:
    void fill();

    const edit::Schedule& schedule_;
    QCheckBox* hideSame_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// What the columns of a cable schedule are, when their titles do not say.
#pragma once
#include "app/dialogs/preview_dialog.h"
#include "core/edit/schedule.h"

#include <QComboBox>

namespace underridge::app {

class ColumnsDialog : public PreviewDialog {
    Q_OBJECT
public:
    ColumnsDialog(edit::ScheduleTable& table, const QString& file, QWidget* parent);
    /// The choice for a column.
    QComboBox& choice(int column) { return *choices_[static_cast<std::size_t>(column)]; }

private:
    void refresh();

    edit::ScheduleTable& table_;
    std::vector<QComboBox*> choices_;
};

} // namespace underridge::app

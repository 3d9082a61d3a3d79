// SPDX-License-Identifier: GPL-3.0-or-later
// Many devices linked to few: every link shown before any is made.
#pragma once
#include "app/dialogs/preview_dialog.h"
#include "core/edit/many.h"

#include <QCheckBox>
#include <QComboBox>
#include <QSpinBox>

namespace underridge::app {

class Session;

class ManyDialog : public PreviewDialog {
    Q_OBJECT
public:
    /// Of the selected devices those that stand highest are linked to.
    ManyDialog(Session& session, QWidget* parent);
    QComboBox& where() { return *where_; }
    QSpinBox& links() { return *links_; }
    QCheckBox& lag() { return *lag_; }
    const edit::ManyLinks& plan() const { return plan_; }

private:
    void refresh();

    Session& session_;
    std::vector<model::DeviceId> devices_, targets_;
    QComboBox* where_;
    QSpinBox* links_;
    QCheckBox* lag_;
    edit::ManyLinks plan_;
};

} // namespace underridge::app

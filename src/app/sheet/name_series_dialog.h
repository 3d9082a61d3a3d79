// SPDX-License-Identifier: GPL-3.0-or-later
// Names in series for several devices, with every new name shown before it is given.
#pragma once
#include "app/dialogs/preview_dialog.h"
#include "core/edit/names.h"

#include <QComboBox>
#include <QLineEdit>

namespace underridge::app {

class Session;

class NameSeriesDialog : public PreviewDialog {
    Q_OBJECT
public:
    NameSeriesDialog(const Session& session, std::vector<model::DeviceId> devices, QWidget* parent);

    QLineEdit& pattern() { return *pattern_; }
    QComboBox& order() { return *order_; }
    QString remark() const { return summary(); }
    const std::vector<edit::NewName>& names() const { return names_; }

private:
    void refresh();

    const Session& session_;
    std::vector<model::DeviceId> devices_;
    std::vector<edit::NewName> names_;
    QLineEdit* pattern_;
    QComboBox* order_;
};

} // namespace underridge::app

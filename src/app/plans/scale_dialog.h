// SPDX-License-Identifier: GPL-3.0-or-later
// How long a line that was drawn over a plan really is.
#pragma once
#include "core/model/length.h"

#include <QCheckBox>
#include <QDialog>
#include <QLineEdit>
#include <QPushButton>

namespace underridge::app {

class ScaleDialog : public QDialog {
    Q_OBJECT
public:
    ScaleDialog(double nowMm, model::LengthUnit unit, QWidget* parent);

    /// 0: what is typed is no length.
    std::int64_t lengthMm() const;
    bool takesDevices() const { return devices_->isChecked(); }

    QLineEdit& field() { return *field_; }
    QPushButton& act() { return *act_; }

private:
    model::LengthUnit unit_;
    QLineEdit* field_;
    QCheckBox* devices_;
    QPushButton* act_;
};

} // namespace underridge::app

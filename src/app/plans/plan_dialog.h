// SPDX-License-Identifier: GPL-3.0-or-later
// Choosing the plan for a group: from the library or a file, with its scale.
#pragma once
#include "app/dialogs/file_dialogs.h"
#include "app/plans/plan_library.h"
#include "core/edit/plans.h"

#include <QCheckBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>

namespace underridge::app {

class PlanDialog : public QDialog {
    Q_OBJECT
public:
    /// `group`: the one the plan comes under; `hasPlan`: whether another lies there.
    PlanDialog(PlanLibrary& library, FileDialogs& files, const model::Group& group, QWidget* parent);

    /// The picture chosen; null when none can be read.
    const exchange::Picture* picture() const { return picture_ ? &*picture_ : nullptr; }
    double mmPerPixel() const;
    edit::PlanLook look() const;

    QListWidget& list() { return *list_; }
    QDoubleSpinBox& width() { return *width_; }
    /// Whether new networks begin with it.
    QCheckBox& forNew() { return *forNew_; }
    QCheckBox& ink() { return *ink_; }
    QSpinBox& dim() { return *dim_; }
    QPushButton& fromFile() { return *fromFile_; }
    QPushButton& act() { return *act_; }
    QString says() const { return says_->text(); }

    /// Keeps whether new networks begin with what is chosen; to be called once it is taken.
    void keepFirst();
    /// Adds a file to the library and chooses it; says why where it cannot.
    void addFile(const QString& path);

private:
    void fill(const QString& chosen);
    void follow();

    PlanLibrary& library_;
    model::Group group_;
    std::vector<LibraryPlan> plans_;
    std::optional<exchange::Picture> picture_;
    QListWidget* list_;
    QDoubleSpinBox* width_;
    QCheckBox *ink_, *forNew_;
    QSpinBox* dim_;
    QLabel* says_;
    QPushButton *fromFile_, *remove_, *act_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The cable stock of a network: which types are approved, in which lengths, and types of
// one's own.
#pragma once
#include "core/edit/act.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTreeWidget>

namespace underridge::app {

class Session;

class StockDialog : public QDialog {
    Q_OBJECT
public:
    StockDialog(Session& session, QWidget* parent);

    QTreeWidget& list() { return *list_; }
    QLineEdit& search() { return *search_; }
    QLineEdit& name() { return *name_; }
    QLineEdit& lengths() { return *lengths_; }
    QLineEdit& longest() { return *longest_; }
    QLineEdit& jacket() { return *jacket_; }
    QCheckBox& approved() { return *approved_; }
    QPushButton& ownButton() { return *own_; }
    QPushButton& resetButton() { return *reset_; }
    QString remark() const { return remark_->text(); }
    /// Chooses a type by its id.
    void choose(const std::string& id);

private:
    void layOut();
    void connectFields();
    void connectActs();
    void refill();
    void showChosen();
    void change(const std::function<void(model::CableType&)>& how);
    const model::CableType* chosen() const;
    std::vector<std::int64_t> lengthsTyped(bool& good) const;
    void makeOwn();

    Session& session_;
    QTreeWidget* list_;
    QLineEdit *search_, *name_, *grade_, *lengths_, *longest_, *jacket_;
    QLabel *about_, *remark_;
    QCheckBox* approved_;
    QPushButton *own_, *reset_;
    bool filling_ = false;
};

} // namespace underridge::app

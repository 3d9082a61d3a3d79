// SPDX-License-Identifier: GPL-3.0-or-later
// Buildings with their floors and risers, and racks with their places: what cable lengths
// follow from.
#pragma once
#include "core/edit/act.h"

#include <QDialog>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

namespace underridge::app {

class Session;

class PlacesDialog : public QDialog {
    Q_OBJECT
public:
    PlacesDialog(Session& session, QWidget* parent);

    enum Column { nameColumn, kindColumn, leftColumn, topColumn, heightColumn };
    QTreeWidget& list() { return *list_; }
    QPushButton& addButton(model::GroupKind kind) {
        return *add_[kind == model::GroupKind::building ? 0 : kind == model::GroupKind::floor ? 1 : 2];
    }
    QPushButton& addRiserButton() { return *add_[3]; }
    QString remark() const { return remark_->text(); }
    /// The row of a group, or of a riser of it.
    QTreeWidgetItem* rowOf(model::GroupId group, int riser = -1) const;

private:
    void refill(model::GroupId current = {}, int riser = -1);
    void addGroupRows(QTreeWidgetItem* parent, model::GroupId group);
    void refreshButtons();
    void typed(QTreeWidgetItem* item, int column);
    void takeTyped(model::GroupId group, int riser, int column, const std::string& text);
    QStringList textsOf(model::GroupId group, int riser) const;
    void add(model::GroupKind kind);
    void addRiser();
    void removeCurrent();
    /// The group of that kind the chosen row is in, or is.
    model::GroupId chosen(model::GroupKind kind) const;
    bool take(edit::ActResult act);

    Session& session_;
    QTreeWidget* list_;
    QLabel* remark_;
    QPushButton *add_[4], *remove_;
    bool filling_ = false;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The outline: the devices of the network by group or by role, tied to the sheet's
// selection both ways. Members are dragged from group to group.
#pragma once
#include "core/edit/act.h"
#include "core/model/network.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QTreeWidget>
#include <QWidget>
#include <map>
#include <set>

namespace underridge::app {

class Session;

/// A tree whose rows are dropped onto groups.
class OutlineTree : public QTreeWidget {
    Q_OBJECT
public:
    using QTreeWidget::QTreeWidget;
    static model::ObjectRef objectOf(const QTreeWidgetItem* item);
    static void setObject(QTreeWidgetItem* item, model::ObjectRef object);

Q_SIGNALS:
    /// `group`: what they were dropped on, or in; none: beside the groups.
    void dropped(const std::vector<underridge::model::ObjectRef>& objects, underridge::model::GroupId group);
    void removeWanted();

protected:
    QMimeData* mimeData(const QList<QTreeWidgetItem*>& items) const override;
    void dropEvent(QDropEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
};

class OutlinePanel : public QWidget {
    Q_OBJECT
public:
    explicit OutlinePanel(Session& session, QWidget* parent = nullptr);
    QTreeWidget& tree() { return *tree_; }
    QComboBox& order() { return *order_; }
    /// The row of an object; null when it has none.
    QTreeWidgetItem* rowOf(model::ObjectRef object) const;

Q_SIGNALS:
    /// Go there.
    void activated(underridge::model::ObjectRef object);
    void removeWanted();

protected:
    void showEvent(QShowEvent* event) override;

private:
    void fill();
    void fillByRole(const std::string& query);
    void fillByGroup(const std::string& query);
    void addGroup(QTreeWidgetItem* parent, model::GroupId id, const std::string& query, int depth);
    QTreeWidgetItem* addRow(QTreeWidgetItem* parent, model::ObjectRef object, const QString& words);
    void follow();
    void takeName(QTreeWidgetItem* item);
    bool byGroup() const;

    Session& session_;
    QLineEdit* search_;
    QComboBox* order_;
    OutlineTree* tree_;
    QLabel* empty_;
    model::Table<model::Device> shown_;
    model::Table<model::Group> groups_;
    std::map<model::ObjectRef, QTreeWidgetItem*> rows_;
    std::set<std::uint64_t> folded_; ///< groups whose rows the person closed
    bool stale_ = true, busy_ = false;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The outline: the devices of the network by group, role, sheet, or by what hangs on what,
// tied to the sheet's selection both ways. Members are dragged from group to group. Rows are
// made when what they lie in is opened.
#pragma once
#include "core/edit/act.h"
#include "core/model/network.h"
#include "core/model/uplinks.h"

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
    void startDrag(Qt::DropActions supported) override;
    void dropEvent(QDropEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
};

class OutlinePanel : public QWidget {
    Q_OBJECT
public:
    explicit OutlinePanel(Session& session, QWidget* parent = nullptr);
    QTreeWidget& tree() { return *tree_; }
    QComboBox& orderChoice() { return *order_; }
    /// The row of an object; null when it has none.
    QTreeWidgetItem* rowOf(model::ObjectRef object);

Q_SIGNALS:
    /// Go there.
    void activated(underridge::model::ObjectRef object);
    void removeWanted();

protected:
    void showEvent(QShowEvent* event) override;

private:
    /// What rows lie in, as in the choice.
    enum class Order { groups, roles, sheets, uplinks };
    struct Row {
        model::ObjectRef object;
        std::string words;
        bool holds = false; ///< others
    };
    Order order() const;
    void fill();
    void findWanted();
    bool isWanted(model::ObjectRef object) const;
    model::ObjectRef above(model::ObjectRef object) const;
    std::vector<Row> within(model::ObjectRef parent) const;
    void populate(QTreeWidgetItem* parent, int depth);
    void follow();
    void takeName(QTreeWidgetItem* item);
    bool saysSomethingElse() const;

    Session& session_;
    QLineEdit* search_;
    QComboBox* order_;
    OutlineTree* tree_;
    QLabel* empty_;
    model::Network shown_;
    std::string query_;
    std::set<model::ObjectRef> wanted_; ///< what is searched for, and what it lies in
    model::UplinkTree uplinks_;
    std::unordered_map<std::uint64_t, std::vector<model::DeviceId>> below_; ///< what hangs on each
    std::map<model::ObjectRef, QTreeWidgetItem*> rows_;
    std::map<model::ObjectRef, bool> open_; ///< as the person left it
    bool stale_ = true, busy_ = false;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The devices of the network as a list by role, tied to the sheet's selection both ways.
#pragma once
#include "core/model/network.h"

#include <QLabel>
#include <QLineEdit>
#include <QTreeWidget>
#include <QWidget>

namespace underridge::app {

class Session;

class OutlinePanel : public QWidget {
    Q_OBJECT
public:
    explicit OutlinePanel(Session& session, QWidget* parent = nullptr);
    QTreeWidget& tree() { return *tree_; }

Q_SIGNALS:
    /// Go there.
    void activated(underridge::model::ObjectRef object);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void fill();
    void follow();

    Session& session_;
    QLineEdit* search_;
    QTreeWidget* tree_;
    QLabel* empty_;
    model::Table<model::Device> shown_;
    bool stale_ = true, busy_ = false;
};

} // namespace underridge::app

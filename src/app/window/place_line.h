// SPDX-License-Identifier: GPL-3.0-or-later
// The place line: back and forward, the sheet shown, then the groups entered, each to be
// clicked.
#pragma once
#include "core/model/network.h"

#include <QHBoxLayout>
#include <QToolButton>
#include <QWidget>

namespace underridge::app {

class Session;

class PlaceLine : public QWidget {
    Q_OBJECT
public:
    PlaceLine(Session& session, QAction* back, QAction* forward, QWidget* parent = nullptr);

    /// After another sheet or group is shown, or names changed.
    void refresh();
    QToolButton& sheetButton() { return *sheet_; }
    /// The groups entered, outermost first.
    const std::vector<QToolButton*>& groups() const { return groups_; }

private:
    void fillSheets();

    Session& session_;
    QHBoxLayout* layout_;
    QToolButton* sheet_;
    std::vector<QToolButton*> groups_;
    std::vector<std::pair<model::GroupId, QString>> shown_;
};

} // namespace underridge::app

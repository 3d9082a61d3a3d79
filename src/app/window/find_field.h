// SPDX-License-Identifier: GPL-3.0-or-later
// Finds devices by name or address, ports of outlets and panels with what is at both ends, cables by label,
// and commands, as one types.
#pragma once
#include "core/model/device.h"

#include <QAction>
#include <QLineEdit>
#include <QListWidget>

namespace underridge::app {

class Editor;

class FindField : public QLineEdit {
    Q_OBJECT
public:
    FindField(Editor& editor, std::vector<QAction*> commands, QWidget* parent = nullptr);
    QListWidget& results() { return *results_; }

    static constexpr int mostResults = 12;

Q_SIGNALS:
    /// Show and mark an object.
    void goTo(quint64 object, bool isLink);
    /// Show a port, and the cables it is part of.
    void goToPort(const underridge::model::PortRef& port);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    void search();
    void searchPorts(const std::string& query);
    void take(int row);

    Editor& editor_;
    std::vector<QAction*> commands_;
    QListWidget* results_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// Finds devices by name or address, cables by label, and commands, as one types.
#pragma once
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

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    void search();
    void take(int row);

    Editor& editor_;
    std::vector<QAction*> commands_;
    QListWidget* results_;
};

} // namespace underridge::app

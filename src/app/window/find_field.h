// SPDX-License-Identifier: GPL-3.0-or-later
// Finds devices by name or address, ports of outlets and panels with what is at both
// ends, cables by label, and commands, as one types: a section of each kind with its
// best, so that none crowds out another.
#pragma once
#include "core/model/device.h"

#include <QAction>
#include <QLineEdit>
#include <QListWidget>
#include <functional>

namespace underridge::app {

class Workspace;

class FindField : public QLineEdit {
    Q_OBJECT
public:
    FindField(Workspace& workspace, std::vector<QAction*> commands, QWidget* parent = nullptr);
    QListWidget& results() { return *results_; }

    /// Of each section at first; "n more" shows the others.
    static constexpr int mostOfSection = 4;

Q_SIGNALS:
    /// Show and mark an object.
    void goTo(const std::vector<underridge::model::ObjectRef>& object);
    /// Esc: the sheet gets the keyboard back.
    void left();
    /// Show a port, and the cables it is part of.
    void goToPort(const underridge::model::PortRef& port);
    void goToSheet(underridge::model::SheetId sheet);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    /// A line of what was found, and what choosing it does.
    struct Found {
        QString words;
        int rank = 0; ///< smaller is better: the whole name, its start, any part
        std::function<void()> take;
    };
    struct Section {
        QString title;
        std::vector<Found> found;
        bool cut = false; ///< there may be more: nobody looked any further
    };
    void search();
    void show(const std::vector<Section>& sections);
    Section devices(const std::string& query);
    Section ports(const std::string& query);
    Section addresses(const std::string& query);
    Section groups(const std::string& query);
    Section sheets(const std::string& query);
    Section cables(const std::string& query);
    Section commands(const std::string& query);
    void take(int row);
    void step(int by);

    Workspace& workspace_;
    std::vector<QAction*> commands_;
    QListWidget* results_;
    std::vector<std::function<void()>> takes_; ///< by row; none: a heading
    QString whole_;                            ///< the section all of which is shown
};

} // namespace underridge::app

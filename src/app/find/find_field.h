// SPDX-License-Identifier: GPL-3.0-or-later
// The field that finds anything as one types: everything the network has, and commands, in
// ranked sections; or a filter, with ways to go on. The last finds come again.
#pragma once
#include "app/find/finder.h"

#include <QAction>
#include <QLineEdit>
#include <QListWidget>

namespace underridge::app {

class Settings;

class FindField : public QLineEdit {
    Q_OBJECT
public:
    FindField(Workspace& workspace, std::vector<QAction*> commands, QSettings& store,
              QWidget* parent = nullptr);
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
    /// Select all that was found.
    void selectWanted(const underridge::edit::Refs& objects);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    void search();
    void show(const std::vector<FoundSection>& sections);
    void placeResults();
    void addLine(const QString& words, std::function<void()> take);
    FoundSection commands(const QString& query);
    FoundSection lastFinds();
    void take(int row);
    void step(int by);
    void type(const QString& next);

    Finder* finder_;
    QSettings& store_;
    std::vector<QAction*> commands_;
    QListWidget* results_;
    std::vector<std::function<void()>> takes_; ///< by row; none: it only says something
    QString whole_;                            ///< the section all of which is shown
    bool goesOn_ = false;                      ///< what was chosen goes on in the field
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// What the checks report; a click goes there, a button puts it right.
#pragma once
#include "core/linking/rules.h"

#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

namespace underridge::app {

class Checker;
class RulePage;
class Workspace;

class FindingsPanel : public QWidget {
    Q_OBJECT
public:
    FindingsPanel(Workspace& workspace, Checker& checker, QWidget* parent = nullptr);
    QTreeWidget& list() { return *list_; }
    QPushButton& putRight() { return *putRight_; }
    QPushButton& aboutRule() { return *aboutRule_; }
    QPushButton& exporting() { return *export_; }

Q_SIGNALS:
    /// The objects a finding is about, the first to be shown.
    void exportWanted();
    void goTo(const std::vector<underridge::model::ObjectRef>& subjects);

private:
    void refill();
    void refreshButton();
    const linking::Finding* current() const;

    Workspace& workspace_;
    Checker& checker_;
    std::vector<linking::Finding> shown_;
    QLabel* about_;
    QTreeWidget* list_;
    QLabel* empty_;
    QPushButton *putRight_, *aboutRule_, *export_;
    RulePage* page_ = nullptr; ///< made when it is first asked for
};

} // namespace underridge::app

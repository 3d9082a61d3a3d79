// SPDX-License-Identifier: GPL-3.0-or-later
// What the checks report, of a place, a rule, a severity; a click goes there, a button
// puts it right or sets it aside.
#pragma once
#include "core/analysis/set_aside.h"
#include "core/linking/rules.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

namespace underridge::app {

class Checker;
class RulePage;
class SetAsideBar;
class Workspace;

class FindingsPanel : public QWidget {
    Q_OBJECT
public:
    FindingsPanel(Workspace& workspace, Checker& checker, QWidget* parent = nullptr);
    QTreeWidget& list() { return *list_; }
    QComboBox& place() { return *place_; }
    QComboBox& rule() { return *rule_; }
    QComboBox& severity() { return *severity_; }
    QPushButton& putRight() { return *putRight_; }
    QPushButton& aboutRule() { return *aboutRule_; }
    QPushButton& exporting() { return *export_; }
    QPushButton& settingAside() { return *setAside_; }
    /// Pressed: those set aside are listed, in place of those that count.
    QPushButton& showingAside() { return *showAside_; }
    SetAsideBar& asideBar() { return *bar_; }

Q_SIGNALS:
    void exportWanted();
    /// The objects a finding is about, the first to be shown.
    void goTo(const std::vector<underridge::model::ObjectRef>& subjects);

private:
    /// A finding, or a record that is of none found now.
    struct Row {
        linking::Finding finding;
        model::SetAsideId by; ///< the record that sets it aside; none: it counts
    };

    /// One of the checker's findings, or of idle_: there may be very many.
    struct Seen {
        const linking::Finding* finding;
        model::SetAsideId by;
    };

    void follow();
    void refill();
    void fillChoices(const std::vector<Seen>& all);
    bool isChosen(const linking::Finding& finding) const;
    std::vector<Seen> seenNow();
    QTreeWidgetItem* itemOf(const Row& row) const;
    void refreshButton();
    const linking::Finding* current() const;
    std::vector<Row> selected() const;
    void setAsideOrBack();
    void commitAside();

    Workspace& workspace_;
    Checker& checker_;
    std::vector<Row> shown_;
    /// What the list was filled from.
    struct Filled {
        std::shared_ptr<const analysis::Sifted> of;
        model::Network network;
    };
    Filled filled_;
    std::vector<linking::Finding> idle_; ///< of records that set nothing aside now
    QLabel* about_;
    QComboBox *place_, *rule_, *severity_;
    QTreeWidget* list_;
    QLabel* empty_;
    QPushButton *showAside_, *putRight_, *setAside_, *aboutRule_, *export_;
    SetAsideBar* bar_;
    RulePage* page_ = nullptr; ///< made when it is first asked for
};

} // namespace underridge::app

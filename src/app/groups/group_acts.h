// SPDX-License-Identifier: GPL-3.0-or-later
// What a person does with groups by command: making, dissolving, folding, deleting with a
// question.
#pragma once
#include "app/desk.h"

#include <QCoreApplication>

namespace underridge::app {

class FieldsInPlace;

class GroupActs {
    Q_DECLARE_TR_FUNCTIONS(GroupActs)
public:
    explicit GroupActs(const Desk& desk) : desk_(desk) {}

    /// Groups what is selected; with nothing selected makes an empty group at `emptyAt`.
    /// It is named at once in `fields`.
    void group(FieldsInPlace& fields, model::Point emptyAt);
    void ungroup();
    /// Folds the selected groups, or unfolds them when all of them are folded. With devices
    /// selected the groups they are in.
    void foldOrUnfold();
    void foldAll(bool folded);
    /// Deletes what is selected. With a group among it asks whether its members are to go
    /// too.
    void remove();
    void showGroups(bool on);
    /// Whether groups of the sheet close far away.
    void switchClosing();
    /// Tucks in the endpoints of the selected devices, or brings them out where any are
    /// tucked in.
    void tuckOrBringOut();
    /// The same of everything on the sheet.
    void tuckAll(bool tucked);
    /// Proposes roles and groups for what is selected, or for everything on the sheet.
    void sortOut();

    std::vector<model::GroupId> selected() const;
    /// What foldOrUnfold() acts on.
    std::vector<model::GroupId> foldable() const;

private:
    std::size_t countOf(const edit::Refs& objects) const;
    QString membersText(const std::vector<model::GroupId>& groups) const;

    Desk desk_;
};

} // namespace underridge::app

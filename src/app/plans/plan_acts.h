// SPDX-License-Identifier: GPL-3.0-or-later
// What a person does with plans by command: putting one under a group, setting its scale
// by a known distance, drawing the group on it.
#pragma once
#include "app/desk.h"
#include "app/plans/plan_library.h"

namespace underridge::app {

class PlanActs {
    Q_DECLARE_TR_FUNCTIONS(PlanActs)
public:
    PlanActs(const Desk& desk, const QString& libraryFolder);

    /// Asks which plan comes under a group.
    void choose(model::GroupId group);
    void remove(model::GroupId group);
    /// A new network as it begins: with a floor on the plan that was chosen for that.
    model::Network begun(model::Network network) const;
    /// Shows the sheet on the group's plan, which is made where there is none.
    void show(model::GroupId group);
    /// A line was drawn over the plan of the sheet shown: asks how long it is.
    void measured(double units);

    /// The group whose plan commands mean: the one selected, or the one the sheet shows.
    model::GroupId subject() const;
    bool canMeasure() const;

private:
    const model::Sheet* sheetOn(model::GroupId group) const;

    Desk desk_;
    PlanLibrary library_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/plans/plan_acts.h"

#include "app/plans/plan_dialog.h"
#include "app/plans/scale_dialog.h"
#include "app/shown_text.h"
#include "core/edit/plans.h"

namespace underridge::app {
using namespace model;

PlanActs::PlanActs(const Desk& desk, const QString& libraryFolder)
    : desk_(desk), library_(desk.files(), libraryFolder) {}

GroupId PlanActs::subject() const {
    const auto& selection = desk_.session.selection();
    if (selection.size() == 1 && selection.front().kind == Kind::group)
        return {selection.front().id};
    const Sheet* sheet = desk_.session.network().sheet(desk_.session.sheet());
    return desk_.session.sheets().entered() ? desk_.session.sheets().entered()
           : sheet                          ? sheet->shows
                                            : GroupId{};
}

bool PlanActs::canMeasure() const {
    const Sheet* sheet = desk_.session.network().sheet(desk_.session.sheet());
    const Group* group =
        sheet && sheet->mmPerUnit > 0 ? desk_.session.network().group(sheet->shows) : nullptr;
    return group && group->plan;
}

void PlanActs::choose(GroupId id) {
    const Group* group = desk_.session.network().group(id);
    if (!group)
        return;
    desk_.dialogs.show<PlanDialog>(
        [this, id]() -> PlanDialog* {
            const Group* now = desk_.session.network().group(id);
            return now ? new PlanDialog(library_, desk_.fileDialogs, *now, desk_.window) : nullptr;
        },
        [this, id](PlanDialog& dialog, bool accepted) {
            if (!accepted || !dialog.picture())
                return;
            dialog.keepFirst();
            auto act = edit::setPlan(desk_.session.network(), id, *dialog.picture(), dialog.mmPerPixel());
            if (act) {
                auto placed = edit::placePlan(act->network, id, dialog.look());
                if (!placed)
                    act = std::move(placed);
                else
                    act->network = std::move(placed->network);
            }
            if (desk_.session.apply(std::move(act)))
                show(id);
        });
}

Network PlanActs::begun(Network network) const {
    const auto plan = library_.first();
    if (!plan)
        return network;
    const auto picture = library_.read(*plan);
    if (!picture)
        return network; // gone since
    edit::PlanLook look;
    look.ink = plan->shipped || picture->media == "image/svg+xml";
    const std::string name = said(tr("Floor"));
    auto act = edit::floorOnPlan(network, name, *picture, PlanLibrary::usualScale(*plan, *picture), look,
                                 desk_.session.ids());
    return act ? std::move(act->network) : std::move(network);
}

void PlanActs::remove(GroupId group) {
    desk_.session.apply(edit::removePlan(desk_.session.network(), group));
}

const Sheet* PlanActs::sheetOn(GroupId group) const {
    const Network& network = desk_.session.network();
    for (const Sheet& sheet : network.sheetsInOrder())
        if (sheet.mmPerUnit > 0 && sheet.shows == group)
            return network.sheet(sheet.id);
    return nullptr;
}

void PlanActs::show(GroupId id) {
    const Network& network = desk_.session.network();
    const Group* group = network.group(id);
    if (!group)
        return;
    if (const Sheet* there = sheetOn(id))
        return desk_.session.showSheet(there->id);
    std::string name = group->name;
    const auto taken = [&] {
        const auto sheets = network.sheetsInOrder();
        return std::any_of(sheets.begin(), sheets.end(), [&](const Sheet& s) { return s.name == name; });
    };
    if (taken())
        name = said(tr("%1, plan").arg(shownText(group->name)));
    for (int i = 2; taken(); ++i)
        name = said(tr("%1, plan %2").arg(shownText(group->name)).arg(i));
    if (desk_.session.apply(edit::sheetOnPlan(network, id, name, desk_.session.ids())))
        if (const Sheet* made = sheetOn(id))
            desk_.session.showSheet(made->id);
}

void PlanActs::measured(double units) {
    const Network& network = desk_.session.network();
    const Sheet* sheet = network.sheet(desk_.session.sheet());
    if (!sheet || !canMeasure() || units < 1)
        return;
    const double mm = units * sheet->mmPerUnit;
    const double scale = network.group(sheet->shows)->planMmPerPixel; // as it was drawn over
    desk_.dialogs.show<ScaleDialog>(
        [this, mm] { return new ScaleDialog(mm, desk_.session.lengthUnit(), desk_.window); },
        [this, mm, scale, id = sheet->shows](ScaleDialog& dialog, bool accepted) {
            const Group* group = desk_.session.network().group(id);
            if (accepted && group && dialog.lengthMm() > 0)
                desk_.session.apply(edit::scalePlan(desk_.session.network(), id,
                                                    scale * static_cast<double>(dialog.lengthMm()) / mm,
                                                    dialog.takesDevices()));
        });
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/groups/group_acts.h"

#include "app/groups/sort_out_dialog.h"
#include "app/sheet/fields_in_place.h"
#include "app/shown_text.h"
#include "core/edit/groups.h"
#include "core/edit/names.h"
#include "core/edit/objects.h"
#include "core/edit/tucks.h"
#include "core/model/group_tree.h"

#include <set>

namespace underridge::app {
using namespace model;

std::vector<GroupId> GroupActs::selected() const {
    std::vector<GroupId> out;
    for (const ObjectRef ref : desk_.session.selection())
        if (ref.kind == Kind::group)
            out.push_back({ref.id});
    return out;
}

std::vector<GroupId> GroupActs::foldable() const {
    std::set<GroupId> out;
    const Network& network = desk_.session.network();
    const GroupId entered = desk_.session.scene().entered();
    for (const ObjectRef ref : desk_.session.selection()) {
        if (ref.kind == Kind::group)
            out.insert({ref.id});
        else if (const Device* device = network.device({ref.id}); device && device->group)
            out.insert(device->group);
    }
    out.erase(entered);
    return {out.begin(), out.end()};
}

void GroupActs::group(FieldsInPlace& fields, Point emptyAt) {
    Session& session = desk_.session;
    edit::Refs members;
    for (const ObjectRef ref : session.selection())
        if (ref.kind == Kind::device || ref.kind == Kind::group)
            members.push_back(ref);
    std::vector<std::string> taken;
    session.network().all<Group>().forEach([&](const Group& group) { taken.push_back(group.name); });
    const auto names = edit::seriesNames("group-{1..}", 1, taken);
    const std::string name = names ? names->front() : "group";
    session.applyTo(
        countOf(members),
        [now = session.network(), sheet = session.sheet(), entered = session.scene().entered(), name, members,
         emptyAt, seed = session.ids().next()] {
            IdSource ids(seed);
            auto act = edit::makeGroup(now, sheet, name, GroupKind::cluster, members, emptyAt, ids);
            if (act && members.empty() && entered) {
                const edit::Refs made = act->subjects;
                act = edit::moveInto(act->network, made, entered);
            }
            return act;
        },
        [&session, &fields, name] {
            const auto& made = session.selection();
            const Group* group = made.size() == 1 ? session.network().group({made.front().id}) : nullptr;
            if (group && group->name == name)
                fields.rename(made);
        });
}

void GroupActs::ungroup() {
    Session& session = desk_.session;
    session.applyTo(countOf(session.selection()),
                    [now = session.network(), look = session.look(), groups = selected()] {
                        return edit::ungroup(now, look, groups);
                    });
}

void GroupActs::foldOrUnfold() {
    desk_.session.workspace().settle(); // which of both is told by what is folded now
    const auto groups = foldable();
    const scene::Scene& scene = desk_.session.scene();
    const bool allFolded =
        std::all_of(groups.begin(), groups.end(), [&](GroupId id) { return scene.tile(id) != nullptr; });
    desk_.session.setFolded(groups, !allFolded);
}

void GroupActs::foldAll(bool folded) {
    Session& session = desk_.session;
    const scene::Folding* shown = session.scene().folding();
    std::vector<GroupId> groups;
    if (folded && shown) { // one tile is left for each outermost group seen
        for (const scene::ShownGroup& group : shown->groups()) {
            const scene::Frame* frame = session.scene().frame(group.id);
            const scene::Frame* around = session.scene().frame(group.in);
            if (frame && !frame->entered && (!around || around->entered))
                groups.push_back(group.id);
        }
    } else {
        session.network().all<Group>().forEach([&](const Group& group) { groups.push_back(group.id); });
    }
    session.applyTo(
        groups.empty() ? 0 : session.network().all<Device>().size(),
        [now = session.network(), sheet = session.sheet(), groups, folded, selection = session.selection()] {
            auto act = edit::setFolded(now, sheet, groups, folded);
            if (act)
                act->subjects = selection;
            return act;
        });
}

void GroupActs::showGroups(bool on) {
    desk_.session.apply(edit::setSheetGroups(desk_.session.network(), desk_.session.sheet(), on));
}

void GroupActs::switchClosing() {
    const Sheet* sheet = desk_.session.network().sheet(desk_.session.sheet());
    desk_.session.apply(
        edit::setSheetClosing(desk_.session.network(), desk_.session.sheet(), sheet && !sheet->closing));
}

void GroupActs::tuckOrBringOut() {
    Session& session = desk_.session;
    const auto devices = session.selected().devices();
    const bool any = std::any_of(devices.begin(), devices.end(), [&](DeviceId id) {
        const scene::Plate* plate = session.scene().plate(id);
        return plate && !plate->tucked.empty();
    });
    session.applyTo(devices.size(), [now = session.network(), sheet = session.sheet(), devices, any,
                                     selection = session.selection()] {
        auto act = edit::setTucked(now, sheet, devices, !any);
        if (act)
            act->subjects = selection;
        return act;
    });
}

void GroupActs::tuckAll(bool tucked) {
    Session& session = desk_.session;
    session.applyTo(session.network().all<Device>().size(), [now = session.network(), sheet = session.sheet(),
                                                             tucked, selection = session.selection()] {
        auto act = edit::setTucked(now, sheet, edit::tuckers(now, sheet, {}), tucked);
        if (act)
            act->subjects = selection;
        return act;
    });
}

/// How many devices and other objects an act on these is about.
std::size_t GroupActs::countOf(const edit::Refs& objects) const {
    std::size_t count = 0;
    for (const ObjectRef ref : objects)
        count += ref.kind == Kind::group ? devicesWithin(desk_.session.network(), {ref.id}).size() : 1;
    return count;
}

/// "12 devices and 20 links".
QString GroupActs::membersText(const std::vector<GroupId>& groups) const {
    const Network& network = desk_.session.network();
    std::set<DeviceId> devices;
    std::set<LinkId> links;
    for (const GroupId id : groups)
        for (const DeviceId device : devicesWithin(network, id)) {
            devices.insert(device);
            network.forEachLinkOf(device, [&](const Link& link) { links.insert(link.id); });
        }
    return tr("%1 and %2")
        .arg(tr("%Ln device(s)", nullptr, static_cast<int>(devices.size())),
             tr("%Ln link(s)", nullptr, static_cast<int>(links.size())));
}

void GroupActs::remove() {
    Session& session = desk_.session;
    const auto groups = selected();
    const edit::Refs all = session.selection();
    const bool empty = std::all_of(groups.begin(), groups.end(),
                                   [&](GroupId id) { return devicesWithin(session.network(), id).empty(); });
    if (groups.empty() || empty) {
        session.applyTo(all.size(), [now = session.network(), all] { return edit::removeObjects(now, all); });
        return;
    }
    const QString members = membersText(groups);
    const QString what = groups.size() == 1 ? session.nameOf(refTo(groups.front()))
                                            : tr("%Ln group(s)", nullptr, static_cast<int>(groups.size()));
    desk_.dialogs.choose(
        {tr("Delete %1").arg(what),
         tr("%1 holds %2. They can be kept where they are, or deleted from the network, from every sheet.")
             .arg(what, members),
         {{tr("Keep the members"), QMessageBox::AcceptRole},
          {tr("Delete %1").arg(members), QMessageBox::DestructiveRole},
          {tr("Cancel"), QMessageBox::RejectRole}}},
        [this, groups, all](int chosen) {
            Session& now = desk_.session;
            if (chosen == 0) {
                edit::Refs others = all;
                std::erase_if(others, [](ObjectRef ref) { return ref.kind == Kind::group; });
                now.applyTo(countOf(all), [network = now.network(), look = now.look(), groups, others] {
                    auto act = edit::ungroup(network, look, groups);
                    if (act && !others.empty()) {
                        auto rest = edit::removeObjects(act->network, others);
                        if (rest)
                            act->network = std::move(rest->network);
                    }
                    return act;
                });
            } else if (chosen == 1) {
                now.applyTo(countOf(all),
                            [network = now.network(), all] { return edit::removeWithMembers(network, all); });
            }
        });
}

void GroupActs::sortOut() {
    std::vector<DeviceId> devices = desk_.session.selected().devices();
    if (devices.size() < 2) {
        devices.clear();
        const Network& network = desk_.session.network();
        network.all<Position>().forEachIn(desk_.session.sheet().value, [&](const Position& position) {
            if (network.device({position.object}))
                devices.push_back({position.object});
        });
    }
    desk_.dialogs.show<SortOutDialog>(
        [this, devices] { return new SortOutDialog(desk_.session.network(), devices, desk_.window); },
        [this](SortOutDialog& dialog, bool accepted) {
            if (accepted)
                desk_.session.apply(dialog.taken(desk_.session.network(), desk_.session.ids()));
        });
}

} // namespace underridge::app

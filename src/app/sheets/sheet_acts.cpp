// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheets/sheet_acts.h"

#include "app/shown_text.h"
#include "core/edit/layer_sheets.h"
#include "core/edit/names.h"
#include "core/edit/objects.h"
#include "core/edit/rack_sheets.h"
#include "core/edit/sheets.h"
#include "core/model/standing.h"

#include <set>

namespace underridge::app {
using namespace model;

edit::ActResult SheetActs::made(With what, const std::string& name) const {
    Session& session = desk_.session;
    const Network& network = session.network();
    const Sheet* present = network.sheet(session.sheet());
    const bool groups = !present || present->groups;
    const edit::Refs& selection = session.selection();
    switch (what) {
    case With::nothing:
        return edit::newSheet(network, name, std::nullopt, {}, groups, session.ids());
    case With::all:
        return edit::newSheet(network, name, session.sheet(), {}, groups, session.ids());
    case With::group:
        return edit::newSheet(network, name, session.sheet(),
                              selection.empty() ? GroupId{} : GroupId{selection.front().id}, groups,
                              session.ids());
    case With::racks: {
        std::vector<GroupId> racks;
        for (const ObjectRef each : selection)
            if (const Group* group = each.kind == Kind::group ? network.group({each.id}) : nullptr;
                group && isRack(group->type))
                racks.push_back(group->id);
        return edit::sheetOfRacks(network, racks, name, session.ids());
    }
    case With::dataLink:
        return edit::addLayerSheet(network, name, SheetLayer::dataLink, session.ids());
    case With::network:
        return edit::addLayerSheet(network, name, SheetLayer::network, session.ids());
    case With::selection:
        break;
    }
    auto act = edit::newSheet(network, name, session.sheet(), {}, groups, session.ids());
    if (!act)
        return act;
    const ObjectRef sheet = act->subjects.front();
    std::set<std::uint64_t> kept;
    for (const ObjectRef each : edit::withMembers(network, selection))
        kept.insert(each.id);
    edit::Refs others;
    act->network.all<Position>().forEachIn(sheet.id, [&](const Position& position) {
        if (position.of != Kind::link && !kept.contains(position.object))
            others.push_back(position.drawn());
    });
    auto taken = edit::takeOffSheet(act->network, {sheet.id}, others);
    if (!taken)
        return taken;
    act->network = std::move(taken->network);
    return act;
}

void SheetActs::add(With what) {
    Session& session = desk_.session;
    std::vector<std::string> names;
    for (const Sheet& sheet : session.network().sheetsInOrder())
        names.push_back(sheet.name);
    std::string pattern = tr("Sheet").toStdString() + " {1..}";
    if (what == With::racks)
        pattern = tr("Racks").toStdString();
    if (what == With::dataLink)
        pattern = tr("Data link").toStdString();
    if (what == With::network)
        pattern = tr("Subnets").toStdString();
    if (what == With::group && !session.selection().empty())
        pattern = session.nameOf(session.selection().front()).toStdString();
    auto name = edit::seriesNames(pattern, 1, names);
    if (!name || std::find(names.begin(), names.end(), name->front()) != names.end())
        name = edit::seriesNames(pattern + " {2..}", 1, names); // there is one of that name
    if (!name) {
        Q_EMIT session.workspace().refused(name.refusal());
        return;
    }
    auto act = made(what, name->front());
    if (!act) {
        Q_EMIT session.workspace().refused(act.refusal());
        return;
    }
    const SheetId sheet{act->subjects.front().id};
    act->subjects.clear();
    if (session.apply(std::move(act)))
        session.showSheet(sheet);
}

bool SheetActs::canTakeOff() const {
    const Sheet* sheet = desk_.session.network().sheet(desk_.session.sheet());
    if (sheet && sheet->follows())
        return false; // what is on it follows from the network
    const auto& selection = desk_.session.selection();
    return std::any_of(selection.begin(), selection.end(),
                       [](ObjectRef ref) { return ref.kind == Kind::device || ref.kind == Kind::group; });
}

void SheetActs::takeOff() {
    Session& session = desk_.session;
    edit::Refs taken = session.selection();
    std::erase_if(taken, [](ObjectRef ref) { return ref.kind != Kind::device && ref.kind != Kind::group; });
    session.apply(edit::takeOffSheet(session.network(), session.sheet(), taken));
}

bool SheetActs::canRemove() const {
    return desk_.session.network().all<Sheet>().size() > 1;
}

void SheetActs::remove(SheetId id) {
    Session& session = desk_.session;
    const Sheet* sheet = session.network().sheet(id);
    if (!sheet || !canRemove())
        return;
    const QString name = shownText(sheet->name);
    int upper = 0; // links only it shows
    session.network().all<Link>().forEach([&](const Link& link) { upper += link.onlyOn == id; });
    const QString links =
        upper > 0 ? QStringLiteral(" ") + tr("%Ln link(s) of its layer go too.", nullptr, upper) : QString();
    desk_.dialogs.choose({tr("Remove sheet"),
                          tr("The sheet %1 goes with its notes and with where everything is drawn on it. The "
                             "devices and links stay in "
                             "the network.")
                                  .arg(name) +
                              links,
                          {{tr("Remove %1").arg(name), QMessageBox::DestructiveRole},
                           {tr("Cancel"), QMessageBox::RejectRole}}},
                         [this, id](int chosen) {
                             if (chosen == 0)
                                 desk_.session.apply(edit::removeSheet(desk_.session.network(), id));
                         });
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// Acts on groups: group, ungroup, move-into, fold, unfold.
#include "core/edit/groups.h"
#include "core/edit/script/line.h"
#include "core/edit/sheets.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

ActResult group(const Line& line) {
    const Bench& bench = line.bench();
    const auto name = line.text("name");
    const auto sheet = line.sheet();
    if (!name || !sheet)
        return name ? sheet.refusal() : name.refusal();
    GroupKind kind = GroupKind::cluster;
    if (line.has("kind")) {
        const auto said = line.word<GroupKind>("kind");
        if (!said)
            return said.refusal();
        kind = *said;
    }
    Refs members;
    if (line.has("members")) {
        auto named = line.objects("members");
        if (!named)
            return named.refusal();
        members = *std::move(named);
    }
    Point at;
    if (line.has("at")) {
        const auto wanted = line.point("at");
        if (!wanted)
            return wanted.refusal();
        at = *wanted;
    }
    auto act = makeGroup(bench.network, *sheet, *name, kind, members, at, bench.ids);
    if (!act)
        return act;
    const GroupId made{act->subjects.front().id};
    if (line.has("level")) {
        const auto level = line.whole("level", -99, 999);
        if (!level)
            return level.refusal();
        auto leveled = setGroupLevel(act->network, made, static_cast<int>(*level));
        if (!leveled)
            return leveled;
        act->network = std::move(leveled->network);
    }
    if (line.has("in")) {
        const auto in = line.group("in");
        if (!in)
            return in.refusal();
        auto moved = moveInto(act->network, {refTo(made)}, *in);
        if (!moved)
            return moved;
        act->network = std::move(moved->network);
    }
    return act;
}

ActResult dissolve(const Line& line) {
    const auto groups = line.groups("group");
    const auto sheet = line.sheet();
    if (!groups || !sheet)
        return groups ? sheet.refusal() : groups.refusal();
    return ungroup(line.bench().network, *sheet, *groups);
}

ActResult into(const Line& line) {
    const auto group = line.group("group");
    const auto members = line.objects("members");
    if (!group || !members)
        return group ? members.refusal() : group.refusal();
    return moveInto(line.bench().network, *members, *group);
}

ActResult foldTo(const Line& line, bool folded) {
    const auto groups = line.groups("group");
    const auto sheet = line.sheet();
    if (!groups || !sheet)
        return groups ? sheet.refusal() : groups.refusal();
    return setFolded(line.bench().network, *sheet, *groups, folded);
}

ActResult fold(const Line& line) {
    return foldTo(line, true);
}

ActResult unfold(const Line& line) {
    return foldTo(line, false);
}

} // namespace

std::span<const ActWord> groupActs() {
    static const std::vector<ActWord> acts{
        {"group", {"kind", "name", "members", "in", "at", "level", "sheet"}, group},
        {"ungroup", {"group", "sheet"}, dissolve},
        {"move-into", {"group", "members"}, into},
        {"fold", {"group", "sheet"}, fold},
        {"unfold", {"group", "sheet"}, unfold}};
    return acts;
}

} // namespace underridge::edit

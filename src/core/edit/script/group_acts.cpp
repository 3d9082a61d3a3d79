// SPDX-License-Identifier: GPL-3.0-or-later
// Acts on groups: group, ungroup, move-into, fold, unfold.
#include "core/edit/groups.h"
#include "core/edit/places.h"
#include "core/edit/plans.h"
#include "core/edit/script/line.h"
#include "core/edit/sheets.h"
#include "core/edit/sort_out.h"
#include "core/edit/tucks.h"
#include "core/model/group_tree.h"

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
    if (line.has("units")) {
        const auto units = line.whole("units", 0, 100);
        auto sized =
            units ? setRackUnits(act->network, made, static_cast<int>(*units)) : ActResult(units.refusal());
        if (!sized)
            return sized;
        act->network = std::move(sized->network);
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

/// Millimetres a pixel: as said, or by how wide the picture is in metres, or as it is.
Result<double> planScale(const Line& line, int width, double present) {
    const auto wide = line.numberOr("widthM", 0), scale = line.numberOr("mmPerPixel", 0);
    if (!wide || !scale)
        return wide ? scale.refusal() : wide.refusal();
    return *wide > 0 && width > 0 ? *wide * 1000 / width : *scale > 0 ? *scale : present > 0 ? present : 10;
}

Result<PlanLook> planLook(const Line& line, const Group& group) {
    PlanLook look{group.planXMm, group.planYMm, group.planTurn, group.planDim, group.planInk};
    const auto turn = line.numberOr("turn", look.turn);
    const auto dim = line.wholeOr("dim", look.dim, 0, 90);
    const auto ink = line.flagOr("ink", look.ink);
    for (const auto* refusal :
         {turn ? nullptr : &turn.refusal(), dim ? nullptr : &dim.refusal(), ink ? nullptr : &ink.refusal()})
        if (refusal)
            return *refusal;
    for (auto [member, mm] : {std::pair{"x", &look.xMm}, std::pair{"y", &look.yMm}})
        if (line.has(member)) {
            const auto metres = line.metres(member);
            if (!metres)
                return metres.refusal();
            *mm = *metres;
        }
    look.turn = *turn;
    look.dim = static_cast<int>(*dim);
    look.ink = *ink;
    return look;
}

ActResult plan(const Line& line) {
    const auto id = line.group("group");
    if (!id)
        return id.refusal();
    Network network = line.bench().network;
    const Group* group = network.group(*id);
    if (!group)
        return line.wrong("group", "a plan lies under a group", "name one");
    std::string name = "Plan";
    if (line.has("file")) {
        const auto file = line.text("file");
        if (!file)
            return file.refusal();
        const auto bytes = line.bench().readFile ? line.bench().readFile(*file)
                                                 : error("no file can be read here", "use underridge apply");
        if (!bytes)
            return line.wrong("file", bytes.refusal().what, bytes.refusal().remedy);
        const auto picture = exchange::readPicture(*bytes, *file);
        if (!picture)
            return line.wrong("file", picture.refusal().what, picture.refusal().remedy);
        const auto scale = planScale(line, picture->width, group->planMmPerPixel);
        if (!scale)
            return scale.refusal();
        auto put = setPlan(network, *id, *picture, *scale);
        if (!put)
            return put;
        network = std::move(put->network);
    } else if (line.has("widthM") || line.has("mmPerPixel")) {
        const auto size = planSize(network, *group);
        const auto scale = planScale(line, size ? size->width : 0, group->planMmPerPixel);
        if (!scale)
            return scale.refusal();
        auto scaled = scalePlan(network, *id, *scale, false);
        if (!scaled)
            return scaled;
        network = std::move(scaled->network);
    }
    const auto look = planLook(line, *network.group(*id));
    if (!look)
        return look.refusal();
    auto act = placePlan(network, *id, *look);
    if (!act || !line.has("sheet"))
        return act;
    const auto sheet = line.text("sheet");
    return sheet ? sheetOnPlan(act->network, *id, *sheet, line.bench().ids) : ActResult(sheet.refusal());
}

/// The devices named, or all there are.
Result<std::vector<DeviceId>> devicesOrAll(const Line& line) {
    std::vector<DeviceId> devices;
    if (!line.has("members")) {
        line.bench().network.all<Device>().forEach(
            [&](const Device& device) { devices.push_back(device.id); });
        return devices;
    }
    const auto members = line.objects("members");
    if (!members)
        return members.refusal();
    for (const ObjectRef each : *members)
        if (each.kind == Kind::device)
            devices.push_back({each.id});
        else if (each.kind == Kind::group)
            for (const DeviceId id : devicesWithin(line.bench().network, {each.id}))
                devices.push_back(id);
    if (devices.empty())
        return line.wrong("members", "there is no device among them", "name devices, or groups with some");
    return devices;
}

ActResult groupBy(const Line& line) {
    static constexpr std::pair<std::string_view, By> words[] = {
        {"prefix", By::prefix}, {"subnet", By::subnet},       {"vlan", By::vlan},
        {"role", By::role},     {"attribute", By::attribute}, {"uplink", By::uplink}};
    const auto by = line.text("by");
    const auto attribute = line.textOr("attribute", "");
    const auto devices = devicesOrAll(line);
    const auto parent = line.groupOr("in");
    const auto kind = line.has("kind") ? line.word<GroupKind>("kind") : Result<GroupKind>(GroupKind::cluster);
    for (const auto* refusal : {by ? nullptr : &by.refusal(), attribute ? nullptr : &attribute.refusal(),
                                devices ? nullptr : &devices.refusal(), parent ? nullptr : &parent.refusal(),
                                kind ? nullptr : &kind.refusal()})
        if (refusal)
            return *refusal;
    const auto word =
        std::find_if(std::begin(words), std::end(words), [&](const auto& each) { return each.first == *by; });
    if (word == std::end(words))
        return line.wrong("by", fmt::format("there are no groups by {}", *by),
                          "write one of: prefix, subnet, vlan, role, attribute, uplink");
    auto groups = proposeGroups(line.bench().network, *devices, word->second, *attribute);
    for (ProposedGroup& group : groups)
        group.kind = *kind;
    if (groups.empty())
        return line.wrong("by", fmt::format("nothing known of the devices speaks for groups by {}", *by),
                          "choose another property");
    return makeGroups(line.bench().network, groups, *parent, line.bench().ids);
}

ActResult tuckTo(const Line& line, bool tucked) {
    const auto sheet = line.sheet();
    const auto devices = devicesOrAll(line);
    if (!sheet || !devices)
        return sheet ? devices.refusal() : sheet.refusal();
    return setTucked(line.bench().network, *sheet, tuckers(line.bench().network, *sheet, *devices), tucked);
}

ActResult tuckIn(const Line& line) {
    return tuckTo(line, true);
}

ActResult bringOut(const Line& line) {
    return tuckTo(line, false);
}

ActResult roles(const Line& line) {
    const auto devices = devicesOrAll(line);
    if (!devices)
        return devices.refusal();
    const auto proposed = proposeRoles(line.bench().network, *devices);
    return proposed.empty() ? line.wrong({}, "no device without a role tells what it is",
                                         "name devices whose role is not known")
                            : giveRoles(line.bench().network, proposed);
}

} // namespace

std::span<const ActWord> groupActs() {
    static const std::vector<ActWord> acts{
        {"group", {"kind", "name", "members", "in", "at", "level", "units", "sheet"}, group},
        {"ungroup", {"group", "sheet"}, dissolve},
        {"move-into", {"group", "members"}, into},
        {"fold", {"group", "sheet"}, fold},
        {"unfold", {"group", "sheet"}, unfold},
        {"tuck-in", {"members", "sheet"}, tuckIn},
        {"bring-out", {"members", "sheet"}, bringOut},
        {"group-by", {"by", "attribute", "members", "kind", "in"}, groupBy},
        {"give-roles", {"members"}, roles},
        {"plan", {"group", "file", "mmPerPixel", "widthM", "x", "y", "turn", "dim", "ink", "sheet"}, plan}};
    return acts;
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// Acts on devices: add, rename, delete, fit, place, vlan.
#include "core/edit/devices.h"
#include "core/edit/fittings.h"
#include "core/edit/groups.h"
#include "core/edit/interfaces.h"
#include "core/edit/names.h"
#include "core/edit/objects.h"
#include "core/edit/places.h"
#include "core/edit/script/line.h"
#include "core/edit/shown_places.h"
#include "core/edit/vlans.h"
#include "core/scene/plates.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

constexpr int across = 8, between = 24; ///< of devices added in rows

/// Below everything that is on the sheet, at its left edge.
Point freePlace(const Network& network, SheetId sheet) {
    const auto folding = foldingOf(network, sheet);
    scene::Rect all;
    for (const scene::ShownGroup& group : folding.groups())
        all = all.united(group.frame);
    network.all<Position>().forEachIn(sheet.value, [&](const Position& position) {
        const auto corner = shownCorner(network, sheet, folding, position.drawn());
        if (corner && position.of != Kind::link)
            all = all.united({static_cast<double>(corner->x), static_cast<double>(corner->y),
                              std::max(position.width, 1) * 1.0, std::max(position.height, 44) * 1.0});
    });
    if (all.empty())
        return {};
    return {static_cast<int>(std::lround(all.x)), static_cast<int>(std::lround(all.bottom())) + 2 * between};
}

ActResult add(const Line& line) {
    const Bench& bench = line.bench();
    const auto id = line.text("model");
    const auto count = line.wholeOr("count", 1, 1, 10'000);
    const auto group = line.groupOr("in");
    const auto sheet = line.sheet();
    for (const auto* refusal : {id ? nullptr : &id.refusal(), count ? nullptr : &count.refusal(),
                                group ? nullptr : &group.refusal(), sheet ? nullptr : &sheet.refusal()})
        if (refusal)
            return *refusal;
    const DeviceModel* model = bench.catalogue.device(*id);
    if (!model)
        model = bench.network.find<DeviceModel>({fnv1a(*id), 0});
    if (!model)
        return line.wrong("model", fmt::format("there is no model {}", *id),
                          "write an id of docs/catalogue.md");
    const auto pattern = line.textOr("names", defaultPattern(model->role));
    if (!pattern)
        return pattern.refusal();
    const auto names = seriesNames(*pattern, static_cast<int>(*count), namesLike(bench.network, *pattern));
    if (!names)
        return line.wrong("names", names.refusal().what, names.refusal().remedy);
    Point at = freePlace(bench.network, *sheet);
    if (line.has("at")) {
        const auto wanted = line.point("at");
        if (!wanted)
            return wanted.refusal();
        at = *wanted;
    }
    const scene::Plate plate = scene::plateFor(*model, names->back(), {});
    std::vector<Placed> placed;
    for (int i = 0; i < static_cast<int>(names->size()); ++i)
        placed.push_back({(*names)[static_cast<std::size_t>(i)],
                          {at.x + (i % across) * (static_cast<int>(plate.frame.w) + between),
                           at.y + (i / across) * (static_cast<int>(plate.frame.h) + between)}});
    auto act = placeDevices(bench.network, *sheet, *model, placed, {}, bench.ids);
    if (!act)
        return act;
    const Refs made = act->subjects;
    if (*group) {
        auto moved = moveInto(act->network, made, *group);
        if (!moved)
            return moved;
        act->network = std::move(moved->network);
    }
    if (!line.has("at"))
        return act;
    std::vector<Target> targets;
    for (std::size_t i = 0; i < made.size(); ++i)
        targets.push_back({made[i], placed[i].at});
    return shownAt(*std::move(act), *sheet, targets);
}

ActResult renameMembers(const Line& line) {
    if (line.has("member")) {
        const auto member = line.object("member");
        const auto name = line.text("name");
        if (!member || !name)
            return member ? name.refusal() : member.refusal();
        return rename(line.bench().network, {*member}, {*name});
    }
    const auto members = line.objects("members");
    const auto pattern = line.text("names");
    if (!members || !pattern)
        return members ? pattern.refusal() : members.refusal();
    const auto names = seriesNames(*pattern, static_cast<int>(members->size()), {});
    if (!names)
        return line.wrong("names", names.refusal().what, names.refusal().remedy);
    return rename(line.bench().network, *members, *names);
}

ActResult remove(const Line& line) {
    const auto members = line.objects("members");
    if (!members)
        return members.refusal();
    auto act = removeObjects(line.bench().network, *members);
    if (act)
        act->subjects = *members;
    return act;
}

ActResult fitInto(const Line& line) {
    const Bench& bench = line.bench();
    if (line.has("port")) {
        const auto port = line.port("port");
        const auto transceiver = line.text("transceiver");
        if (!port || !transceiver)
            return port ? transceiver.refusal() : port.refusal();
        return fitTransceiver(bench.network, bench.catalogue, *port, *transceiver);
    }
    const auto device = line.device("device");
    if (!device)
        return device.refusal();
    if (line.has("add")) {
        const auto port = line.text("add");
        return port ? addPort(bench.network, bench.catalogue, *device, *port) : port.refusal();
    }
    const auto slot = line.text("slot"), module = line.text("module");
    if (!slot || !module)
        return slot ? module.refusal() : slot.refusal();
    return fitModule(bench.network, bench.catalogue, *device, *slot, *module, WithLinks::refuse);
}

ActResult standAt(const Line& line) {
    const auto members = line.objects("members");
    const auto in = line.group("in");
    if (!members || !in)
        return members ? in.refusal() : members.refusal();
    Place place;
    place.in = *in;
    for (const auto& [member, mm] :
         {std::pair{"x", &place.xMm}, std::pair{"y", &place.yMm}, std::pair{"height", &place.heightMm}})
        if (line.has(member)) {
            const auto metres = line.metres(member);
            if (!metres)
                return metres.refusal();
            *mm = *metres;
        }
    const auto unit = line.wholeOr("unit", 0, 0, 100);
    if (!unit)
        return unit.refusal();
    place.unit = static_cast<int>(*unit);
    if (line.has("side")) {
        const auto side = line.word<Side>("side");
        if (!side)
            return side.refusal();
        place.side = *side;
    }
    if (line.has("half")) {
        const auto half = line.word<Half>("half");
        if (!half)
            return half.refusal();
        place.half = *half;
    }
    std::vector<DeviceId> devices;
    for (const ObjectRef each : *members) {
        if (each.kind != Kind::device)
            return line.wrong("members", "only devices have a place", "name devices");
        devices.push_back({each.id});
    }
    return setPlace(line.bench().network, devices, place);
}

ActResult giveAddress(const Line& line) {
    if (line.has("members")) {
        const auto members = line.objects("members");
        const auto subnet = line.text("nextIn");
        if (!members || !subnet)
            return members ? subnet.refusal() : members.refusal();
        std::vector<DeviceId> devices;
        for (const ObjectRef member : *members) {
            if (member.kind != Kind::device)
                return line.wrong("members", "only devices have addresses", "name devices");
            devices.push_back({member.id});
        }
        auto act = addressInSeries(line.bench().network, std::move(devices), *subnet, line.bench().ids);
        return act ? std::move(act) : line.wrong("nextIn", act.refusal().what, act.refusal().remedy);
    }
    const auto port = line.portOrDevice("at");
    const auto address = line.text("address");
    if (!port || !address)
        return port ? address.refusal() : port.refusal();
    return setAddress(line.bench().network, port->device, port->port, *address, line.bench().ids);
}

ActResult vlan(const Line& line) {
    const Bench& bench = line.bench();
    if (!line.has("port")) {
        const auto number = line.whole("number", 1, 4094);
        const auto name = line.textOr("name", {});
        const auto scope = line.groupOr("in");
        if (!number || !name || !scope)
            return !number ? number.refusal() : !name ? name.refusal() : scope.refusal();
        return addVlan(bench.network, static_cast<int>(*number), *name, *scope, bench.ids);
    }
    const auto port = line.port("port");
    if (port && line.has("tagToo")) {
        const auto more = line.text("tagToo");
        if (!more)
            return more.refusal();
        auto act = tagToo(bench.network, *port, *more, bench.ids);
        return act ? std::move(act) : line.wrong("tagToo", act.refusal().what, act.refusal().remedy);
    }
    const auto untagged = line.wholeOr("untagged", 0, 0, 4094);
    const auto tagged = line.textOr("tagged", {});
    if (!port || !untagged || !tagged)
        return !port ? port.refusal() : !untagged ? untagged.refusal() : tagged.refusal();
    auto act = setPortVlans(bench.network, *port, static_cast<int>(*untagged), *tagged, bench.ids);
    if (!act)
        return line.wrong(line.has("tagged") ? "tagged" : "untagged", act.refusal().what,
                          act.refusal().remedy);
    return act;
}

} // namespace

std::span<const ActWord> deviceActs() {
    static const std::vector<ActWord> acts{
        {"add", {"model", "count", "names", "at", "in", "sheet"}, add},
        {"rename", {"member", "name", "members", "names"}, renameMembers},
        {"delete", {"members"}, remove},
        {"fit", {"device", "slot", "module", "port", "transceiver", "add"}, fitInto},
        {"place", {"members", "in", "x", "y", "height", "unit", "side", "half"}, standAt},
        {"address", {"at", "address", "members", "nextIn"}, giveAddress},
        {"vlan", {"number", "name", "in", "port", "untagged", "tagged", "tagToo"}, vlan}};
    return acts;
}

} // namespace underridge::edit

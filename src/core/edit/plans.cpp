// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/plans.h"

#include "core/base/text.h"
#include "core/edit/sheets.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"
#include "core/scene/plates.h"

#include <cmath>
#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

/// Of base64 in one record, well below the longest line of a file.
constexpr std::size_t partBytes = 256U << 10U;
constexpr double leastMm = 0.01, mostMm = 100'000;

Remark goneGroup() {
    return error("the group is no longer there", "choose another");
}

Result<Done> checkScale(double mmPerPixel) {
    if (!(mmPerPixel >= leastMm && mmPerPixel <= mostMm))
        return error(fmt::format("{:g} mm a pixel is no scale", mmPerPixel),
                     "between 0.01 mm and 100 m a pixel are possible");
    return Done{};
}

std::string partsOf(const Network& network, AssetId id) {
    std::string all;
    network.all<Asset>().forEachIn(id.value, [&](const Asset& part) { all += part.data.view(); });
    return all;
}

/// The picture as an asset, which may be there already.
AssetId putPicture(Network& network, const exchange::Picture& picture) {
    const std::string data = exchange::toBase64(picture.bytes);
    AssetId id{fnv1a(picture.bytes) >> (64U - idBits)};
    for (;; id.value = (id.value + 1) & ((std::uint64_t{1} << idBits) - 1)) {
        const std::string there = id.value ? partsOf(network, id) : std::string();
        if (there == data)
            return id;
        if (id.value && there.empty())
            break;
    }
    for (std::size_t at = 0, part = 0; at < data.size(); at += partBytes, ++part) {
        Asset asset;
        asset.id = id;
        asset.part = static_cast<int>(part);
        asset.media = picture.media;
        if (part == 0) {
            asset.width = picture.width;
            asset.height = picture.height;
        }
        asset.data = data.substr(at, partBytes);
        network.put(std::move(asset));
    }
    return id;
}

/// Takes a picture away that nothing shows any longer.
void dropPicture(Network& network, AssetId id) {
    bool shown = false;
    network.all<Group>().forEach([&](const Group& group) { shown |= group.plan == id; });
    if (!id || shown)
        return;
    std::vector<Key> parts;
    network.all<Asset>().forEachIn(id.value, [&](const Asset& part) { parts.push_back(part.key()); });
    for (const Key part : parts)
        network.erase<Asset>(part);
}

/// What stands directly on a group's plan rather than in a rack on it.
bool standsOn(const Network& network, const Device& device, GroupId group) {
    const Group* in = network.group(device.place.in);
    return in && !isRack(in->type) && isWithin(network, in->id, group);
}

Point cornerFor(const Network& network, const Sheet& sheet, const Device& device) {
    const auto plate = scene::plateOf(network, sheet.id, device);
    const double w = plate ? plate->frame.w : 0, h = plate ? plate->frame.h : 0;
    const double x = static_cast<double>(device.place.xMm) / sheet.mmPerUnit,
                 y = static_cast<double>(device.place.yMm) / sheet.mmPerUnit;
    return ontoSheet({static_cast<int>(std::lround(x - w / 2)), static_cast<int>(std::lround(y - h / 2))});
}

std::vector<Sheet> sheetsToScale(const Network& network) {
    std::vector<Sheet> out;
    network.all<Sheet>().forEach([&](const Sheet& sheet) {
        if (sheet.mmPerUnit > 0 && network.group(sheet.shows))
            out.push_back(sheet);
    });
    return out;
}

/// A plate was moved on a sheet to scale: its device stands there.
void standWhereDrawn(Network& network, const Sheet& sheet, const Position& position) {
    const Device* held = network.device({position.object});
    const Group* group = network.group(sheet.shows);
    const auto plate = held ? scene::plateOf(network, sheet.id, *held) : std::nullopt;
    if (!plate || !canStandIn(group->type))
        return;
    const Group* in = network.group(held->place.in);
    if (in && isRack(in->type))
        return;
    const auto mm = [&](double units) { return std::llround(units * sheet.mmPerUnit); };
    // A plate that stands on the spot to the unit is where it should be.
    if (in && isWithin(network, in->id, group->id) && cornerFor(network, sheet, *held) == position.at)
        return;
    Device device = *held;
    if (!in || !isWithin(network, in->id, group->id))
        device.place.in = group->id;
    device.place.xMm = mm(plate->frame.centre().x);
    device.place.yMm = mm(plate->frame.centre().y);
    if (!network.group(device.group))
        device.group = group->id;
    agreeWithPlace(network, device);
    network.put(std::move(device));
}

/// A device was placed: its plates on sheets to scale are there.
void drawWhereStanding(Network& network, const std::vector<Sheet>& sheets, const Device& device) {
    for (const Sheet& sheet : sheets) {
        const Position* held = network.position(sheet.id, device.id.value);
        if (!held || !standsOn(network, device, sheet.shows))
            continue;
        Position position = *held;
        position.at = cornerFor(network, sheet, device);
        network.put(std::move(position));
    }
}

} // namespace

std::optional<PlanSize> planSize(const Network& network, const Group& group) {
    const Asset* first = group.plan ? network.find<Asset>({group.plan.value, 0}) : nullptr;
    return first && first->width > 0 && first->height > 0
               ? std::optional(PlanSize{first->width, first->height})
               : std::nullopt;
}

ActResult setPlan(const Network& network, GroupId id, const exchange::Picture& picture, double mmPerPixel) {
    const Group* held = network.group(id);
    if (!held)
        return goneGroup();
    if (auto scale = checkScale(mmPerPixel); !scale)
        return scale.refusal();
    Act act{fmt::format("Put a plan under {}", held->name), network, {refTo(id)}};
    Group group = *held;
    const AssetId before = group.plan;
    group.plan = putPicture(act.network, picture);
    group.planMmPerPixel = mmPerPixel;
    act.network.put(std::move(group));
    dropPicture(act.network, before);
    return act;
}

ActResult removePlan(const Network& network, GroupId id) {
    const Group* held = network.group(id);
    if (!held)
        return goneGroup();
    Act act{fmt::format("Take the plan from under {}", held->name), network, {refTo(id)}};
    Group group = *held;
    const AssetId before = group.plan;
    group.plan = {};
    act.network.put(std::move(group));
    dropPicture(act.network, before);
    return act;
}

ActResult scalePlan(const Network& network, GroupId id, double mmPerPixel, bool withDevices) {
    const Group* held = network.group(id);
    if (!held)
        return goneGroup();
    if (!held->plan)
        return error(fmt::format("{} has no plan", held->name), "put one under it first");
    if (auto scale = checkScale(mmPerPixel); !scale)
        return scale.refusal();
    Act act{fmt::format("Scale the plan of {}", held->name), network, {refTo(id)}};
    Group group = *held;
    const double factor = group.planMmPerPixel > 0 ? mmPerPixel / group.planMmPerPixel : 1;
    group.planMmPerPixel = mmPerPixel;
    act.network.put(group);
    if (!withDevices)
        return act;
    std::vector<Device> devices;
    network.all<Device>().forEach([&](const Device& device) {
        if (standsOn(network, device, id))
            devices.push_back(device);
    });
    const auto scaled = [&](std::int64_t mm, std::int64_t about) {
        return about + std::llround(static_cast<double>(mm - about) * factor);
    };
    for (Device& device : devices) {
        device.place.xMm = scaled(device.place.xMm, group.planXMm);
        device.place.yMm = scaled(device.place.yMm, group.planYMm);
        act.network.put(std::move(device));
    }
    return act;
}

ActResult placePlan(const Network& network, GroupId id, const PlanLook& look) {
    const Group* held = network.group(id);
    if (!held)
        return goneGroup();
    if (!(std::abs(look.turn) <= 360))
        return error("the plan can be turned by up to 360 degrees", "type a smaller number");
    if (look.dim < 0 || look.dim > 90)
        return error("a plan is faded by 0 to 90 per cent", "type such a number");
    return changeEach<Group>(network, {{id.value, 0}}, fmt::format("Change the plan of {}", held->name),
                             [&](Group& group) {
                                 group.planXMm = look.xMm;
                                 group.planYMm = look.yMm;
                                 group.planTurn = look.turn;
                                 group.planDim = look.dim;
                                 group.planInk = look.ink;
                             });
}

double mmPerPixelAt(double scale, double pixelsPerInch) {
    return scale * 25.4 / pixelsPerInch;
}

ActResult sheetOnPlan(const Network& network, GroupId id, const std::string& name, IdSource& ids) {
    const Group* group = network.group(id);
    if (!group)
        return goneGroup();
    if (!group->plan)
        return error(fmt::format("{} has no plan", group->name), "put one under it first");
    auto act = newSheet(network, name, std::nullopt, id, false, ids);
    if (!act)
        return act;
    Sheet sheet = *act->network.sheet({act->subjects.front().id});
    sheet.mmPerUnit = standardMmPerUnit;
    act->network.put(sheet);
    act->name = fmt::format("Draw {} on its plan", group->name);
    std::vector<std::pair<DeviceId, Point>> devices;
    network.all<Device>().forEach([&](const Device& device) {
        if (standsOn(network, device, id))
            devices.emplace_back(device.id, Point{});
    });
    if (devices.empty())
        return act;
    auto shown = showOnSheet(act->network, sheet.id, devices);
    if (!shown)
        return shown;
    act->network = std::move(shown->network);
    for (const auto& [device, at] : devices)
        drawWhereStanding(act->network, {sheet}, *network.device(device));
    return act;
}

ActResult floorOnPlan(const Network& network, const std::string& name, const exchange::Picture& picture,
                      double mmPerPixel, const PlanLook& look, IdSource& ids) {
    auto act = addGroup(network, name, GroupKind::floor, {}, ids);
    if (!act)
        return act;
    const GroupId floor{act->subjects.front().id};
    for (const auto& step : {std::function<ActResult(const Network&)>(
                                 [&](const Network& on) { return setPlan(on, floor, picture, mmPerPixel); }),
                             std::function<ActResult(const Network&)>(
                                 [&](const Network& on) { return placePlan(on, floor, look); }),
                             std::function<ActResult(const Network&)>(
                                 [&](const Network& on) { return sheetOnPlan(on, floor, name, ids); })}) {
        auto next = step(act->network);
        if (!next)
            return next;
        act->network = std::move(next->network);
    }
    return act;
}

ActResult putOnSheet(const Network& network, SheetId id, const std::vector<DeviceId>& devices, Point corner) {
    constexpr int acrossPitch = 264, downPitch = 92;
    const Sheet* sheet = network.sheet(id);
    const bool toScale = sheet && sheet->mmPerUnit > 0 && network.group(sheet->shows);
    const int columns =
        std::max(1, static_cast<int>(std::ceil(std::sqrt(static_cast<double>(devices.size()) / 2))));
    std::vector<std::pair<DeviceId, Point>> places;
    int laid = 0;
    for (const DeviceId each : devices) {
        const Device* device = network.device(each);
        if (device && toScale && standsOn(network, *device, sheet->shows)) {
            places.emplace_back(each, Point{});
            continue;
        }
        places.emplace_back(
            each, ontoSheet(corner + Point{laid % columns * acrossPitch, laid / columns * downPitch}));
        ++laid;
    }
    auto act = showOnSheet(network, id, places);
    if (act && toScale)
        for (const DeviceId each : devices)
            drawWhereStanding(act->network, {*sheet}, *network.device(each));
    return act;
}

Point freeCorner(const Network& network, SheetId sheet) {
    constexpr int below = 120;
    std::optional<Point> corner;
    network.all<Position>().forEachIn(sheet.value, [&](const Position& position) {
        if (position.of == Kind::link)
            return;
        const Point foot{position.at.x, position.at.y + position.height + below};
        corner = corner ? Point{std::min(corner->x, foot.x), std::max(corner->y, foot.y)} : foot;
    });
    return ontoSheet(corner.value_or(Point{}));
}

void followPlans(const Network& before, Network& after) {
    const auto sheets = sheetsToScale(after);
    if (sheets.empty())
        return;
    const auto toScale = [&](SheetId id) {
        const auto at =
            std::find_if(sheets.begin(), sheets.end(), [&](const Sheet& sheet) { return sheet.id == id; });
        return at == sheets.end() ? nullptr : &*at;
    };
    std::vector<Position> moved;
    std::set<DeviceId> placed;
    Network::compare(before, after, [&]<class R>(const R* was, const R* is) {
        if constexpr (std::is_same_v<R, Position>) {
            if (is && is->of == Kind::device && toScale(is->sheet) && (!was || !(was->at == is->at)))
                moved.push_back(*is);
        } else if constexpr (std::is_same_v<R, Device>) {
            if (is && (!was || !(was->place == is->place)))
                placed.insert(is->id);
        }
    });
    // What was placed is drawn there, even where the same act put its plate somewhere.
    for (const DeviceId id : placed)
        drawWhereStanding(after, sheets, *after.device(id));
    for (const Position& position : moved)
        if (!placed.contains({position.object}) || !after.device({position.object})->place.in) {
            standWhereDrawn(after, *toScale(position.sheet), position);
            drawWhereStanding(after, sheets, *after.device({position.object}));
        }
}

} // namespace underridge::edit

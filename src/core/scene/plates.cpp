// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/plates.h"

#include "core/model/ports.h"
#include "core/model/standing.h"
#include "core/scene/rack.h"
#include "core/scene/text_width.h"

namespace underridge::scene {
using namespace model;
namespace {

constexpr double padding = 6, minWidth = 104, maxWidth = 240, tickPitch = 4.4, maxPitch = 11;
constexpr int maxColumns = 48;
constexpr double noteWidth = 200, notePadding = 8, leastNote = 40;

Rail railFor(const Rect& frame, int ports) {
    Rail rail;
    if (ports == 0)
        return rail;
    rail.columns = std::min(ports, maxColumns);
    rail.rows = (ports + maxColumns - 1) / maxColumns;
    const double height = (rail.rows - 1) * rowPitch + tickHeight;
    const double width = std::min(frame.w - spineWidth - 2 * padding, rail.columns * maxPitch);
    rail.area = {frame.x + spineWidth + padding, frame.bottom() - 3.5 - height, width, height};
    return rail;
}

Plate shaped(std::string_view name, std::string_view subline, Role role, int ports, PointF corner) {
    Plate plate;
    plate.role = role;
    const double text = std::max(textWidth(name, nameSize, Weight::semiBold),
                                 std::min(textWidth(subline, sublineSize, Weight::regular), 120.0));
    const double rail = std::min(ports, maxColumns) * tickPitch;
    const double width = std::clamp(std::max(text, rail) + spineWidth + 2 * padding, minWidth, maxWidth);
    const int rows = std::max(1, (ports + maxColumns - 1) / maxColumns);
    // Whole multiples of eight keep plates of like kind equally wide.
    plate.frame = {corner.x, corner.y, std::ceil(width / 8) * 8, plateHeight + (rows - 1) * rowPitch};
    const double room = plate.frame.w - spineWidth - 2 * padding;
    plate.name = elided(name, nameSize, Weight::semiBold, room);
    plate.subline = elided(subline, sublineSize, Weight::regular, room);
    plate.rail = railFor(plate.frame, ports);
    return plate;
}

/// On a sheet of racks what is mounted is as wide as its rack, or half of it, and as high as its
/// units.
bool isDrawnInRack(const Network& network, SheetId sheet, const Device& device) {
    const Sheet* held = device.place.unit > 0 ? network.sheet(sheet) : nullptr;
    const Group* rack = held && held->racks ? network.group(device.place.in) : nullptr;
    return rack && isRack(rack->type) && network.position(sheet, rack->id.value);
}

} // namespace

Plate plateFor(const DeviceModel& model, std::string_view name, PointF corner) {
    const int ports = static_cast<int>(model.ports.specs().size());
    Plate plate = shaped(name, model.name, model.role, ports, corner);
    plate.ticks.assign(static_cast<std::size_t>(ports), Tick::free);
    return plate;
}

std::optional<Plate> standing(const Network& network, SheetId sheet, const Plate& shown) {
    const Position* position = network.position(sheet, shown.id.value);
    if (!position)
        return std::nullopt;
    Plate plate = shown;
    plate.tucked.clear();
    return plate.movedTo({static_cast<double>(position->at.x), static_cast<double>(position->at.y),
                          shown.frame.w, shown.frame.h});
}

std::optional<Plate> plateOf(const Network& network, SheetId sheet, const Device& device) {
    const Position* position = network.position(sheet, device.id.value);
    if (!position)
        return std::nullopt;
    const Sheet* drawnOn = network.sheet(sheet);
    const bool upmost = drawnOn && !drawnOn->takesLinks(); // ports are of no matter there
    if (upmost && network.find<Subnet>({device.id.value, 0})) {
        Plate plate = shaped(device.name, device.note.view(), Role::unknown, 0, toF(position->at));
        plate.id = device.id;
        plate.subnet = true;
        plate.links = static_cast<int>(network.degree(device.id));
        return plate;
    }
    const auto ports = upmost ? std::vector<PortView>() : portsOf(network, device);
    std::string subline = firstAddress(network, device.id).host();
    if (subline.empty())
        subline = modelName(network, device);
    Plate plate = shaped(device.name, subline, roleOf(network, device), static_cast<int>(ports.size()),
                         toF(position->at));
    plate.id = device.id;
    plate.outside = device.outside;
    if (isDrawnInRack(network, sheet, device)) {
        constexpr double gap = 8;
        const DeviceModel* model = network.modelOf(device);
        plate.frame.w = model && model->halfWidth ? SheetRack::width / 2 : SheetRack::width;
        plate.frame.h = std::max(plate.frame.h, rackHeight(network, device) * SheetRack::pitch - gap);
        const double room = plate.frame.w - spineWidth - 2 * padding;
        plate.name = elided(device.name, nameSize, Weight::semiBold, room);
        plate.subline = elided(subline, sublineSize, Weight::regular, room);
        plate.rail = railFor(plate.frame, static_cast<int>(ports.size()));
    }
    std::vector<std::string_view> used;
    network.forEachLinkOf(device.id, [&](const Link& link) {
        for (const PortRef* end : {&link.a, &link.b})
            if (end->device == device.id)
                used.push_back(end->port);
    });
    plate.links = static_cast<int>(used.size());
    std::sort(used.begin(), used.end());
    for (const PortView& port : ports)
        plate.ticks.push_back(std::binary_search(used.begin(), used.end(), std::string_view(port.key))
                                  ? Tick::used
                              : port.disabled() ? Tick::disabled
                              : port.reserved() ? Tick::reserved
                                                : Tick::free);
    return plate;
}

std::optional<NoteCard> cardOf(const Network& network, SheetId sheet, const Note& note) {
    const Position* position = network.position(sheet, note.id.value);
    if (!position)
        return std::nullopt;
    NoteCard card;
    card.id = note.id;
    card.zone = note.zone && position->width > 0 && position->height > 0;
    card.behind = note.behind;
    card.outline = note.outline;
    const double x = position->at.x, y = position->at.y;
    const double room = card.zone ? std::max<double>(noteWidth, position->width) : noteWidth;
    NoteText text = setNote(note.text.view(), room - 2 * notePadding);
    if (card.zone)
        card.frame = {x, y, static_cast<double>(position->width), static_cast<double>(position->height)};
    else
        card.frame = {x, y, std::max(leastNote, text.width) + 2 * notePadding, text.height + 10};
    card.lines = std::move(text.lines);
    return card;
}

std::optional<NoteCard> cardShown(const Network& network, SheetId sheet, const Note& note,
                                  const Folding* folding) {
    auto card = cardOf(network, sheet, note);
    if (!card || !folding)
        return card;
    if (!note.group) {
        card->frame = folding->shownOnSheet(card->frame, card->zone);
        return card;
    }
    const auto corner = folding->shownFrom(note.group, {card->frame.x, card->frame.y});
    if (!corner)
        return std::nullopt;
    card->frame.x = corner->x;
    card->frame.y = corner->y;
    return card;
}

std::optional<PlanPicture> planOf(const Network& network, const Sheet& sheet) {
    const Group* group = sheet.mmPerUnit > 0 ? network.group(sheet.shows) : nullptr;
    const Asset* first = group && group->plan ? network.find<Asset>({group->plan.value, 0}) : nullptr;
    if (!first || !(group->planMmPerPixel > 0) || first->width < 1 || first->height < 1)
        return std::nullopt;
    const auto units = [&](double mm) { return mm / sheet.mmPerUnit; };
    PlanPicture plan;
    plan.asset = first->id;
    plan.media = first->media;
    network.all<Asset>().forEachIn(first->id.value,
                                   [&](const Asset& part) { plan.parts.push_back(part.data); });
    plan.frame = {units(static_cast<double>(group->planXMm)), units(static_cast<double>(group->planYMm)),
                  units(first->width * group->planMmPerPixel), units(first->height * group->planMmPerPixel)};
    plan.turn = group->planTurn;
    plan.dim = group->planDim;
    plan.ink = group->planInk;
    return plan;
}

} // namespace underridge::scene

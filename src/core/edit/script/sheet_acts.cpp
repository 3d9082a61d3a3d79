// SPDX-License-Identifier: GPL-3.0-or-later
// Acts on sheets and what is drawn on them: move, sheet, show, take-off, note, zone.
#include "core/edit/layer_sheets.h"
#include "core/edit/rack_sheets.h"
#include "core/edit/script/line.h"
#include "core/edit/sheets.h"
#include "core/edit/shown_places.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

ActResult move(const Line& line) {
    const Network& network = line.bench().network;
    const auto members = line.objects("members");
    const auto sheet = line.sheet();
    if (!members || !sheet)
        return members ? sheet.refusal() : members.refusal();
    Point by;
    if (line.has("by")) {
        const auto wanted = line.point("by");
        if (!wanted)
            return wanted.refusal();
        by = *wanted;
    } else {
        const auto to = line.point("to");
        if (!to)
            return to.refusal();
        // The upper left corner of all of them as they are shown comes there.
        const auto folding = foldingOf(network, *sheet);
        std::optional<Point> corner;
        for (const ObjectRef each : *members)
            if (const auto at = shownCorner(network, *sheet, folding, each))
                corner = corner ? Point{std::min(corner->x, at->x), std::min(corner->y, at->y)} : *at;
        if (!corner)
            return line.wrong("members", "none of them is shown on the sheet",
                              "unfold the group they are in, or show them there first");
        by = *to - *corner;
    }
    return moveObjects(network, *sheet, *members, by);
}

ActResult makeSheet(const Line& line) {
    const Bench& bench = line.bench();
    const auto name = line.text("name");
    const auto group = line.groupOr("group");
    const auto groups = line.flagOr("groups", true);
    if (!name || !group || !groups)
        return !name ? name.refusal() : !group ? group.refusal() : groups.refusal();
    if (line.has("racks")) {
        const auto racks = line.groups("racks");
        return racks ? sheetOfRacks(bench.network, *racks, *name, bench.ids) : ActResult(racks.refusal());
    }
    if (line.has("layer")) {
        const auto layer = line.word<SheetLayer>("layer");
        if (!layer)
            return layer.refusal();

        if (*layer != SheetLayer::physical)
            return addLayerSheet(bench.network, *name, *layer, bench.ids);
    }
    std::optional<SheetId> from;
    if (line.has("from")) {
        const auto held = line.sheet("from");
        if (!held)
            return held.refusal();
        from = *held;
    }
    return newSheet(bench.network, *name, from, *group, *groups, bench.ids);
}

ActResult show(const Line& line) {
    const Bench& bench = line.bench();
    const auto members = line.objects("members");
    const auto sheet = line.sheet();
    const auto at = line.point("at");
    if (!members || !sheet || !at)
        return !members ? members.refusal() : !sheet ? sheet.refusal() : at.refusal();
    constexpr int step = 200;
    std::vector<std::pair<DeviceId, Point>> devices;
    for (const ObjectRef each : *members) {
        if (each.kind != Kind::device)
            return line.wrong("members", "only devices are shown by themselves", "name devices");
        devices.emplace_back(DeviceId{each.id}, *at + Point{static_cast<int>(devices.size()) * step, 0});
    }
    return showOnSheet(bench.network, *sheet, devices);
}

ActResult takeOff(const Line& line) {
    const auto members = line.objects("members");
    const auto sheet = line.sheet();
    if (!members || !sheet)
        return members ? sheet.refusal() : members.refusal();
    return takeOffSheet(line.bench().network, *sheet, *members);
}

/// A note or zone that was just added, as the line wants it to look.
ActResult looking(const Line& line, ActResult act) {
    const auto behind = line.flagOr("behind", false), outline = line.flagOr("outline", false);
    if (!behind || !outline)
        return behind ? outline.refusal() : behind.refusal();
    if (act && (*behind || *outline)) {
        auto look = setNoteLook(act->network, {act->subjects.front().id}, *behind, *outline);
        if (look)
            act->network = std::move(look->network);
    }
    if (!act || !line.has("group"))
        return act;
    const auto group = line.group("group");
    const auto sheet = line.sheet();
    if (!group || !sheet)
        return group ? sheet.refusal() : group.refusal();
    auto kept = setNoteGroup(act->network, *sheet, {act->subjects.front().id}, *group);
    if (kept)
        act->network = std::move(kept->network);
    return act;
}

ActResult note(const Line& line) {
    const auto text = line.text("text");
    const auto at = line.point("at");
    const auto sheet = line.sheet();
    if (!text || !at || !sheet)
        return !text ? text.refusal() : !at ? at.refusal() : sheet.refusal();
    return looking(line, addNote(line.bench().network, *sheet, *at, *text, line.bench().ids));
}

ActResult zone(const Line& line) {
    const auto text = line.text("text");
    const auto at = line.point("at");
    const auto sheet = line.sheet();
    const auto width = line.whole("width", 20, sheetLimit), height = line.whole("height", 20, sheetLimit);
    for (const auto* refusal :
         {text ? nullptr : &text.refusal(), at ? nullptr : &at.refusal(), sheet ? nullptr : &sheet.refusal(),
          width ? nullptr : &width.refusal(), height ? nullptr : &height.refusal()})
        if (refusal)
            return *refusal;
    return looking(line, addZone(line.bench().network, *sheet, *at, static_cast<int>(*width),
                                 static_cast<int>(*height), *text, line.bench().ids));
}

ActResult filter(const Line& line) {
    const auto text = line.textOr("filter", "");
    const auto hides = line.flagOr("hides", false);
    const auto sheet = line.sheet();
    if (!text)
        return text.refusal();
    if (!hides)
        return hides.refusal();
    if (!sheet)
        return sheet.refusal();
    return setSheetFilter(line.bench().network, *sheet, *text, *hides);
}

ActResult overlay(const Line& line) {
    const auto keys = line.has("overlays") ? line.texts("overlays") : std::vector<std::string>{};
    const auto sheet = line.sheet();
    if (!keys || !sheet)
        return keys ? sheet.refusal() : keys.refusal();
    return setSheetOverlays(line.bench().network, *sheet, *keys);
}

ActResult lines(const Line& line) {
    const auto sheet = line.sheet();
    if (!sheet)
        return sheet.refusal();
    Network network = line.bench().network;
    if (line.has("onDemand")) {
        const auto on = line.flagOr("onDemand", false);
        if (!on)
            return on.refusal();
        auto act = setLinksOnDemand(network, *sheet, *on);
        if (!act || !line.has("style"))
            return act;
        network = std::move(act->network);
    }
    const auto style = line.word<LineStyle>("style");
    return style ? setLineStyle(network, *sheet, *style) : style.refusal();
}

} // namespace

std::span<const ActWord> sheetActs() {
    static const std::vector<ActWord> acts{
        {"move", {"members", "to", "by", "sheet"}, move},
        {"sheet", {"name", "from", "group", "groups", "racks", "layer"}, makeSheet},
        {"filter", {"filter", "hides", "sheet"}, filter},
        {"overlay", {"overlays", "sheet"}, overlay},
        {"lines", {"style", "onDemand", "sheet"}, lines},
        {"show", {"members", "at", "sheet"}, show},
        {"take-off", {"members", "sheet"}, takeOff},
        {"note", {"text", "at", "behind", "group", "sheet"}, note},
        {"zone", {"text", "at", "width", "height", "outline", "group", "sheet"}, zone}};
    return acts;
}

} // namespace underridge::edit

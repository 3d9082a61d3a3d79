// SPDX-License-Identifier: GPL-3.0-or-later
// Acts that lay out: pattern, arrange, fit-in.
#include "core/edit/arranging.h"
#include "core/edit/fitting_in.h"
#include "core/edit/patterns.h"
#include "core/edit/script/line.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

/// A word of a list that is no word of the model.
template <class Word, class All, class From>
Result<Word> chosen(const Line& line, std::string_view member, Word otherwise, const All& all, From from) {
    const auto said = line.textOr(member, std::string(textOf(otherwise)));
    if (!said)
        return said.refusal();
    if (const auto found = from(*said))
        return *found;
    std::string words;
    for (const auto each : all)
        words += (words.empty() ? "" : ", ") + std::string(textOf(each));
    return line.wrong(member, *said + " is not known here", "write one of: " + words);
}

Result<PatternPart> part(const Line& line, std::string_view model, std::string_view names) {
    const auto of = line.textOr(model, {}), called = line.textOr(names, {});
    if (!of || !called)
        return of ? called.refusal() : of.refusal();
    return PatternPart{*of, *called};
}

ActResult pattern(const Line& line) {
    const Bench& bench = line.bench();
    Pattern p;
    const auto shape = chosen(line, "shape", p.shape, allPatternShapes, patternShapeFromText);
    const auto sheet = line.sheet();
    const auto into = line.groupOr("in");
    if (!shape || !sheet || !into)
        return !shape ? shape.refusal() : !sheet ? sheet.refusal() : into.refusal();
    p.shape = *shape;
    p.into = *into;
    struct Figure {
        std::string_view name;
        int* to;
        int least, most;
    };
    for (const auto& [name, to, least, most] : {Figure{"count", &p.count, 1, 1000},
                                                {"depth", &p.depth, 1, 8},
                                                {"fan", &p.fan, 1, 64},
                                                {"spines", &p.spines, 1, 64},
                                                {"leaves", &p.leaves, 1, 512},
                                                {"parallel", &p.parallel, 1, 8},
                                                {"access", &p.access, 1, 200},
                                                {"sites", &p.sites, 1, 100},
                                                {"endpoints", &p.endpoints, 0, 200},
                                                {"radius", &p.radius, 0, 20'000}}) {
        const auto figure = line.wholeOr(name, *to, least, most);
        if (!figure)
            return figure.refusal();
        *to = static_cast<int>(*figure);
    }
    for (const auto& [name, to] :
         {std::pair("medium", &p.medium), std::pair("endpointMedium", &p.endpointMedium)}) {
        if (!line.has(name))
            continue;
        const auto medium = line.word<Medium>(name);
        if (!medium)
            return medium.refusal();
        *to = *medium;
    }
    const auto above = part(line, "upper", "upperNames"), middle = part(line, "model", "names"),
               below = part(line, "lower", "lowerNames");
    const auto spacing = line.numberOr("spacing", 1);
    if (!above || !middle || !below || !spacing)
        return !above    ? above.refusal()
               : !middle ? middle.refusal()
               : !below  ? below.refusal()
                         : spacing.refusal();
    p.upper = *above;
    p.middle = *middle;
    p.lower = *below;
    p.spacing = *spacing;
    if (line.has("at")) {
        const auto at = line.point("at");
        if (!at)
            return at.refusal();
        p.centre = *at;
    }
    return addPattern(bench.network, bench.catalogue, *sheet, p, bench.ids);
}

/// Devices that are named, in `members`.
Result<std::vector<DeviceId>> devicesNamed(const Line& line) {
    std::vector<DeviceId> out;
    const auto members = line.objects("members");
    if (!members)
        return members.refusal();
    for (const ObjectRef each : *members) {
        if (each.kind != Kind::device)
            return line.wrong("members", "only devices are arranged", "name devices");
        out.push_back({each.id});
    }
    return out;
}

ActResult fitDevicesIn(const Line& line) {
    const auto members = devicesNamed(line);
    const auto sheet = line.sheet();
    if (!members || !sheet)
        return members ? sheet.refusal() : members.refusal();
    return fitIn(line.bench().network, *sheet, *members);
}

ActResult arrangeSheet(const Line& line) {
    const Bench& bench = line.bench();
    ArrangeWish wish;
    const auto style = chosen(line, "style", wish.style, layout::allStyles, layout::styleFromText);
    const auto flow =
        chosen(line, "flow", wish.flow,
               std::array{layout::Flow::down, layout::Flow::up, layout::Flow::right, layout::Flow::left},
               layout::flowFromText);
    const auto sheet = line.sheet();
    const auto within = line.groupOr("enter");
    const auto spacing = line.numberOr("spacing", 1);
    const auto by = chosen(line, "by", wish.by, allOrders, orderFromText);
    const auto keepOrder = line.flagOr("keepOrder", false);
    if (!style || !flow || !sheet || !within || !spacing || !keepOrder || !by)
        return !keepOrder ? keepOrder.refusal()
               : !by      ? by.refusal()
               : !style   ? style.refusal()
               : !flow    ? flow.refusal()
               : !sheet   ? sheet.refusal()
               : !within  ? within.refusal()
                          : spacing.refusal();
    if (!(*spacing >= 0.5 && *spacing <= 3))
        return line.wrong("spacing", "it is not from 0.5 to 3", "write 1 for the usual distances");
    wish.style = *style;
    wish.flow = *flow;
    wish.spacing = *spacing;
    wish.keepOrder = *keepOrder;
    wish.by = *by;
    if (line.has("anchor")) {
        const auto anchor = line.device("anchor");
        if (!anchor)
            return anchor.refusal();
        wish.anchor = *anchor;
    }
    if (line.has("members")) {
        const auto members = devicesNamed(line);
        if (!members)
            return members.refusal();
        wish.only = *members;
    }
    return arrange(bench.network, {*sheet, *within}, wish);
}

} // namespace

std::span<const ActWord> patternActs() {
    static const std::vector<ActWord> acts{
        {"pattern",
         {"shape",          "count",   "depth", "fan",       "spines",     "leaves",
          "parallel",       "access",  "sites", "endpoints", "radius",     "upper",
          "upperNames",     "model",   "names", "lower",     "lowerNames", "medium",
          "endpointMedium", "spacing", "at",    "in",        "sheet"},
         pattern},
        {"arrange",
         {"style", "flow", "anchor", "spacing", "members", "by", "keepOrder", "enter", "sheet"},
         arrangeSheet},
        {"fit-in", {"members", "sheet"}, fitDevicesIn}};
    return acts;
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/patterns.h"

#include "core/edit/arranging.h"
#include "core/edit/devices.h"
#include "core/edit/groups.h"
#include "core/edit/links.h"
#include "core/edit/names.h"
#include "core/edit/plans.h"
#include "core/model/ports.h"
#include "core/scene/plates.h"

#include <array>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace underridge::edit {
using namespace model;
namespace {

constexpr std::array<std::string_view, 9> texts{"row",  "chain",  "ring",       "star",  "mesh",
                                                "tree", "fabric", "dual-homed", "campus"};
constexpr int mostDevices = 5000, mostLinks = 20'000, quicklyTried = 1000;

enum Part { upper, middle, lower };

/// Devices and links before they are made.
struct Bones {
    std::vector<Part> devices;
    std::vector<int> building;              ///< of each; -1: in none
    std::vector<std::pair<int, int>> links; ///< by index

    int add(Part part, int in = -1) {
        devices.push_back(part);
        building.push_back(in);
        return static_cast<int>(devices.size()) - 1;
    }
    void join(int a, int b, int times = 1) {
        for (int i = 0; i < times; ++i)
            links.emplace_back(a, b);
    }
};

void addAccess(Bones& bones, int one, int two, const Pattern& p, int in) {
    for (int a = 0; a < p.access; ++a) {
        const int here = bones.add(middle, in);
        bones.join(here, one);
        bones.join(here, two);
        for (int i = 0; i < p.endpoints; ++i)
            bones.join(bones.add(lower, in), here);
    }
}

Bones bonesOf(const Pattern& p) {
    Bones bones;
    switch (p.shape) {
    case PatternShape::row:
    case PatternShape::chain:
    case PatternShape::ring:
    case PatternShape::mesh:
        for (int i = 0; i < p.count; ++i)
            bones.add(middle);
        for (int i = 0; p.shape != PatternShape::row && p.shape != PatternShape::mesh && i + 1 < p.count; ++i)
            bones.join(i, i + 1);
        if (p.shape == PatternShape::ring && p.count > 2)
            bones.join(p.count - 1, 0);
        for (int i = 0; p.shape == PatternShape::mesh && i < p.count; ++i)
            for (int j = i + 1; j < p.count; ++j)
                bones.join(i, j);
        break;
    case PatternShape::star: {
        const int centre = bones.add(upper);
        for (int i = 0; i < p.count; ++i)
            bones.join(bones.add(lower), centre);
        break;
    }
    case PatternShape::tree: {
        std::vector<int> level{bones.add(middle)};
        for (int d = 0; d < p.depth; ++d) {
            std::vector<int> next;
            for (const int above : level)
                for (int i = 0; i < p.fan; ++i) {
                    next.push_back(bones.add(middle));
                    bones.join(next.back(), above);
                }
            level = std::move(next);
        }
        break;
    }
    case PatternShape::fabric: {
        for (int i = 0; i < p.spines; ++i)
            bones.add(upper);
        for (int l = 0; l < p.leaves; ++l) {
            const int leaf = bones.add(middle);
            for (int s = 0; s < p.spines; ++s)
                bones.join(leaf, s, p.parallel);
            for (int i = 0; i < p.endpoints; ++i)
                bones.join(bones.add(lower), leaf);
        }
        break;
    }
    case PatternShape::dualHomed: {
        const int one = bones.add(upper), two = bones.add(upper);
        bones.join(one, two);
        addAccess(bones, one, two, p, -1);
        break;
    }
    case PatternShape::campus: {
        const int one = bones.add(upper), two = bones.add(upper);
        bones.join(one, two);
        for (int site = 0; site < p.sites; ++site) {
            const int a = bones.add(upper, site), b = bones.add(upper, site);
            bones.join(a, b);
            for (const int here : {a, b})
                for (const int core : {one, two})
                    bones.join(here, core);
            addAccess(bones, a, b, p, site);
        }
        break;
    }
    }
    return bones;
}

struct Usual {
    const char *model, *names;
};
/// The models and names a shape has where none are said.
Usual usualOf(PatternShape shape, Part part) {
    switch (part) {
    case upper:
        return shape == PatternShape::star     ? Usual{"access-switch-24", "acc-{1..}"}
               : shape == PatternShape::fabric ? Usual{"fabric-spine-32", "spine-{1..}"}
                                               : Usual{"distribution-switch-24", "dist-{1..}"};
    case middle:
        return shape == PatternShape::fabric ? Usual{"fabric-leaf-48", "leaf-{1..}"}
               : shape == PatternShape::ring ? Usual{"industrial-switch-8", "ring-{1..}"}
               : shape == PatternShape::tree || shape == PatternShape::mesh
                   ? Usual{"distribution-switch-24", "sw-{1..}"}
                   : Usual{"access-switch-24", "acc-{1..}"};
    case lower:
        return shape == PatternShape::fabric ? Usual{"server", "srv-{1..}"}
                                             : Usual{"workstation", "ws-{1..}"};
    }
    return {"access-switch-24", "acc-{1..}"};
}

const PatternPart& partOf(const Pattern& p, Part part) {
    return part == upper ? p.upper : part == middle ? p.middle : p.lower;
}

std::optional<Remark> outOfRange(const Pattern& p) {
    const auto within = [](int value, int least, int most) { return value >= least && value <= most; };
    const bool good = within(p.count,
                             p.shape == PatternShape::ring   ? 3
                             : p.shape == PatternShape::star ? 1
                                                             : 2,
                             1000) &&
                      within(p.depth, 1, 8) && within(p.fan, 1, 64) && within(p.spines, 1, 64) &&
                      within(p.leaves, 1, 512) && within(p.parallel, 1, 8) && within(p.access, 1, 200) &&
                      within(p.sites, 1, 100) && within(p.endpoints, 0, 200) && p.spacing >= 0.5 &&
                      p.spacing <= 3 && within(p.radius, 0, 20'000);
    if (!good)
        return error("a figure of the pattern is out of range",
                     "see the ranges in docs/command-line.md, under add-pattern");
    double devices = 1, level = 1;
    for (int i = 0; p.shape == PatternShape::tree && i < p.depth; ++i)
        devices += level *= p.fan;
    if (devices > mostDevices || p.sites * p.access * (1.0 + p.endpoints) > mostDevices ||
        p.leaves * (1.0 + p.endpoints) > mostDevices || countOf(p).devices > mostDevices)
        return error(fmt::format("a pattern makes at most {} devices", mostDevices), "make it smaller");
    if (countOf(p).links > mostLinks)
        return error(fmt::format("a pattern makes at most {} links", mostLinks), "make it smaller");
    return std::nullopt;
}

/// Where the plates of simple shapes stand, about the origin; empty: the shape is arranged.
std::vector<Point> cornersOf(const Pattern& p, const std::vector<scene::PointF>& sizes) {
    std::vector<Point> out;
    const std::size_t n = sizes.size();
    scene::PointF largest;
    for (const scene::PointF size : sizes)
        largest = {std::max(largest.x, size.x), std::max(largest.y, size.y)};
    if (p.shape == PatternShape::row || p.shape == PatternShape::chain) {
        const double pitch = largest.x + 56 * p.spacing;
        for (std::size_t i = 0; i < n; ++i)
            out.push_back(
                {static_cast<int>(std::lround(
                     (static_cast<double>(i) - static_cast<double>(n - 1) / 2) * pitch - sizes[i].x / 2)),
                 static_cast<int>(std::lround(-sizes[i].y / 2))});
        return out;
    }
    if (p.shape != PatternShape::star && p.shape != PatternShape::ring && p.shape != PatternShape::mesh)
        return out;
    const bool centred = p.shape == PatternShape::star;
    const auto round = static_cast<double>(centred ? n - 1 : n);
    // Plates are wide: above one another they need less room than beside one another.
    const double needed = std::max({round * (largest.x + 30 * p.spacing) / 2 / std::numbers::pi * 0.8,
                                    largest.x * 1.2 + 40 * p.spacing, 120.0});
    const double rx = p.radius > 0 ? p.radius : needed, ry = p.radius > 0 ? p.radius : needed * 0.8;
    for (std::size_t i = 0; i < n; ++i) {
        const bool middleOne = centred && i == 0;
        const double turn = 2 * std::numbers::pi * (static_cast<double>(i) - (centred ? 1 : 0)) / round;
        const scene::PointF at =
            middleOne ? scene::PointF{} : scene::PointF{-rx * std::sin(turn), -ry * std::cos(turn)};
        out.push_back({static_cast<int>(std::lround(at.x - sizes[i].x / 2)),
                       static_cast<int>(std::lround(at.y - sizes[i].y / 2))});
    }
    return out;
}

/// The cables of a medium; none of an unknown one, which is any.
std::vector<std::string> cablesOf(const Catalogue& catalogue, Medium medium) {
    std::vector<std::string> out;
    for (const CableType& type : catalogue.cables)
        if (medium != Medium::unknown && type.medium == medium)
            out.push_back(type.id);
    return out;
}

/// What a pattern has made, before it is placed.
struct Made {
    Act act;
    std::vector<DeviceId> devices;
    std::vector<scene::PointF> sizes; ///< of their plates
    std::vector<int> building;        ///< of each; -1: in none
    std::vector<GroupId> buildings;
};

/// Devices, links and groups, or what is in the way.
Result<Made> madeOf(const Network& network, const Catalogue& catalogue, SheetId sheet, const Pattern& p,
                    IdSource& ids, const linking::Habits& habits) {
    Bones bones = bonesOf(p);
    Act act{fmt::format("Add a pattern of {} devices", bones.devices.size()), network, {}};
    std::vector<DeviceId> made(bones.devices.size());
    std::vector<scene::PointF> sizes(bones.devices.size());
    for (const Part part : {upper, middle, lower}) {
        std::vector<std::size_t> mine;
        for (std::size_t i = 0; i < bones.devices.size(); ++i)
            if (bones.devices[i] == part)
                mine.push_back(i);
        if (mine.empty())
            continue;
        const Usual usual = usualOf(p.shape, part);
        const PatternPart& said = partOf(p, part);
        const std::string model = said.model.empty() ? usual.model : said.model;
        const DeviceModel* known = catalogue.device(model);
        if (!known)
            return error(fmt::format("no model is called {}", model), "see the catalogue");
        const std::string pattern = said.names.empty() ? usual.names : said.names;
        const auto names =
            seriesNames(pattern, static_cast<int>(mine.size()), namesLike(act.network, pattern));
        if (!names)
            return names.refusal();
        std::vector<Placed> placed;
        for (const std::string& name : *names)
            placed.push_back({name, {}});
        auto put = placeDevices(act.network, sheet, *known, placed, p.into, ids);
        if (!put)
            return put.refusal();
        act.network = std::move(put->network);
        for (std::size_t k = 0; k < mine.size(); ++k) {
            made[mine[k]] = {put->subjects[k].id};
            const scene::Plate plate = scene::plateFor(*known, (*names)[k], {});
            sizes[mine[k]] = {plate.frame.w, plate.frame.h};
        }
    }
    linking::Wishes between, toEndpoints;
    between.cables = cablesOf(catalogue, p.medium);
    toEndpoints.cables = cablesOf(catalogue, p.endpointMedium);
    for (const auto& [a, b] : bones.links) {
        const bool ends = bones.devices[static_cast<std::size_t>(a)] == lower ||
                          bones.devices[static_cast<std::size_t>(b)] == lower;
        const DeviceId from = made[static_cast<std::size_t>(a)], to = made[static_cast<std::size_t>(b)];
        const auto pair = linking::bestPair(act.network, catalogue, {from, {}}, {to, {}}, habits,
                                            ends ? toEndpoints : between);
        if (!pair)
            return pair.refusal();
        auto linked = makeLink(act.network, catalogue, *pair, ids);
        if (!linked)
            return linked.refusal();
        act.network = std::move(linked->network);
    }
    // Buildings as groups of their own.
    std::vector<GroupId> buildings;
    if (p.shape == PatternShape::campus)
        for (int site = 0; site < p.sites; ++site) {
            Refs members;
            for (std::size_t i = 0; i < made.size(); ++i)
                if (bones.building[i] == site)
                    members.push_back(refTo(made[i]));
            auto grouped = makeGroup(act.network, sheet, fmt::format("Building {}", site + 1),
                                     GroupKind::building, members, {}, ids);
            if (!grouped)
                return grouped.refusal();
            buildings.push_back({grouped->subjects.front().id});
            act.network = std::move(grouped->network);
        }
    return Made{std::move(act), std::move(made), std::move(sizes), std::move(bones.building),
                std::move(buildings)};
}

/// Puts what was made where the pattern says. `free`: where it goes if that says nothing.
ActResult placedAs(const Pattern& p, SheetId sheet, Point free, const Made& what) {
    Act act = what.act;
    const auto& made = what.devices;
    const auto& sizes = what.sizes;
    const auto corners = cornersOf(p, sizes);
    for (std::size_t i = 0; i < made.size(); ++i) {
        Position position = positionOr(act.network, sheet, refTo(made[i]));
        position.at = ontoSheet(corners.empty() ? free : corners[i]);
        act.network.put(std::move(position));
        act.subjects.push_back(refTo(made[i]));
    }
    if (corners.empty()) {
        ArrangeWish wish;
        wish.only = made;
        wish.spacing = p.spacing;
        auto arranged = arrange(act.network, {sheet}, wish);
        if (!arranged)
            return arranged;
        act.network = std::move(arranged->network);
    }
    // About the centre wanted, or below what is there.
    Point least{sheetLimit, sheetLimit}, most{-sheetLimit, -sheetLimit};
    for (std::size_t i = 0; i < made.size(); ++i) {
        const Point at = act.network.position(sheet, made[i].value)->at;
        const auto size = sizes[i];
        least = {std::min(least.x, at.x), std::min(least.y, at.y)};
        most = {std::max(most.x, at.x + static_cast<int>(size.x)),
                std::max(most.y, at.y + static_cast<int>(size.y))};
    }
    const Point by = p.centre
                         ? Point{p.centre->x - (least.x + most.x) / 2, p.centre->y - (least.y + most.y) / 2}
                         : Point{free.x - least.x, free.y - least.y};
    std::vector<std::pair<ObjectRef, Point>> moves;
    for (const GroupId id : what.buildings) // with all that is in them
        moves.emplace_back(refTo(id), by);
    for (std::size_t i = 0; i < made.size(); ++i)
        if (what.building[i] < 0)
            moves.emplace_back(refTo(made[i]), by);
    if (auto moved = moveStored(act.network, sheet, moves); !moved)
        return moved.refusal();
    return act;
}

/// Adds it, or tells what is in the way.
ActResult attempt(const Network& network, const Catalogue& catalogue, SheetId sheet, const Pattern& p,
                  IdSource& ids, const linking::Habits& habits) {
    const auto made = madeOf(network, catalogue, sheet, p, ids, habits);
    if (!made)
        return made.refusal();
    return placedAs(p, sheet, freeCorner(network, sheet), *made);
}

/// Made on a sheet with nothing else, and its plates as the pattern places them there.
class Alone {
public:
    static Result<Alone> of(const Catalogue& catalogue, const Pattern& pattern,
                            const linking::Habits& habits) {
        if (auto wrong = outOfRange(pattern))
            return *wrong;
        IdSource ids(1);
        const Network scratch = emptyNetwork("", ids);
        const SheetId sheet = scratch.sheetsInOrder().front().id;
        Pattern alone = pattern;
        alone.into = {};
        auto made = madeOf(scratch, catalogue, sheet, alone, ids, habits);
        if (!made)
            return made.refusal();
        return Alone(*std::move(made), sheet);
    }
    std::vector<scene::Rect> plates(const Pattern& p) const {
        std::vector<scene::Rect> out;
        if (const auto act = placedAs(p, sheet_, {}, made_))
            for (const ObjectRef each : act->subjects)
                if (const auto plate = scene::plateOf(act->network, sheet_, *act->network.device({each.id})))
                    out.push_back(plate->frame);
        return out;
    }

private:
    Alone(Made made, SheetId sheet) : made_(std::move(made)), sheet_(sheet) {}

    Made made_;
    SheetId sheet_;
};

/// The figure of a pattern that makes it larger.
int* sizeOf(Pattern& p) {
    switch (p.shape) {
    case PatternShape::tree:
        return &p.fan;
    case PatternShape::fabric:
        return &p.leaves;
    case PatternShape::dualHomed:
        return &p.access;
    case PatternShape::campus:
        return &p.sites;
    default:
        return &p.count;
    }
}

} // namespace

std::string_view textOf(PatternShape shape) {
    return texts[static_cast<std::size_t>(shape)];
}

std::optional<PatternShape> patternShapeFromText(std::string_view text) {
    const auto at = std::find(texts.begin(), texts.end(), text);
    return at == texts.end() ? std::nullopt : std::optional(static_cast<PatternShape>(at - texts.begin()));
}

PartTitles partTitles(PatternShape shape) {
    switch (shape) {
    case PatternShape::row:
    case PatternShape::chain:
    case PatternShape::ring:
    case PatternShape::mesh:
    case PatternShape::tree:
        return {{}, "devices", {}};
    case PatternShape::star:
        return {"centre", {}, "endpoints"};
    case PatternShape::fabric:
        return {"spines", "leaves", "endpoints"};
    case PatternShape::dualHomed:
        return {"pair", "access switches", "endpoints"};
    case PatternShape::campus:
        return {"core and distribution", "access switches", "endpoints"};
    }
    return {};
}

PatternCount countOf(const Pattern& pattern) {
    const Bones bones = bonesOf(pattern);
    return {static_cast<int>(bones.devices.size()), static_cast<int>(bones.links.size())};
}

bool hasMedium(PatternShape shape) {
    return shape != PatternShape::row && shape != PatternShape::star;
}

bool hasEndpointMedium(PatternShape shape) {
    return !partTitles(shape).lower.empty();
}

Pattern fittedInto(const Catalogue& catalogue, Pattern pattern, const scene::Rect& area,
                   const linking::Habits& habits) {
    pattern.centre = scene::rounded(area.centre());
    const auto alone = Alone::of(catalogue, pattern, habits);
    if (!alone)
        return pattern;
    const auto wholeOf = [&](const Pattern& each) {
        scene::Rect whole;
        for (const scene::Rect& plate : alone->plates(each))
            whole = whole.united(plate);
        return whole;
    };
    if (pattern.shape == PatternShape::star || pattern.shape == PatternShape::ring ||
        pattern.shape == PatternShape::mesh) {
        pattern.spacing = 1;
        scene::PointF plate;
        for (const scene::Rect& each : alone->plates(pattern))
            plate = {std::max(plate.x, each.w), std::max(plate.y, each.h)};
        constexpr double least = 60, most = 20'000;
        pattern.radius =
            static_cast<int>(std::clamp(std::min(area.w - plate.x, area.h - plate.y) / 2, least, most));
        return pattern;
    }
    // As spacing grows so does the whole, evenly but for rows that break elsewhere: looked for
    // between its bounds.
    double low = 0.5, high = 3;
    constexpr int looks = 6;
    for (int i = 0; i < looks; ++i) {
        pattern.spacing = (low + high) / 2;
        const scene::Rect whole = wholeOf(pattern);
        (whole.w <= area.w && whole.h <= area.h ? low : high) = pattern.spacing;
    }
    pattern.spacing = low;
    return pattern;
}

ActResult addPattern(const Network& network, const Catalogue& catalogue, SheetId sheet,
                     const Pattern& pattern, IdSource& ids, const linking::Habits& habits) {
    if (auto wrong = outOfRange(pattern))
        return *wrong;
    auto act = attempt(network, catalogue, sheet, pattern, ids, habits);
    if (act)
        return act;
    if (countOf(pattern).devices > quicklyTried)
        return act;
    // Which size would fit: tried, as that is what the rules of linking are for.
    IdSource scratch(1);
    Pattern smaller = pattern;
    int& size = *sizeOf(smaller);
    int fits = 0, fails = size;
    while (fails - fits > 1) {
        size = (fits + fails) / 2;
        (attempt(network, catalogue, sheet, smaller, scratch, habits) ? fits : fails) = size;
    }
    Remark why = act.refusal();
    if (fits > 0)
        why.remedy = fmt::format("{} fit; make it smaller, or choose a model with more ports", fits);
    return why;
}

} // namespace underridge::edit

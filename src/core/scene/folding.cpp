// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/folding.h"

#include <map>
#include <numeric>

namespace underridge::scene {
using namespace model;
namespace {

/// Between siblings that had to be pushed apart.
constexpr double pushGap = 24;

/// One axis of what is pushed apart: how far each moves, given who must come how far
/// after whom. `order`: by where they begin.
struct After {
    std::size_t first, second;
};

std::vector<double> pushesAlong(const std::vector<std::size_t>& order, const std::vector<double>& from,
                                const std::vector<double>& length, const std::vector<After>& pairs) {
    std::vector<std::vector<std::size_t>> firstsOf(from.size());
    for (const After& pair : pairs)
        firstsOf[pair.second].push_back(pair.first);
    std::vector<double> push(from.size());
    double pushed = 0;
    for (const std::size_t i : order) {
        for (const std::size_t first : firstsOf[i])
            pushed = std::max(pushed, from[first] + push[first] + length[first] + pushGap - from[i]);
        push[i] = pushed;
    }
    return push;
}

} // namespace

GroupId shownGroup(const Network& network, const Sheet& sheet, GroupId entered) {
    return network.group(entered) ? entered : network.group(sheet.shows) ? sheet.shows : GroupId{};
}

Cuts Cuts::of(std::vector<Span> spans) {
    Cuts out;
    const auto isRigid = [](const Span& span) { return span.needs >= span.to - span.from; };
    if (std::all_of(spans.begin(), spans.end(), isRigid))
        return out;
    std::map<double, int> rigid; ///< how many more stand from there on
    std::vector<Span> others;
    for (const Span& span : spans)
        if (isRigid(span)) {
            ++rigid[span.from];
            --rigid[span.to];
        } else {
            rigid.try_emplace(span.from);
            rigid.try_emplace(span.to);
            others.push_back(span);
        }
    std::sort(others.begin(), others.end(), [](const Span& a, const Span& b) { return a.from < b.from; });
    struct Open {
        double to, until; ///< shown
    };
    std::vector<Open> open;
    std::size_t next = 0;
    int held = 0;
    double removed = 0;
    for (auto at = rigid.begin(); std::next(at) != rigid.end(); ++at) {
        const double from = at->first, to = std::next(at)->first;
        held += at->second;
        std::erase_if(open, [&](const Open& each) { return each.to <= from; });
        for (; next < others.size() && others[next].from <= from; ++next)
            open.push_back({others[next].to, from - removed + others[next].needs});
        if (held > 0 || open.empty())
            continue;
        double until = from - removed;
        for (const Open& each : open)
            until = std::max(until, each.until);
        const double kept = std::min(to - from, until - (from - removed));
        if (kept >= to - from)
            continue;
        if (!out.cuts_.empty() && out.cuts_.back().to == from + kept)
            out.cuts_.back().to = to;
        else
            out.cuts_.push_back({from + kept, to, removed});
        removed += to - from - kept;
    }
    return out;
}

double Cuts::shown(double place) const {
    const auto after = std::upper_bound(cuts_.begin(), cuts_.end(), place,
                                        [](double at, const Cut& cut) { return at < cut.from; });
    if (after == cuts_.begin())
        return place;
    const Cut& cut = *std::prev(after);
    return std::max(cut.from, place - (cut.to - cut.from)) - cut.before;
}

double Cuts::place(double shown) const {
    const auto after = std::upper_bound(cuts_.begin(), cuts_.end(), shown,
                                        [](double at, const Cut& cut) { return at < cut.from - cut.before; });
    if (after == cuts_.begin())
        return shown;
    const Cut& cut = *std::prev(after);
    return shown + cut.before + (cut.to - cut.from);
}

std::vector<PointF> pushedApart(const std::vector<Sibling>& siblings) {
    const std::size_t count = siblings.size();
    std::vector<std::size_t> byX(count), byY(count);
    std::iota(byX.begin(), byX.end(), 0U);
    byY = byX;
    const auto ranks = [&](std::vector<std::size_t>& order, auto key) {
        std::sort(order.begin(), order.end(),
                  [&](std::size_t a, std::size_t b) { return key(siblings[a]) < key(siblings[b]); });
        std::vector<std::size_t> rank(count);
        for (std::size_t i = 0; i < count; ++i)
            rank[order[i]] = i;
        return rank;
    };
    const auto rankX = ranks(byX, [](const Sibling& s) { return std::tuple(s.frame.x, s.frame.y, s.id); });
    const auto rankY = ranks(byY, [](const Sibling& s) { return std::tuple(s.frame.y, s.frame.x, s.id); });
    std::vector<After> rightOf, below;
    const auto meet = [&](std::size_t a, std::size_t b) {
        const Rect &one = siblings[a].frame, &other = siblings[b].frame;
        if (!one.intersects(other))
            return;
        const auto [left, right] = rankX[a] < rankX[b] ? std::pair(a, b) : std::pair(b, a);
        const auto [upper, lower] = rankY[a] < rankY[b] ? std::pair(a, b) : std::pair(b, a);
        if (siblings[left].frame.right() - siblings[right].frame.x <=
            siblings[upper].frame.bottom() - siblings[lower].frame.y)
            rightOf.push_back({left, right});
        else
            below.push_back({upper, lower});
    };
    std::vector<std::size_t> groups, others; ///< that may still reach what comes
    for (const std::size_t i : byX) {
        const auto isPast = [&](std::size_t j) { return siblings[j].frame.right() <= siblings[i].frame.x; };
        std::erase_if(groups, isPast);
        for (const std::size_t j : groups)
            meet(j, i);
        if (siblings[i].group) {
            std::erase_if(others, isPast);
            for (const std::size_t j : others)
                meet(j, i);
        }
        (siblings[i].group ? groups : others).push_back(i);
    }
    std::vector<PointF> out(count);
    if (rightOf.empty() && below.empty())
        return out;
    std::vector<double> x, y, w, h;
    for (const Sibling& each : siblings) {
        x.push_back(each.frame.x);
        y.push_back(each.frame.y);
        w.push_back(each.frame.w);
        h.push_back(each.frame.h);
    }
    const auto right = pushesAlong(byX, x, w, rightOf), down = pushesAlong(byY, y, h, below);
    for (std::size_t i = 0; i < count; ++i)
        out[i] = {right[i], down[i]};
    return out;
}

const ShownDevice* Folding::find(DeviceId id) const {
    const auto at = std::lower_bound(devices_.begin(), devices_.end(), id,
                                     [](const ShownDevice& device, DeviceId v) { return device.id < v; });
    return at != devices_.end() && at->id == id ? &*at : nullptr;
}

std::optional<Rect> Folding::plateOf(DeviceId device) const {
    const ShownDevice* held = find(device);
    return held && held->by == refTo(device) ? std::optional(held->plate) : std::nullopt;
}

ObjectRef Folding::standsFor(DeviceId device) const {
    const ShownDevice* held = find(device);
    return held ? held->by : ObjectRef{};
}

namespace {

/// Of a list sorted by group; null: it is not in it.
template <class Held>
const Held* heldOf(const std::vector<std::pair<std::uint64_t, Held>>& list, GroupId id) {
    const auto at = std::lower_bound(list.begin(), list.end(), id.value,
                                     [](const auto& each, std::uint64_t v) { return each.first < v; });
    return at != list.end() && at->first == id.value ? &at->second : nullptr;
}

} // namespace

const ShownGroup* Folding::group(GroupId id) const {
    const std::size_t* at = heldOf(at_, id);
    return at ? &groups_[*at] : nullptr;
}

const Folding::Level* Folding::level(GroupId id) const {
    return heldOf(levels_, id);
}

bool Folding::cutsNothing() const {
    return std::all_of(levels_.begin(), levels_.end(), [](const auto& each) {
        return each.second.node->x.none() && each.second.node->y.none();
    });
}

std::optional<PointF> Folding::placeFor(GroupId in, PointF shown) const {
    const Level* held = level(in);
    if (!held || !held->seen)
        return std::nullopt;
    const Node& node = *held->node;
    return PointF{node.x.place(shown.x - held->shown.x + node.x.shown(node.standing.x)),
                  node.y.place(shown.y - held->shown.y + node.y.shown(node.standing.y))};
}

std::optional<PointF> Folding::shownFrom(GroupId in, PointF place) const {
    const Level* held = level(in);
    if (!held || !held->seen)
        return std::nullopt;
    const Node& node = *held->node;
    return PointF{held->shown.x + node.x.shown(place.x) - node.x.shown(node.standing.x),
                  held->shown.y + node.y.shown(place.y) - node.y.shown(node.standing.y)};
}

Rect Folding::shownOnSheet(const Rect& standing, bool area) const {
    const auto corner = shownFrom({}, {standing.x, standing.y});
    const auto opposite = shownFrom({}, {standing.right(), standing.bottom()});
    if (!corner)
        return standing;
    return area ? Rect{corner->x, corner->y, opposite->x - corner->x, opposite->y - corner->y}
                : Rect{corner->x, corner->y, standing.w, standing.h};
}

std::optional<Rect> Folding::standing(GroupId id) const {
    const Level* held = level(id);
    return held ? std::optional(held->node->standing) : std::nullopt;
}

std::optional<Rect> Folding::standingPlate(DeviceId id) const {
    const ShownDevice* held = find(id);
    const Level* in = held ? level(held->in) : nullptr;
    if (!in)
        return std::nullopt;
    const auto& devices = in->node->devices;
    const auto at = std::lower_bound(devices.begin(), devices.end(), id,
                                     [](const Standing& each, DeviceId v) { return each.device < v; });
    return at != devices.end() && at->device == id ? std::optional(at->plate) : std::nullopt;
}

} // namespace underridge::scene

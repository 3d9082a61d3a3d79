// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/folding.h"

#include "core/base/parallel.h"

#include <map>
#include <numeric>

namespace underridge::scene {
using namespace model;
namespace {

/// Between siblings that had to be pushed apart, and what stays of the distance between
/// two when the room between them is cut out.
constexpr double pushGap = 24, keptGap = 16;

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

/// Works through the groups of a sheet: from the innermost outwards what room they need,
/// then inwards where they are shown.
class FoldingMaker {
public:
    FoldingMaker(const Network& network, SheetId sheet, GroupId entered) : network_(network), sheet_(sheet) {
        nodes_.emplace_back().id = entered;
        nodes_.front().drawn = entered ? network.position(sheet, entered.value) : nullptr;
        at_[entered.value] = 0;
    }

    Folding make(const std::vector<Standing>& devices) {
        first_ = devices.data();
        out_.devices_.resize(devices.size());
        // Devices of a group were mostly made one after another.
        GroupId last;
        std::optional<std::size_t> in = nodeOf(last);
        for (std::size_t i = 0; i < devices.size(); ++i) {
            out_.devices_[i].id = devices[i].device;
            if (devices[i].in != last)
                in = nodeOf(last = devices[i].in);
            if (in)
                nodes_[*in].devices.push_back(&devices[i]);
        }
        addEmptyGroups();
        std::vector<std::size_t> inwards(nodes_.size());
        std::iota(inwards.begin(), inwards.end(), 0U);
        std::sort(inwards.begin(), inwards.end(), [&](std::size_t a, std::size_t b) {
            return std::pair(nodes_[a].depth, nodes_[a].id) < std::pair(nodes_[b].depth, nodes_[b].id);
        });
        for (const std::size_t i : inwards)
            if (i != 0)
                nodes_[nodes_[i].parent].groups.push_back(i);
        measureAll(inwards);
        out_.groups_.reserve(nodes_.size());
        out_.levels_.reserve(nodes_.size());
        out_.at_.reserve(nodes_.size());
        for (const std::size_t i : inwards)
            show(i);
        return std::move(out_);
    }

private:
    struct Node {
        GroupId id;
        std::size_t parent = 0;
        int depth = -1; ///< of the whole sheet
        bool folded = false;
        std::vector<const Standing*> devices;
        std::vector<std::size_t> groups;
        std::vector<PointF> pushes; ///< of devices, then of groups; empty: nobody is pushed
        const Position* drawn = nullptr;
        Rect standing; ///< as its members stand
        Rect pushed;   ///< the same where its siblings leave it room
        PointF size;   ///< shown
        Cuts x, y;
        PointF shown;
        std::size_t foldedInto = 0; ///< a node; 0: none
    };

    /// The node of a group and of those around it; nothing outside the entered group.
    std::optional<std::size_t> nodeOf(GroupId id) {
        if (const auto held = at_.find(id.value); held != at_.end())
            return held->second;
        std::vector<GroupId> missing;
        std::size_t known = 0;
        for (GroupId at = id;; at = network_.group(at)->parent) {
            if (const auto held = at_.find(at.value); held != at_.end()) {
                known = held->second;
                break;
            }
            if (!at || !network_.group(at) || missing.size() > network_.all<Group>().size())
                return std::nullopt;
            missing.push_back(at);
        }
        for (auto at = missing.rbegin(); at != missing.rend(); ++at) {
            const Position* position = network_.position(sheet_, at->value);
            Node node;
            node.id = *at;
            node.parent = known;
            node.depth = nodes_[known].depth + 1;
            node.folded = position && position->folded;
            node.drawn = position;
            known = nodes_.size();
            at_[at->value] = known;
            nodes_.push_back(std::move(node));
        }
        return known;
    }

    /// Groups drawn on the sheet with nothing in them yet.
    void addEmptyGroups() {
        network_.all<Position>().forEachIn(sheet_.value, [&](const Position& position) {
            if (position.of == Kind::group && position.width > 0 && network_.group({position.object}))
                nodeOf({position.object});
        });
    }

    /// From the innermost outwards; groups equally deep know nothing of each other.
    void measureAll(const std::vector<std::size_t>& inwards) {
        constexpr std::size_t fewest = 64; // groups that are worth a thread
        for (std::size_t end = inwards.size(); end > 0;) {
            std::size_t begin = end;
            while (begin > 0 && nodes_[inwards[begin - 1]].depth == nodes_[inwards[end - 1]].depth)
                --begin;
            forEachIndex(end - begin, fewest, [&](std::size_t i) { measure(nodes_[inwards[begin + i]]); });
            end = begin;
        }
    }

    void measure(Node& node) {
        if (node.groups.empty()) { // nobody is pushed, nothing is cut out
            Rect content;
            for (const Standing* device : node.devices)
                content = content.united(device->plate);
            node.standing = frameAround(node, content);
            node.size =
                node.folded ? PointF{tileWidth, tileHeight} : PointF{node.standing.w, node.standing.h};
            return;
        }
        std::vector<Sibling> members;
        members.reserve(node.devices.size() + node.groups.size());
        for (const Standing* device : node.devices)
            members.push_back({device->plate, false, device->device.value});
        for (const std::size_t i : node.groups) { // only as large as it is shown it is in the way
            const Node& group = nodes_[i];
            members.push_back(
                {{group.standing.x, group.standing.y, group.size.x, group.size.y}, true, group.id.value});
        }
        node.pushes = pushedApart(members);
        Rect content;
        for (std::size_t i = 0; i < members.size(); ++i) {
            if (members[i].group) {
                Node& group = nodes_[node.groups[i - node.devices.size()]];
                members[i].frame = group.pushed = group.standing.moved(node.pushes[i]);
            } else {
                members[i].frame = members[i].frame.moved(node.pushes[i]);
            }
            content = content.united(members[i].frame);
        }
        node.standing = frameAround(node, content);
        cut(node, members);
        node.size = node.folded
                        ? PointF{tileWidth, tileHeight}
                        : PointF{node.x.shown(node.standing.right()) - node.x.shown(node.standing.x),
                                 node.y.shown(node.standing.bottom()) - node.y.shown(node.standing.y)};
    }

    Rect frameAround(const Node& node, const Rect& content) const {
        Rect frame;
        if (!content.empty())
            frame = {content.x - framePadding, content.y - framePadding - frameTitle,
                     content.w + 2 * framePadding, content.h + 2 * framePadding + frameTitle};
        if (const Position* drawn = node.drawn; drawn && drawn->width > 0)
            frame = frame.united({static_cast<double>(drawn->at.x), static_cast<double>(drawn->at.y),
                                  static_cast<double>(drawn->width), static_cast<double>(drawn->height)});
        frame.w = std::max(frame.w, tileWidth);
        frame.h = std::max(frame.h, tileHeight);
        return frame;
    }

    void cut(Node& node, const std::vector<Sibling>& members) const {
        const bool resized = std::any_of(node.groups.begin(), node.groups.end(), [&](std::size_t i) {
            const Node& group = nodes_[i];
            return group.size.x < group.standing.w || group.size.y < group.standing.h;
        });
        if (!resized)
            return;
        std::vector<Cuts::Span> across, down;
        const auto add = [](std::vector<Cuts::Span>& spans, double from, double length, double needs) {
            const double to = from + length, beside = keptGap / 2;
            spans.insert(spans.end(),
                         {{from, to, needs}, {from - beside, from, beside}, {to, to + beside, beside}});
        };
        for (std::size_t i = 0; i < members.size(); ++i) {
            const Rect& frame = members[i].frame;
            PointF size{frame.w, frame.h};
            if (members[i].group)
                size = nodes_[node.groups[i - node.devices.size()]].size;
            add(across, frame.x, frame.w, size.x);
            add(down, frame.y, frame.h, size.y);
        }
        if (node.depth >= 0 || node.id) { // the border stays as wide as it is
            const Rect& all = node.standing;
            for (auto* spans : {&across, &down}) {
                const double from = spans == &across ? all.x : all.y,
                             to = spans == &across ? all.right() : all.bottom();
                const double first = framePadding + (spans == &down ? frameTitle : 0);
                spans->push_back({from, from + first, first});
                spans->push_back({to - framePadding, to, framePadding});
            }
        }
        node.x = Cuts::of(std::move(across));
        node.y = Cuts::of(std::move(down));
    }

    static PointF shownFrom(const Node& node, PointF place) {
        return {node.shown.x + node.x.shown(place.x) - node.x.shown(node.standing.x),
                node.shown.y + node.y.shown(place.y) - node.y.shown(node.standing.y)};
    }

    void show(std::size_t index) {
        Node& node = nodes_[index];
        if (index == 0) {
            node.folded = false;
            // The sheet itself has no frame: what is not cut stays where it is.
            node.shown = {node.x.shown(node.standing.x), node.y.shown(node.standing.y)};
        } else {
            const Node& parent = nodes_[node.parent];
            node.foldedInto = parent.foldedInto ? parent.foldedInto : parent.folded ? node.parent : 0;
            if (!node.foldedInto)
                node.shown = shownFrom(parent, {node.pushed.x, node.pushed.y});
        }
        if ((index != 0 || node.id) && !node.foldedInto) {
            out_.at_[node.id.value] = out_.groups_.size();
            out_.groups_.push_back({node.id,
                                    {node.shown.x, node.shown.y, node.size.x, node.size.y},
                                    index == 0 ? 0 : node.depth + (nodes_[0].id ? 1 : 0),
                                    index == 0 ? GroupId{} : nodes_[node.parent].id,
                                    node.folded,
                                    {}});
        }
        const std::size_t into = node.foldedInto ? node.foldedInto : node.folded ? index : 0;
        for (std::size_t i = 0; i < node.devices.size(); ++i) {
            const Standing& device = *node.devices[i];
            ShownDevice& shown = out_.devices_[static_cast<std::size_t>(&device - first_)];
            if (into) {
                shown.by = refTo(nodes_[into].id);
                out_.groups_[out_.at_[nodes_[into].id.value]].devices.push_back(device.device);
                continue;
            }
            const PointF push = node.pushes.empty() ? PointF{} : node.pushes[i];
            const PointF corner = shownFrom(node, PointF{device.plate.x, device.plate.y} + push);
            shown.plate = {corner.x, corner.y, device.plate.w, device.plate.h};
            shown.by = refTo(device.device);
        }
        out_.levels_[index == 0 && !node.id ? 0 : node.id.value] = {node.standing, node.x, node.y, node.shown,
                                                                    into == 0};
    }

    const Network& network_;
    SheetId sheet_;
    std::vector<Node> nodes_; ///< the first: the sheet, or the entered group
    std::unordered_map<std::uint64_t, std::size_t> at_;
    const Standing* first_ = nullptr; ///< of all devices
    Folding out_;
};

Folding Folding::of(const Network& network, SheetId sheet, GroupId entered,
                    const std::vector<Standing>& devices) {
    Folding made = FoldingMaker(network, sheet, entered).make(devices);
    for (ShownGroup& group : made.groups_)
        std::sort(group.devices.begin(), group.devices.end());
    return made;
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

const ShownGroup* Folding::group(GroupId id) const {
    const auto at = at_.find(id.value);
    return at == at_.end() ? nullptr : &groups_[at->second];
}

std::optional<PointF> Folding::placeFor(GroupId in, PointF shown) const {
    const auto at = levels_.find(in.value);
    if (at == levels_.end() || !at->second.seen)
        return std::nullopt;
    const Level& level = at->second;
    return PointF{level.x.place(shown.x - level.shown.x + level.x.shown(level.standing.x)),
                  level.y.place(shown.y - level.shown.y + level.y.shown(level.standing.y))};
}

std::optional<PointF> Folding::shownFrom(GroupId in, PointF place) const {
    const auto at = levels_.find(in.value);
    if (at == levels_.end() || !at->second.seen)
        return std::nullopt;
    const Level& level = at->second;
    return PointF{level.shown.x + level.x.shown(place.x) - level.x.shown(level.standing.x),
                  level.shown.y + level.y.shown(place.y) - level.y.shown(level.standing.y)};
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
    const auto at = levels_.find(id.value);
    return at == levels_.end() ? std::nullopt : std::optional(at->second.standing);
}

} // namespace underridge::scene

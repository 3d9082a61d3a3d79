// SPDX-License-Identifier: GPL-3.0-or-later
// Works a folding out: from the innermost groups outwards what room they need, then inwards
// where they are shown. After an edit only the groups around what changed are worked out
// anew; the others are shared with the folding before.
#include "core/base/parallel.h"
#include "core/model/group_tree.h"
#include "core/scene/folding.h"

namespace underridge::scene {
using namespace model;
namespace {

/// What stays of the distance between two when the room between them is cut out.
constexpr double keptGap = 16;

/// Puts something where it belongs in a sorted list, once.
template <class Value>
void insertSorted(std::vector<Value>& list, const Value& value) {
    const auto at = std::lower_bound(list.begin(), list.end(), value);
    if (at == list.end() || *at != value)
        list.insert(at, value);
}

} // namespace

class FoldingMaker {
public:
    FoldingMaker(const Network& network, SheetId sheet, GroupId root)
        : network_(network), sheet_(sheet), root_(root) {
        depths_[root.value] = -1;
    }

    Folding make(const std::vector<Standing>& devices) {
        out_.devices_.reserve(devices.size());
        // Devices of a group were mostly made one after another.
        GroupId last;
        Node* in = edit(root_);
        bool first = true;
        for (const Standing& each : devices) {
            if (first || each.in != last)
                in = edit(last = each.in);
            first = false;
            out_.devices_.push_back({each.device, each.in, {}, {}});
            if (in)
                in->devices.push_back(each);
        }
        edit(root_);
        addEmptyGroups();
        settle();
        show();
        return std::move(out_);
    }

    Folding update(const Folding& was, const std::vector<Folding::Change>& devices,
                   const std::set<GroupId>& groups) {
        was_ = &was;
        edit(root_);
        takeDevices(devices);
        for (const GroupId id : groups) {
            if (const Folding::Level* held = was.level(id); held && id != root_)
                leave(*held->node);
            edit(id);
        }
        settle();
        show();
        return std::move(out_);
    }

private:
    using Node = Folding::Node;
    using NodePtr = Folding::NodePtr;

    /// How many groups lie around it within the root; nothing when it does not lie in that.
    std::optional<int> depthOf(GroupId id) {
        std::vector<GroupId> passed;
        int depth = 0;
        for (GroupId at = id;;) {
            if (const auto held = depths_.find(at.value); held != depths_.end()) {
                depth = held->second;
                break;
            }
            const Group* group = network_.group(at);
            if (!group || passed.size() > network_.all<Group>().size())
                return std::nullopt;
            passed.push_back(at);
            at = group->parent;
        }
        for (auto at = passed.rbegin(); at != passed.rend(); ++at)
            depths_[at->value] = ++depth;
        return depth;
    }

    /// The node of a group, to be worked out anew, as are those around it; null for what
    /// does not lie in the root.
    Node* edit(GroupId id) {
        if (const auto held = fresh_.find(id.value); held != fresh_.end())
            return &held->second;
        if (!depthOf(id))
            return nullptr;
        Node* wanted = nullptr;
        for (GroupId at = id;;) {
            Node& node = fresh_[at.value];
            if (const Folding::Level* held = was_ ? was_->level(at) : nullptr)
                node = *held->node;
            node.id = at;
            const Group* group = at == root_ ? nullptr : network_.group(at);
            node.parent = group ? group->parent : GroupId{};
            const Position* position = at ? network_.position(sheet_, at.value) : nullptr;
            node.folded = position && position->folded && at != root_;
            node.drawn.reset();
            if (position && position->width > 0)
                node.drawn =
                    Rect{static_cast<double>(position->at.x), static_cast<double>(position->at.y),
                         static_cast<double>(position->width), static_cast<double>(position->height)};
            wanted = wanted ? wanted : &node;
            if (at == root_ || fresh_.contains(node.parent.value))
                return wanted;
            at = node.parent;
        }
    }

    /// Groups drawn on the sheet with nothing in them yet.
    void addEmptyGroups() {
        if (root_) {
            for (const GroupId id : groupsWithin(network_, root_))
                if (const Position* position = network_.position(sheet_, id.value);
                    position && position->width > 0)
                    edit(id);
            return;
        }
        network_.all<Position>().forEachIn(sheet_.value, [&](const Position& position) {
            if (position.of == Kind::group && position.width > 0 && network_.group({position.object}))
                edit({position.object});
        });
    }

    /// Devices that changed come out of the groups they were in and into those they are in.
    void takeDevices(const std::vector<Folding::Change>& changes) {
        const auto before = [](const auto& each, DeviceId v) { return each.device < v; };
        const auto& old = was_->devices_;
        out_.devices_.reserve(old.size() + changes.size());
        auto at = old.begin();
        for (const Folding::Change& change : changes) {
            for (; at != old.end() && at->id < change.device; ++at)
                out_.devices_.push_back(*at);
            if (at != old.end() && at->id == change.device) {
                if (Node* node = edit(at->in)) {
                    const auto held =
                        std::lower_bound(node->devices.begin(), node->devices.end(), change.device, before);
                    if (held != node->devices.end() && held->device == change.device)
                        node->devices.erase(held);
                }
                ++at;
            }
            if (!change.now)
                continue;
            out_.devices_.push_back({change.device, change.now->in, {}, {}});
            if (Node* node = edit(change.now->in))
                node->devices.insert(
                    std::lower_bound(node->devices.begin(), node->devices.end(), change.device, before),
                    *change.now);
        }
        out_.devices_.insert(out_.devices_.end(), at, old.end());
    }

    /// A group that may go elsewhere: it leaves the one it was in, and until it is reached
    /// again nothing in it is shown.
    void leave(const Node& node) {
        if (Node* around = edit(node.parent))
            std::erase(around->groups, node.id);
        std::vector<const Node*> open{&node};
        while (!open.empty()) {
            const Node& each = *open.back();
            open.pop_back();
            moved_.insert(each.id.value);
            for (const Standing& device : each.devices)
                if (ShownDevice* shown = deviceAt(device.device); shown && shown->in == each.id) {
                    shown->plate = {};
                    shown->by = {};
                }
            for (const GroupId inner : each.groups)
                if (const Folding::Level* held = was_->level(inner))
                    open.push_back(held->node.get());
        }
    }

    ShownDevice* deviceAt(DeviceId id) {
        const auto at = std::lower_bound(out_.devices_.begin(), out_.devices_.end(), id,
                                         [](const ShownDevice& each, DeviceId v) { return each.id < v; });
        return at != out_.devices_.end() && at->id == id ? &*at : nullptr;
    }

    /// From the innermost outwards; groups equally deep know nothing of each other.
    void settle() {
        constexpr std::size_t fewest = 64; // groups that are worth a thread
        std::vector<std::pair<int, std::uint64_t>> order;
        order.reserve(fresh_.size());
        for (const auto& [id, node] : fresh_)
            order.emplace_back(-depths_.at(id), id);
        std::sort(order.begin(), order.end());
        for (auto from = order.begin(); from != order.end();) {
            const auto to =
                std::find_if(from, order.end(), [&](const auto& each) { return each.first != from->first; });
            for (auto at = from; at != to; ++at)
                attach(fresh_.at(at->second));
            forEachIndex(static_cast<std::size_t>(to - from), fewest, [&](std::size_t i) {
                measure(fresh_.at((from + static_cast<std::ptrdiff_t>(i))->second));
            });
            from = to;
        }
    }

    /// A group is on the sheet where something in it is, or it was drawn.
    void attach(const Node& node) {
        if (node.id == root_)
            return;
        Node& around = fresh_.at(node.parent.value);
        if (!node.devices.empty() || !node.groups.empty() || node.drawn)
            insertSorted(around.groups, node.id);
        else
            std::erase(around.groups, node.id);
    }

    const Node& nodeAt(GroupId id) const {
        const auto held = fresh_.find(id.value);
        return held != fresh_.end() ? held->second : *was_->level(id)->node;
    }

    void measure(Node& node) const {
        node.pushes.clear();
        node.x = node.y = {};
        Rect content;
        if (node.groups.empty()) { // nobody is pushed, nothing is cut out
            for (const Standing& device : node.devices)
                content = content.united(device.plate);
            node.standing = frameAround(node, content);
            node.size =
                node.folded ? PointF{tileWidth, tileHeight} : PointF{node.standing.w, node.standing.h};
            return;
        }
        std::vector<Sibling> members;
        members.reserve(node.devices.size() + node.groups.size());
        for (const Standing& device : node.devices)
            members.push_back({device.plate, false, device.device.value});
        for (const GroupId id : node.groups) { // only as large as it is shown it is in the way
            const Node& group = nodeAt(id);
            members.push_back(
                {{group.standing.x, group.standing.y, group.size.x, group.size.y}, true, id.value});
        }
        node.pushes = pushedApart(members);
        for (std::size_t i = 0; i < members.size(); ++i) {
            members[i].frame = (members[i].group ? nodeAt({members[i].id}).standing : members[i].frame)
                                   .moved(node.pushes[i]);
            content = content.united(members[i].frame);
        }
        node.standing = frameAround(node, content);
        cut(node, members);
        node.size = node.folded
                        ? PointF{tileWidth, tileHeight}
                        : PointF{node.x.shown(node.standing.right()) - node.x.shown(node.standing.x),
                                 node.y.shown(node.standing.bottom()) - node.y.shown(node.standing.y)};
    }

    static Rect frameAround(const Node& node, const Rect& content) {
        Rect frame;
        if (!content.empty())
            frame = {content.x - framePadding, content.y - framePadding - frameTitle,
                     content.w + 2 * framePadding, content.h + 2 * framePadding + frameTitle};
        if (node.drawn)
            frame = frame.united(*node.drawn);
        frame.w = std::max(frame.w, tileWidth);
        frame.h = std::max(frame.h, tileHeight);
        return frame;
    }

    void cut(Node& node, const std::vector<Sibling>& members) const {
        const bool resized = std::any_of(node.groups.begin(), node.groups.end(), [&](GroupId id) {
            const Node& group = nodeAt(id);
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
        for (const Sibling& member : members) {
            const Rect& frame = member.frame;
            const PointF size = member.group ? nodeAt({member.id}).size : PointF{frame.w, frame.h};
            add(across, frame.x, frame.w, size.x);
            add(down, frame.y, frame.h, size.y);
        }
        if (node.id) { // the border stays as wide as it is
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

    NodePtr shared(GroupId id) {
        const auto held = fresh_.find(id.value);
        return held == fresh_.end() ? was_->level(id)->node
                                    : std::make_shared<const Node>(std::move(held->second));
    }

    static PointF shownFrom(const Folding::Level& level, PointF place) {
        const Node& node = *level.node;
        return {level.shown.x + node.x.shown(place.x) - node.x.shown(node.standing.x),
                level.shown.y + node.y.shown(place.y) - node.y.shown(node.standing.y)};
    }

    /// From the root inwards.
    void show() {
        struct Open {
            Folding::Level level;
            int depth;
        };
        const std::size_t about = was_ ? was_->levels_.size() + fresh_.size() : fresh_.size();
        out_.sheet_ = sheet_;
        out_.entered_ = root_;
        out_.levels_.reserve(about);
        std::vector<Open> open;
        Folding::Level root{shared(root_), {}, {}, true};
        // The sheet itself has no frame: what is not cut stays where it is.
        root.shown = {root.node->x.shown(root.node->standing.x), root.node->y.shown(root.node->standing.y)};
        open.push_back({std::move(root), -1});
        while (!open.empty()) {
            const Open each = std::move(open.back());
            open.pop_back();
            const Node& node = *each.level.node;
            const GroupId into = each.level.foldedInto ? each.level.foldedInto
                                 : node.folded         ? node.id
                                                       : GroupId{};
            if (node.id && !each.level.foldedInto)
                out_.groups_.push_back({node.id,
                                        {each.level.shown.x, each.level.shown.y, node.size.x, node.size.y},
                                        node.id == root_ ? 0 : each.depth + (root_ ? 1 : 0),
                                        node.id == root_ ? GroupId{} : node.parent,
                                        node.folded,
                                        nullptr});
            for (std::size_t i = 0; i < node.groups.size(); ++i) {
                Folding::Level inner{shared(node.groups[i]), {}, into, false};
                const PointF push = node.pushes[node.devices.size() + i];
                const Rect& standing = inner.node->standing;
                if (!into)
                    inner.shown = shownFrom(each.level, PointF{standing.x, standing.y} + push);
                inner.seen = !into && !inner.node->folded;
                open.push_back({std::move(inner), each.depth + 1});
            }
            showDevices(each.level, into);
            out_.levels_.emplace_back(node.id.value, each.level);
        }
        std::sort(out_.levels_.begin(), out_.levels_.end(),
                  [](const auto& a, const auto& b) { return a.first < b.first; });
        finishGroups();
    }

    void showDevices(const Folding::Level& level, GroupId into) {
        const Node& node = *level.node;
        if (const Folding::Level* old = was_ ? was_->level(node.id) : nullptr;
            old && old->node == level.node && old->shown == level.shown &&
            old->foldedInto == level.foldedInto && !moved_.contains(node.id.value))
            return; // as they were
        for (std::size_t i = 0; i < node.devices.size(); ++i) {
            const Standing& device = node.devices[i];
            ShownDevice* shown = deviceAt(device.device);
            if (into) {
                shown->plate = {};
                shown->by = refTo(into);
                continue;
            }
            const PointF push = node.pushes.empty() ? PointF{} : node.pushes[i];
            const PointF corner = shownFrom(level, PointF{device.plate.x, device.plate.y} + push);
            shown->plate = {corner.x, corner.y, device.plate.w, device.plate.h};
            shown->by = refTo(device.device);
        }
    }

    /// Outer ones first, and of folded ones who is in them.
    void finishGroups() {
        std::sort(out_.groups_.begin(), out_.groups_.end(), [](const ShownGroup& a, const ShownGroup& b) {
            return std::pair(a.depth, a.id) < std::pair(b.depth, b.id);
        });
        out_.at_.reserve(out_.groups_.size());
        for (std::size_t i = 0; i < out_.groups_.size(); ++i) {
            ShownGroup& group = out_.groups_[i];
            out_.at_.emplace_back(group.id.value, i);
            if (group.folded)
                group.within = withinFolded(group.id);
        }
        std::sort(out_.at_.begin(), out_.at_.end());
    }

    std::shared_ptr<const std::vector<DeviceId>> withinFolded(GroupId id) const {
        const NodePtr& top = out_.level(id)->node;
        if (const ShownGroup* old = was_ ? was_->group(id) : nullptr;
            old && old->within && was_->level(id)->node == top)
            return old->within;
        auto out = std::make_shared<std::vector<DeviceId>>();
        std::vector<const Node*> open{top.get()};
        while (!open.empty()) {
            const Node& node = *open.back();
            open.pop_back();
            for (const Standing& device : node.devices)
                out->push_back(device.device);
            for (const GroupId inner : node.groups)
                open.push_back(out_.level(inner)->node.get());
        }
        std::sort(out->begin(), out->end());
        return out;
    }

    const Network& network_;
    SheetId sheet_;
    GroupId root_;
    const Folding* was_ = nullptr;
    std::unordered_map<std::uint64_t, Node> fresh_; ///< worked out anew
    std::unordered_map<std::uint64_t, int> depths_; ///< of the root -1
    std::set<std::uint64_t> moved_;                 ///< groups that were taken from where they were
    Folding out_;
};

Folding Folding::of(const Network& network, SheetId sheet, GroupId entered,
                    const std::vector<Standing>& devices) {
    return FoldingMaker(network, sheet, entered).make(devices);
}

Folding Folding::updated(const Network& network, const std::vector<Change>& devices,
                         const std::set<GroupId>& groups) const {
    return FoldingMaker(network, sheet_, entered_).update(*this, devices, groups);
}

} // namespace underridge::scene

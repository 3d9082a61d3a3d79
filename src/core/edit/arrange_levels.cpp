// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/arrange_levels.h"

#include "core/edit/levels.h"
#include "core/layout/boxes.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/model/uplinks.h"
#include "core/scene/lines.h"
#include "core/scene/plates.h"

namespace underridge::edit {
using namespace model;
using layout::Index;
using scene::PointF;
using scene::Rect;
namespace {

using levels::Bundle;
using levels::Item;
using levels::Leaving;
using levels::Level;
using levels::LevelTree;

/// Groups with ways out of them are arranged as if everything flowed down, and turned when it is done. As
/// they are arranged, frames have their titles wherever the sheet's upper side is then.
class Turning {
public:
    explicit Turning(layout::Flow flow) : flow_(flow) {}

    layout::Flow flow() const { return flow_; }
    bool isSideways() const { return flow_ == layout::Flow::right || flow_ == layout::Flow::left; }
    /// Of a plate or a tile, there and back.
    PointF size(PointF size) const { return isSideways() ? PointF{size.y, size.x} : size; }
    PointF onSheet(PointF p) const {
        switch (flow_) {
        case layout::Flow::up:
            return {p.x, -p.y};
        case layout::Flow::right:
            return {p.y, p.x};
        case layout::Flow::left:
            return {-p.y, p.x};
        case layout::Flow::down:
            break;
        }
        return p;
    }
    Rect onSheet(const Rect& rect) const {
        const PointF a = onSheet(PointF{rect.x, rect.y}), b = onSheet(PointF{rect.right(), rect.bottom()});
        return {std::min(a.x, b.x), std::min(a.y, b.y), std::abs(b.x - a.x), std::abs(b.y - a.y)};
    }
    /// Between the frame of a group and what is in it.
    double above() const { return padding(flow_ == layout::Flow::down); }
    double below() const { return padding(flow_ == layout::Flow::up); }
    double before() const { return padding(isSideways()); }
    double behind() const { return padding(false); }

private:
    static double padding(bool titled) { return scene::framePadding + (titled ? scene::frameTitle : 0); }
    layout::Flow flow_;
};

class Levels {
public:
    Levels(const Network& network, const Look& look, const ArrangeWish& wish, const scene::Folding& folding,
           const std::atomic<bool>* wanted)
        : network_(network),
          sheet_(*network.sheet(look.sheet)),
          look_(look),
          wish_(wish),
          folding_(folding),
          wanted_(wanted) {}

    Result<SheetDrawing> drawn() {
        tree_ = levels::gathered(network_, look_, wish_, folding_);
        out_.plates = std::move(tree_.plates);
        if (out_.plates.empty())
            return error("there is nothing to arrange", "add devices to the sheet first");
        for (auto& [id, level] : tree_.levels)
            deepest_ = std::max(deepest_, level.depth);
        if (wish_.style == layout::Style::suggest && deepest_ > 0)
            turning_ = Turning(wish_.flow);
        arrangeLevels();
        if (wish_.style == layout::Style::suggest && deepest_ > 0) {
            // Once more, with ways out of the groups where the levels around have their links.
            for (std::size_t depth = 0; depth <= deepest_; ++depth)
                for (auto& [id, level] : tree_.levels)
                    if (level.depth == depth && !level.asIs)
                        tellLeaving(level);
            out_.shapes.clear();
            arrangeLevels();
        }
        Level& root = tree_.levels.at(0);
        const bool asItStands = layout::beginsAsItStands(wish_.style);
        place(root, asItStands ? PointF{} : PointF{} - PointF{root.bounds.x, root.bounds.y});
        out_.bounds = turning_.onSheet(root.bounds.moved(root.by));
        for (const auto& [id, level] : tree_.levels)
            if (id != 0 && !level.asIs)
                out_.frames.push_back({level.group, drawnFrame(level)});
        if (!asItStands)
            out_.move({-out_.bounds.x, -out_.bounds.y});
        return std::move(out_);
    }

private:
    double tickAt(const Link& link, DeviceId device) const {
        const PortRef& port = link.a.device == device ? link.a : link.b;
        const scene::Plate& plate = out_.plates.at(device.value);
        const int index = scene::railIndexOf(network_, port);
        if (index < 0 || index >= static_cast<int>(plate.ticks.size()))
            return -1;
        if (turning_.isSideways())
            return -1; // on neither of the sides where lines leave
        const Rect tick = plate.rail.tick(index);
        return tick.x + tick.w / 2 - plate.frame.x;
    }

    void arrangeLevels() {
        for (std::size_t depth = deepest_ + 1; depth-- > 0;)
            for (auto& [id, level] : tree_.levels)
                if (level.depth == depth && !level.asIs)
                    arrangeLevel(level);
    }

    /// Tells the groups of a level over which of their borders its links, and those that leave
    /// it, come.
    void tellLeaving(const Level& level) {
        const auto tell = [&](Index item, const Link* link, bool below, double order) {
            const Item& held = level.items[item];
            if (held.device || tree_.levels.at(held.group.value).asIs)
                return;
            Level& inner = tree_.levels.at(held.group.value);
            const auto within = tree_.itemOn(inner, link->a.device);
            const auto at = within ? within : tree_.itemOn(inner, link->b.device);
            if (at)
                inner.leaving.push_back({link, *at, below, order, {}});
        };
        for (std::size_t e = 0; e < level.bundles.size(); ++e) {
            const Bundle& bundle = level.bundles[e];
            const auto& way = level.drawing.paths[e];
            for (const Index item : {bundle.a, bundle.b}) {
                const Index other = item == bundle.a ? bundle.b : bundle.a;
                const Rect frame{level.drawing.at[item].x, level.drawing.at[item].y, level.items[item].size.x,
                                 level.items[item].size.y};
                const PointF there = level.drawing.at[other] + level.items[other].size * 0.5;
                const PointF end = way.empty()        ? layout::leavingSide(frame, there)
                                   : item == bundle.a ? way.front()
                                                      : way.back();
                const bool below = std::abs(end.y - frame.bottom()) < 1 ? true
                                   : std::abs(end.y - frame.y) < 1      ? false
                                                                        : there.y > frame.centre().y;
                for (const Link* link : bundle.links)
                    tell(item, link, below, end.x + (there.x - end.x) * 1e-4);
            }
        }
        for (const Leaving& each : level.leaving)
            tell(each.item, each.link, each.below, each.order);
    }

    void arrangeLevel(Level& level) {
        layout::Graph graph;
        layout::Wish wish;
        wish.keepOrder = wish_.keepOrder;
        wish.wanted = wanted_;
        wish.style = wish_.style;
        constexpr double column = 1e-6; // as narrow as can be
        if (levels::isOfRack(network_, wish_, level))
            wish.aspect = column;
        wish.flow = turning_.flow() == wish_.flow ? layout::Flow::down : wish_.flow;
        if (turning_.isSideways())
            wish.aspect = 1 / wish.aspect;
        wish.spacing = wish_.spacing;
        wish.seed = wish_.seed;
        for (Index i = 0; i < level.items.size(); ++i) {
            Item& item = level.items[i];
            item.size =
                item.device ? turning_.size(sizeOf(item.device)) : sizeOf(tree_.levels.at(item.group.value));
            layout::Node node{item.size.x, item.size.y, -1};
            if (item.device) {
                const Role role = roleOf(network_, *network_.device(item.device));
                // Of the network layer every node routes: a role says no tier there.
                const bool tiers = sheet_.layer != SheetLayer::network && role != Role::unknown;
                node.tier = tiers ? tierOf(role) : -1;
            }
            graph.nodes.push_back(node);
        }
        if (wish_.anchor)
            wish.anchor = tree_.itemOn(level, wish_.anchor).value_or(layout::none);
        for (const Bundle& bundle : level.bundles) {
            layout::Edge edge{bundle.a, bundle.b, -1, -1, static_cast<int>(bundle.links.size())};
            const Item &a = level.items[bundle.a], &b = level.items[bundle.b];
            if (bundle.links.size() == 1) {
                edge.atA = a.device ? tickAt(*bundle.links.front(), a.device) : -1;
                edge.atB = b.device ? tickAt(*bundle.links.front(), b.device) : -1;
            }
            graph.edges.push_back(edge);
        }
        if (layout::beginsAsItStands(wish_.style))
            for (const Item& item : level.items)
                wish.before.push_back(cornerNow(item));
        std::stable_sort(level.leaving.begin(), level.leaving.end(),
                         [](const Leaving& x, const Leaving& y) { return x.order < y.order; });
        for (const Leaving& each : level.leaving)
            wish.outside.push_back({each.item, each.below});
        layout::Arranged arranged = layout::arranged(graph, wish);
        level.drawing = std::move(arranged.drawing);
        level.bounds = layout::boundsOf(graph, level.drawing);
        for (std::size_t i = 0; i < level.leaving.size(); ++i) {
            level.leaving[i].way =
                i < arranged.stubs.size() ? std::move(arranged.stubs[i]) : std::vector<PointF>{};
            for (const PointF p : level.leaving[i].way)
                level.bounds = level.bounds.united({p.x, p.y, 0.01, 0.01});
        }
        out_.shapes.insert(out_.shapes.end(), arranged.shapes.begin(), arranged.shapes.end());
    }

    /// Where an item stands; of a group: where it comes to stand as what is in it is tidied.
    PointF cornerNow(const Item& item) const {
        if (item.device) {
            const Rect& frame = out_.plates.at(item.device.value).frame;
            return {frame.x, frame.y};
        }
        const Level& inner = tree_.levels.at(item.group.value);
        if (inner.asIs) {
            const auto standing = folding_.standing(item.group);
            return standing ? PointF{standing->x, standing->y} : PointF{};
        }
        const Rect frame = frameOf(inner);
        return {frame.x, frame.y};
    }

    PointF sizeOf(DeviceId device) const {
        const Rect& frame = out_.plates.at(device.value).frame;
        return {frame.w, frame.h};
    }
    /// How large a group is with its frame.
    PointF sizeOf(const Level& level) const {
        if (level.asIs) {
            const auto standing = folding_.standing(level.group);
            return turning_.size(standing ? PointF{standing->w, standing->h}
                                          : PointF{scene::tileWidth, scene::tileHeight});
        }
        const Rect frame = frameOf(level);
        return {frame.w, frame.h};
    }
    /// About what is in a group, as that is arranged.
    Rect frameOf(const Level& level) const {
        const Rect& in = level.bounds;
        return {in.x - turning_.before(), in.y - turning_.above(),
                in.w + turning_.before() + turning_.behind(), in.h + turning_.above() + turning_.below()};
    }

    void place(Level& level, PointF by) {
        level.by = by;
        for (std::size_t i = 0; i < level.items.size(); ++i) {
            const Item& item = level.items[i];
            const PointF at = level.drawing.at[i] + by;
            const Rect sheet = turning_.onSheet(Rect{at.x, at.y, item.size.x, item.size.y});
            const PointF corner{sheet.x, sheet.y};
            if (item.device) {
                out_.at[item.device.value] = corner;
                continue;
            }
            Level& inner = tree_.levels.at(item.group.value);
            if (inner.asIs) {
                const auto standing = folding_.standing(item.group);
                out_.kept.push_back(
                    {item.group, standing ? corner - PointF{standing->x, standing->y} : PointF{}, sheet});
                continue;
            }
            const Rect frame = frameOf(inner);
            place(inner, at - PointF{frame.x, frame.y});
        }
        for (std::size_t e = 0; e < level.bundles.size(); ++e)
            pathsOf(level, level.bundles[e], level.drawing.paths[e]);
    }

    /// Which of the links that leave a group over the same border one is, and its way out; null
    /// where it has none.
    const Leaving* leavingOf(const Level& level, const Link* link, std::size_t& place,
                             std::size_t& all) const {
        const Leaving* found = nullptr;
        for (const Leaving& each : level.leaving)
            if (each.link == link)
                found = &each;
        place = all = 0;
        for (const Leaving& each : level.leaving)
            if (found && each.below == found->below) {
                place += &each < found;
                ++all;
            }
        return found && !found->way.empty() ? found : nullptr;
    }

    /// The way of a link from a point on the border of a group's frame to the plate inside, in
    /// steps in the room between frame and what is drawn; false where it has none.
    bool goIn(const Item& item, const Link* link, std::vector<PointF>& path) const {
        if (item.device)
            return true;
        const Level& inner = tree_.levels.at(item.group.value);
        std::size_t place = 0, all = 0;
        const Leaving* leaving = inner.asIs ? nullptr : leavingOf(inner, link, place, all);
        if (!leaving)
            return false;
        const PointF from = path.back(), start = leaving->way.front() + inner.by;
        const double room = leaving->below ? turning_.below() : turning_.above();
        // Those that go to the right: the further left the nearer to what is drawn; the others the
        // other way round. So none crosses another.
        const double rank = static_cast<double>(place + 1) / static_cast<double>(all + 1);
        const double share = start.x > from.x ? 1 - rank : rank;
        const double y = leaving->below ? start.y + room * (1 - share) : start.y - room * (1 - share);
        if (std::abs(start.x - from.x) > 0.5) {
            path.push_back({from.x, y});
            path.push_back({start.x, y});
        }
        for (const PointF p : leaving->way)
            path.push_back(p + inner.by);
        return goIn(inner.items[leaving->item], link, path);
    }

    /// The ways of all links of a bundle, side by side, as they come in order into a group.
    void pathsOf(const Level& level, const Bundle& bundle, std::vector<PointF> way) {
        const Item &a = level.items[bundle.a], &b = level.items[bundle.b];
        const bool drawn = !way.empty();
        const auto itemFrame = [&](Index i) {
            const PointF at = level.drawing.at[i] + level.by;
            return Rect{at.x, at.y, level.items[i].size.x, level.items[i].size.y};
        };
        for (PointF& p : way)
            p = p + level.by;
        auto links = bundle.links;
        const Item* ordered = !b.device ? &b : !a.device ? &a : nullptr;
        if (ordered && !tree_.levels.at(ordered->group.value).asIs) {
            const auto& leaving = tree_.levels.at(ordered->group.value).leaving;
            const auto orderOf = [&](const Link* link) {
                return std::find_if(leaving.begin(), leaving.end(),
                                    [&](const Leaving& each) { return each.link == link; }) -
                       leaving.begin();
            };
            std::sort(links.begin(), links.end(),
                      [&](const Link* x, const Link* y) { return orderOf(x) < orderOf(y); });
        }
        const double n = static_cast<double>(links.size());
        const double gap = std::min(5.0, 15.0 / std::max(1.0, n));
        for (std::size_t k = 0; k < links.size(); ++k) {
            const double aside = gap * (static_cast<double>(k) - (n - 1) / 2);
            std::vector<PointF> outer;
            if (drawn) {
                outer = layout::besidePath(way, aside);
                const bool atB = ordered == &b;
                const double moved = atB ? outer.back().x - way.back().x : outer.front().x - way.front().x;
                if (ordered && moved * aside < 0) // the other way round as seen from the group
                    outer = layout::besidePath(way, -aside);
            } else if (ordered) {
                const auto end = [&](Index i, Index other) {
                    const Rect frame = itemFrame(i);
                    const Item& item = level.items[i];
                    if (item.device)
                        return layout::leavingSide(frame, itemFrame(other).centre());
                    std::size_t place = 0, all = 0;
                    const Leaving* leaving =
                        leavingOf(tree_.levels.at(item.group.value), links[k], place, all);
                    const double x =
                        frame.centre().x + (static_cast<double>(place) - static_cast<double>(all) / 2) * 8;
                    return PointF{std::clamp(x, frame.x, frame.right()),
                                  leaving && leaving->below ? frame.bottom() : frame.y};
                };
                outer = {end(bundle.a, bundle.b), end(bundle.b, bundle.a)};
            } else {
                out_.paths[links[k]->id.value].clear();
                continue;
            }
            // From a's plate out to its frame, over to b's, and in to its plate.
            std::vector<PointF> path{outer.front()};
            bool whole = goIn(a, links[k], path);
            std::reverse(path.begin(), path.end());
            path.insert(path.end(), outer.begin() + 1, outer.end());
            whole = goIn(b, links[k], path) && whole;
            if (!whole)
                path.clear();
            const bool fromA = a.device ? links[k]->a.device == a.device : isIn(links[k]->a.device, a.group);
            if (!fromA)
                std::reverse(path.begin(), path.end());
            for (PointF& p : path)
                p = turning_.onSheet(p);
            out_.paths[links[k]->id.value] = std::move(path);
        }
    }

    bool isIn(DeviceId device, GroupId group) const {
        for (auto at = tree_.itemOf.find(device.value); at != tree_.itemOf.end();
             at = tree_.itemOf.find(at->second.first))
            if (at->second.first == group.value)
                return true;
        return false;
    }
    /// Of a group whose links have ways beyond what its members take.
    std::optional<Rect> drawnFrame(const Level& level) const {
        Rect members;
        for (std::size_t i = 0; i < level.items.size(); ++i)
            members = members.united(
                {level.drawing.at[i].x, level.drawing.at[i].y, level.items[i].size.x, level.items[i].size.y});
        if (members.grown(1).contains(level.bounds))
            return std::nullopt;
        return turning_.onSheet(frameOf(level).moved(level.by));
    }

    const Network& network_;
    const Sheet& sheet_;
    const Look& look_;
    const ArrangeWish& wish_;
    const scene::Folding& folding_;
    const std::atomic<bool>* wanted_;
    Turning turning_{layout::Flow::down};
    SheetDrawing out_;
    LevelTree tree_;
    std::size_t deepest_ = 0;
};

} // namespace

void SheetDrawing::move(PointF by) {
    for (auto& [id, corner] : at)
        corner = corner + by;
    for (auto& [id, path] : paths)
        for (PointF& p : path)
            p = p + by;
    for (Kept& each : kept) {
        each.by = each.by + by;
        each.at = each.at.moved(by);
    }
    for (Frame& frame : frames)
        if (frame.drawn)
            frame.drawn = frame.drawn->moved(by);
    bounds = bounds.moved(by);
}

Result<SheetDrawing> drawingOf(const Network& network, const Look& look, const ArrangeWish& wish,
                               const scene::Folding& folding, const std::atomic<bool>* wanted) {
    return Levels(network, look, wish, folding, wanted).drawn();
}

} // namespace underridge::edit

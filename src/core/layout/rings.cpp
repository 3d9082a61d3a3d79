// SPDX-License-Identifier: GPL-3.0-or-later
// Rings: on an ellipse where nothing hangs on them, else round a rectangle with everything that
// hangs on them outside; rings that lean on a piece of another lie outside it, too.
#include "core/layout/composer.h"

#include <cmath>
#include <map>
#include <numbers>

namespace underridge::layout {
namespace {

/// Nodes of a block in a row between the nodes where more than two lines meet.
struct Stretch {
    Index from = 0, to = 0;
    std::vector<Index> nodes; ///< between
};

} // namespace

RingOrder Composer::ringOf(const std::vector<Index>& nodes, const std::vector<Index>& edges,
                           Index above) const {
    const std::size_t all = nodes.size() + (above == none ? 0 : 1);
    if (edges.size() < all || edges.size() > all + all / 3 + 1 || nodes.size() < 2)
        return {};
    std::map<Index, std::vector<Index>> near;
    for (const Index edge : edges) {
        near[graph_.edges[edge].a].push_back(graph_.edges[edge].b);
        near[graph_.edges[edge].b].push_back(graph_.edges[edge].a);
    }
    // Chains between branches, the longer of parallel ones taken out until one ring is left.
    std::vector<Stretch> ears;
    std::vector<Index> ring;
    for (;;) {
        std::vector<Index> branches;
        for (const auto& [node, to] : near)
            if (to.size() > 2)
                branches.push_back(node);
        if (branches.empty()) {
            const Index start = above != none ? above : near.begin()->first;
            Index before = none, here = start;
            do {
                ring.push_back(here);
                const auto& to = near.at(here);
                if (to.size() != 2)
                    return {};
                const Index next = to[0] != before ? to[0] : to[1];
                before = here;
                here = next;
            } while (here != start && ring.size() <= all);
            break;
        }
        std::map<std::pair<Index, Index>, std::vector<Stretch>> chains;
        for (const Index branch : branches)
            for (const Index first : near.at(branch)) {
                Stretch chain{branch, first, {}};
                Index before = branch;
                while (near.at(chain.to).size() == 2 && chain.to != branch) {
                    chain.nodes.push_back(chain.to);
                    const auto& to = near.at(chain.to);
                    const Index next = to[0] != before ? to[0] : to[1];
                    before = chain.to;
                    chain.to = next;
                }
                if (chain.from < chain.to)
                    chains[{chain.from, chain.to}].push_back(std::move(chain));
            }
        bool taken = false;
        for (auto& [ends, between] : chains) {
            if (between.size() < 2)
                continue;
            std::stable_sort(between.begin(), between.end(), [](const Stretch& x, const Stretch& y) {
                return x.nodes.size() < y.nodes.size();
            });
            Stretch& longest = between.back();
            if (longest.nodes.empty() ||
                std::find(longest.nodes.begin(), longest.nodes.end(), above) != longest.nodes.end())
                continue;
            const auto cut = [&](Index from, Index to) {
                auto& list = near.at(from);
                list.erase(std::find(list.begin(), list.end(), to));
            };
            cut(longest.from, longest.nodes.front());
            cut(longest.to, longest.nodes.back());
            for (const Index node : longest.nodes)
                near.erase(node);
            ears.push_back(std::move(longest));
            taken = true;
        }
        if (!taken)
            return {};
    }
    std::size_t seen = ring.size();
    for (const Stretch& ear : ears)
        seen += ear.nodes.size();
    constexpr std::size_t least = 5; ///< of a ring others lean on: less is two poles with ways between
    if (seen != all || (!ears.empty() && ring.size() < least))
        return {};
    if (above != none)
        ring.erase(ring.begin());

    // Which nodes ears go over.
    RingOrder out;
    out.above = above;
    std::map<Index, std::size_t> place;
    for (std::size_t i = 0; i < ring.size(); ++i)
        place[ring[i]] = i;
    struct Span {
        std::size_t from, to;
        std::vector<Index> nodes;
    };
    std::vector<Span> spans;
    std::size_t shift = 0;
    for (int turn = 0;; ++turn) { // no ear may go over where the ring begins
        spans.clear();
        bool over = false;
        for (const Stretch& ear : ears) {
            if (!place.contains(ear.from) || !place.contains(ear.to))
                return {};
            const std::size_t n = ring.size();
            std::size_t from = (place[ear.from] + n - shift) % n, to = (place[ear.to] + n - shift) % n;
            auto inOrder = ear.nodes;
            if (from > to) {
                std::swap(from, to);
                std::reverse(inOrder.begin(), inOrder.end());
            }
            over |= to - from > n / 2 && above == none;
            spans.push_back({from, to, std::move(inOrder)});
        }
        if (!over)
            break;
        if (above != none || turn >= static_cast<int>(std::min<std::size_t>(ring.size(), 64)))
            return {};
        ++shift;
    }
    std::rotate(ring.begin(), ring.begin() + static_cast<std::ptrdiff_t>(shift), ring.end());
    std::sort(spans.begin(), spans.end(), [](const Span& x, const Span& y) { return x.from < y.from; });
    for (std::size_t i = 0; i + 1 < spans.size(); ++i)
        if (spans[i].to > spans[i + 1].from)
            return {};
    std::size_t next = 0;
    for (std::size_t i = 0; i < ring.size();) {
        RingOrder::Part part{{ring[i]}, {}};
        std::size_t end = i;
        while (next < spans.size() && spans[next].from == end) {
            RingOrder::Ear ear{end - i, spans[next].to - i, spans[next].nodes};
            while (end < spans[next].to)
                part.nodes.push_back(ring[++end]);
            part.ears.push_back(std::move(ear));
            ++next;
        }
        out.parts.push_back(std::move(part));
        i = end + 1;
    }
    return out;
}

Composer::Slot Composer::slot(const RingOrder::Part& given, bool backwards, bool turnedOver) {
    RingOrder::Part part = given;
    if (backwards) {
        std::reverse(part.nodes.begin(), part.nodes.end());
        for (auto& ear : part.ears) {
            const std::size_t from = part.nodes.size() - 1 - ear.to;
            ear.to = part.nodes.size() - 1 - ear.from;
            ear.from = from;
            std::reverse(ear.nodes.begin(), ear.nodes.end());
        }
        std::reverse(part.ears.begin(), part.ears.end());
    }
    Slot out;
    if (part.nodes.size() == 1) {
        const Cell one = cell(part.nodes.front(), turnedOver);
        out = {one.box, one.plate, one.plate, boxes_[one.box].size};
        if (backwards)
            std::swap(out.first, out.last);
        return out;
    }
    Box box;
    std::vector<Rect> plates;
    std::size_t ear = 0;
    double x = 0, height = 0;
    constexpr double over = 40;
    for (std::size_t i = 0; i < part.nodes.size(); ++i) {
        const Cell one = cell(part.nodes[i], turnedOver);
        const PointF size = boxes_[one.box].size;
        box.inner.push_back({one.box, {x, 0}, Turn::down});
        plates.push_back(one.plate.moved({x, 0}));
        height = std::max(height, size.y);
        x += size.x + besideGap;
        if (ear < part.ears.size() && part.ears[ear].from == i) { // what lies between its ends
            const RingOrder::Ear& here = part.ears[ear];
            RingOrder order;
            order.above = none;
            for (auto node = here.nodes.rbegin(); node != here.nodes.rend(); ++node)
                order.parts.push_back({{*node}, {}});
            order.above = part.nodes[i];
            const Ring loop = ring(order, turnedOver);
            const PointF loopSize = boxes_[loop.box].size;
            double inside = 0, top = plates[i].bottom() + over;
            const double from = x + trackMargin;
            std::vector<std::pair<Cell, double>> between;
            for (std::size_t k = here.from + 1; k < here.to; ++k) {
                const Cell middle = cell(part.nodes[k], turnedOver);
                between.emplace_back(middle, inside);
                inside += boxes_[middle.box].size.x + besideGap;
                top = std::max(top, boxes_[middle.box].size.y + over);
            }
            const double width = std::max(loopSize.x, inside);
            for (const auto& [middle, at] : between) {
                box.inner.push_back(
                    {middle.box, {from + at + (width - inside + besideGap) / 2, 0}, Turn::down});
                plates.push_back(middle.plate.moved({from + at + (width - inside + besideGap) / 2, 0}));
            }
            i = here.to - 1;
            const PointF corner{from + (width - loopSize.x) / 2, top};
            box.inner.push_back({loop.box, corner, Turn::down});
            height = std::max(height, top + loopSize.y);
            x = from + width + trackMargin + besideGap;
            // Its ends: the last of the loop is on the left, beside the first of the piece.
            const Rect leftEnd = loop.last.moved(corner), rightEnd = loop.first.moved(corner);
            const Rect& a = plates[here.from];
            const double low = a.y + a.h / 2 + std::min(12.0, a.h / 3);
            const double leftX = leftEnd.x + leftEnd.w / 2, rightX = rightEnd.x + rightEnd.w / 2;
            const double downLeft = between.empty() ? leftX : from - trackMargin / 2,
                         downRight = between.empty() ? rightX : from + width + trackMargin / 2;
            const auto edgeBetween = [&](Index u, Index v) {
                for (const auto& to : near_.of(u))
                    if (to.node == v)
                        return to.edge;
                return none;
            };
            Wire left{edgeBetween(part.nodes[here.from], here.nodes.front()),
                      {{a.right(), low}, {downLeft, low}}};
            if (!between.empty()) {
                left.path.push_back({downLeft, top - over / 2});
                left.path.push_back({leftX, top - over / 2});
            }
            left.path.push_back({leftX, leftEnd.y});
            box.wires.push_back(std::move(left));
            Wire right{edgeBetween(part.nodes[here.to], here.nodes.back()), {{x, low}, {downRight, low}}};
            if (!between.empty()) {
                right.path.push_back({downRight, top - over / 2});
                right.path.push_back({rightX, top - over / 2});
            }
            right.path.push_back({rightX, rightEnd.y});
            // The far end is placed next: its plate begins where its cell has it.
            const Cell far = cell(part.nodes[here.to], turnedOver);
            right.path.front().x = x + far.plate.x;
            box.wires.push_back(std::move(right));
            ++ear;
        }
    }
    box.size = {x - besideGap, height};
    out.size = box.size;
    out.first = plates.front();
    out.last = plates.back();
    if (backwards)
        std::swap(out.first, out.last);
    out.box = boxes_.add(std::move(box));
    return out;
}

std::optional<Box> Composer::ellipse(const RingOrder& order, bool turnedOver, Ring& out) {
    constexpr std::size_t most = 44;
    if (order.around() > most)
        return std::nullopt;
    for (const auto& part : order.parts)
        if (part.nodes.size() > 1 || hangsOn(part.nodes.front()))
            return std::nullopt;
    const bool open = order.above != none;
    const auto of = static_cast<double>(order.around());
    const double wide = wish(turnedOver) > 1 ? 1 : 0.7, high = wish(turnedOver) > 1 ? 0.7 : 1;
    std::vector<Rect> plates(order.parts.size());
    for (double radius = of * 20;; radius *= 1.06) {
        for (std::size_t i = 0; i < plates.size(); ++i) {
            const double turn = 2 * std::numbers::pi * (static_cast<double>(i) + (open ? 1 : 0)) / of;
            const PointF size = plateSize(order.parts[i].nodes.front(), turnedOver);
            plates[i] = {radius * wide * std::sin(turn) - size.x / 2,
                         -radius * high * std::cos(turn) - size.y / 2, size.x, size.y};
        }
        bool free = true;
        for (std::size_t i = 0; free && i < plates.size(); ++i) {
            const std::size_t next = (i + 1) % plates.size();
            const bool joined = next != 0 || !open;
            const PointF a = leavingSide(plates[i], plates[next].centre()),
                         b = leavingSide(plates[next], plates[i].centre());
            free = plates.size() < 2 || !joined || scene::length(b - a) > 28;
            for (std::size_t j = 0; free && j < plates.size(); ++j) {
                free = i == j || !plates[i].grown(14).intersects(plates[j].grown(14));
                if (free && joined && j != i && j != next)
                    free = !scene::segmentMeets(a, b, plates[j].grown(6));
            }
        }
        if (free)
            break;
        if (radius > 1e5)
            return std::nullopt;
    }
    Rect bounds = plates.front();
    for (const Rect& plate : plates)
        bounds = bounds.united(plate);
    Box box;
    for (std::size_t i = 0; i < plates.size(); ++i) {
        plates[i] = plates[i].moved({-bounds.x, -bounds.y});
        box.plates.push_back({order.parts[i].nodes.front(), plates[i]});
    }
    box.size = {bounds.w, bounds.h};
    out.first = plates.front();
    out.last = plates.back();
    return box;
}

std::size_t Composer::circle(const std::vector<Index>& order) {
    const auto n = static_cast<double>(order.size());
    struct Standing {
        std::size_t box;
        Turn turn;
        PointF size;
        Rect plate; ///< turned, in its box
        double angle;
    };
    std::vector<Standing> all;
    for (std::size_t i = 0; i < order.size(); ++i) {
        const double angle = 2 * std::numbers::pi * static_cast<double>(i) / n;
        const double x = std::sin(angle), y = -std::cos(angle);
        const Turn turn = std::abs(x) > 0.7 ? (x > 0 ? Turn::right : Turn::left)
                          : y > 0           ? Turn::down
                                            : Turn::up;
        const Cell one = cell(order[i], isTurned(turn));
        const PointF inside = boxes_[one.box].size;
        all.push_back({one.box, turn, sizeTurned(inside, turn), turned(one.plate, inside, turn), angle});
    }
    // So large that nothing overlaps, and that a line from one to the next but one passes
    // inside the plate between where that takes no miles.
    constexpr double flat = 0.72, farthest = 6000, bulge = 1.6;
    std::vector<Rect> frames(all.size());
    for (double radius = std::max(120.0, std::min(farthest, bulge * n * n));; radius *= 1.08) {
        for (std::size_t i = 0; i < all.size(); ++i) {
            const PointF middle{radius * std::sin(all[i].angle), -radius * flat * std::cos(all[i].angle)};
            const Rect& plate = all[i].plate;
            frames[i] = {middle.x - plate.x - plate.w / 2, middle.y - plate.y - plate.h / 2, all[i].size.x,
                         all[i].size.y};
        }
        bool free = true;
        const std::size_t reach = std::min<std::size_t>(all.size() - 1, 8); // farther ones are farther away
        for (std::size_t i = 0; free && i < all.size(); ++i)
            for (std::size_t k = 1; free && k <= reach; ++k)
                free = !frames[i]
                            .grown(besideGap / 2)
                            .intersects(frames[(i + k) % all.size()].grown(besideGap / 2));
        if (free || radius > 3e5)
            break;
    }
    Rect bounds = frames.front();
    for (const Rect& frame : frames)
        bounds = bounds.united(frame);
    Box box;
    for (std::size_t i = 0; i < all.size(); ++i)
        box.inner.push_back({all[i].box, {frames[i].x - bounds.x, frames[i].y - bounds.y}, all[i].turn});
    box.size = {bounds.w, bounds.h};
    return boxes_.add(std::move(box));
}

Ring Composer::ring(const RingOrder& order, bool turnedOver) {
    ++found.rings;
    Ring made;
    if (auto round = ellipse(order, turnedOver, made)) {
        made.box = boxes_.add(std::move(*round));
        return made;
    }
    // Round a rectangle: above, right, below, left.
    const bool open = order.above != none;
    const auto n = static_cast<double>(order.parts.size());
    // The whole is about as wide as the proportion tried says; how much what hangs on it makes of that shows
    // only then.
    const double w = open ? wish(turnedOver) : wish(turnedOver) * (turnedOver ? 1 / share_ : share_);
    // How much room a part takes along the ring and outwards, about: by how many it holds.
    double hanging = 0;
    for (const auto& part : order.parts) {
        for (const Index node : part.nodes)
            hanging += weight_[node];
        for (const auto& ear : part.ears)
            for (const Index node : ear.nodes)
                hanging += weight_[node];
    }
    hanging /= n;
    constexpr double perNode = 26'000, leastAlong = 160;
    const double along = std::max(leastAlong, std::sqrt(hanging * perNode * 1.5)),
                 outwards = hanging < 1.5 ? 0 : 2 * hanging * perNode / along;
    const double sides =
        open ? std::max(1.0, (n * along - w * along + outwards - w * outwards / 2) / (along * (2 + w)))
             : std::max(0.0, (n * along / 2 + outwards - w * outwards) / (along * (1 + w)));
    const auto perSide = static_cast<std::size_t>(std::lround(sides));
    const std::size_t perRow = order.parts.size() - std::min(order.parts.size(), 2 * perSide);
    const std::size_t above = open ? 0 : (perRow + 1) / 2;
    struct Placed {
        Slot slot;
        Turn turn;
        PointF size;
        Rect first, last, anchor; ///< turned; the anchor: what is in line with the others
    };
    std::vector<Placed> side[4];
    std::size_t counts[4] = {above, perSide, perRow - above, perSide};
    if (open && order.parts.size() < 2 * perSide)
        counts[1] = 1, counts[2] = 0, counts[3] = order.parts.size() - 1;
    const Turn turns[4] = {Turn::up, Turn::right, Turn::down, Turn::left};
    std::size_t at = 0;
    for (int s = 0; s < 4; ++s)
        for (std::size_t i = 0; i < counts[s] && at < order.parts.size(); ++i, ++at) {
            Placed each{
                slot(order.parts[at], s >= 2, turnedOver != isTurned(turns[s])), turns[s], {}, {}, {}, {}};
            each.size = sizeTurned(each.slot.size, turns[s]);
            each.first = layout::turned(each.slot.first, each.slot.size, turns[s]);
            each.last = layout::turned(each.slot.last, each.slot.size, turns[s]);
            side[s].push_back(std::move(each));
        }
    const auto lengthOf = [](const std::vector<Placed>& all, bool across) {
        double sum = 0;
        for (const Placed& each : all)
            sum += (across ? each.size.x : each.size.y) + besideGap * 2;
        return sum;
    };
    // The upper plates stand on y = 0, the lower ones under `height`; the sides between.
    const double width = std::max({lengthOf(side[0], true), lengthOf(side[2], true), 160.0});
    const double height = std::max({lengthOf(side[1], false), lengthOf(side[3], false), 120.0});
    Box box;
    const auto put = [&](Placed& each, PointF corner) {
        box.inner.push_back({each.slot.box, corner, each.turn});
        each.first = each.first.moved(corner);
        each.last = each.last.moved(corner);
    };
    const auto spread = [](double room, const std::vector<Placed>& all, double used) {
        return all.empty() ? 0.0 : (room - used) / static_cast<double>(all.size());
    };
    double x = 0;
    const double extraTop = spread(width, side[0], lengthOf(side[0], true));
    for (Placed& each : side[0]) {
        x += extraTop / 2 + besideGap;
        put(each, {x, -each.size.y});
        x += each.size.x + besideGap + extraTop / 2;
    }
    x = width;
    const double extraBottom = spread(width, side[2], lengthOf(side[2], true));
    for (Placed& each : side[2]) {
        x -= each.size.x + besideGap + extraBottom / 2;
        put(each, {x, height});
        x -= besideGap + extraBottom / 2;
    }
    double y = 0;
    const double extraRight = spread(height, side[1], lengthOf(side[1], false));
    for (Placed& each : side[1]) {
        y += besideGap + extraRight / 2;
        put(each, {width, y});
        y += each.size.y + besideGap + extraRight / 2;
    }
    y = height;
    const double extraLeft = spread(height, side[3], lengthOf(side[3], false));
    for (Placed& each : side[3]) {
        y -= each.size.y + besideGap + extraLeft / 2;
        put(each, {-each.size.x, y});
        y -= besideGap + extraLeft / 2;
    }
    Rect bounds;
    for (const auto& inner : box.inner) {
        const PointF size = boxes_.sizeOf(inner.box, inner.turn);
        bounds = bounds.united({inner.at.x, inner.at.y, size.x, size.y});
    }
    for (auto& inner : box.inner)
        inner.at = inner.at - PointF{bounds.x, bounds.y};
    const auto firstOf = [&]() -> const Placed& {
        for (const auto& all : side)
            if (!all.empty())
                return all.front();
        return side[1].front();
    };
    const auto lastOf = [&]() -> const Placed& {
        for (int s = 3; s >= 0; --s)
            if (!side[s].empty())
                return side[s].back();
        return side[1].front();
    };
    made.first = firstOf().first.moved({-bounds.x, -bounds.y});
    made.last = lastOf().last.moved({-bounds.x, -bounds.y});
    box.size = {bounds.w, bounds.h};
    made.box = boxes_.add(std::move(box));
    return made;
}

Composer::Hung Composer::hungRing(const Block& block, const RingOrder& order, bool turnedOver) {
    // Clockwise: the first on the right of what it hangs on, the last on the left.
    const Ring loop = ring(order, turnedOver);
    Hung hung{loop.box, boxes_[loop.box].size, {}};
    const Index first = order.parts.front().nodes.front();
    for (const Index edge : block.edges) {
        const Edge& e = graph_.edges[edge];
        if (e.a != block.above && e.b != block.above)
            continue;
        const Rect& plate = otherEnd(edge, block.above) == first ? loop.first : loop.last;
        const double x = plate.x + plate.w / 2;
        hung.entries.push_back({edge, {{x, 0}, {x, plate.y}}});
    }
    std::sort(hung.entries.begin(), hung.entries.end(),
              [](const auto& x, const auto& y) { return x.path.front().x < y.path.front().x; });
    return hung;
}

} // namespace underridge::layout

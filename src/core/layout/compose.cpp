// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/compose.h"

#include "core/layout/composer.h"
#include "core/layout/measures.h"
#include "core/layout/parts.h"
#include "core/layout/spring.h"

#include <cmath>
#include <map>
#include <tuple>

namespace underridge::layout {

std::vector<std::vector<Index>> Composer::without(const std::vector<Index>& nodes,
                                                  const std::vector<Index>& poles) {
    const Index inside = ++stamp_;
    for (const Index node : nodes)
        mark_[node] = inside;
    for (const Index pole : poles)
        mark_[pole] = 0;
    std::vector<std::vector<Index>> parts;
    for (const Index first : nodes) {
        if (mark_[first] != inside)
            continue;
        std::vector<Index> part{first};
        mark_[first] = 0;
        for (std::size_t i = 0; i < part.size(); ++i)
            for (const auto& to : near_.of(part[i]))
                if (mark_[to.node] == inside) {
                    mark_[to.node] = 0;
                    part.push_back(to.node);
                }
        std::sort(part.begin(), part.end());
        parts.push_back(std::move(part));
    }
    return parts;
}

Composer::Poles Composer::polesOf(const std::vector<Index>& nodes) {
    Poles out;
    if (nodes.size() <= 2) {
        out.left.assign(nodes.begin(), nodes.begin() + 1);
        out.right.assign(nodes.begin() + 1, nodes.end());
        return out;
    }
    // Who is joined to whom within.
    const Index inside = ++stamp_;
    for (const Index node : nodes)
        mark_[node] = inside;
    std::vector<std::vector<Index>> near(nodes.size());
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        for (const auto& to : near_.of(nodes[i]))
            if (mark_[to.node] == inside)
                near[i].push_back(to.node);
        std::sort(near[i].begin(), near[i].end());
    }
    std::vector<std::vector<Index>> tried;
    const auto offer = [&](std::vector<Index> poles) {
        if (poles.empty() || poles.size() * 2 > nodes.size())
            return;
        std::sort(poles.begin(), poles.end());
        if (std::find(tried.begin(), tried.end(), poles) == tried.end())
            tried.push_back(std::move(poles));
    };
    // The highest tiers.
    std::vector<int> tiers;
    for (const Index node : nodes)
        tiers.push_back(graph_.nodes[node].tier);
    std::sort(tiers.begin(), tiers.end(), std::greater<>());
    tiers.erase(std::unique(tiers.begin(), tiers.end()), tiers.end());
    for (std::size_t k = 0; k + 1 < tiers.size() && k < 2; ++k) {
        std::vector<Index> poles;
        for (const Index node : nodes)
            if (graph_.nodes[node].tier >= tiers[k])
                poles.push_back(node);
        offer(std::move(poles));
    }
    // What several have for all their neighbours.
    std::map<std::vector<Index>, std::size_t> sets;
    for (const auto& each : near)
        if (each.size() >= 2)
            ++sets[each];
    std::vector<std::pair<std::size_t, std::vector<Index>>> common;
    for (const auto& [set, times] : sets)
        if (times >= 2)
            common.emplace_back(times, set);
    std::stable_sort(common.begin(), common.end(),
                     [](const auto& x, const auto& y) { return x.first > y.first; });
    for (std::size_t i = 0; i < common.size() && i < 4; ++i)
        offer(common[i].second);
    // Those that are joined to the same others, and perhaps to one another.
    std::map<std::vector<Index>, std::vector<Index>> alike;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        if (near[i].size() < 3)
            continue;
        auto set = near[i];
        alike[set].push_back(nodes[i]);
        set.insert(std::lower_bound(set.begin(), set.end(), nodes[i]), nodes[i]);
        alike[set].push_back(nodes[i]);
    }
    std::vector<std::vector<Index>> groups;
    for (const auto& [set, who] : alike)
        if (who.size() >= 2 && who.size() <= 16)
            groups.push_back(who);
    std::stable_sort(groups.begin(), groups.end(),
                     [&](const auto& x, const auto& y) { return x.front() < y.front(); });
    for (std::size_t i = 0; i < groups.size() && i < 16; ++i)
        offer(groups[i]);
    // What is farthest from where leaves hang.
    std::vector<int> far(nodes.size(), -1);
    std::vector<std::size_t> queue;
    const auto placeOf = [&](Index node) {
        return static_cast<std::size_t>(std::lower_bound(nodes.begin(), nodes.end(), node) - nodes.begin());
    };
    for (std::size_t i = 0; i < nodes.size(); ++i)
        if (hangsOn(nodes[i])) {
            far[i] = 0;
            queue.push_back(i);
        }
    for (std::size_t k = 0; k < queue.size(); ++k)
        for (const Index to : near[queue[k]])
            if (const std::size_t at = placeOf(to); far[at] < 0) {
                far[at] = far[queue[k]] + 1;
                queue.push_back(at);
            }
    const int farthest = *std::max_element(far.begin(), far.end());
    for (int least = farthest; least > 0 && least > farthest - 2; --least) {
        std::vector<Index> poles;
        for (std::size_t i = 0; i < nodes.size(); ++i)
            if (far[i] >= least)
                poles.push_back(nodes[i]);
        offer(std::move(poles));
    }
    // Pairs of the best connected.
    std::vector<std::size_t> busy(nodes.size());
    for (std::size_t i = 0; i < busy.size(); ++i)
        busy[i] = i;
    const std::size_t most = std::min<std::size_t>(busy.size(), nodes.size() < 300 ? 6 : 4);
    std::partial_sort(busy.begin(), busy.begin() + static_cast<std::ptrdiff_t>(most), busy.end(),
                      [&](std::size_t x, std::size_t y) {
                          return near[x].size() != near[y].size() ? near[x].size() > near[y].size() : x < y;
                      });
    for (std::size_t i = 0; i < most; ++i)
        for (std::size_t j = i + 1; j < most; ++j)
            offer({nodes[busy[i]], nodes[busy[j]]});

    double best = 0.76 * static_cast<double>(nodes.size()) + 0.5;
    std::vector<Index> chosen;
    for (const auto& poles : tried) {
        std::size_t among = 0;
        for (const Index pole : poles)
            for (const Index to : near[placeOf(pole)])
                among += std::binary_search(poles.begin(), poles.end(), to);
        if (among / 2 > poles.size() / 2 + 1)
            continue;
        auto parts = without(nodes, poles);
        if (parts.size() < 2)
            continue;
        std::size_t largest = 0;
        for (const auto& part : parts)
            largest = std::max(largest, part.size());
        const double cost = static_cast<double>(largest + poles.size());
        if (cost < best) {
            best = cost;
            chosen = poles;
            out.between = std::move(parts);
        }
    }
    const std::size_t half = (chosen.size() + 1) / 2;
    out.left.assign(chosen.begin(), chosen.begin() + static_cast<std::ptrdiff_t>(half));
    out.right.assign(chosen.begin() + static_cast<std::ptrdiff_t>(half), chosen.end());
    return out;
}

Piece Composer::piece(const std::vector<Index>& nodes, const std::vector<Outward>& outward, bool turned) {
    if (nodes.size() == 1)
        return single(nodes.front(), outward, turned);
    ++depth_;
    const Poles poles = depth_ < 120 && !onlyMeshes_ ? polesOf(nodes) : Poles{};
    if (depth_ == 1)
        found.poles = poles.left.size() + poles.right.size();
    Piece out = poles.left.empty() ? mesh(nodes, outward, turned) : ladder(poles, outward, turned);
    --depth_;
    return out;
}

Piece Composer::mesh(const std::vector<Index>& nodes, const std::vector<Outward>& outward, bool turnedOver) {
    ++found.meshes;
    Springs in;
    in.aspect = wish(turnedOver);
    in.seed = asked_.seed;
    in.wanted = asked_.wanted;
    std::vector<Cell> cells;
    std::vector<Rect> plates;
    const auto placeOf = [&](Index node) -> std::size_t {
        const auto at = std::lower_bound(nodes.begin(), nodes.end(), node);
        return at != nodes.end() && *at == node ? static_cast<std::size_t>(at - nodes.begin()) : nodes.size();
    };
    for (const Index node : nodes) {
        const Cell inside = cell(node, turnedOver);
        in.sizes.push_back(boxes_[inside.box].size);
        plates.push_back(inside.plate);
        cells.push_back(inside);
    }
    for (std::size_t i = 0; i < nodes.size(); ++i)
        for (const auto& to : near_.of(nodes[i]))
            if (const std::size_t j = placeOf(to.node); j < nodes.size() && i < j)
                in.lines.emplace_back(static_cast<Index>(i), static_cast<Index>(j));
    const auto middles = bySpringsUntangled(in);
    const std::size_t n = nodes.size();
    PointF least{1e18, 1e18}, most{-1e18, -1e18};
    for (std::size_t i = 0; i < n; ++i) {
        const PointF half = in.sizes[i] * 0.5;
        least = {std::min(least.x, middles[i].x - half.x), std::min(least.y, middles[i].y - half.y)};
        most = {std::max(most.x, middles[i].x + half.x), std::max(most.y, middles[i].y + half.y)};
    }
    const double margin = outward.empty() ? 0 : trackMargin;
    Box box;
    std::vector<PointF> corner(n);
    for (std::size_t i = 0; i < n; ++i) {
        corner[i] = middles[i] - in.sizes[i] * 0.5 - least + PointF{0, margin};
        box.inner.push_back({cells[i].box, corner[i], Turn::down});
    }
    box.size = most - least + PointF{0, 2 * margin};
    Piece out;
    for (const Outward& line : outward) {
        const std::size_t i = placeOf(line.inner);
        const Rect plate = plates[i].moved(corner[i]);
        const double x = plate.x + plate.w / 2;
        out.stubs.push_back({line.edge,
                             line.below,
                             {{x, line.below ? box.size.y : 0}, {x, line.below ? plate.bottom() : plate.y}}});
    }
    out.box = boxes_.add(std::move(box));
    return out;
}

namespace {

/// The block that holds most together: the largest, and of those alike the one most hangs on.
const Block* middleBlock(const BlockTree& tree) {
    const Block* best = nullptr;
    std::size_t most = 0;
    for (const Block& block : tree.blocks) {
        if (block.nodes.size() < 2)
            continue;
        std::size_t weight = block.nodes.size() + !tree.at(block.above).empty();
        for (const Index node : block.nodes)
            weight += !tree.at(node).empty();
        if (weight > most) {
            most = weight;
            best = &block;
        }
    }
    return best;
}

} // namespace

void Composer::finish(std::size_t box, Flow flow, const std::vector<Index>& part, Drawing& drawing) const {
    constexpr Turn turns[] = {Turn::down, Turn::up, Turn::right, Turn::left};
    boxes_.draw(box, {}, turns[static_cast<std::size_t>(flow)], drawing);
    // Paths go from a to b.
    for (const Index node : part)
        for (const auto& to : near_.of(node)) {
            auto& path = drawing.paths[to.edge];
            if (graph_.edges[to.edge].a != node || path.empty())
                continue;
            const auto touches = [](const Rect& plate, PointF p) {
                return p.x >= plate.x - 0.5 && p.x <= plate.right() + 0.5 && p.y >= plate.y - 0.5 &&
                       p.y <= plate.bottom() + 0.5;
            };
            if (!touches(plateOf(graph_, drawing, node), path.front()))
                std::reverse(path.begin(), path.end());
        }
}

namespace {

std::size_t crossingsOf(const Graph& graph, const Neighbours& near, const std::vector<Index>& part,
                        const Drawing& drawing) {
    std::vector<DrawnLine> lines;
    for (const Index node : part)
        for (const auto& to : near.of(node))
            if (graph.edges[to.edge].a == node)
                lines.push_back({pathOf(graph, drawing, to.edge), node, to.node});
    return measured({}, lines).crossings;
}

/// A chain of devices to and fro in rows; false when the part is none.
bool toAndFro(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, double aspect,
              Drawing& drawing) {
    constexpr std::size_t few = 6;
    Index end = none;
    std::size_t ends = 0;
    PointF largest;
    for (const Index node : part) {
        if (near.degree(node) > 2)
            return false;
        if (near.degree(node) == 1) {
            end = end == none ? node : end;
            ++ends;
        }
        largest = {std::max(largest.x, graph.nodes[node].w), std::max(largest.y, graph.nodes[node].h)};
    }
    if (part.size() <= few || ends != 2)
        return false;
    const double pitchX = largest.x + 2 * besideGap, pitchY = largest.y + fanGap;
    const auto perRow = static_cast<std::size_t>(
        std::max(2.0, std::round(std::sqrt(static_cast<double>(part.size()) * pitchY * aspect / pitchX))));
    Index before = none, here = end;
    for (std::size_t i = 0; here != none; ++i) {
        const std::size_t row = i / perRow, column = row % 2 == 0 ? i % perRow : perRow - 1 - i % perRow;
        drawing.at[here] = {static_cast<double>(column) * pitchX + (largest.x - graph.nodes[here].w) / 2,
                            static_cast<double>(row) * pitchY + (largest.y - graph.nodes[here].h) / 2};
        Index next = none;
        for (const auto& to : near.of(here))
            if (to.node != before)
                next = to.node;
        before = here;
        here = next;
    }
    return true;
}

} // namespace

Composed compose(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
                 Drawing& drawing) {
    if (wish.anchor == none && toAndFro(graph, near, part, wish.aspect, drawing))
        return {Shape::tree, 0, 0, 0, 0};
    // The anchor: of the block in the middle the one of the highest tier.
    const bool across = wish.flow == Flow::right || wish.flow == Flow::left;
    Index anchor = wish.anchor != none ? wish.anchor : anchorOf(graph, near, part);
    BlockTree tree = blocksOf(graph, near, anchor);
    const Block* middle = middleBlock(tree);
    if (middle && wish.anchor == none && middle->above != anchor) {
        Index best = middle->above;
        for (const Index node : middle->nodes)
            if (std::pair{graph.nodes[node].tier, near.degree(node)} >
                std::pair{graph.nodes[best].tier, near.degree(best)})
                best = node;
        anchor = best;
        tree = blocksOf(graph, near, anchor);
        middle = middleBlock(tree);
    }
    const auto make = [&](Composer& composer) {
        if (!middle || middle->above != anchor)
            return composer.cell(anchor, across).box;
        composer.leaveOut(static_cast<Index>(middle - tree.blocks.data()));
        std::vector<Index> nodes = middle->nodes;
        nodes.push_back(anchor);
        std::sort(nodes.begin(), nodes.end());
        if (const RingOrder order = composer.ringOf(nodes, middle->edges, none); order.around() > 2) {
            composer.found.shape = Shape::ring;
            return composer.ring(order, across).box;
        }
        const std::size_t box = composer.piece(nodes, {}, across).box;
        composer.found.shape = composer.found.meshes > 0 ? Shape::mesh : Shape::ladder;
        return box;
    };
    // A few proportions for the pieces, for the whole to come near to the one wanted.
    Composed out;
    double bestOff = 1e18;
    for (const double share : {1.0, 0.6, 1.7, 0.3, 3.0}) {
        Composer composer(graph, near, tree, wish, share);
        composer.found.shape = part.size() == 1 ? Shape::single : Shape::tree;
        const std::size_t box = make(composer);
        const PointF size = composer.boxes().sizeOf(box, across ? Turn::right : Turn::down);
        // Near to that proportion where it costs little room, not far from it whatever it costs.
        const double from = std::abs(std::log(size.x / size.y / wish.aspect)), far = std::log(1.5);
        const double off = from + 3 * std::max(0.0, from - far) + 0.25 * std::log(size.x * size.y);
        if (off < bestOff - 0.01) {
            bestOff = off;
            composer.finish(box, wish.flow, part, drawing);
            out = composer.found;
        }
        const bool fits = from < 0.2;
        if (composer.found.meshes > 0 || fits)
            break; // good enough, or too dear to try more
    }
    // A ladder that lines cross is none: two poles of what is a small mesh.
    constexpr std::size_t small = 40;
    if (out.shape == Shape::ladder && out.poles <= 2 && middle->nodes.size() < small) {
        const std::size_t crossings = crossingsOf(graph, near, part, drawing);
        if (crossings > 0) {
            Composer composer(graph, near, tree, wish);
            composer.onlyMeshes();
            composer.found.shape = Shape::tree;
            Drawing other = drawing;
            for (const Index node : part)
                for (const auto& to : near.of(node))
                    other.paths[to.edge].clear();
            const std::size_t box = make(composer);
            composer.finish(box, wish.flow, part, other);
            if (crossingsOf(graph, near, part, other) < crossings) {
                drawing = std::move(other);
                out = composer.found;
            }
        }
    }
    return out;
}

Composed composeWithin(const Graph& graph, const Neighbours& near, const Wish& wish, Drawing& drawing,
                       std::vector<std::vector<PointF>>& stubs) {
    // Each part hangs on the anchor, or on the device most lines leave from.
    std::vector<int> leaving(graph.nodes.size(), 0);
    std::vector<Outward> outward;
    for (std::size_t i = 0; i < wish.outside.size(); ++i) {
        ++leaving[wish.outside[i].node];
        outward.push_back(
            {static_cast<Index>(graph.edges.size() + i), wish.outside[i].node, wish.outside[i].below});
    }
    BlockTree all;
    all.below.resize(graph.nodes.size());
    std::vector<std::vector<Index>> tops;
    std::vector<Index> leftOut;
    for (const auto& part : partsOf(graph, near)) {
        Index anchor = part.front();
        for (const Index node : part)
            if (std::tuple(leaving[node], graph.nodes[node].tier, near.degree(node)) >
                std::tuple(leaving[anchor], graph.nodes[anchor].tier, near.degree(anchor)))
                anchor = node;
        if (std::binary_search(part.begin(), part.end(), wish.anchor))
            anchor = wish.anchor;
        BlockTree tree = blocksOf(graph, near, anchor);
        const auto before = static_cast<Index>(all.blocks.size());
        std::vector<Index> top{anchor};
        std::size_t largest = 1;
        Index chosen = none;
        for (const Index block : tree.at(anchor))
            if (tree.blocks[block].nodes.size() > largest) {
                largest = tree.blocks[block].nodes.size();
                chosen = block;
            }
        if (chosen != none) {
            top.insert(top.end(), tree.blocks[chosen].nodes.begin(), tree.blocks[chosen].nodes.end());
            std::sort(top.begin(), top.end());
            leftOut.push_back(before + chosen);
        }
        tops.push_back(std::move(top));
        for (const Index node : part)
            for (const Index block : tree.at(node))
                all.below[node].push_back(before + block);
        for (Block& block : tree.blocks)
            all.blocks.push_back(std::move(block));
    }
    Composer composer(graph, near, all, wish);
    for (const Index block : leftOut)
        composer.leaveOut(block);
    const Piece whole = tops.size() == 1 ? composer.piece(tops.front(), outward, false)
                                         : composer.beside(std::move(tops), outward);
    std::vector<Index> nodes(graph.nodes.size());
    for (Index i = 0; i < nodes.size(); ++i)
        nodes[i] = i;
    composer.finish(whole.box, Flow::down, nodes, drawing);
    stubs.assign(wish.outside.size(), {});
    for (const Stub& stub : whole.stubs)
        stubs[stub.edge - graph.edges.size()] = stub.path;
    return composer.found;
}

} // namespace underridge::layout

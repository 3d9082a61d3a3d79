// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/composer.h"
#include "core/layout/layers.h"
#include "core/layout/parts.h"

#include <map>

namespace underridge::layout {
namespace {

/// A device with the leaves beside or below it, or two that are a pair.
struct Unit {
    std::vector<Index> nodes; ///< one or two
    std::vector<Cell> cells;
    std::vector<PointF> corners; ///< of the cells
    std::vector<Rect> plates;    ///< in the unit
    Turn turn = Turn::down;      ///< of its cells
    PointF size;
};

bool arePair(const Graph& graph, const Neighbours& near, Index a, Index b, const std::vector<bool>& leaf) {
    if (graph.nodes[a].tier != graph.nodes[b].tier)
        return false;
    std::vector<Index> ofA, ofB;
    for (const auto& to : near.of(a))
        if (to.node != b && !leaf[to.node])
            ofA.push_back(to.node);
    for (const auto& to : near.of(b))
        if (to.node != a && !leaf[to.node])
            ofB.push_back(to.node);
    std::sort(ofA.begin(), ofA.end());
    std::sort(ofB.begin(), ofB.end());
    std::vector<Index> both;
    std::set_intersection(ofA.begin(), ofA.end(), ofB.begin(), ofB.end(), std::back_inserter(both));
    return !both.empty() && both.size() * 2 >= std::max(ofA.size(), ofB.size());
}

} // namespace

void drawLayered(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
                 Drawing& drawing) {
    const Index anchor = wish.anchor != none ? wish.anchor : anchorOf(graph, near, part);
    const bool across = wish.flow == Flow::right || wish.flow == Flow::left;
    std::vector<bool> leaf(graph.nodes.size(), false);
    for (const Index node : part)
        leaf[node] = near.degree(node) == 1 && node != anchor &&
                     !(near.degree(near.of(node)[0].node) == 1 && near.of(node)[0].node > node);
    // Leaves hang on their device; the rest is drawn in layers.
    BlockTree tree;
    tree.below.resize(graph.nodes.size());
    for (const Index node : part)
        if (leaf[node]) {
            const auto to = near.of(node)[0];
            tree.below[to.node].push_back(static_cast<Index>(tree.blocks.size()));
            tree.blocks.push_back({to.node, {node}, {to.edge}});
        }
    Composer composer(graph, near, tree, wish);
    std::vector<Unit> units;
    std::vector<Index> unitOf(graph.nodes.size(), none);
    for (const Index node : part) {
        if (leaf[node] || unitOf[node] != none)
            continue;
        Unit unit;
        unit.nodes = {node};
        for (const auto& to : near.of(node))
            if (!leaf[to.node] && unitOf[to.node] == none && to.node > node &&
                arePair(graph, near, node, to.node, leaf)) {
                unit.nodes.push_back(to.node);
                break;
            }
        for (const Index each : unit.nodes)
            unitOf[each] = static_cast<Index>(units.size());
        units.push_back(std::move(unit));
    }
    // Layers by distance from where the network comes from: the anchor, or the highest tier.
    std::vector<int> far(graph.nodes.size(), -1);
    std::vector<Index> order;
    int highest = -1;
    for (const Index node : part)
        highest = std::max(highest, graph.nodes[node].tier);
    if (highest > 0 && wish.anchor == none)
        for (const Index node : part)
            if (graph.nodes[node].tier == highest)
                order.push_back(node);
    if (order.empty() || order.size() * 3 > part.size())
        order = {anchor};
    const std::vector<Index> sources = order;
    for (const Index source : sources)
        far[source] = 0;
    for (std::size_t i = 0; i < order.size(); ++i)
        for (const auto& to : near.of(order[i]))
            if (far[to.node] < 0) {
                far[to.node] = far[order[i]] + 1;
                order.push_back(to.node);
            }
    std::vector<Index> rank;
    for (Index i = 0; i < units.size(); ++i)
        rank.push_back(i);
    std::stable_sort(rank.begin(), rank.end(), [&](Index x, Index y) {
        const Index a = units[x].nodes.front(), b = units[y].nodes.front();
        return far[a] != far[b] || wish.keepOrder ? far[a] < far[b]
                                                  : graph.nodes[a].tier > graph.nodes[b].tier;
    });
    Layering in;
    std::vector<Index> edges;
    for (const Index node : part)
        for (const auto& to : near.of(node))
            if (!leaf[node] && !leaf[to.node] && node < to.node && unitOf[node] != unitOf[to.node]) {
                in.lines.push_back({unitOf[node], unitOf[to.node]});
                edges.push_back(to.edge);
            }
    in.layer = layersFrom(units.size(), in.lines, rank);
    std::vector<bool> leadsOn(units.size(), false);
    for (const auto& line : in.lines)
        leadsOn[in.layer[line.a] < in.layer[line.b] ? line.a : line.b] = true;
    for (std::size_t i = 0; i < units.size(); ++i) {
        Unit& unit = units[i];
        // Below where nothing else goes on downwards.
        unit.turn = leadsOn[i] || unit.nodes.size() > 1 ? Turn::right : Turn::down;
        double x = 0;
        for (std::size_t k = 0; k < unit.nodes.size(); ++k) {
            const Turn turn = unit.nodes.size() > 1 && k == 0 ? Turn::left : unit.turn;
            const Cell cell = composer.cell(unit.nodes[k], isTurned(turn) != across);
            const PointF inside = composer.boxes()[cell.box].size, size = sizeTurned(inside, turn);
            unit.cells.push_back(cell);
            unit.plates.push_back(turned(cell.plate, inside, turn));
            unit.corners.push_back({x, -unit.plates.back().y});
            x += size.x + 56;
        }
        double top = 0, bottom = 0;
        for (std::size_t k = 0; k < unit.nodes.size(); ++k) {
            top = std::min(top, unit.corners[k].y);
            bottom =
                std::max(bottom, unit.corners[k].y + composer.boxes().sizeOf(unit.cells[k].box, unit.turn).y);
        }
        for (std::size_t k = 0; k < unit.nodes.size(); ++k) {
            unit.corners[k].y -= top;
            unit.plates[k] = unit.plates[k].moved(unit.corners[k]);
        }
        unit.size = {x - 56, bottom - top};
        in.sizes.push_back(unit.size);
    }
    const auto plateIn = [&](Index node) -> const Rect& {
        const Unit& unit = units[unitOf[node]];
        return unit.plates[unit.nodes.front() == node ? 0 : 1];
    };
    for (std::size_t k = 0; k < edges.size(); ++k) {
        const Edge& edge = graph.edges[edges[k]];
        const Index a = unitOf[edge.a] == in.lines[k].a ? edge.a : edge.b, b = a == edge.a ? edge.b : edge.a;
        in.lines[k].atA = plateIn(a).centre().x;
        in.lines[k].atB = plateIn(b).centre().x;
    }
    in.gap = besideGap;
    in.ordered = wish.keepOrder;
    in.wanted = wish.wanted;
    in.sweeps = part.size() < 3000 ? 16 : 6;
    const Layered drawn = inLayers(in);

    Box box;
    box.size = drawn.size;
    for (std::size_t i = 0; i < units.size(); ++i)
        for (std::size_t k = 0; k < units[i].nodes.size(); ++k)
            box.inner.push_back({units[i].cells[k].box, drawn.at[i] + units[i].corners[k],
                                 units[i].nodes.size() > 1 && k == 0 ? Turn::left : units[i].turn});
    // Where lines leave: side by side in the order in which they go on.
    struct End {
        std::size_t line;
        bool first; ///< end a
        double towards, at = 0;
    };
    std::map<std::pair<Index, bool>, std::vector<End>> ends; // by device and side
    for (std::size_t k = 0; k < edges.size(); ++k) {
        const Edge& edge = graph.edges[edges[k]];
        const Index a = unitOf[edge.a] == in.lines[k].a ? edge.a : edge.b, b = a == edge.a ? edge.b : edge.a;
        const bool down = in.layer[in.lines[k].a] < in.layer[in.lines[k].b];
        const auto middle = [&](Index node) { return drawn.at[unitOf[node]].x + plateIn(node).centre().x; };
        const auto& bends = drawn.bends[k];
        ends[{a, down}].push_back({k, true, bends.empty() ? middle(b) : bends.front().x, 0});
        ends[{b, !down}].push_back({k, false, bends.empty() ? middle(a) : bends.back().x, 0});
    }
    std::vector<std::array<PointF, 2>> places(edges.size());
    for (auto& [key, list] : ends) {
        const auto [node, below] = key;
        std::stable_sort(list.begin(), list.end(),
                         [](const End& x, const End& y) { return x.towards < y.towards; });
        const Rect plate = plateIn(node).moved(drawn.at[unitOf[node]]);
        std::vector<double> ticks;
        for (const End& end : list) {
            const Edge& edge = graph.edges[edges[end.line]];
            ticks.push_back(across ? -1 : edge.a == node ? edge.atA : edge.atB);
        }
        const auto exits = exitsAlong(plate.x, plate.w, list.size(), ticks);
        for (std::size_t i = 0; i < list.size(); ++i)
            places[list[i].line][list[i].first ? 0 : 1] = {exits[i], below ? plate.bottom() : plate.y};
    }
    for (std::size_t k = 0; k < edges.size(); ++k) {
        Wire wire{edges[k], {places[k][0]}};
        // From a device lower than its layer is high straight to the end of the layer.
        for (const PointF p : drawn.bends[k])
            wire.path.push_back(p);
        wire.path.push_back(places[k][1]);
        box.wires.push_back(std::move(wire));
    }
    for (const Unit& unit : units)
        if (unit.nodes.size() > 1)
            for (const auto& to : near.of(unit.nodes[0]))
                if (to.node == unit.nodes[1]) {
                    const PointF at = drawn.at[unitOf[unit.nodes[0]]];
                    const Rect a = unit.plates[0].moved(at), b = unit.plates[1].moved(at);
                    box.wires.push_back({to.edge, {{a.right(), a.centre().y}, {b.x, b.centre().y}}});
                }
    composer.finish(std::move(box), wish.flow, part, drawing);
}

} // namespace underridge::layout

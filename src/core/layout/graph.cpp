// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/graph.h"

namespace underridge::layout {

Neighbours::Neighbours(const Graph& graph) : from_(graph.nodes.size() + 1), to_(graph.edges.size() * 2) {
    for (const Edge& edge : graph.edges) {
        ++from_[edge.a + 1];
        ++from_[edge.b + 1];
    }
    for (std::size_t i = 1; i < from_.size(); ++i)
        from_[i] += from_[i - 1];
    std::vector<std::size_t> next(from_.begin(), from_.end() - 1);
    for (Index i = 0; i < graph.edges.size(); ++i) {
        const Edge& edge = graph.edges[i];
        to_[next[edge.a]++] = {edge.b, i};
        to_[next[edge.b]++] = {edge.a, i};
    }
}

std::vector<std::vector<Index>> partsOf(const Graph& graph, const Neighbours& near) {
    std::vector<std::vector<Index>> parts;
    std::vector<bool> seen(graph.nodes.size());
    for (Index first = 0; first < graph.nodes.size(); ++first) {
        if (seen[first])
            continue;
        std::vector<Index> part{first};
        seen[first] = true;
        for (std::size_t i = 0; i < part.size(); ++i)
            for (const auto& to : near.of(part[i]))
                if (!seen[to.node]) {
                    seen[to.node] = true;
                    part.push_back(to.node);
                }
        std::sort(part.begin(), part.end());
        parts.push_back(std::move(part));
    }
    return parts;
}

PointF leavingSide(const Rect& plate, PointF towards) {
    const PointF c = plate.centre(), d = towards - c;
    if (std::abs(d.y) * plate.w >= std::abs(d.x) * plate.h * 1.15)
        return {c.x, d.y >= 0 ? plate.bottom() : plate.y};
    return {d.x >= 0 ? plate.right() : plate.x, c.y};
}

std::vector<PointF> pathOf(const Graph& graph, const Drawing& drawing, Index edge) {
    if (!drawing.paths[edge].empty())
        return drawing.paths[edge];
    const Rect a = plateOf(graph, drawing, graph.edges[edge].a),
               b = plateOf(graph, drawing, graph.edges[edge].b);
    return {leavingSide(a, b.centre()), leavingSide(b, a.centre())};
}

Rect boundsOf(const Graph& graph, const Drawing& drawing) {
    PointF least{1e18, 1e18}, most{-1e18, -1e18};
    const auto take = [&](PointF p) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    };
    for (Index i = 0; i < graph.nodes.size(); ++i) {
        take(drawing.at[i]);
        take(drawing.at[i] + PointF{graph.nodes[i].w, graph.nodes[i].h});
    }
    for (const auto& path : drawing.paths)
        for (const PointF p : path)
            take(p);
    return graph.nodes.empty() ? Rect{} : scene::rectBetween(least, most);
}

} // namespace underridge::layout

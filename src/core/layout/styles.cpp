// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/styles.h"

#include "core/layout/parts.h"
#include "core/layout/spring.h"

#include <array>
#include <cmath>

namespace underridge::layout {
namespace {

constexpr double partGap = 96, looseGapX = 32, looseGapY = 32;
constexpr std::array<std::string_view, 11> styleTexts{
    "suggest", "layered", "radial", "spring", "ring", "fabric", "grid", "row", "rack", "plan", "tidy"};
constexpr std::array<std::string_view, 4> flowTexts{"down", "up", "right", "left"};

template <class Word, std::size_t N>
std::optional<Word> wordFrom(const std::array<std::string_view, N>& texts, std::string_view text) {
    const auto at = std::find(texts.begin(), texts.end(), text);
    return at == texts.end() ? std::nullopt : std::optional(static_cast<Word>(at - texts.begin()));
}

/// Nodes in rows of about the proportion wanted, from a corner; how large that is.
PointF inRows(const Graph& graph, const std::vector<Index>& nodes, double aspect, PointF corner,
              Drawing& drawing) {
    double widest = 0, area = 0;
    for (const Index node : nodes) {
        const Node& n = graph.nodes[node];
        widest = std::max(widest, n.w);
        area += (n.w + looseGapX) * (n.h + looseGapY);
    }
    const double pitch = widest + looseGapX;
    const auto perRow = static_cast<std::size_t>(std::max(1.0, std::round(std::sqrt(area * aspect) / pitch)));
    double y = corner.y, height = 0;
    PointF size;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const std::size_t column = i % perRow;
        if (column == 0 && i > 0) {
            y += height + looseGapY;
            height = 0;
        }
        const Node& n = graph.nodes[nodes[i]];
        drawing.at[nodes[i]] = {corner.x + static_cast<double>(column) * pitch, y};
        height = std::max(height, n.h);
        size.x = std::max(size.x, static_cast<double>(column) * pitch + n.w);
    }
    size.y = y + height - corner.y;
    return size;
}

void drawPart(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, const Wish& wish,
              Drawing& drawing, Composed& found) {
    switch (wish.style) {
    case Style::suggest:
    case Style::fabric:
    case Style::grid:
    case Style::row:
    case Style::rack:
    case Style::plan:
    case Style::tidy:
        found = compose(graph, near, part, wish, drawing);
        return;
    case Style::layered:
        return drawLayered(graph, near, part, wish, drawing);
    case Style::radial:
        return drawRadial(graph, near, part, wish, drawing);
    case Style::spring:
        return drawSprings(graph, near, part, wish, drawing);
    case Style::ring:
        return drawRound(graph, near, part, wish, drawing);
    }
}

/// Brings middles that are nearly in line into line, along one axis.
void brought(std::vector<PointF>& middles, double PointF::*axis) {
    constexpr double nearly = 12;
    std::vector<Index> order(middles.size());
    for (Index i = 0; i < order.size(); ++i)
        order[i] = i;
    std::stable_sort(order.begin(), order.end(),
                     [&](Index a, Index b) { return middles[a].*axis < middles[b].*axis; });
    for (std::size_t from = 0, to = 0; from < order.size(); from = to) {
        double sum = 0;
        while (to < order.size() && middles[order[to]].*axis - middles[order[from]].*axis <= nearly)
            sum += middles[order[to++]].*axis;
        for (std::size_t i = from; i < to; ++i)
            middles[order[i]].*axis = sum / static_cast<double>(to - from);
    }
}

/// As it stands, nearly in line brought into line, what overlaps pushed apart.
void tidied(const Graph& graph, const std::vector<PointF>& before, Drawing& drawing) {
    Springs in;
    in.gap = 16;
    std::vector<PointF> middles;
    for (Index i = 0; i < graph.nodes.size(); ++i) {
        in.sizes.push_back({graph.nodes[i].w, graph.nodes[i].h});
        middles.push_back(before[i] + in.sizes.back() * 0.5);
    }
    for (const Edge& edge : graph.edges)
        in.lines.emplace_back(edge.a, edge.b);
    separate(in, middles);
    brought(middles, &PointF::y);
    brought(middles, &PointF::x);
    constexpr std::size_t work = 20'000'000;
    uncross(in, middles, work);
    separate(in, middles);
    for (Index i = 0; i < graph.nodes.size(); ++i)
        drawing.at[i] = middles[i] - in.sizes[i] * 0.5;
}

/// What a part takes up.
Rect boundsOfPart(const Graph& graph, const Neighbours& near, const std::vector<Index>& part,
                  const Drawing& drawing) {
    PointF least{1e18, 1e18}, most{-1e18, -1e18};
    const auto take = [&](PointF p) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    };
    for (const Index node : part) {
        take(drawing.at[node]);
        take(drawing.at[node] + PointF{graph.nodes[node].w, graph.nodes[node].h});
        for (const auto& to : near.of(node))
            for (const PointF p : drawing.paths[to.edge])
                take(p);
    }
    return scene::rectBetween(least, most);
}

void movePart(const Graph& graph, const Neighbours& near, const std::vector<Index>& part, PointF by,
              Drawing& drawing) {
    for (const Index node : part) {
        drawing.at[node] = drawing.at[node] + by;
        for (const auto& to : near.of(node))
            if (graph.edges[to.edge].a == node)
                for (PointF& p : drawing.paths[to.edge])
                    p = p + by;
    }
}

} // namespace

std::string_view textOf(Style style) {
    return styleTexts[static_cast<std::size_t>(style)];
}
std::optional<Style> styleFromText(std::string_view text) {
    return wordFrom<Style>(styleTexts, text);
}
std::string_view textOf(Flow flow) {
    return flowTexts[static_cast<std::size_t>(flow)];
}
std::optional<Flow> flowFromText(std::string_view text) {
    return wordFrom<Flow>(flowTexts, text);
}

namespace {

Arranged arrangedTight(const Graph& graph, const Wish& wish) {
    Arranged out;
    out.drawing.at.resize(graph.nodes.size());
    out.drawing.paths.resize(graph.edges.size());
    if (graph.nodes.empty())
        return out;
    const Neighbours near(graph);
    if (beginsAsItStands(wish.style) && wish.before.size() == graph.nodes.size()) {
        if (wish.style == Style::plan)
            out.drawing.at = wish.before;
        else
            tidied(graph, wish.before, out.drawing);
        return out;
    }
    if (wish.style == Style::grid || wish.style == Style::row || wish.style == Style::rack ||
        beginsAsItStands(wish.style)) {
        std::vector<Index> all(graph.nodes.size());
        for (Index i = 0; i < all.size(); ++i)
            all[i] = i;
        inRows(graph, all, wish.style == Style::row ? 1e9 : wish.aspect, {}, out.drawing);
        return out;
    }
    if (!wish.outside.empty() && wish.style == Style::suggest && wish.flow == Flow::down) {
        out.shapes.push_back(composeWithin(graph, near, wish, out.drawing, out.stubs));
        return out;
    }
    auto parts = partsOf(graph, near);
    std::vector<Index> loose;
    std::erase_if(parts, [&](const std::vector<Index>& part) {
        if (part.size() == 1)
            loose.push_back(part.front());
        return part.size() == 1;
    });
    if (!wish.keepOrder)
        std::stable_sort(parts.begin(), parts.end(),
                         [](const auto& x, const auto& y) { return x.size() > y.size(); });
    std::vector<Rect> bounds;
    double area = 0, widest = 0;
    for (const auto& part : parts) {
        Wish mine = wish;
        if (mine.anchor != none && !std::binary_search(part.begin(), part.end(), mine.anchor))
            mine.anchor = none;
        Composed found;
        drawPart(graph, near, part, mine, out.drawing, found);
        out.shapes.push_back(found);
        bounds.push_back(boundsOfPart(graph, near, part, out.drawing));
        area += (bounds.back().w + partGap) * (bounds.back().h + partGap);
        widest = std::max(widest, bounds.back().w);
    }
    // Side by side in lines, the whole about as wide as wanted.
    const double line = std::max(widest, std::sqrt(area * wish.aspect));
    double x = 0, y = 0, height = 0;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        if (x > 0 && x + bounds[i].w > line * 1.02) {
            x = 0;
            y += height + partGap;
            height = 0;
        }
        movePart(graph, near, parts[i], PointF{x - bounds[i].x, y - bounds[i].y}, out.drawing);
        x += bounds[i].w + partGap;
        height = std::max(height, bounds[i].h);
    }
    if (!loose.empty()) {
        const double below = parts.empty() ? 0 : y + height + partGap;
        const double aspect =
            parts.empty() ? wish.aspect
                          : std::max(wish.aspect, line / 64 * line / 64 / static_cast<double>(loose.size()));
        inRows(graph, loose, aspect, {0, below}, out.drawing);
    }
    return out;
}

/// Takes the end of a path from the border of a plate with room about it to the plate.
void drawIn(std::vector<PointF>& path, bool first, const Rect& plate) {
    const PointF end = first ? path.front() : path.back();
    const PointF at{std::clamp(end.x, plate.x, plate.right()), std::clamp(end.y, plate.y, plate.bottom())};
    if (at == end)
        return;
    PointF& last = first ? path.front() : path.back();
    const PointF next = first ? path[1] : path[path.size() - 2];
    // Straight on where that leads to the plate, else by a bend.
    const bool along = std::abs(next.x - end.x) < 0.5   ? at.x == end.x
                       : std::abs(next.y - end.y) < 0.5 ? at.y == end.y
                                                        : true;
    if (along)
        last = at;
    else
        path.insert(first ? path.begin() : path.end(), at);
}

} // namespace

Arranged arranged(const Graph& graph, const Wish& wish) {
    const double more = (std::clamp(wish.spacing, 0.5, 3.0) - 1) * 60;
    if (std::abs(more) < 0.5)
        return arrangedTight(graph, wish);
    // Distances are between plates: everything is arranged as if those were larger.
    Graph roomy = graph;
    for (Node& node : roomy.nodes) {
        node.w = std::max(20.0, node.w + more);
        node.h = std::max(14.0, node.h + more * 0.8);
    }
    const auto margin = [&](Index i) {
        return PointF{roomy.nodes[i].w - graph.nodes[i].w, roomy.nodes[i].h - graph.nodes[i].h} * 0.5;
    };
    for (Edge& edge : roomy.edges) {
        edge.atA += edge.atA >= 0 ? margin(edge.a).x : 0;
        edge.atB += edge.atB >= 0 ? margin(edge.b).x : 0;
    }
    Wish asked = wish;
    for (Index i = 0; i < asked.before.size() && i < graph.nodes.size(); ++i)
        asked.before[i] = asked.before[i] - margin(i);
    Arranged out = arrangedTight(roomy, asked);
    for (Index i = 0; i < graph.nodes.size(); ++i)
        out.drawing.at[i] = out.drawing.at[i] + margin(i);
    for (Index i = 0; i < graph.edges.size(); ++i)
        if (auto& path = out.drawing.paths[i]; path.size() > 1) {
            drawIn(path, true, plateOf(graph, out.drawing, graph.edges[i].a));
            drawIn(path, false, plateOf(graph, out.drawing, graph.edges[i].b));
        }
    for (std::size_t i = 0; i < out.stubs.size(); ++i)
        if (out.stubs[i].size() > 1)
            drawIn(out.stubs[i], false, plateOf(graph, out.drawing, wish.outside[i].node));
    return out;
}

} // namespace underridge::layout

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/measures.h"

#include "core/layout/buckets.h"
#include "core/scene/crossing.h"

#include <array>
#include <numbers>

namespace underridge::layout {
namespace {

struct Segment {
    PointF from, to;
    Index line = 0;
};

/// Where two segments cross, inside both.
bool crossingOf(const Segment& s, const Segment& t, PointF& where) {
    const auto share = scene::crossingShare(s.from, s.to, t.from, t.to);
    if (share)
        where = s.from + (s.to - s.from) * *share;
    return share.has_value();
}

bool near(PointF a, PointF b) {
    return std::abs(a.x - b.x) < 1 && std::abs(a.y - b.y) < 1;
}

std::size_t crossingsOf(std::span<const DrawnLine> lines, const std::vector<Segment>& segments,
                        const Buckets& grid) {
    std::size_t count = 0;
    for (std::size_t cell = 0; cell < grid.count(); ++cell)
        for (const Index i : grid.in(cell)) {
            const Segment& s = segments[i];
            for (const Index j : grid.in(cell)) {
                if (j >= i)
                    continue;
                const Segment& t = segments[j];
                PointF where;
                if (s.line == t.line || !crossingOf(s, t, where) || grid.cellAt(where) != cell)
                    continue;
                const DrawnLine &one = lines[s.line], &two = lines[t.line];
                // Lines that end in the same point meet there, they do not cross; at a bend a
                // crossing is counted once.
                const bool ends = (near(where, one.path.front()) || near(where, one.path.back())) &&
                                  (near(where, two.path.front()) || near(where, two.path.back()));
                count += !ends && where != s.to && where != t.to;
            }
        }
    return count;
}

double angles(std::span<const Rect> plates, std::span<const DrawnLine> lines) {
    std::vector<std::vector<double>> at(plates.size());
    for (const DrawnLine& line : lines) {
        if (line.path.size() < 2)
            continue;
        const auto turn = [](PointF from, PointF to) { return std::atan2(to.y - from.y, to.x - from.x); };
        if (line.a < plates.size())
            at[line.a].push_back(turn(plates[line.a].centre(), line.path[1]));
        if (line.b < plates.size())
            at[line.b].push_back(turn(plates[line.b].centre(), line.path[line.path.size() - 2]));
    }
    double sum = 0;
    std::size_t count = 0;
    for (auto& each : at) {
        if (each.size() < 2)
            continue;
        std::sort(each.begin(), each.end());
        double least = each.front() + 2 * std::numbers::pi - each.back();
        for (std::size_t i = 1; i < each.size(); ++i)
            least = std::min(least, each[i] - each[i - 1]);
        sum += least / (2 * std::numbers::pi / static_cast<double>(each.size()));
        ++count;
    }
    return count == 0 ? 1 : sum / static_cast<double>(count);
}

} // namespace

Measures measured(std::span<const Rect> plates, std::span<const DrawnLine> lines) {
    Measures out;
    Rect all;
    for (const Rect& plate : plates)
        all = all.united(plate);
    std::vector<Segment> segments;
    for (Index i = 0; i < lines.size(); ++i)
        for (std::size_t k = 0; k + 1 < lines[i].path.size(); ++k)
            segments.push_back({lines[i].path[k], lines[i].path[k + 1], i});
    for (const Segment& s : segments)
        all = all.united(scene::rectBetween(s.from, s.to).grown(1));
    out.area = all.w * all.h;
    out.aspect = all.empty() ? 1 : all.w / all.h;

    Buckets grid(all, sideFor(all, segments.size() * 2));
    for (Index i = 0; i < segments.size(); ++i)
        grid.along(segments[i].from, segments[i].to, [&](std::size_t cell) { grid.add(cell, i); });
    out.crossings = crossingsOf(lines, segments, grid);

    Buckets places(all, sideFor(all, plates.size()));
    for (Index i = 0; i < plates.size(); ++i)
        places.over(plates[i], [&](std::size_t cell) {
            for (const Index j : places.in(cell)) {
                const Rect both = plates[i].common(plates[j]);
                out.overlaps += !both.empty() && places.cellAt({both.x, both.y}) == cell;
            }
            places.add(cell, i);
        });

    std::vector<bool> through(lines.size());
    for (const Segment& s : segments)
        if (!through[s.line])
            places.along(s.from, s.to, [&](std::size_t cell) {
                for (const Index plate : places.in(cell))
                    if (plate != lines[s.line].a && plate != lines[s.line].b &&
                        scene::segmentMeets(s.from, s.to, plates[plate].grown(-1)))
                        through[s.line] = true;
            });
    out.linksThroughDevices = static_cast<std::size_t>(std::count(through.begin(), through.end(), true));

    double sum = 0, squares = 0;
    for (const DrawnLine& line : lines) {
        const double length = scene::pathLength(line.path);
        sum += length;
        squares += length * length;
    }
    if (!lines.empty()) {
        const double n = static_cast<double>(lines.size());
        out.edgeLength = sum / n;
        out.edgeLengthVariation =
            sum > 0 ? std::sqrt(std::max(0.0, squares / n - sum * sum / n / n)) * n / sum : 0;
    }
    out.angularResolution = angles(plates, lines);
    return out;
}

std::vector<Rect> platesOf(const Graph& graph, const Drawing& drawing) {
    std::vector<Rect> plates;
    for (Index i = 0; i < graph.nodes.size(); ++i)
        plates.push_back(plateOf(graph, drawing, i));
    return plates;
}

std::vector<DrawnLine> linesOf(const Graph& graph, const Drawing& drawing) {
    std::vector<DrawnLine> lines;
    for (Index i = 0; i < graph.edges.size(); ++i)
        lines.push_back({pathOf(graph, drawing, i), graph.edges[i].a, graph.edges[i].b});
    return lines;
}

Measures measured(const Graph& graph, const Drawing& drawing) {
    return measured(platesOf(graph, drawing), linesOf(graph, drawing));
}

double stressOf(const Graph& graph, const Drawing& drawing) {
    const std::size_t n = graph.nodes.size();
    if (n < 2)
        return 0;
    const Neighbours near(graph);
    const std::size_t step = std::max<std::size_t>(1, n / 64);
    double drawnByGraph = 0, squares = 0, pairs = 0;
    std::vector<std::array<double, 2>> all; // distance in the graph, drawn
    for (Index from = 0; from < n; from += static_cast<Index>(step)) {
        std::vector<int> far(n, -1);
        std::vector<Index> queue{from};
        far[from] = 0;
        for (std::size_t i = 0; i < queue.size(); ++i)
            for (const auto& to : near.of(queue[i]))
                if (far[to.node] < 0) {
                    far[to.node] = far[queue[i]] + 1;
                    queue.push_back(to.node);
                }
        for (const Index to : queue)
            if (to != from)
                all.push_back(
                    {static_cast<double>(far[to]), scene::length(plateOf(graph, drawing, to).centre() -
                                                                 plateOf(graph, drawing, from).centre())});
    }
    for (const auto& [d, drawn] : all) {
        drawnByGraph += drawn / d;
        squares += drawn * drawn / d / d;
        ++pairs;
    }
    const double scale = squares > 0 ? drawnByGraph / squares : 1;
    double stress = 0;
    for (const auto& [d, drawn] : all)
        stress += (drawn * scale / d - 1) * (drawn * scale / d - 1);
    return pairs > 0 ? stress / pairs : 0;
}

} // namespace underridge::layout

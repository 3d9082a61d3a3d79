// SPDX-License-Identifier: GPL-3.0-or-later
// Devices joined to the same few others. Those, the poles, stand at one height, half of them
// on the left and half on the right, with their mutual links straight between them; what is
// joined to them stands in rows between the two halves, below them, and above them too where
// there are more than two. Lines from the left come to a row from above, those from the right
// from below. Of K(2,n) none cross; of K(m,n) no more than Zarankiewicz (1954) counts for a
// drawing with both sides in halves: m/2 (m-1)/2 n/2 (n-1)/2, each rounded down.
#include "core/layout/composer.h"

#include <cmath>

namespace underridge::layout {
namespace {

constexpr double poleGap = 28;
constexpr std::size_t beyond = ~std::size_t{0}; ///< of no pole: the line leaves the piece

/// A line from a pole to a row.
struct Run {
    Index edge = 0;
    std::size_t pole = 0;     ///< in its half
    std::size_t row = 0;      ///< 0 is next to the poles
    bool upper = false;       ///< of the row
    std::vector<PointF> path; ///< from the border of the box to the plate
    double exit = 0, track = 0;
    double x() const { return path.front().x; }
};

struct Row {
    std::vector<std::size_t> pieces; ///< in `between`
    double width = -besideGap, height = 0;
    std::size_t above = 0, below = 0; ///< lines on each side
    double full() const {
        return height + trackMargin * 2 + trackPitch * static_cast<double>(above + below) + rowGap;
    }
};

} // namespace

Piece Composer::ladder(const Poles& poles, const std::vector<Outward>& outward, bool turned) {
    enum Side { left, right };
    const std::vector<Index>* halves[2] = {&poles.left, &poles.right};
    const bool both = outward.empty() && poles.left.size() + poles.right.size() > 2;

    // Which half a pole is in, and its place there.
    std::vector<std::pair<Index, std::pair<Side, std::size_t>>> placeOfPole;
    for (const Side side : {left, right})
        for (std::size_t i = 0; i < halves[side]->size(); ++i)
            placeOfPole.push_back({(*halves[side])[i], {side, i}});
    std::sort(placeOfPole.begin(), placeOfPole.end());
    const auto poleOf = [&](Index node) -> const std::pair<Side, std::size_t>* {
        const auto at = std::lower_bound(placeOfPole.begin(), placeOfPole.end(), node,
                                         [](const auto& x, Index n) { return x.first < n; });
        return at != placeOfPole.end() && at->first == node ? &at->second : nullptr;
    };

    const auto poleAt = [&](Index edge) -> const std::pair<Side, std::size_t>* {
        if (edge >= graph_.edges.size())
            return nullptr;
        const auto* a = poleOf(graph_.edges[edge].a);
        return a ? a : poleOf(graph_.edges[edge].b);
    };

    // The pieces between, the first half of them in the upper rows.
    const std::size_t count = poles.between.size();
    const std::size_t uppers = both ? count / 2 : 0;
    std::vector<Piece> pieces;
    std::vector<PointF> sizes;
    for (std::size_t i = 0; i < count; ++i) {
        const bool upper = i < uppers;
        std::vector<Outward> lines;
        std::vector<std::pair<std::size_t, Outward>> sorted[2];
        for (const Index node : poles.between[i])
            for (const auto& to : near_.of(node))
                if (const auto* pole = poleOf(to.node))
                    sorted[pole->first].push_back({pole->second + 1, {to.edge, node, pole->first == right}});
        for (const Outward& line : outward) // round the outside
            if (std::binary_search(poles.between[i].begin(), poles.between[i].end(), line.inner))
                sorted[line.below ? right : left].push_back({line.below ? beyond : 0, line});
        for (const Side side : {left, right}) {
            const bool backwards = (side == left) == upper;
            std::stable_sort(sorted[side].begin(), sorted[side].end(), [&](const auto& x, const auto& y) {
                return backwards ? x.first > y.first : x.first < y.first;
            });
            for (const auto& [place, line] : sorted[side])
                lines.push_back(line);
        }
        pieces.push_back(piece(poles.between[i], lines, turned));
        sizes.push_back(boxes_[pieces.back().box].size);
    }

    // The cells of the poles: what hangs on them lies outwards.
    struct Pole {
        Cell cell;
        PointF size;
        Rect plate; ///< turned, in its cell
        double x = 0, y = 0;
        Rect frame; ///< of the plate
        bool bare = true;
    };
    std::vector<Pole> standing[2];
    double band = 0;
    for (const Side side : {left, right})
        for (const Index node : *halves[side]) {
            Pole pole;
            const Turn turn = side == left ? Turn::left : Turn::right;
            pole.cell = cell(node, !turned);
            const PointF inside = boxes_[pole.cell.box].size;
            pole.size = sizeTurned(inside, turn);
            pole.plate = layout::turned(pole.cell.plate, inside, turn);
            pole.bare = boxes_[pole.cell.box].inner.empty();
            const double middle = pole.plate.y + pole.plate.h / 2;
            band = std::max({band, middle, pole.size.y - middle});
            standing[side].push_back(std::move(pole));
        }

    // Rows that make the whole come near to the proportion wanted.
    double poleWidth = 0, total = 0, widest = 0;
    for (const Side side : {left, right})
        for (const Pole& pole : standing[side])
            poleWidth += pole.size.x + poleGap;
    for (const PointF size : sizes) {
        total += size.x + besideGap;
        widest = std::max(widest, size.x);
    }
    const auto rowsFor = [&](double most, std::size_t from, std::size_t to) {
        std::vector<Row> rows;
        for (std::size_t i = from; i < to; ++i) {
            if (rows.empty() || (rows.back().width > 0 && rows.back().width + besideGap + sizes[i].x > most))
                rows.emplace_back();
            Row& row = rows.back();
            row.pieces.push_back(i);
            row.width += besideGap + sizes[i].x;
            row.height = std::max(row.height, sizes[i].y);
            for (const Stub& stub : pieces[i].stubs)
                ++(stub.below ? row.below : row.above);
        }
        return rows;
    };
    std::vector<Row> rows[2]; // lower, upper; from the poles outwards
    double bestOff = 1e18;
    for (double most = total + 1; count > 0; most /= 1.12) {
        std::vector<Row> tried[2] = {rowsFor(std::max(most, widest), uppers, count),
                                     rowsFor(std::max(most, widest), 0, uppers)};
        double w = 0, h = 2 * band;
        for (const auto& each : tried)
            for (const Row& row : each) {
                w = std::max(w, row.width);
                h += row.full();
            }
        const double off = std::abs(std::log((w + poleWidth) / h / wish(turned)));
        if (off < bestOff) {
            bestOff = off;
            for (const int i : {0, 1})
                rows[i] = std::move(tried[i]);
        }
        if (most < widest)
            break;
    }
    for (const int half : {0, 1}) { // as many rows, the last as full as the others
        auto& best = rows[half];
        double width = 0;
        for (const Row& row : best)
            width = std::max(width, row.width);
        for (double most = width - 1; most >= widest && best.size() > 1; most -= std::max(8.0, most / 40)) {
            auto even = rowsFor(most, half == 0 ? uppers : 0, half == 0 ? count : uppers);
            if (even.size() > best.size())
                break;
            best = std::move(even);
        }
    }
    std::reverse(rows[1].begin(), rows[1].end()); // read from above, counted from the poles

    // Where everything stands: the poles about y = 0, the rows between x = 0 and `inside`.
    double inside = 0;
    for (const auto& each : rows)
        for (const Row& row : each)
            inside = std::max(inside, row.width);
    inside = std::max(inside, count == 0 ? 60.0 : 0.0) + 2 * besideGap;
    double x = -poleGap / 2;
    for (std::size_t i = standing[left].size(); i-- > 0;) {
        Pole& pole = standing[left][i];
        x -= pole.size.x;
        pole.x = x;
        x -= poleGap;
    }
    const double leftmost = x + poleGap;
    x = inside + poleGap / 2;
    for (Pole& pole : standing[right]) {
        pole.x = x;
        x += pole.size.x + poleGap;
    }
    const double rightmost = x - poleGap;
    Box box;
    Piece out;
    for (const Side side : {left, right})
        for (Pole& pole : standing[side]) {
            pole.y = -(pole.plate.y + pole.plate.h / 2);
            pole.frame = pole.plate.moved({pole.x, pole.y});
            box.inner.push_back({pole.cell.box, {pole.x, pole.y}, side == left ? Turn::left : Turn::right});
        }

    std::vector<Run> runs[2];       // by half of the poles
    double edge[2] = {band, -band}; // how far down and up anything is
    for (const bool upper : {false, true})
        for (std::size_t r = 0; r < rows[upper].size(); ++r) {
            const Row& row = rows[upper][r];
            const double zoneAbove = trackMargin + trackPitch * static_cast<double>(row.above) +
                                     (row.above ? trackMargin : 0),
                         zoneBelow = trackMargin + trackPitch * static_cast<double>(row.below) +
                                     (row.below ? trackMargin : 0);
            const double top = upper ? edge[1] - zoneBelow - row.height : edge[0] + zoneAbove;
            edge[upper] = upper ? top - zoneAbove : top + row.height + zoneBelow;
            std::size_t first[2] = {runs[0].size(), runs[1].size()};
            double at = besideGap + (inside - 2 * besideGap - row.width) / 2;
            for (const std::size_t i : row.pieces) {
                box.inner.push_back({pieces[i].box, {at, top}, Turn::down});
                for (const Stub& stub : pieces[i].stubs) {
                    const auto* pole = poleAt(stub.edge);
                    Run run{stub.edge, pole ? pole->second : beyond, r, upper, stub.path, 0, 0};
                    for (PointF& p : run.path)
                        p = p + PointF{at, top};
                    runs[pole ? pole->first : stub.below ? right : left].push_back(std::move(run));
                }
                at += sizes[i].x + besideGap;
            }
            // Tracks: from the left the farther the higher, from the right the farther the lower.
            for (const Side side : {left, right}) {
                auto from = runs[side].begin() + static_cast<std::ptrdiff_t>(first[side]);
                std::sort(from, runs[side].end(), [](const Run& p, const Run& q) { return p.x() < q.x(); });
                const auto n = static_cast<double>(runs[side].end() - from);
                double k = 0;
                for (auto run = from; run != runs[side].end(); ++run, ++k)
                    run->track = side == left ? top - trackMargin - trackPitch * k
                                              : top + row.height + trackMargin + trackPitch * (n - 1 - k);
            }
        }

    // Where lines leave the poles, so that those of one pole never cross.
    for (const Side side : {left, right})
        for (std::size_t i = 0; i < standing[side].size(); ++i)
            for (const bool upper : {false, true}) {
                std::vector<Run*> mine;
                for (Run& run : runs[side])
                    if (run.pole == i && run.upper == upper)
                        mine.push_back(&run);
                std::sort(mine.begin(), mine.end(), [&](const Run* p, const Run* q) {
                    if (p->row != q->row)
                        return side == left ? p->row > q->row : p->row < q->row;
                    return (side == left) != upper || (side == right && upper) ? p->x() < q->x()
                                                                               : p->x() > q->x();
                });
                const Rect& frame = standing[side][i].frame;
                std::vector<double> ticks;
                for (const Run* run : mine)
                    ticks.push_back(tickOf(run->edge, (*halves[side])[i], turned));
                const auto exits = exitsAlong(frame.x, frame.w, mine.size(), ticks);
                for (std::size_t k = 0; k < mine.size(); ++k)
                    mine[k]->exit = exits[k];
            }
    for (const Side side : {left, right})
        for (Run& run : runs[side]) {
            if (run.pole == beyond)
                continue;
            const Rect& frame = standing[side][run.pole].frame;
            Wire wire{run.edge, {{run.exit, run.upper ? frame.y : frame.bottom()}}};
            wire.path.push_back({run.exit, run.track});
            wire.path.push_back({run.x(), run.track});
            wire.path.insert(wire.path.end(), run.path.begin(), run.path.end());
            box.wires.push_back(std::move(wire));
        }

    // Mutual links: straight where nothing stands between, else over the others.
    const auto frameOf = [&](Index node) -> const Rect& {
        const auto* place = poleOf(node);
        return standing[place->first][place->second].frame;
    };
    double over = -band;
    double top = std::min(edge[1], -band), bottom = edge[0];
    for (const auto& [node, place] : placeOfPole)
        for (const auto& to : near_.of(node)) {
            const auto* other = poleOf(to.node);
            if (!other || node > to.node)
                continue;
            Rect a = frameOf(node), b = frameOf(to.node);
            if (a.x > b.x)
                std::swap(a, b);
            const bool straight =
                place.first == other->first
                    ? place.second + 1 == other->second || other->second + 1 == place.second
                    : (place.first == left ? place.second + 1 == standing[left].size() && other->second == 0
                                           : other->second + 1 == standing[left].size() && place.second == 0);
            const bool bare =
                standing[place.first][place.second].bare && standing[other->first][other->second].bare;
            Wire wire{to.edge, {}};
            if (straight && (bare || place.first != other->first)) {
                const double y = 0;
                wire.path = {{a.right(), y}, {b.x, y}};
            } else {
                over -= trackPitch;
                const double fromX = a.x + a.w * 0.7, toX = b.x + b.w * 0.3;
                wire.path = {{fromX, a.y}, {fromX, over}, {toX, over}, {toX, b.y}};
                top = std::min(top, over - trackPitch);
            }
            box.wires.push_back(std::move(wire));
        }

    // Lines outwards: over the upper border straight up from a pole; over the lower one
    // round the outside, and into the pole from above or from its free side.
    struct Out {
        const Outward* line;
        Side side;
        std::size_t pole;
    };
    std::vector<Out> up, down;
    for (const Outward& line : outward)
        if (const auto* pole = poleOf(line.inner))
            (line.below ? down : up).push_back({&line, pole->first, pole->second});
    double least = leftmost, most = rightmost;
    for (const Side side : {left, right})
        for (std::size_t i = 0; i < standing[side].size(); ++i) {
            std::vector<const Out*> mine, round;
            for (const Out& each : up)
                if (each.side == side && each.pole == i)
                    mine.push_back(&each);
            for (const Out& each : down)
                if (each.side == side && each.pole == i)
                    round.push_back(&each);
            const Rect& frame = standing[side][i].frame;
            const bool outermost = side == left ? i == 0 : i + 1 == standing[side].size();
            const bool aside = outermost && standing[side][i].bare;
            const std::size_t exitsUp = mine.size() + (aside ? 0 : round.size());
            const auto exits = exitsAlong(frame.x, frame.w, exitsUp);
            std::size_t k = side == left && !aside ? round.size() : 0;
            for (const Out* each : mine) {
                out.stubs.push_back({each->line->edge, false, {{exits[k], 0}, {exits[k], frame.y}}});
                ++k;
            }
            k = side == left ? 0 : mine.size();
            const auto beside = exitsAlong(frame.y, frame.h, round.size());
            for (std::size_t r = 0; r < round.size(); ++r, ++k) {
                const double way = side == left ? (least -= trackPitch) : (most += trackPitch);
                Stub stub{round[r]->line->edge, true, {{way, 0}}};
                if (aside) {
                    const double high = beside[beside.size() - 1 - r];
                    stub.path.push_back({way, high});
                    stub.path.push_back({side == left ? frame.x : frame.right(), high});
                } else {
                    over -= trackPitch;
                    top = std::min(top, over - trackPitch);
                    stub.path.push_back({way, over});
                    stub.path.push_back({exits[k], over});
                    stub.path.push_back({exits[k], frame.y});
                }
                out.stubs.push_back(std::move(stub));
            }
        }
    for (const Side side : {left, right})
        for (Run& run : runs[side])
            if (run.pole == beyond) {
                const double way = side == left ? (least -= trackPitch) : (most += trackPitch);
                Stub stub{run.edge, side == right, {{way, 0}, {way, run.track}, {run.x(), run.track}}};
                stub.path.insert(stub.path.end(), run.path.begin(), run.path.end());
                out.stubs.push_back(std::move(stub));
            }
    if (!up.empty())
        top -= trackMargin;
    least -= least < leftmost ? trackPitch : 0;
    most += most > rightmost ? trackPitch : 0;
    bottom = std::max(bottom, band);
    for (Stub& stub : out.stubs)
        stub.path.front().y = stub.below ? bottom : top;

    const PointF by{-least, -top};
    for (auto& inner : box.inner)
        inner.at = inner.at + by;
    for (Wire& wire : box.wires)
        for (PointF& p : wire.path)
            p = p + by;
    for (Stub& stub : out.stubs)
        for (PointF& p : stub.path)
            p = p + by;
    box.size = {most - least, bottom - top};
    out.box = boxes_.add(std::move(box));
    ++found.ladders;
    return out;
}

Piece Composer::beside(std::vector<std::vector<Index>> pieces, const std::vector<Outward>& outward) {
    Poles nobody;
    nobody.between = std::move(pieces);
    ++depth_;
    Piece out = ladder(nobody, outward, false);
    --depth_;
    --found.ladders;
    return out;
}

Piece Composer::single(Index node, const std::vector<Outward>& outward, bool turned) {
    const Cell inside = cell(node, !turned);
    const PointF size = boxes_[inside.box].size;
    Box box;
    box.size = sizeTurned(size, Turn::right);
    const Rect plate = layout::turned(inside.plate, size, Turn::right);
    box.inner.push_back({inside.box, {0, 0}, Turn::right});
    Piece out;
    for (const bool below : {false, true}) {
        std::vector<Index> edges;
        for (const Outward& line : outward)
            if (line.below == below)
                edges.push_back(line.edge);
        std::vector<double> ticks;
        for (const Index edge : edges)
            ticks.push_back(tickOf(edge, node, turned));
        const auto exits = exitsAlong(plate.x, plate.w, edges.size(), ticks);
        for (std::size_t i = 0; i < edges.size(); ++i)
            out.stubs.push_back(
                {edges[i],
                 below,
                 {{exits[i], below ? box.size.y : 0}, {exits[i], below ? plate.bottom() : plate.y}}});
    }
    out.box = boxes_.add(std::move(box));
    return out;
}

} // namespace underridge::layout

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

enum Side { left, right };

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

/// How high the tracks of so many lines are, beside a row.
double zoneOf(std::size_t lines) {
    return lines == 0 ? trackMargin : 2 * trackMargin + trackPitch * static_cast<double>(lines);
}

/// Where a pole stands: in which half, and at which place there.
struct PolePlace {
    Side side = left;
    std::size_t place = 0;
};

} // namespace

/// One ladder in the making: the poles about y = 0, the rows between x = 0 and `inside_`.
class Composer::Ladder {
public:
    Ladder(Composer& composer, const Poles& poles, const std::vector<Outward>& outward, bool turned)
        : c_(composer), poles_(poles), outward_(outward), turned_(turned) {
        const bool both = outward.empty() && poles.left.size() + poles.right.size() > 2;
        uppers_ = both ? poles.between.size() / 2 : 0;
        for (const Side side : {left, right})
            for (std::size_t i = 0; i < half(side).size(); ++i)
                places_.push_back({half(side)[i], {side, i}});
        std::sort(places_.begin(), places_.end(),
                  [](const auto& x, const auto& y) { return x.first < y.first; });
    }

    Piece made() {
        makePieces();
        makePoles();
        chooseRows();
        placePoles();
        placeRows();
        giveExits();
        drawRuns();
        drawMutual();
        drawOutward();
        return finished();
    }

private:
    /// The cell of a pole: what hangs on it lies outwards.
    struct Pole {
        Cell cell;
        PointF size;
        Rect plate; ///< turned, in its cell
        Rect frame; ///< of the plate
        bool bare = true;
    };

    const std::vector<Index>& half(Side side) const { return side == left ? poles_.left : poles_.right; }
    const PolePlace* poleOf(Index node) const {
        const auto at = std::lower_bound(places_.begin(), places_.end(), node,
                                         [](const auto& x, Index n) { return x.first < n; });
        return at != places_.end() && at->first == node ? &at->second : nullptr;
    }
    const PolePlace* poleAt(Index edge) const {
        if (edge >= c_.graph_.edges.size())
            return nullptr;
        const PolePlace* a = poleOf(c_.graph_.edges[edge].a);
        return a ? a : poleOf(c_.graph_.edges[edge].b);
    }
    const Pole& poleAt(const PolePlace& place) const { return standing_[place.side][place.place]; }

    /// The pieces between, each with its lines in an order in which those of the poles beside one
    /// another do not cross.
    void makePieces() {
        for (std::size_t i = 0; i < poles_.between.size(); ++i) {
            const auto& nodes = poles_.between[i];
            std::vector<std::pair<std::size_t, Outward>> sorted[2];
            for (const Index node : nodes)
                for (const auto& to : c_.near_.of(node))
                    if (const PolePlace* pole = poleOf(to.node))
                        sorted[pole->side].push_back({pole->place + 1, {to.edge, node, pole->side == right}});
            for (const Outward& line : outward_) // round the outside
                if (std::binary_search(nodes.begin(), nodes.end(), line.inner))
                    sorted[line.below ? right : left].push_back({line.below ? beyond : 0, line});
            std::vector<Outward> lines;
            for (const Side side : {left, right}) {
                const bool backwards = (side == left) == (i < uppers_);
                std::stable_sort(sorted[side].begin(), sorted[side].end(), [&](const auto& x, const auto& y) {
                    return backwards ? x.first > y.first : x.first < y.first;
                });
                for (const auto& [place, line] : sorted[side])
                    lines.push_back(line);
            }
            pieces_.push_back(c_.piece(nodes, lines, turned_));
            sizes_.push_back(c_.boxes_[pieces_.back().box].size);
        }
    }

    void makePoles() {
        for (const Side side : {left, right})
            for (const Index node : half(side)) {
                Pole pole;
                const Turn turn = side == left ? Turn::left : Turn::right;
                pole.cell = c_.cell(node, !turned_);
                const PointF inside = c_.boxes_[pole.cell.box].size;
                pole.size = sizeTurned(inside, turn);
                pole.plate = layout::turned(pole.cell.plate, inside, turn);
                pole.bare = c_.boxes_[pole.cell.box].inner.empty();
                const double middle = pole.plate.y + pole.plate.h / 2;
                band_ = std::max({band_, middle, pole.size.y - middle});
                standing_[side].push_back(std::move(pole));
            }
    }

    std::vector<Row> rowsFor(double most, bool upper) const {
        std::vector<Row> rows;
        const std::size_t from = upper ? 0 : uppers_, to = upper ? uppers_ : sizes_.size();
        for (std::size_t i = from; i < to; ++i) {
            if (rows.empty() || (rows.back().width > 0 && rows.back().width + besideGap + sizes_[i].x > most))
                rows.emplace_back();
            Row& row = rows.back();
            row.pieces.push_back(i);
            row.width += besideGap + sizes_[i].x;
            row.height = std::max(row.height, sizes_[i].y);
            for (const Stub& stub : pieces_[i].stubs)
                ++(stub.below ? row.below : row.above);
        }
        return rows;
    }

    /// Rows that make the whole come near to the proportion wanted, the last as full as the others.
    void chooseRows() {
        double poleWidth = 0, total = 0, widest = 0;
        for (const auto& side : standing_)
            for (const Pole& pole : side)
                poleWidth += pole.size.x + poleGap;
        for (const PointF size : sizes_) {
            total += size.x + besideGap;
            widest = std::max(widest, size.x);
        }
        double bestOff = 1e18;
        constexpr double step = 1.12;
        for (double most = total + 1; !sizes_.empty(); most /= step) {
            std::vector<Row> tried[2] = {rowsFor(std::max(most, widest), false),
                                         rowsFor(std::max(most, widest), true)};
            double w = 0, h = 2 * band_;
            for (const auto& each : tried)
                for (const Row& row : each) {
                    w = std::max(w, row.width);
                    h += row.full();
                }
            const double off = std::abs(std::log((w + poleWidth) / h / c_.wish(turned_)));
            if (off < bestOff) {
                bestOff = off;
                for (const int i : {0, 1})
                    rows_[i] = std::move(tried[i]);
            }
            if (most < widest)
                break;
        }
        for (const bool upper : {false, true}) {
            auto& best = rows_[upper];
            double width = 0;
            for (const Row& row : best)
                width = std::max(width, row.width);
            for (double most = width - 1; most >= widest && best.size() > 1;
                 most -= std::max(8.0, most / 40)) {
                auto even = rowsFor(most, upper);
                if (even.size() > best.size())
                    break;
                best = std::move(even);
            }
        }
        std::reverse(rows_[1].begin(), rows_[1].end()); // read from above, counted from the poles
    }

    void placePoles() {
        inside_ = sizes_.empty() ? 60 : 0;
        for (const auto& half : rows_)
            for (const Row& row : half)
                inside_ = std::max(inside_, row.width);
        inside_ += 2 * besideGap;
        const auto put = [&](Side side, Pole& pole, double x) {
            const PointF corner{x, -(pole.plate.y + pole.plate.h / 2)};
            pole.frame = pole.plate.moved(corner);
            box_.inner.push_back({pole.cell.box, corner, side == left ? Turn::left : Turn::right});
        };
        double x = poleGap / 2;
        for (std::size_t i = standing_[left].size(); i-- > 0;) {
            x -= poleGap + standing_[left][i].size.x;
            put(left, standing_[left][i], x);
        }
        least_ = leftmost_ = x;
        x = inside_ - poleGap / 2;
        for (Pole& pole : standing_[right]) {
            put(right, pole, x + poleGap);
            x += poleGap + pole.size.x;
        }
        most_ = rightmost_ = x;
    }

    void placeRows() {
        bottom_ = band_;
        top_ = over_ = -band_;
        for (const bool upper : {false, true})
            for (std::size_t r = 0; r < rows_[upper].size(); ++r) {
                const Row& row = rows_[upper][r];
                const double above = zoneOf(row.above), below = zoneOf(row.below);
                const double y = upper ? top_ - below - row.height : bottom_ + above;
                (upper ? top_ : bottom_) = upper ? y - above : y + row.height + below;
                placeRow(row, r, upper, y);
            }
    }

    void placeRow(const Row& row, std::size_t number, bool upper, double y) {
        const std::size_t first[2] = {runs_[left].size(), runs_[right].size()};
        double x = besideGap + (inside_ - 2 * besideGap - row.width) / 2;
        for (const std::size_t i : row.pieces) {
            box_.inner.push_back({pieces_[i].box, {x, y}, Turn::down});
            for (const Stub& stub : pieces_[i].stubs) {
                const PolePlace* pole = poleAt(stub.edge);
                Run run{stub.edge, pole ? pole->place : beyond, number, upper, stub.path, 0, 0};
                for (PointF& p : run.path)
                    p = p + PointF{x, y};
                runs_[pole ? pole->side : stub.below ? right : left].push_back(std::move(run));
            }
            x += sizes_[i].x + besideGap;
        }
        // Tracks: from the left the farther the higher, from the right the farther the lower.
        for (const Side side : {left, right}) {
            const auto from = runs_[side].begin() + static_cast<std::ptrdiff_t>(first[side]);
            std::sort(from, runs_[side].end(), [](const Run& p, const Run& q) { return p.x() < q.x(); });
            const auto n = static_cast<double>(runs_[side].end() - from);
            double k = 0;
            for (auto run = from; run != runs_[side].end(); ++run, ++k)
                run->track = side == left ? y - trackMargin - trackPitch * k
                                          : y + row.height + trackMargin + trackPitch * (n - 1 - k);
        }
    }

    /// Where lines leave the poles, so that those of one pole never cross.
    void giveExits() {
        for (const Side side : {left, right})
            for (std::size_t i = 0; i < standing_[side].size(); ++i)
                for (const bool upper : {false, true}) {
                    std::vector<Run*> mine;
                    for (Run& run : runs_[side])
                        if (run.pole == i && run.upper == upper)
                            mine.push_back(&run);
                    // The nearest row turns off first: on the left it has the rightmost exits.
                    const bool rising = side == right ? upper : !upper;
                    std::sort(mine.begin(), mine.end(), [&](const Run* p, const Run* q) {
                        if (p->row != q->row)
                            return side == left ? p->row > q->row : p->row < q->row;
                        return rising ? p->x() < q->x() : p->x() > q->x();
                    });
                    std::vector<double> ticks;
                    for (const Run* run : mine)
                        ticks.push_back(c_.tickOf(run->edge, half(side)[i], turned_));
                    const Rect& frame = standing_[side][i].frame;
                    const auto exits = exitsAlong(frame.x, frame.w, mine.size(), ticks);
                    for (std::size_t k = 0; k < mine.size(); ++k)
                        mine[k]->exit = exits[k];
                }
    }

    void drawRuns() {
        for (const Side side : {left, right})
            for (const Run& run : runs_[side]) {
                if (run.pole == beyond)
                    continue;
                const Rect& frame = standing_[side][run.pole].frame;
                Wire wire{run.edge,
                          {{run.exit, run.upper ? frame.y : frame.bottom()},
                           {run.exit, run.track},
                           {run.x(), run.track}}};
                wire.path.insert(wire.path.end(), run.path.begin(), run.path.end());
                box_.wires.push_back(std::move(wire));
            }
    }

    /// Whether nothing stands between two poles, a on the left of b.
    bool areNext(const PolePlace& a, const PolePlace& b) const {
        if (a.side == b.side)
            return a.place + 1 == b.place && poleAt(a).bare && poleAt(b).bare;
        return a.place + 1 == standing_[left].size() && b.place == 0;
    }

    /// Links between poles: straight where nothing stands between, else over the others.
    void drawMutual() {
        for (const auto& [node, place] : places_)
            for (const auto& to : c_.near_.of(node)) {
                const PolePlace* other = poleOf(to.node);
                if (!other || node > to.node)
                    continue;
                PolePlace first = place, second = *other;
                if (poleAt(first).frame.x > poleAt(second).frame.x)
                    std::swap(first, second);
                const Rect &a = poleAt(first).frame, &b = poleAt(second).frame;
                Wire wire{to.edge, {}};
                if (areNext(first, second)) {
                    wire.path = {{a.right(), 0}, {b.x, 0}};
                } else {
                    const double y = nextOver(), from = a.x + a.w * 0.7, end = b.x + b.w * 0.3;
                    wire.path = {{from, a.y}, {from, y}, {end, y}, {end, b.y}};
                }
                box_.wires.push_back(std::move(wire));
            }
    }
    /// The next free track above the poles.
    double nextOver() {
        over_ -= trackPitch;
        top_ = std::min(top_, over_ - trackPitch);
        return over_;
    }
    /// The next free track outside the poles.
    double nextBeside(Side side) { return side == left ? least_ -= trackPitch : most_ += trackPitch; }

    /// Lines that leave the ladder: over the upper border straight up from a pole; over the lower
    /// one round the outside, and into the pole from its free side or from above; those of pieces
    /// along the tracks of their row and round the outside.
    void drawOutward() {
        bool anyUp = false;
        for (const Side side : {left, right})
            for (std::size_t i = 0; i < standing_[side].size(); ++i)
                anyUp |= drawOutwardOf(side, i);
        for (const Side side : {left, right})
            for (const Run& run : runs_[side])
                if (run.pole == beyond) {
                    const double x = nextBeside(side);
                    Stub stub{run.edge, side == right, {{x, 0}, {x, run.track}, {run.x(), run.track}}};
                    stub.path.insert(stub.path.end(), run.path.begin(), run.path.end());
                    out_.stubs.push_back(std::move(stub));
                }
        top_ -= anyUp ? trackMargin : 0;
        least_ -= least_ < leftmost_ ? trackPitch : 0;
        most_ += most_ > rightmost_ ? trackPitch : 0;
        for (Stub& stub : out_.stubs)
            stub.path.front().y = stub.below ? bottom_ : top_;
    }

    /// Of one pole; whether some go up.
    bool drawOutwardOf(Side side, std::size_t place) {
        const Pole& pole = standing_[side][place];
        const Rect& frame = pole.frame;
        std::vector<Index> up, round;
        for (const Outward& line : outward_)
            if (line.inner == half(side)[place])
                (line.below ? round : up).push_back(line.edge);
        const bool aside = pole.bare && place == (side == left ? 0 : standing_[side].size() - 1);
        const auto exits = exitsAlong(frame.x, frame.w, up.size() + (aside ? 0 : round.size()));
        std::size_t k = side == left && !aside ? round.size() : 0;
        for (const Index edge : up) {
            out_.stubs.push_back({edge, false, {{exits[k], 0}, {exits[k], frame.y}}});
            ++k;
        }
        k = side == left ? 0 : up.size();
        const auto beside = exitsAlong(frame.y, frame.h, round.size());
        for (std::size_t r = 0; r < round.size(); ++r, ++k) {
            const double x = nextBeside(side);
            Stub stub{round[r], true, {{x, 0}}};
            if (aside) {
                const double y = beside[beside.size() - 1 - r];
                stub.path.push_back({x, y});
                stub.path.push_back({side == left ? frame.x : frame.right(), y});
            } else {
                const double y = nextOver();
                stub.path.push_back({x, y});
                stub.path.push_back({exits[k], y});
                stub.path.push_back({exits[k], frame.y});
            }
            out_.stubs.push_back(std::move(stub));
        }
        return !up.empty();
    }

    /// From the origin.
    Piece finished() {
        const PointF by{-least_, -top_};
        for (auto& inner : box_.inner)
            inner.at = inner.at + by;
        for (Wire& wire : box_.wires)
            for (PointF& p : wire.path)
                p = p + by;
        for (Stub& stub : out_.stubs)
            for (PointF& p : stub.path)
                p = p + by;
        box_.size = {most_ - least_, bottom_ - top_};
        out_.box = c_.boxes_.add(std::move(box_));
        ++c_.found.ladders;
        return std::move(out_);
    }

    Composer& c_;
    const Poles& poles_;
    const std::vector<Outward>& outward_;
    bool turned_;
    std::size_t uppers_ = 0;                          ///< pieces in upper rows: the first ones
    std::vector<std::pair<Index, PolePlace>> places_; ///< by node
    std::vector<Piece> pieces_;
    std::vector<PointF> sizes_;
    std::vector<Pole> standing_[2];
    std::vector<Row> rows_[2]; ///< lower, upper; from the poles outwards
    std::vector<Run> runs_[2]; ///< by half of the poles
    double band_ = 0;          ///< half the height of the poles
    double inside_ = 0;
    double top_ = 0, bottom_ = 0, over_ = 0; ///< how far anything is; the last track above the poles
    double leftmost_ = 0, rightmost_ = 0, least_ = 0, most_ = 0; ///< of the poles; with tracks
    Box box_;
    Piece out_;
};

Piece Composer::ladder(const Poles& poles, const std::vector<Outward>& outward, bool turned) {
    return Ladder(*this, poles, outward, turned).made();
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

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/chains.h"
#include "core/layout/detours.h"
#include "core/layout/measures.h"
#include "core/layout/room.h"
#include "core/layout/spring.h"
#include "core/layout/wide.h"

#include <array>
#include <cmath>
#include <random>

namespace underridge::layout {
namespace {

/// All lines as plain numbers in rows: whoever asks how many of them a line crosses looks at
/// each, which is quicker than any index up to some thousand of them.
class Lines {
public:
    /// On which side of each line a point is, and how far; 0: on it.
    using Sides = std::vector<float>;

    explicit Lines(const Springs& in, const std::vector<PointF>& at)
        : near_(linesAt(in)),
          ends_(in.lines),
          ax_(in.lines.size()),
          ay_(ax_),
          bx_(ax_),
          by_(ax_),
          ex_(ax_),
          ey_(ax_),
          c_(ax_) {
        for (Index i = 0; i < ends_.size(); ++i)
            set(i, at[ends_[i].first], at[ends_[i].second]);
    }

    std::size_t count() const { return ends_.size(); }
    const std::vector<LineTo>& of(Index node) const { return near_[node]; }

    /// The lines of a node as it stands now.
    void bring(Index node, const std::vector<PointF>& at) {
        for (const LineTo& to : near_[node])
            set(to.line, at[ends_[to.line].first], at[ends_[to.line].second]);
    }
    /// They are crossed by none until they are brought again.
    void leaveOut(Index node) {
        for (const LineTo& to : near_[node])
            set(to.line, {}, {});
    }
    UNDERRIDGE_WIDE void sides(PointF p, Sides& out) const {
        const auto x = static_cast<float>(p.x), y = static_cast<float>(p.y);
        const std::size_t count = ends_.size();
        out.resize(count);
        const float *ex = ex_.data(), *ey = ey_.data(), *c = c_.data();
        float* side = out.data();
        for (std::size_t i = 0; i < count; ++i)
            side[i] = ex[i] * y - ey[i] * x + c[i];
    }
    /// The same of where a node stands, which is on its own lines.
    void sidesOf(Index node, PointF p, Sides& out) const {
        sides(p, out);
        for (const LineTo& to : near_[node])
            out[to.line] = 0;
    }
    /// How many lines one would cross, given on which sides its ends are.
    UNDERRIDGE_WIDE int crossed(PointF from, PointF to, const Sides& atFrom, const Sides& atTo) const {
        const auto px = static_cast<float>(from.x), py = static_cast<float>(from.y);
        const float dx = static_cast<float>(to.x) - px, dy = static_cast<float>(to.y) - py;
        const float k = dy * px - dx * py;
        const std::size_t count = ends_.size();
        const float *ax = ax_.data(), *ay = ay_.data(), *bx = bx_.data(), *by = by_.data(),
                    *sideFrom = atFrom.data(), *sideTo = atTo.data();
        int out = 0;
        for (std::size_t i = 0; i < count; ++i) {
            const float a = dx * ay[i] - dy * ax[i] + k, b = dx * by[i] - dy * bx[i] + k;
            out += (a * b < 0.0F) & (sideFrom[i] * sideTo[i] < 0.0F);
        }
        return out;
    }

private:
    void set(Index line, PointF a, PointF b) {
        ax_[line] = static_cast<float>(a.x);
        ay_[line] = static_cast<float>(a.y);
        bx_[line] = static_cast<float>(b.x);
        by_[line] = static_cast<float>(b.y);
        ex_[line] = bx_[line] - ax_[line];
        ey_[line] = by_[line] - ay_[line];
        c_[line] = ey_[line] * ax_[line] - ex_[line] * ay_[line];
    }

    std::vector<std::vector<LineTo>> near_;
    std::vector<std::pair<Index, Index>> ends_;
    std::vector<float> ax_, ay_, bx_, by_;
    std::vector<float> ex_, ey_, c_; ///< from a to b, and what makes its own points 0
};

/// One node after the other tries places about its neighbours and takes those where its lines
/// cross fewer others; at first a few more are taken, too, so that it does not end where no
/// single move helps (Kirkpatrick, Gelatt and Vecchi 1983).
class Untangling {
public:
    Untangling(const Springs& in, std::vector<PointF>& at, std::size_t work)
        : in_(in),
          at_(at),
          work_(work),
          lines_(in, at),
          all_(scene::boundsOf(at).grown(1)),
          far_(at.size() <= 24 ? 0.65 : 0.8),
          room_(at, in.sizes, in.gap * 0.6),
          random_(in.seed + 17) {}

    void run() {
        std::vector<Index> order;
        for (Index v = 0; v < at_.size(); ++v)
            if (!lines_.of(v).empty())
                order.push_back(v);
        // Hubs first: the others find their places about them.
        std::stable_sort(order.begin(), order.end(),
                         [&](Index a, Index b) { return lines_.of(a).size() > lines_.of(b).size(); });
        constexpr int settled = 8;
        for (int idle = 0; idle < settled && goesOn(); ++idle)
            for (const Index v : order) {
                if (!goesOn())
                    break;
                if (tried(v))
                    idle = -1;
            }
    }

private:
    bool goesOn() const { return looked_ < work_ && in_.goesOn(); }
    double unit() { return unitOf(random_); }

    /// How many lines those of a node cross if it stands there; any number from `most` on where
    /// they are that many.
    int crossedAt(Index v, PointF p, int most) {
        const auto& near = lines_.of(v);
        lines_.sides(p, here_);
        looked_ += lines_.count() / 2 + each;
        int count = 0;
        for (std::size_t k = 0; k < near.size() && count < most; ++k) {
            const std::size_t held = near.size() > kept ? 0 : k;
            if (near.size() > kept)
                look(near[k].node, ends_[0]);
            count += lines_.crossed(p, at_[near[k].node], here_, ends_[held]);
            looked_ += lines_.count() + each;
        }
        return count;
    }
    void look(Index node, Lines::Sides& out) {
        lines_.sidesOf(node, at_[node], out);
        looked_ += lines_.count() / 2 + each;
    }

    /// Somewhere about its neighbours, one of them, or where it stands.
    PointF somewhere(Index v, PointF mean, int turn, double wander) {
        const auto& near = lines_.of(v);
        const PointF centre = turn < tries / 2   ? mean
                              : turn < tries - 2 ? at_[near[random_() % near.size()].node]
                                                 : at_[v];
        const double far = (0.05 + unit()) * wander;
        const PointF p = centre + PointF{(2 * unit() - 1) * far, (1.4 * unit() - 0.7) * far};
        return {std::clamp(p.x, all_.x, all_.right()), std::clamp(p.y, all_.y, all_.bottom())};
    }

    /// Whether it moved.
    bool tried(Index v) {
        const double done = static_cast<double>(looked_) / static_cast<double>(work_);
        const double wander = std::max(all_.w, all_.h) * far_ * std::exp(-3 * done);
        const double heat = 0.5 * (1 - done) * (1 - done); // in crossings
        const auto& near = lines_.of(v);
        lines_.leaveOut(v);
        PointF mean;
        for (std::size_t k = 0; k < near.size(); ++k) {
            mean = mean + at_[near[k].node] * (1.0 / static_cast<double>(near.size()));
            if (near.size() <= kept)
                look(near[k].node, ends_[k]);
        }
        int count = crossedAt(v, at_[v], 1 << 30);
        PointF best = at_[v];
        for (int turn = 0; turn < tries && count > 0; ++turn) {
            const PointF p = somewhere(v, mean, turn, wander);
            looked_ += eachTry;
            if (!room_.isFree(v, p))
                continue;
            const int most = count + static_cast<int>(-heat * std::log(unit() + 1e-12));
            if (const int now = crossedAt(v, p, most + 1); now <= most) {
                count = now;
                best = p;
            }
        }
        const bool moves = best != at_[v];
        if (moves) {
            room_.move(v, best);
            at_[v] = best;
        }
        lines_.bring(v, at_);
        return moves;
    }

    static constexpr std::size_t kept = 8; ///< neighbours whose sides are kept while a node tries
    static constexpr int tries = 8;
    static constexpr std::size_t each = 80, eachTry = 120; ///< what it takes to ask, in lines

    const Springs& in_;
    std::vector<PointF>& at_;
    std::size_t work_, looked_ = 0;
    Lines lines_;
    Rect all_;
    double far_; ///< a node may go at first, in widths of the whole; found by trying
    Room room_;
    std::mt19937_64 random_;
    Lines::Sides here_;
    std::array<Lines::Sides, kept> ends_;
};

} // namespace

void untangle(const Springs& in, std::vector<PointF>& at, std::size_t work) {
    if (at.size() >= 4 && !in.lines.empty() && work > 0)
        Untangling(in, at, work).run();
}

void uncross(const Springs& in, std::vector<PointF>& at, std::size_t work) {
    const auto n = static_cast<Index>(at.size());
    Lines lines(in, at);
    Room room(at, in.sizes, in.gap);
    std::size_t looked = 0;
    Lines::Sides here, there;
    const auto crossed = [&](Index v) {
        int count = 0;
        lines.sidesOf(v, at[v], here);
        for (const auto& [line, to] : lines.of(v)) {
            lines.sidesOf(to, at[to], there);
            count += lines.crossed(at[v], at[to], here, there);
            looked += 2 * lines.count();
        }
        return count;
    };
    const auto bring = [&](Index v) {
        lines.bring(v, at);
        room.move(v, at[v]);
    };
    const auto isFree = [&](Index v) {
        looked += n / 4;
        return room.isFree(v, at[v]);
    };
    /// Of those that stand in line with a node the nearest behind it, along an axis; n: none.
    const auto next = [&](Index v, double PointF::*along, double PointF::*across) {
        Index best = n;
        for (Index j = 0; j < n; ++j)
            if (std::abs(at[j].*across - at[v].*across) < 1 && at[j].*along > at[v].*along &&
                (best == n || at[j].*along < at[best].*along))
                best = j;
        looked += n;
        const double most = 3 * (in.sizes[v].*along + in.gap);
        return best < n && at[best].*along - at[v].*along < most ? best : n;
    };
    bool better = true;
    for (int round = 0; round < 6 && better && looked < work; ++round) {
        better = false;
        for (Index v = 0; v < n && looked < work; ++v) {
            if (lines.of(v).empty())
                continue;
            const int now = crossed(v);
            if (now == 0)
                continue;
            for (const bool across : {true, false}) {
                const Index w = across ? next(v, &PointF::x, &PointF::y) : next(v, &PointF::y, &PointF::x);
                if (w == n)
                    continue;
                const auto both = [&] { return crossed(v) + crossed(w); };
                const auto change = [&] {
                    std::swap(at[v], at[w]);
                    bring(v);
                    bring(w);
                };
                const int before = both();
                change();
                const bool fits = isFree(v) && isFree(w);
                if (fits && both() < before)
                    better = true;
                else
                    change();
            }
            const PointF from = at[v];
            PointF best = from;
            int least = crossed(v);
            const PointF size = in.sizes[v] + PointF{in.gap, in.gap};
            for (const PointF by : {PointF{size.x, 0}, {-size.x, 0}, {0, size.y}, {0, -size.y}}) {
                at[v] = from + by;
                bring(v);
                if (const int count = crossed(v); count < least && isFree(v)) {
                    least = count;
                    best = at[v];
                }
            }
            better |= best != from;
            at[v] = best;
            bring(v);
        }
    }
}

namespace {

std::vector<PointF> untangled(const Springs& in, std::size_t work) {
    const Branches branches = branchesOf(in);
    constexpr std::size_t least = 40; // fewer are quicker looked at as they are
    auto middles = byStress(in);
    if (branches.nodes.size() < least || branches.chains.empty()) {
        separate(in, middles);
        untangle(in, middles, work);
        return middles;
    }
    std::vector<PointF> where;
    for (const Index node : branches.nodes)
        where.push_back(middles[node]);
    separate(branches.springs, where);
    const std::size_t first = work / 5 * 3;
    untangle(branches.springs, where, first);
    for (std::size_t i = 0; i < where.size(); ++i)
        middles[branches.nodes[i]] = where[i];
    putChains(in, branches, middles);
    untangle(in, middles, work - first);
    return middles;
}

/// With lines that go round plates.
Measures measuredAsDrawn(const Springs& in, const std::vector<PointF>& middles) {
    Graph graph;
    Drawing drawing;
    for (std::size_t i = 0; i < middles.size(); ++i) {
        graph.nodes.push_back({in.sizes[i].x, in.sizes[i].y});
        drawing.at.push_back(middles[i] - in.sizes[i] * 0.5);
    }
    for (const auto& [a, b] : in.lines)
        graph.edges.push_back({a, b});
    drawing.paths.resize(graph.edges.size());
    goRound(graph, drawing);
    return measured(graph, drawing);
}

} // namespace

std::vector<PointF> bySpringsUntangled(Springs in) {
    const std::size_t n = in.sizes.size();
    constexpr std::size_t mostWork = 105'000'000;
    const int beginnings = n <= 24 ? 6 : n <= 48 ? 2 : 1;
    const std::size_t each = n <= 12           ? 100'000
                             : beginnings == 1 ? std::min<std::size_t>(160'000, 26'000 + 800 * n)
                                               : 9'000 + 550 * n;
    if (beginnings > 1 && in.lines.size() >= 2 * n) { // so that not every line has a plate in its way
        constexpr double aLine = 26, most = 120;
        in.gap = std::max(
            in.gap, std::min(most, aLine * static_cast<double>(in.lines.size()) / static_cast<double>(n)));
    }
    const std::size_t work = n < 3000 ? std::min(n * each, mostWork) : n * 8'000;
    if (beginnings == 1)
        return untangled(in, work);
    std::vector<PointF> best;
    std::pair<std::size_t, std::size_t> fewest{~std::size_t{0}, 0};
    for (int i = 0;
         i < beginnings && fewest != std::pair<std::size_t, std::size_t>{0, 0} && (i == 0 || in.goesOn());
         ++i) {
        auto middles = untangled(in, work);
        ++in.seed;
        const Measures now = measuredAsDrawn(in, middles);
        if (const std::pair cost{now.crossings, now.linksThroughDevices}; cost < fewest) {
            fewest = cost;
            best = std::move(middles);
        }
    }
    return best;
}

} // namespace underridge::layout

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/measures.h"
#include "core/layout/places.h"
#include "core/layout/spring.h"

#include <numbers>
#include <random>

// As many lines at once as the machine can look at. A sanitizer's runtime is not there yet when
// the choice is made.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_THREAD__) &&      \
    !defined(__SANITIZE_ADDRESS__)
#define UNDERRIDGE_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define UNDERRIDGE_WIDE
#endif

namespace underridge::layout {
namespace {

/// All lines as plain numbers in rows: whoever asks how many of them a line crosses looks at
/// each, which is quicker than any index up to some thousand of them.
class Lines {
public:
    explicit Lines(std::size_t count) : ax_(count), ay_(count), bx_(count), by_(count) {}

    void set(std::size_t line, PointF a, PointF b) {
        ax_[line] = static_cast<float>(a.x);
        ay_[line] = static_cast<float>(a.y);
        bx_[line] = static_cast<float>(b.x);
        by_[line] = static_cast<float>(b.y);
    }
    void clear(std::size_t line) { set(line, {}, {}); }
    /// How many lines one would cross; those that end where it does are none.
    UNDERRIDGE_WIDE int crossedBy(PointF from, PointF to) const {
        const auto px = static_cast<float>(from.x), py = static_cast<float>(from.y),
                   qx = static_cast<float>(to.x), qy = static_cast<float>(to.y);
        const float dx = qx - px, dy = qy - py;
        int count = 0;
        for (std::size_t i = 0; i < ax_.size(); ++i) {
            const float ax = ax_[i], ay = ay_[i], bx = bx_[i], by = by_[i];
            const float ex = bx - ax, ey = by - ay;
            const float a = dx * (ay - py) - dy * (ax - px), b = dx * (by - py) - dy * (bx - px);
            const float p = ex * (py - ay) - ey * (px - ax), q = ex * (qy - ay) - ey * (qx - ax);
            count += (a * b < 0.0F) & (p * q < 0.0F);
        }
        return count;
    }

private:
    std::vector<float> ax_, ay_, bx_, by_;
};

} // namespace

void untangle(const Springs& in, std::vector<PointF>& at, std::size_t work) {
    const auto n = static_cast<Index>(at.size());
    if (n < 4 || in.lines.empty())
        return;
    std::vector<std::vector<std::pair<Index, Index>>> near(n); // line, other end
    Lines lines(in.lines.size());
    for (Index i = 0; i < in.lines.size(); ++i) {
        const auto [a, b] = in.lines[i];
        near[a].emplace_back(i, b);
        near[b].emplace_back(i, a);
        lines.set(i, at[a], at[b]);
    }
    const Rect all = scene::boundsOf(at).grown(1);
    const PointF reach = largest(in.sizes);
    Places places(at, std::max(60.0, (reach.x + reach.y) / 2));
    const auto isFree = [&](Index v, PointF p) {
        bool free = true;
        places.forEachNear(p, (in.sizes[v] + reach) * 0.5 + PointF{in.gap, in.gap}, [&](Index j) {
            const PointF d = at[j] - p;
            if (j != v && std::abs(d.x) < (in.sizes[v].x + in.sizes[j].x) / 2 + in.gap * 0.6 &&
                std::abs(d.y) < (in.sizes[v].y + in.sizes[j].y) / 2 + in.gap * 0.6)
                free = false;
        });
        return free;
    };
    std::size_t looked = 0;
    const auto costAt = [&](Index v, PointF p, int stopAt) {
        int cost = 0;
        for (const auto& [line, to] : near[v]) {
            cost += lines.crossedBy(p, at[to]);
            looked += in.lines.size();
            if (cost >= stopAt)
                break;
        }
        return cost;
    };
    std::mt19937_64 random(in.seed + 17);
    const auto unit = [&] { return static_cast<double>(random() >> 11) / 9007199254740992.0; };
    const double whole = std::max(all.w, all.h);
    std::vector<Index> order;
    for (Index v = 0; v < n; ++v)
        if (!near[v].empty())
            order.push_back(v);
    // Hubs first: the others find their places about them.
    std::stable_sort(order.begin(), order.end(),
                     [&](Index a, Index b) { return near[a].size() > near[b].size(); });
    constexpr int rounds = 40, settled = 8, tries = 8;
    int idle = 0;
    for (int round = 0; round < rounds && looked < work && idle < settled && in.goesOn(); ++round) {
        bool better = false;
        const double wander = whole * 0.3 * std::pow(0.86, round);
        for (const Index v : order) {
            if (looked >= work || !in.goesOn())
                break;
            for (const auto& [line, to] : near[v])
                lines.clear(line);
            int cost = costAt(v, at[v], 1 << 30);
            PointF mean;
            for (const auto& [line, to] : near[v])
                mean = mean + at[to] * (1.0 / static_cast<double>(near[v].size()));
            PointF best = at[v];
            for (int k = 0; k < tries && cost > 0; ++k) {
                const PointF centre = k < tries / 2   ? mean
                                      : k < tries - 2 ? at[near[v][random() % near[v].size()].second]
                                                      : at[v];
                const double turn = unit() * 2 * std::numbers::pi, far = (0.05 + unit()) * wander;
                PointF p = centre + PointF{std::cos(turn) * far, std::sin(turn) * far * 0.7};
                p = {std::clamp(p.x, all.x, all.right()), std::clamp(p.y, all.y, all.bottom())};
                if (!isFree(v, p))
                    continue;
                if (const int now = costAt(v, p, cost); now < cost) {
                    cost = now;
                    best = p;
                }
            }
            if (best != at[v]) {
                places.move(v, at[v], best);
                at[v] = best;
                better = true;
            }
            for (const auto& [line, to] : near[v])
                lines.set(line, at[in.lines[line].first], at[in.lines[line].second]);
        }
        idle = better ? 0 : idle + 1;
    }
}

void uncross(const Springs& in, std::vector<PointF>& at, std::size_t work) {
    const auto n = static_cast<Index>(at.size());
    std::vector<std::vector<std::pair<Index, Index>>> near(n); // line, other end
    Lines lines(in.lines.size());
    for (Index i = 0; i < in.lines.size(); ++i) {
        const auto [a, b] = in.lines[i];
        near[a].emplace_back(i, b);
        near[b].emplace_back(i, a);
        lines.set(i, at[a], at[b]);
    }
    std::size_t looked = 0;
    const auto bring = [&](Index v) {
        for (const auto& [line, to] : near[v])
            lines.set(line, at[in.lines[line].first], at[in.lines[line].second]);
    };
    const auto crossed = [&](Index v) {
        int count = 0;
        for (const auto& [line, to] : near[v]) {
            count += lines.crossedBy(at[v], at[to]);
            looked += in.lines.size();
        }
        return count;
    };
    const auto isFree = [&](Index v) {
        for (Index j = 0; j < n; ++j)
            if (const PointF d = at[j] - at[v];
                j != v && std::abs(d.x) < (in.sizes[v].x + in.sizes[j].x) / 2 + in.gap &&
                std::abs(d.y) < (in.sizes[v].y + in.sizes[j].y) / 2 + in.gap)
                return false;
        looked += n;
        return true;
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
            if (near[v].empty())
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

std::vector<PointF> bySpringsUntangled(Springs in) {
    const std::size_t n = in.sizes.size();
    const int beginnings = n <= 12 ? 12 : n <= 24 ? 6 : 1;
    const std::size_t work = n < 400 ? n * 45'000 : n < 3000 ? n * 45'000 : n * 2'000;
    std::vector<PointF> best;
    std::pair<std::size_t, std::size_t> fewest{~std::size_t{0}, 0};
    for (int i = 0;
         i < beginnings && fewest != std::pair<std::size_t, std::size_t>{0, 0} && (i == 0 || in.goesOn());
         ++i) {
        auto middles = bySprings(in);
        untangle(in, middles, work);
        ++in.seed;
        if (beginnings == 1)
            return middles;
        std::vector<Rect> plates;
        for (std::size_t k = 0; k < n; ++k)
            plates.push_back({middles[k].x - in.sizes[k].x / 2, middles[k].y - in.sizes[k].y / 2,
                              in.sizes[k].x, in.sizes[k].y});
        std::vector<DrawnLine> lines;
        for (const auto& [a, b] : in.lines)
            lines.push_back({{middles[a], middles[b]}, a, b});
        const Measures now = measured(plates, lines);
        if (const std::pair cost{now.crossings, now.linksThroughDevices}; cost < fewest) {
            fewest = cost;
            best = std::move(middles);
        }
    }
    return best;
}

} // namespace underridge::layout

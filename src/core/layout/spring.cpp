// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/spring.h"

#include "core/layout/buckets.h"

#include <array>
#include <cmath>
#include <numbers>
#include <random>

namespace underridge::layout {
namespace {

constexpr double between = 36; ///< at least, of two nodes

std::vector<std::vector<Index>> nearOf(const Springs& in) {
    std::vector<std::vector<Index>> near(in.sizes.size());
    for (const auto& [a, b] : in.lines) {
        near[a].push_back(b);
        near[b].push_back(a);
    }
    return near;
}

void distancesFrom(Index from, const std::vector<std::vector<Index>>& near, std::vector<int>& far,
                   std::vector<Index>& queue) {
    std::fill(far.begin(), far.end(), -1);
    queue.assign(1, from);
    far[from] = 0;
    for (std::size_t i = 0; i < queue.size(); ++i)
        for (const Index to : near[queue[i]])
            if (far[to] < 0) {
                far[to] = far[queue[i]] + 1;
                queue.push_back(to);
            }
}

struct Term {
    Index a, b;
    float distance, weightA, weightB; ///< how strongly each end is moved
};

std::vector<Term> termsOf(const Springs& in, const std::vector<std::vector<Index>>& near) {
    const auto n = static_cast<Index>(in.sizes.size());
    std::vector<Term> terms;
    std::vector<int> far(n);
    std::vector<Index> queue;
    constexpr Index allPairs = 260;
    if (n <= allPairs) {
        for (Index i = 0; i < n; ++i) {
            distancesFrom(i, near, far, queue);
            for (Index j = i + 1; j < n; ++j)
                if (far[j] > 0) {
                    const auto d = static_cast<float>(far[j]);
                    terms.push_back({i, j, d, 1 / d / d, 1 / d / d});
                }
        }
        return terms;
    }
    for (const auto& [a, b] : in.lines)
        terms.push_back({a, b, 1, 1, 1});
    // Pivots far from one another; each stands for those nearest to it.
    const std::size_t pivots = n < 3000 ? 60 : 40;
    std::vector<int> nearest(n, 1 << 30);
    std::vector<std::vector<int>> from;
    std::vector<Index> who{0}, region(n, 0);
    for (Index i = 1; i < n; ++i)
        if (near[i].size() > near[who[0]].size())
            who[0] = i;
    for (std::size_t k = 0; k < pivots; ++k) {
        distancesFrom(who[k], near, far, queue);
        Index next = 0;
        for (Index i = 0; i < n; ++i) {
            if (far[i] >= 0 && far[i] < nearest[i]) {
                nearest[i] = far[i];
                region[i] = static_cast<Index>(k);
            }
            if (nearest[i] > nearest[next] || (nearest[i] == nearest[next] && near[i].size() > near[next].size()))
                next = i;
        }
        from.push_back(far);
        who.push_back(next);
    }
    for (std::size_t k = 0; k < pivots; ++k) {
        // How many of its region are within half of each distance.
        std::vector<int> within;
        for (Index i = 0; i < n; ++i)
            if (region[i] == k && from[k][i] >= 0) {
                within.resize(std::max(within.size(), static_cast<std::size_t>(from[k][i]) + 1));
                ++within[static_cast<std::size_t>(from[k][i])];
            }
        for (std::size_t i = 1; i < within.size(); ++i)
            within[i] += within[i - 1];
        for (Index i = 0; i < n; ++i) {
            const int d = from[k][i];
            if (d <= 1 || within.empty())
                continue;
            const auto half = std::min(within.size() - 1, static_cast<std::size_t>(d / 2));
            const auto f = static_cast<float>(d);
            terms.push_back({who[k], i, f, 0, static_cast<float>(within[half]) / f / f});
        }
    }
    return terms;
}

/// Points by a hash, evenly in a square of so many units.
PointF scattered(std::uint64_t seed, Index i, double side) {
    std::uint64_t x = seed * 0x9E3779B97F4A7C15ULL + i * 0xBF58476D1CE4E5B9ULL + 1;
    const auto next = [&] {
        x ^= x >> 30;
        x *= 0xBF58476D1CE4E5B9ULL;
        x ^= x >> 27;
        x *= 0x94D049BB133111EBULL;
        x ^= x >> 31;
        return static_cast<double>(x >> 11) / 9007199254740992.0;
    };
    const double a = next(), b = next();
    return {a * side, b * side};
}

void descend(std::vector<PointF>& at, std::vector<Term>& terms, std::uint64_t seed) {
    if (terms.empty())
        return;
    float heaviest = 0, lightest = 1e9F;
    for (const Term& term : terms) {
        const float w = 1 / term.distance / term.distance;
        heaviest = std::max(heaviest, w);
        lightest = std::min(lightest, w);
    }
    constexpr int rounds = 15;
    constexpr double last = 0.1;
    const double first = 1 / static_cast<double>(lightest), end = last / static_cast<double>(heaviest);
    const double fall = std::log(first / end) / (rounds - 1);
    std::mt19937_64 random(seed);
    for (int round = 0; round < rounds; ++round) {
        const double step = first * std::exp(-fall * round);
        for (std::size_t i = terms.size(); i > 1; --i) // the same on every machine
            std::swap(terms[i - 1], terms[random() % i]);
        for (const Term& term : terms) {
            PointF d = at[term.a] - at[term.b];
            double length = std::sqrt(d.x * d.x + d.y * d.y);
            if (length < 1e-6) {
                d = {1e-3 * (1 + (term.a % 7)), 1e-3 * (1 + (term.b % 5))};
                length = std::sqrt(d.x * d.x + d.y * d.y);
            }
            const double off = (length - static_cast<double>(term.distance)) / 2 / length;
            const double moveA = std::min(1.0, step * static_cast<double>(term.weightA)) * off,
                         moveB = std::min(1.0, step * static_cast<double>(term.weightB)) * off *
                                 (term.weightA == 0 ? 2 : 1);
            at[term.a] = at[term.a] - d * moveA;
            at[term.b] = at[term.b] + d * moveB;
        }
    }
}

/// Turned so that it lies along the sheet, and stretched to its proportion.
void laidFlat(std::vector<PointF>& at, double aspect) {
    PointF mean;
    const auto n = static_cast<double>(at.size());
    for (const PointF p : at)
        mean = mean + p * (1 / n);
    double xx = 0, xy = 0, yy = 0;
    for (const PointF p : at) {
        const PointF d = p - mean;
        xx += d.x * d.x;
        xy += d.x * d.y;
        yy += d.y * d.y;
    }
    const double turn = 0.5 * std::atan2(2 * xy, xx - yy);
    const double c = std::cos(turn), s = std::sin(turn);
    PointF least{1e18, 1e18}, most{-1e18, -1e18};
    for (PointF& p : at) {
        const PointF d = p - mean;
        p = {d.x * c + d.y * s, d.y * c - d.x * s};
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    }
    const PointF size = most - least;
    if (size.y > 0 && size.x > 0) {
        const double stretch = std::clamp(aspect * size.y / size.x, 0.6, 2.2);
        for (PointF& p : at)
            p.x *= stretch;
    }
}

/// Nodes in a grid, for who is near.
class Places {
public:
    Places(const std::vector<PointF>& at, double side) : cells_(around(at, side), side) {
        for (Index i = 0; i < at.size(); ++i)
            cells_.add(cells_.cellAt(at[i]), i);
    }
    void move(Index node, PointF from, PointF to) {
        cells_.remove(cells_.cellAt(from), node);
        cells_.add(cells_.cellAt(to), node);
    }
    template <class Each>
    void forEachNear(PointF p, PointF reach, Each each) const {
        cells_.over({p.x - reach.x, p.y - reach.y, 2 * reach.x, 2 * reach.y}, [&](std::size_t cell) {
            for (const Index i : cells_.in(cell))
                each(i);
        });
    }

private:
    static Rect around(const std::vector<PointF>& at, double side) {
        PointF least{1e18, 1e18}, most{-1e18, -1e18};
        for (const PointF p : at) {
            least = {std::min(least.x, p.x), std::min(least.y, p.y)};
            most = {std::max(most.x, p.x), std::max(most.y, p.y)};
        }
        return scene::rectBetween(least, most).grown(side * 2);
    }
    Buckets cells_;
};

PointF largest(const std::vector<PointF>& sizes) {
    PointF out;
    for (const PointF size : sizes)
        out = {std::max(out.x, size.x), std::max(out.y, size.y)};
    return out;
}

/// Pushes nodes apart that overlap; true when none did.
bool pushed(const Springs& in, std::vector<PointF>& at, PointF reach) {
    const Places places(at, std::max(60.0, (reach.x + reach.y) / 2));
    std::vector<PointF> by(at.size());
    bool free = true;
    for (Index i = 0; i < at.size(); ++i)
        places.forEachNear(at[i], (in.sizes[i] + reach) * 0.5 + PointF{between, between}, [&](Index j) {
            if (j <= i)
                return;
            const PointF d = at[j] - at[i];
            const double needX = (in.sizes[i].x + in.sizes[j].x) / 2 + between * 1.05 - std::abs(d.x),
                         needY = (in.sizes[i].y + in.sizes[j].y) / 2 + between * 1.05 - std::abs(d.y);
            if (needX <= 0 || needY <= 0)
                return;
            free = false;
            const PointF push = needX < needY ? PointF{(d.x < 0 ? -1 : 1) * needX * 0.55, 0}
                                              : PointF{0, (d.y < 0 ? -1 : 1) * needY * 0.55};
            by[i] = by[i] - push;
            by[j] = by[j] + push;
        });
    for (std::size_t i = 0; i < at.size(); ++i) {
        const double length = scene::length(by[i]);
        const double most = 120;
        at[i] = at[i] + by[i] * (length > most ? most / length : 1.0);
    }
    return free;
}

double scaleNeeded(const Springs& in, const std::vector<PointF>& at, PointF reach) {
    const Places places(at, std::max(60.0, (reach.x + reach.y) / 2));
    double scale = 1;
    for (Index i = 0; i < at.size(); ++i)
        places.forEachNear(at[i], (in.sizes[i] + reach) * 0.5 + PointF{between, between}, [&](Index j) {
            if (j <= i)
                return;
            const PointF d = at[j] - at[i];
            const double x = ((in.sizes[i].x + in.sizes[j].x) / 2 + between) / std::max(0.5, std::abs(d.x)),
                         y = ((in.sizes[i].y + in.sizes[j].y) / 2 + between) / std::max(0.5, std::abs(d.y));
            scale = std::max(scale, std::min(x, y));
        });
    return scale;
}

} // namespace

std::vector<PointF> bySprings(const Springs& in) {
    const std::size_t n = in.sizes.size();
    std::vector<PointF> at(n);
    if (n < 2)
        return at;
    const auto near = nearOf(in);
    for (Index i = 0; i < n; ++i)
        at[i] = scattered(in.seed, i, 2);
    auto terms = termsOf(in, near);
    descend(at, terms, in.seed);
    laidFlat(at, in.aspect);
    // As large as its lines and plates need.
    double length = 0, area = 0;
    for (const auto& [a, b] : in.lines)
        length += scene::length(at[a] - at[b]);
    length /= static_cast<double>(std::max<std::size_t>(in.lines.size(), 1));
    for (const PointF size : in.sizes)
        area += (size.x + between) * (size.y + between);
    const double scale = std::max(1.0, 2.1 * std::sqrt(area / static_cast<double>(n)) / std::max(length, 1e-6));
    for (PointF& p : at)
        p = p * scale;
    const PointF reach = largest(in.sizes);
    for (int i = 0; i < 300; ++i)
        if (pushed(in, at, reach))
            return at;
    for (int i = 0; i < 6; ++i) {
        const double more = scaleNeeded(in, at, reach);
        if (more <= 1)
            break;
        for (PointF& p : at)
            p = p * (more * 1.0001);
    }
    return at;
}

namespace {

double turnOf(PointF a, PointF b, PointF c) {
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}
bool cross(PointF a, PointF b, PointF c, PointF d) {
    return (turnOf(a, b, c) > 0) != (turnOf(a, b, d) > 0) && (turnOf(c, d, a) > 0) != (turnOf(c, d, b) > 0);
}

/// Lines in a grid, each in all cells it goes through.
class LineGrid {
public:
    LineGrid(const Rect& all, double side, std::size_t lines) : cells_(all, side), stamp_(lines, 0) {}

    void put(Index line, PointF a, PointF b) {
        cells_.along(a, b, [&](std::size_t cell) { cells_.add(cell, line); });
    }
    void take(Index line, PointF a, PointF b) {
        cells_.along(a, b, [&](std::size_t cell) { cells_.remove(cell, line); });
    }
    /// Each line near a segment, once.
    template <class Each>
    void near(PointF a, PointF b, Each each) {
        ++now_;
        cells_.along(a, b, [&](std::size_t cell) {
            for (const Index line : cells_.in(cell))
                if (stamp_[line] != now_) {
                    stamp_[line] = now_;
                    each(line);
                }
        });
    }

private:
    Buckets cells_;
    std::vector<std::uint32_t> stamp_;
    std::uint32_t now_ = 0;
};

} // namespace

void untangle(const Springs& in, std::vector<PointF>& at, std::size_t work) {
    const auto n = static_cast<Index>(at.size());
    if (n < 4)
        return;
    std::vector<std::vector<std::pair<Index, Index>>> near(n); // line, other end
    for (Index i = 0; i < in.lines.size(); ++i) {
        near[in.lines[i].first].emplace_back(i, in.lines[i].second);
        near[in.lines[i].second].emplace_back(i, in.lines[i].first);
    }
    PointF least{1e18, 1e18}, most{-1e18, -1e18};
    for (const PointF p : at) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    }
    const Rect all = scene::rectBetween(least, most).grown(1);
    const PointF reach = largest(in.sizes);
    const double side = std::max({all.w / 220, all.h / 220, std::sqrt(all.w * all.h / (2.0 * static_cast<double>(n)))});
    LineGrid grid(all, side, in.lines.size());
    for (Index i = 0; i < in.lines.size(); ++i)
        grid.put(i, at[in.lines[i].first], at[in.lines[i].second]);
    Places places(at, std::max(60.0, (reach.x + reach.y) / 2));
    std::size_t looked = 0;
    constexpr double through = 2.5; // a line through a plate is as bad as so many crossings
    const auto frameAt = [&](Index node, PointF p) {
        return Rect{p.x - in.sizes[node].x / 2, p.y - in.sizes[node].y / 2, in.sizes[node].x, in.sizes[node].y};
    };
    const auto costAt = [&](Index v, PointF p, double stopAt) {
        double cost = 0;
        for (const auto& [line, to] : near[v]) {
            grid.near(p, at[to], [&](Index other) {
                ++looked;
                const auto [a, b] = in.lines[other];
                if (a == v || b == v || a == to || b == to)
                    return;
                cost += cross(p, at[to], at[a], at[b]);
            });
            if (cost >= stopAt)
                return cost;
        }
        // Plates its lines go through: looked at along the lines, and lines through its own.
        for (const auto& [line, to] : near[v]) {
            const PointF q = at[to], d = q - p;
            const double length = scene::length(d);
            const int steps = static_cast<int>(length / (reach.y + 60)) + 1;
            Index before = none;
            for (int i = 1; i < steps; ++i)
                places.forEachNear(p + d * (static_cast<double>(i) / steps), {reach.x / 2, reach.y}, [&](Index j) {
                    ++looked;
                    if (j != v && j != to && j != before && scene::segmentMeets(p, q, frameAt(j, at[j]).grown(3))) {
                        cost += through;
                        before = j;
                    }
                });
            if (cost >= stopAt)
                return cost;
        }
        const Rect frame = frameAt(v, p).grown(3);
        const auto own = [&](Index other) {
            const auto [a, b] = in.lines[other];
            if (a != v && b != v && scene::segmentMeets(at[a], at[b], frame))
                cost += through;
        };
        grid.near({frame.x, frame.y}, {frame.right(), frame.bottom()}, own);
        return cost;
    };
    const auto isFree = [&](Index v, PointF p) {
        bool free = true;
        places.forEachNear(p, (in.sizes[v] + reach) * 0.5 + PointF{between, between}, [&](Index j) {
            const PointF d = at[j] - p;
            if (j != v && std::abs(d.x) < (in.sizes[v].x + in.sizes[j].x) / 2 + between * 0.6 &&
                std::abs(d.y) < (in.sizes[v].y + in.sizes[j].y) / 2 + between * 0.6)
                free = false;
        });
        return free;
    };
    std::mt19937_64 random(in.seed + 17);
    const auto unit = [&] { return static_cast<double>(random() >> 11) / 9007199254740992.0; };
    std::vector<Index> order(n);
    for (Index i = 0; i < n; ++i)
        order[i] = i;
    const double whole = std::max(all.w, all.h);
    for (int round = 0; round < 30 && looked < work; ++round) {
        bool better = false;
        const double wander = whole * 0.25 * std::pow(0.8, round);
        for (const Index v : order) {
            if (looked >= work)
                break;
            if (near[v].empty())
                continue;
            double cost = costAt(v, at[v], 1e18);
            if (cost == 0)
                continue;
            PointF mean;
            for (const auto& [line, to] : near[v])
                mean = mean + at[to] * (1.0 / static_cast<double>(near[v].size()));
            PointF best = at[v];
            for (int k = 0; k < 10; ++k) {
                const PointF centre = k < 4 ? mean : k < 7 ? at[near[v][random() % near[v].size()].second] : at[v];
                const double turn = unit() * 2 * std::numbers::pi, far = (0.1 + unit()) * wander;
                PointF p = centre + PointF{std::cos(turn) * far, std::sin(turn) * far * 0.7};
                p = {std::clamp(p.x, all.x, all.right()), std::clamp(p.y, all.y, all.bottom())};
                if (!isFree(v, p))
                    continue;
                const double now = costAt(v, p, cost);
                if (now < cost) {
                    cost = now;
                    best = p;
                }
            }
            if (best == at[v])
                continue;
            for (const auto& [line, to] : near[v]) {
                grid.take(line, at[in.lines[line].first], at[in.lines[line].second]);
            }
            places.move(v, at[v], best);
            at[v] = best;
            for (const auto& [line, to] : near[v])
                grid.put(line, at[in.lines[line].first], at[in.lines[line].second]);
            better = true;
        }
        if (!better && round > 6)
            break;
    }
}

} // namespace underridge::layout

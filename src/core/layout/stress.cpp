// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/stress.h"

#include "core/layout/wide.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace underridge::layout {
namespace {

using Near = std::vector<std::vector<LineTo>>;

/// How nodes stand, in two rows of plain numbers.
struct Standing {
    std::vector<float> x, y;
    explicit Standing(std::size_t count) : x(count), y(count) {}
};

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

/// How far a pair is moved towards its distance: all of it at first, less and less in each round.
class Steps {
public:
    static constexpr int rounds = 15;

    explicit Steps(double farthest)
        : first_(farthest * farthest), fall_(std::log(first_ / last) / (rounds - 1)) {}
    float at(int round) const { return static_cast<float>(first_ * std::exp(-fall_ * round)); }

private:
    static constexpr double last = 0.1; ///< of a pair next to one another
    double first_, fall_;
};

template <class Value>
void shuffle(std::vector<Value>& values, std::mt19937_64& random) { // the same on every machine
    for (std::size_t i = values.size(); i > 1; --i)
        std::swap(values[i - 1], values[random() % i]);
}

/// Every pair of nodes once, by rounds in which each node has one other.
class Tournament {
public:
    /// Nodes are numbered anew by chance, so that who meets when does not follow from their order.
    Tournament(const Near& near, std::mt19937_64& random)
        : size_((near.size() - 1) | 1), number_(near.size()), pairs_(size_ * each(), noWay) {
        for (Index i = 0; i < number_.size(); ++i)
            number_[i] = i;
        shuffle(number_, random);
        for (std::size_t i = 0; i < size_; ++i)
            order_.push_back(i);
        shuffle(order_, random);
        fill(near);
    }
    Index numberOf(Index node) const { return number_[node]; }
    double farthest() const { return farthest_; }

    /// All meet all once.
    void play(Standing& at, float step) const {
        for (const std::size_t round : order_) {
            const float* distances = &pairs_[round * each()];
            const std::size_t below = (round + 1) / 2, above = (size_ - 1 - round) / 2;
            meet(at, 0, round, below, distances, step);
            meet(at, round + 1, size_ - 1, above, distances + below, step);
            if (size_ < number_.size())
                meet(at, leftOver(round), size_, 1, distances + each() - 1, step);
        }
    }

private:
    static constexpr float noWay = 1e15F; ///< so far that it pulls nobody anywhere

    std::size_t each() const { return size_ / 2 + 1; } ///< meet in a round
    /// Who meets nobody in a round but the last one, where that is one too many for the circle.
    std::size_t leftOver(std::size_t round) const { return round % 2 == 0 ? round / 2 : (round + size_) / 2; }

    /// Those from `low` on with those from `high` down.
    static void meet(Standing& at, std::size_t low, std::size_t high, std::size_t count,
                     const float* distances, float step) {
        if (count > 0)
            pull(&at.x[low], &at.y[low], &at.x[high] - (count - 1), &at.y[high] - (count - 1), distances,
                 count, step);
    }
    UNDERRIDGE_WIDE static void pull(float* __restrict ax, float* __restrict ay, float* __restrict bx,
                                     float* __restrict by, const float* __restrict distances,
                                     std::size_t count, float step) {
        for (std::size_t k = 0; k < count; ++k) {
            const std::size_t b = count - 1 - k;
            const float dx = ax[k] - bx[b], dy = ay[k] - by[b], distance = distances[k];
            const float length = std::sqrt(std::max(dx * dx + dy * dy, 1e-10F));
            // As far as the step says for that distance, at most all of the way.
            const float most = std::max(distance * distance, step);
            const float part = step * (length - distance) / (2 * most * length);
            ax[k] -= dx * part;
            ay[k] -= dy * part;
            bx[b] += dx * part;
            by[b] += dy * part;
        }
    }

    float& between(std::size_t a, std::size_t b) {
        const std::size_t low = std::min(a, b), high = std::max(a, b);
        if (high == size_)
            return pairs_[(2 * low % size_) * each() + each() - 1];
        const std::size_t sum = low + high;
        if (sum < size_)
            return pairs_[sum * each() + low];
        const std::size_t round = sum - size_;
        return pairs_[round * each() + (round + 1) / 2 + low - round - 1];
    }

    /// The distances between all: sixty-four nodes look about at once (Then et al. 2014).
    void fill(const Near& near) {
        const std::size_t n = near.size();
        std::vector<std::uint64_t> seen(n), last(n), next(n);
        for (std::size_t from = 0; from < n; from += 64) {
            const std::size_t sources = std::min<std::size_t>(64, n - from);
            std::fill(seen.begin(), seen.end(), 0);
            for (std::size_t k = 0; k < sources; ++k)
                seen[from + k] = std::uint64_t{1} << k;
            last = seen;
            bool any = true;
            for (int far = 1; any; ++far) {
                any = false;
                for (std::size_t v = 0; v < n; ++v) {
                    std::uint64_t by = 0;
                    for (const LineTo& to : near[v])
                        by |= last[to.node];
                    next[v] = by & ~seen[v];
                    for (std::uint64_t left = next[v]; left != 0; left &= left - 1)
                        if (const std::size_t k = from + static_cast<std::size_t>(std::countr_zero(left));
                            k < v)
                            between(number_[k], number_[v]) = static_cast<float>(far);
                    any |= next[v] != 0;
                }
                for (std::size_t v = 0; v < n; ++v)
                    seen[v] |= next[v];
                std::swap(last, next);
                if (any)
                    farthest_ = std::max(farthest_, static_cast<double>(far));
            }
        }
    }

    std::size_t size_; ///< of the circle: odd
    std::vector<Index> number_;
    std::vector<float> pairs_; ///< distances by rounds, in each by the lower of a pair
    std::vector<std::size_t> order_;
    double farthest_ = 1;
};

void distancesFrom(Index from, const Near& near, std::vector<int>& far, std::vector<Index>& queue) {
    std::fill(far.begin(), far.end(), -1);
    queue.assign(1, from);
    far[from] = 0;
    for (std::size_t i = 0; i < queue.size(); ++i)
        for (const auto& [line, to] : near[queue[i]])
            if (far[to] < 0) {
                far[to] = far[queue[i]] + 1;
                queue.push_back(to);
            }
}

struct Term {
    Index a, b;
    float distance, weightA, weightB; ///< how strongly each end is moved
};

/// To neighbours, and to pivots far from one another.
std::vector<Term> termsOf(const Springs& in, const Near& near) {
    const auto n = static_cast<Index>(in.sizes.size());
    std::vector<Term> terms;
    std::vector<int> far(n);
    std::vector<Index> queue;
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
            if (nearest[i] > nearest[next] ||
                (nearest[i] == nearest[next] && near[i].size() > near[next].size()))
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

void pullAlong(const std::vector<Term>& terms, Standing& at, float step) {
    for (const Term& term : terms) {
        const float dx = at.x[term.a] - at.x[term.b], dy = at.y[term.a] - at.y[term.b];
        const float length = std::sqrt(std::max(dx * dx + dy * dy, 1e-10F)),
                    off = (length - term.distance) / (2 * length);
        const float moveA = std::min(1.0F, step * term.weightA) * off,
                    moveB = std::min(1.0F, step * term.weightB) * off * (term.weightA == 0 ? 2.0F : 1.0F);
        at.x[term.a] -= dx * moveA;
        at.y[term.a] -= dy * moveA;
        at.x[term.b] += dx * moveB;
        at.y[term.b] += dy * moveB;
    }
}

} // namespace

std::vector<PointF> leastStress(const Springs& in) {
    const auto n = static_cast<Index>(in.sizes.size());
    std::vector<PointF> out(n);
    if (n < 2)
        return out;
    const Near near = linesAt(in);
    std::mt19937_64 random(in.seed);
    Standing at(n);
    const auto descend = [&](const auto& numberOf, double farthest, const auto& pull) {
        for (Index i = 0; i < n; ++i) {
            const PointF p = scattered(in.seed, i, 2);
            at.x[numberOf(i)] = static_cast<float>(p.x);
            at.y[numberOf(i)] = static_cast<float>(p.y);
        }
        const Steps steps(farthest);
        for (int round = 0; round < Steps::rounds && in.goesOn(); ++round)
            pull(steps.at(round));
        for (Index i = 0; i < n; ++i)
            out[i] = {static_cast<double>(at.x[numberOf(i)]), static_cast<double>(at.y[numberOf(i)])};
    };
    constexpr Index allPairs = 1000;
    if (n <= allPairs) {
        const Tournament all(near, random);
        descend([&](Index i) { return all.numberOf(i); }, all.farthest(),
                [&](float step) { all.play(at, step); });
        return out;
    }
    auto terms = termsOf(in, near);
    shuffle(terms, random);
    float farthest = 1;
    for (const Term& term : terms)
        farthest = std::max(farthest, term.distance);
    descend([](Index i) { return i; }, static_cast<double>(farthest),
            [&](float step) { pullAlong(terms, at, step); });
    return out;
}

} // namespace underridge::layout

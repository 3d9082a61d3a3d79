// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/detours.h"

#include "core/layout/buckets.h"

#include <array>

namespace underridge::layout {
namespace {

constexpr double clear = 9; ///< between a line and a plate it goes round
constexpr int deepest = 5;  ///< bends after one another
/// How often ways may be looked along for plates: for one line, and for all.
constexpr int looksAtFirst = 200, looksALine = 4'000, looksInAll = 80'000;

class Router {
public:
    Router(std::span<const Rect> plates, const Buckets& places) : plates_(plates), places_(places) {}

    /// The plate met first on the way from a to b that belongs to neither end.
    Index firstMet(PointF a, PointF b, const DrawnLine& line) {
        --left_;
        --leftInAll_;
        Index first = none;
        double nearest = 1e18;
        places_.along(a, b, [&](std::size_t cell) {
            for (const Index i : places_.in(cell)) {
                if (i == line.a || i == line.b || i == first ||
                    !scene::segmentMeets(a, b, plates_[i].grown(2)))
                    continue;
                const double far = scene::length(plates_[i].centre() - a);
                if (far < nearest) {
                    nearest = far;
                    first = i;
                }
            }
        });
        return first;
    }

    /// The bends of a way from a to b; how many plates are still in it.
    std::size_t way(PointF a, PointF b, const DrawnLine& line, int depth, std::vector<PointF>& bends) {
        const Index met = firstMet(a, b, line);
        if (met == none)
            return 0;
        if (depth == 0 || left_ <= 0)
            return 1;
        const Rect round = plates_[met].grown(clear);
        const std::array<PointF, 4> corners{PointF{round.x, round.y}, PointF{round.right(), round.y},
                                            PointF{round.x, round.bottom()},
                                            PointF{round.right(), round.bottom()}};
        std::array<std::size_t, 4> order{0, 1, 2, 3};
        const auto length = [&](std::size_t i) {
            return scene::length(corners[i] - a) + scene::length(b - corners[i]);
        };
        std::sort(order.begin(), order.end(),
                  [&](std::size_t x, std::size_t y) { return length(x) < length(y); });
        std::size_t fewest = ~std::size_t{0};
        std::vector<PointF> best;
        for (const std::size_t i : order) {
            const PointF corner = corners[i];
            if (scene::length(corner - a) < 1 || scene::segmentMeets(a, corner, plates_[met].grown(1)))
                continue;
            std::vector<PointF> out;
            const std::size_t before = way(a, corner, line, depth > 2 ? 2 : depth - 1, out);
            if (before >= fewest)
                continue;
            out.push_back(corner);
            const std::size_t left = before + way(corner, b, line, depth - 1, out);
            if (left < fewest) {
                fewest = left;
                best = std::move(out);
                if (left == 0)
                    break;
            }
        }
        if (fewest == ~std::size_t{0})
            return 1;
        bends.insert(bends.end(), best.begin(), best.end());
        return fewest;
    }

    /// The shortest way that leaves the plates at other sides; false when there is none.
    bool fromOtherSides(const DrawnLine& line, std::vector<PointF>& path) {
        if (line.a >= plates_.size() || line.b >= plates_.size())
            return false;
        const auto sides = [&](Index plate) {
            const Rect& r = plates_[plate];
            const PointF c = r.centre();
            return std::array<PointF, 4>{PointF{c.x, r.y}, PointF{c.x, r.bottom()}, PointF{r.x, c.y},
                                         PointF{r.right(), c.y}};
        };
        double shortest = 1e18;
        for (const PointF from : sides(line.a))
            for (const PointF to : sides(line.b)) {
                std::vector<PointF> tried{from};
                if (scene::length(to - from) >= shortest || way(from, to, line, deepest, tried) > 0)
                    continue;
                tried.push_back(to);
                if (const double length = scene::pathLength(tried); length < shortest) {
                    shortest = length;
                    path = std::move(tried);
                }
            }
        return shortest < 1e18;
    }

    /// For the next line.
    void begin(int looks) { left_ = std::min(looks, leftInAll_); }
    bool exhausted() const { return leftInAll_ <= 0; }

private:
    std::span<const Rect> plates_;
    const Buckets& places_;
    int left_ = 0, leftInAll_ = looksInAll;
};

} // namespace

std::vector<Index> goRound(std::span<const Rect> plates, std::vector<DrawnLine>& lines) {
    std::vector<Index> changed;
    if (plates.empty())
        return changed;
    Rect all = plates.front();
    for (const Rect& plate : plates)
        all = all.united(plate);
    Buckets places(all, sideFor(all, plates.size() * 2));
    for (Index i = 0; i < plates.size(); ++i)
        places.over(plates[i].grown(2), [&](std::size_t cell) { places.add(cell, i); });
    Router router(plates, places);
    const auto tryOne = [&](Index i, int looks) { // false: it goes through a plate still
        DrawnLine& line = lines[i];
        std::vector<PointF> path;
        bool met = false, better = true;
        router.begin(looks);
        for (std::size_t k = 0; better && k + 1 < line.path.size(); ++k) {
            path.push_back(line.path[k]);
            if (router.firstMet(line.path[k], line.path[k + 1], line) == none)
                continue;
            met = true;
            better = router.way(line.path[k], line.path[k + 1], line, deepest, path) == 0;
        }
        if (!met)
            return true;
        path.push_back(line.path.back());
        if (!better && !router.fromOtherSides(line, path))
            return false;
        line.path = std::move(path);
        changed.push_back(i);
        return true;
    };
    // The easy ones first, so that hard ones do not use up what all may look.
    std::vector<Index> hard;
    for (Index i = 0; i < lines.size() && !router.exhausted(); ++i)
        if (!tryOne(i, looksAtFirst))
            hard.push_back(i);
    for (const Index i : hard)
        if (!router.exhausted())
            tryOne(i, looksALine);
    return changed;
}

} // namespace underridge::layout

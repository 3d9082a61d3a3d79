// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/detours.h"

#include "core/layout/buckets.h"

#include <array>
#include <set>

namespace underridge::layout {
namespace {

constexpr double clear = 9;          ///< between a line and a plate it goes round
constexpr std::size_t mostRound = 8; ///< plates gone round from one point
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
        double nearest = 1e30; // squared
        places_.along(a, b, [&](std::size_t cell) {
            for (const Index i : places_.in(cell)) {
                if (i == line.a || i == line.b || i == first)
                    continue;
                const PointF away = plates_[i].centre() - a;
                const double far = away.x * away.x + away.y * away.y;
                if (far < nearest && scene::segmentMeets(a, b, plates_[i].grown(2))) {
                    nearest = far;
                    first = i;
                }
            }
        });
        return first;
    }

    /// The bends of a short way from a to b round the corners of plates met on it (A*, Hart, Nilsson
    /// and Raphael 1968, over corners as they turn up); false when none was found.
    bool way(PointF a, PointF b, const DrawnLine& line, std::vector<PointF>& bends) {
        struct Step {
            PointF at;
            double gone = 0;
            int before = -1; ///< step
        };
        std::vector<Step> steps{{a, 0, -1}};
        std::set<std::pair<Index, int>> seen; // plate and corner
        const auto farther = [&](std::size_t x, std::size_t y) {
            return steps[x].gone + scene::length(b - steps[x].at) >
                   steps[y].gone + scene::length(b - steps[y].at);
        };
        std::vector<std::size_t> open{0};
        while (!open.empty() && left_ > 0) {
            std::pop_heap(open.begin(), open.end(), farther);
            const std::size_t here = open.back();
            open.pop_back();
            const PointF from = steps[here].at;
            Index met = firstMet(from, b, line);
            if (met == none) {
                std::vector<PointF> back;
                for (int i = static_cast<int>(here); i > 0; i = steps[static_cast<std::size_t>(i)].before)
                    back.push_back(steps[static_cast<std::size_t>(i)].at);
                bends.insert(bends.end(), back.rbegin(), back.rend());
                return true;
            }
            std::vector<Index> round{met}; // plates whose corners may lead on from here
            for (std::size_t r = 0; r < round.size() && r < mostRound; ++r)
                for (int corner = 0; corner < 4; ++corner) {
                    const Rect grown = plates_[round[r]].grown(clear);
                    const PointF at{corner % 2 == 0 ? grown.x : grown.right(),
                                    corner < 2 ? grown.y : grown.bottom()};
                    if (scene::length(at - from) < 1 || seen.contains({round[r], corner}))
                        continue;
                    if (const Index before = firstMet(from, at, line); before != none) {
                        if (std::find(round.begin(), round.end(), before) == round.end())
                            round.push_back(before);
                        continue;
                    }
                    seen.insert({round[r], corner});
                    steps.push_back(
                        {at, steps[here].gone + scene::length(at - from), static_cast<int>(here)});
                    open.push_back(steps.size() - 1);
                    std::push_heap(open.begin(), open.end(), farther);
                }
        }
        return false;
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
                if (scene::length(to - from) >= shortest || !way(from, to, line, tried))
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
            better = router.way(line.path[k], line.path[k + 1], line, path);
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

void goRound(const Graph& graph, Drawing& drawing) {
    auto lines = linesOf(graph, drawing);
    for (const Index i : goRound(platesOf(graph, drawing), lines))
        drawing.paths[i] = std::move(lines[i].path);
}

} // namespace underridge::layout

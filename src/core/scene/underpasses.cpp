// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/underpasses.h"

#include "core/scene/crossing.h"

namespace underridge::scene {
namespace {

struct Stretch {
    double from = 0, to = 0; ///< along the path
};

/// Where `under` is left out because `over` crosses it.
void addStretches(const LinkLine& under, const LinkLine& over, std::vector<Stretch>& out) {
    constexpr double longest = 9;
    const Rect box = boundsOf(over.path);
    double before = 0;
    for (std::size_t i = 1; i < under.path.size(); ++i) {
        const PointF a = under.path[i - 1], b = under.path[i], along = b - a;
        const double whole = length(along);
        if (whole > 0 && segmentMeets(a, b, box.grown(1)))
            for (std::size_t j = 1; j < over.path.size(); ++j) {
                const PointF c = over.path[j - 1], d = over.path[j], other = d - c;
                const auto share = crossingShare(a, b, c, d);
                if (!share)
                    continue;
                const double sine = std::abs(along.x * other.y - along.y * other.x) / (whole * length(other));
                const double half = std::min(longest, underpassHalf / std::max(sine, 0.1));
                out.push_back({before + *share * whole - half, before + *share * whole + half});
            }
        before += whole;
    }
}

/// A path without some stretches of it.
Pieces withoutStretches(const std::vector<PointF>& path, std::vector<Stretch> left) {
    std::sort(left.begin(), left.end(), [](Stretch a, Stretch b) { return a.from < b.from; });
    Pieces out;
    std::vector<PointF> piece{path.front()};
    double before = 0;
    auto next = left.begin();
    const auto close = [&] {
        if (piece.size() > 1)
            out.push_back(piece);
        piece.clear();
    };
    for (std::size_t i = 1; i < path.size(); ++i) {
        const PointF a = path[i - 1], along = path[i] - a;
        const double whole = length(along);
        const auto pointAt = [&](double way) { return a + along * ((way - before) / whole); };
        for (; next != left.end() && next->from < before + whole; ++next) {
            if (!piece.empty()) {
                piece.push_back(pointAt(std::max(next->from, before)));
                close();
            }
            while (next + 1 != left.end() && (next + 1)->from <= next->to) { // one after another is one
                (next + 1)->to = std::max((next + 1)->to, next->to);
                ++next;
            }
            if (next->to >= before + whole)
                break; // it goes on round the corner
            piece = {pointAt(next->to)};
        }
        before += whole;
        if (!piece.empty())
            piece.push_back(path[i]);
    }
    close();
    return out;
}

} // namespace

std::unordered_map<std::uint64_t, Pieces> passingUnder(const std::vector<const LinkLine*>& lines) {
    struct Boxed {
        const LinkLine* line;
        Rect box;
    };
    std::vector<Boxed> boxed;
    boxed.reserve(lines.size());
    for (const LinkLine* line : lines)
        boxed.push_back({line, boundsOf(line->path).grown(1)});
    std::sort(boxed.begin(), boxed.end(), [](const Boxed& a, const Boxed& b) {
        return std::pair(a.box.x, a.line->id) < std::pair(b.box.x, b.line->id);
    });
    std::unordered_map<std::uint64_t, std::vector<Stretch>> left;
    for (auto one = boxed.begin(); one != boxed.end(); ++one)
        for (auto two = one + 1; two != boxed.end() && two->box.x < one->box.right(); ++two) {
            const LinkLine &a = *one->line, &b = *two->line;
            if (a.form == b.form || !one->box.intersects(two->box) || a.a == b.a || a.a == b.b ||
                a.b == b.a || a.b == b.b)
                continue;
            const LinkLine &under = a.form > b.form ? a : b, &over = a.form > b.form ? b : a;
            std::vector<Stretch> found;
            addStretches(under, over, found);
            if (!found.empty()) {
                auto& of = left[under.id.value];
                of.insert(of.end(), found.begin(), found.end());
            }
        }
    std::unordered_map<std::uint64_t, Pieces> out;
    for (const LinkLine* line : lines) {
        const auto at = left.find(line->id.value);
        if (at == left.end())
            continue;
        constexpr double ends = 12; // marks and ticks are there
        const double whole = pathLength(line->path);
        std::erase_if(at->second, [&](Stretch each) { return each.from < ends || each.to > whole - ends; });
        if (!at->second.empty())
            out.emplace(line->id.value, withoutStretches(line->path, std::move(at->second)));
    }
    return out;
}

} // namespace underridge::scene

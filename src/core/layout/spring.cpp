// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/spring.h"

#include "core/layout/places.h"
#include "core/layout/stress.h"

#include <cmath>

namespace underridge::layout {
namespace {

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
    for (PointF& p : at) {
        const PointF d = p - mean;
        p = {d.x * c + d.y * s, d.y * c - d.x * s};
    }
    const Rect all = scene::boundsOf(at);
    if (!all.empty()) {
        const double stretch = std::clamp(aspect * all.h / all.w, 0.6, 2.2);
        for (PointF& p : at)
            p.x *= stretch;
    }
}

/// Pushes nodes apart that overlap; true when none did.
bool pushed(const Springs& in, std::vector<PointF>& at, PointF reach, std::size_t& looks) {
    const Places places(at, std::max(60.0, (reach.x + reach.y) / 2));
    std::vector<PointF> by(at.size());
    bool free = true;
    for (Index i = 0; i < at.size(); ++i)
        places.forEachNear(at[i], (in.sizes[i] + reach) * 0.5 + PointF{in.gap, in.gap}, [&](Index j) {
            ++looks;
            if (j <= i)
                return;
            const PointF d = at[j] - at[i];
            const double needX = (in.sizes[i].x + in.sizes[j].x) / 2 + in.gap * 1.05 - std::abs(d.x),
                         needY = (in.sizes[i].y + in.sizes[j].y) / 2 + in.gap * 1.05 - std::abs(d.y);
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
        const double most = 90 + 0.3 * (in.sizes[i].x + in.sizes[i].y);
        at[i] = at[i] + by[i] * (length > most ? most / length : 1.0);
    }
    return free;
}

/// Rows from above, in each from the left: no overlap, whatever the sizes are.
void intoRows(const Springs& in, std::vector<PointF>& at) {
    std::vector<Index> order(at.size());
    for (Index i = 0; i < order.size(); ++i)
        order[i] = i;
    const auto perRow = static_cast<std::size_t>(
        std::max(1.0, std::round(std::sqrt(static_cast<double>(at.size()) * in.aspect * 0.5))));
    std::stable_sort(order.begin(), order.end(), [&](Index a, Index b) { return at[a].y < at[b].y; });
    double y = 0;
    for (std::size_t from = 0; from < order.size(); from += perRow) {
        const auto begin = order.begin() + static_cast<std::ptrdiff_t>(from),
                   end = order.begin() + static_cast<std::ptrdiff_t>(std::min(order.size(), from + perRow));
        std::stable_sort(begin, end, [&](Index a, Index b) { return at[a].x < at[b].x; });
        double x = 0, height = 0;
        for (auto i = begin; i != end; ++i)
            height = std::max(height, in.sizes[*i].y);
        for (auto i = begin; i != end; ++i) {
            at[*i] = {x + in.sizes[*i].x / 2, y + height / 2};
            x += in.sizes[*i].x + in.gap;
        }
        y += height + in.gap;
    }
}

double scaleNeeded(const Springs& in, const std::vector<PointF>& at, PointF reach) {
    const Places places(at, std::max(60.0, (reach.x + reach.y) / 2));
    double scale = 1;
    for (Index i = 0; i < at.size(); ++i)
        places.forEachNear(at[i], (in.sizes[i] + reach) * 0.5 + PointF{in.gap, in.gap}, [&](Index j) {
            if (j <= i)
                return;
            const PointF d = at[j] - at[i];
            const double x = ((in.sizes[i].x + in.sizes[j].x) / 2 + in.gap) / std::max(0.5, std::abs(d.x)),
                         y = ((in.sizes[i].y + in.sizes[j].y) / 2 + in.gap) / std::max(0.5, std::abs(d.y));
            scale = std::max(scale, std::min(x, y));
        });
    return scale;
}

} // namespace

std::vector<std::vector<LineTo>> linesAt(const Springs& in) {
    std::vector<std::vector<LineTo>> out(in.sizes.size());
    for (Index i = 0; i < in.lines.size(); ++i) {
        out[in.lines[i].first].push_back({i, in.lines[i].second});
        out[in.lines[i].second].push_back({i, in.lines[i].first});
    }
    return out;
}

std::vector<PointF> byStress(const Springs& in) {
    const std::size_t n = in.sizes.size();
    std::vector<PointF> at(n);
    if (n < 2)
        return at;
    at = leastStress(in);
    laidFlat(at, in.aspect);
    // As large as its lines and plates need.
    double length = 0, area = 0;
    for (const auto& [a, b] : in.lines)
        length += scene::length(at[a] - at[b]);
    length /= static_cast<double>(std::max<std::size_t>(in.lines.size(), 1));
    for (const PointF size : in.sizes)
        area += (size.x + in.gap) * (size.y + in.gap);
    const double room = n < 400 ? 7 : 14; ///< times what the plates take; more where more lines pass
    const Rect all = scene::boundsOf(at);
    const double wide = all.w, high = all.h;
    const double spread = std::max({wide * high, 0.1 * wide * wide, 0.1 * high * high, 1e-6});
    const double scale =
        std::max({1.0, 1.6 * std::sqrt(area / static_cast<double>(n)) / std::max(length, 1e-6),
                  std::sqrt(room * area / spread)});
    for (PointF& p : at)
        p = p * scale;
    return at;
}

std::vector<PointF> bySprings(const Springs& in) {
    auto at = byStress(in);
    separate(in, at);
    return at;
}

void separate(const Springs& in, std::vector<PointF>& at) {
    const std::size_t n = at.size();
    if (n < 2)
        return;
    const PointF reach = largest(in.sizes);
    const int rounds = n < 3000 ? 120 : 40;
    constexpr std::size_t enough = 60'000'000;
    std::size_t looks = 0;
    for (int i = 0; i < rounds && looks < enough && in.goesOn(); ++i)
        if (pushed(in, at, reach, looks))
            return;
    constexpr double tooMuch = 5;
    const double more = scaleNeeded(in, at, reach);
    if (more > tooMuch) { // as near as rows can have it
        intoRows(in, at);
        return;
    }
    for (PointF& p : at)
        p = p * (more * 1.0001);
    if (scaleNeeded(in, at, reach) > 1)
        intoRows(in, at);
}

} // namespace underridge::layout

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/aligning.h"

#include "core/layout/spring.h"

#include <cmath>

namespace underridge::edit {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {

ActResult movedTo(const Network& network, const Look& look, const std::vector<Shown>& what,
                  const std::vector<PointF>& corners, std::string name) {
    std::vector<Target> targets;
    Refs subjects;
    for (std::size_t i = 0; i < what.size(); ++i) {
        const Point to{static_cast<int>(std::lround(corners[i].x)),
                       static_cast<int>(std::lround(corners[i].y))};
        const Point from{static_cast<int>(std::lround(what[i].frame.x)),
                         static_cast<int>(std::lround(what[i].frame.y))};
        subjects.push_back(what[i].object);
        if (to != from)
            targets.push_back({what[i].object, to});
    }
    return shownAt({std::move(name), network, std::move(subjects)}, look, targets);
}

std::optional<Remark> tooFew(const std::vector<Shown>& what, std::size_t least) {
    return what.size() < least ? std::optional(error("too few are selected", "select more on the sheet"))
                               : std::nullopt;
}

Rect around(const std::vector<Shown>& what) {
    Rect all;
    for (const Shown& each : what)
        all = all.united(each.frame);
    return all;
}

std::vector<PointF> cornersOf(const std::vector<Shown>& what) {
    std::vector<PointF> out;
    for (const Shown& each : what)
        out.push_back({each.frame.x, each.frame.y});
    return out;
}

/// Where middles are put by a function.
template <class To>
std::vector<PointF> middlesTo(const std::vector<Shown>& what, To to) {
    std::vector<PointF> out;
    for (const Shown& each : what)
        out.push_back(to(each.frame.centre()) - PointF{each.frame.w, each.frame.h} * 0.5);
    return out;
}

} // namespace

ActResult align(const Network& network, const Look& look, const std::vector<Shown>& what, Align how) {
    if (auto wrong = tooFew(what, 2))
        return *wrong;
    const Rect all = around(what);
    PointF mean;
    for (const Shown& each : what)
        mean = mean + each.frame.centre() * (1.0 / static_cast<double>(what.size()));
    auto corners = cornersOf(what);
    for (std::size_t i = 0; i < what.size(); ++i) {
        const Rect& f = what[i].frame;
        switch (how) {
        case Align::left:
            corners[i].x = all.x;
            break;
        case Align::centre:
            corners[i].x = mean.x - f.w / 2;
            break;
        case Align::right:
            corners[i].x = all.right() - f.w;
            break;
        case Align::top:
            corners[i].y = all.y;
            break;
        case Align::middle:
            corners[i].y = mean.y - f.h / 2;
            break;
        case Align::bottom:
            corners[i].y = all.bottom() - f.h;
            break;
        }
    }
    return movedTo(network, look, what, corners, "Align");
}

ActResult distribute(const Network& network, const Look& look, const std::vector<Shown>& what, Along along) {
    if (auto wrong = tooFew(what, 3))
        return *wrong;
    const bool across = along == Along::across;
    const auto from = [&](const Rect& r) { return across ? r.x : r.y; };
    const auto size = [&](const Rect& r) { return across ? r.w : r.h; };
    std::vector<std::size_t> order(what.size());
    for (std::size_t i = 0; i < order.size(); ++i)
        order[i] = i;
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return from(what[a].frame) < from(what[b].frame); });
    const Rect &first = what[order.front()].frame, &last = what[order.back()].frame;
    double gap = from(last) + size(last) - from(first);
    for (const Shown& each : what)
        gap -= size(each.frame);
    gap /= static_cast<double>(what.size() - 1);
    auto corners = cornersOf(what);
    double at = from(first);
    for (const std::size_t i : order) {
        (across ? corners[i].x : corners[i].y) = at;
        at += size(what[i].frame) + gap;
    }
    return movedTo(network, look, what, corners, "Distribute");
}

ActResult mirror(const Network& network, const Look& look, const std::vector<Shown>& what, Along along) {
    if (auto wrong = tooFew(what, 2))
        return *wrong;
    const PointF middle = around(what).centre();
    const auto corners = middlesTo(what, [&](PointF p) {
        return along == Along::across ? PointF{2 * middle.x - p.x, p.y} : PointF{p.x, 2 * middle.y - p.y};
    });
    return movedTo(network, look, what, corners, "Mirror");
}

ActResult turnQuarter(const Network& network, const Look& look, const std::vector<Shown>& what) {
    if (auto wrong = tooFew(what, 2))
        return *wrong;
    const PointF middle = around(what).centre();
    std::vector<PointF> middles;
    layout::Springs sizes; // plates that stood side by side may now be too near below one another
    for (const Shown& each : what) {
        const PointF d = each.frame.centre() - middle;
        middles.push_back(middle + PointF{-d.y, d.x});
        sizes.sizes.push_back({each.frame.w, each.frame.h});
    }
    layout::separate(sizes, middles);
    std::size_t i = 0;
    const auto corners = middlesTo(what, [&](PointF) { return middles[i++]; });
    return movedTo(network, look, what, corners, "Turn");
}

ActResult swapTwo(const Network& network, const Look& look, const std::vector<Shown>& what) {
    if (what.size() != 2)
        return error("two are changed over", "select two on the sheet");
    const PointF a = what[0].frame.centre(), b = what[1].frame.centre();
    const auto corners = middlesTo(what, [&](PointF p) { return p == a ? b : a; });
    return movedTo(network, look, what, corners, "Change over");
}

ActResult spread(const Network& network, const Look& look, const std::vector<Shown>& what, double factor) {
    if (auto wrong = tooFew(what, 2))
        return *wrong;
    const PointF middle = around(what).centre();
    std::vector<PointF> middles;
    layout::Springs sizes;
    for (const Shown& each : what) {
        middles.push_back(middle + (each.frame.centre() - middle) * factor);
        sizes.sizes.push_back({each.frame.w, each.frame.h});
    }
    layout::separate(sizes, middles);
    std::size_t i = 0;
    const auto corners = middlesTo(what, [&](PointF) { return middles[i++]; });
    return movedTo(network, look, what, corners, factor > 1 ? "Make room" : "Close up");
}

} // namespace underridge::edit

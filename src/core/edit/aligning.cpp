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

ActResult distribute(const Network& network, const Look& look, const std::vector<Shown>& what, Along along,
                     Evenly how) {
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
    const auto steps = static_cast<double>(what.size() - 1);
    double gap = from(last) + size(last) - from(first);
    for (const Shown& each : what)
        gap -= size(each.frame);
    gap /= steps;
    if (how == Evenly::asFirst)
        gap = from(what[order[1]].frame) - from(first) - size(first);
    auto corners = cornersOf(what);
    double at = from(first);
    const double middle = at + size(first) / 2, pitch = (from(last) + size(last) / 2 - middle) / steps;
    for (std::size_t k = 0; k < order.size(); ++k) {
        const Rect& frame = what[order[k]].frame;
        if (how == Evenly::middles)
            at = middle + pitch * static_cast<double>(k) - size(frame) / 2;
        (across ? corners[order[k]].x : corners[order[k]].y) = at;
        at += size(frame) + gap;
    }
    return movedTo(network, look, what, corners, "Distribute");
}

ActResult sameSize(const Network& network, const Look& look, const std::vector<ObjectRef>& what) {
    const auto folding = sharedFoldingOf(network, look);
    std::vector<std::pair<ObjectRef, Rect>> frames;
    Rect largest;
    for (const ObjectRef each : what) {
        std::optional<Rect> frame;
        if (each.kind == Kind::group)
            frame = folding->standing({each.id});
        else if (const Note* note = network.note({each.id}); note && note->zone)
            if (const Position* held = network.position(look.sheet, each.id))
                frame = Rect{scene::toF(held->at).x, scene::toF(held->at).y, static_cast<double>(held->width),
                             static_cast<double>(held->height)};
        if (!frame)
            continue;
        frames.emplace_back(each, *frame);
        largest.w = std::max(largest.w, frame->w);
        largest.h = std::max(largest.h, frame->h);
    }
    if (frames.size() < 2)
        return error("too few frames are selected", "select two groups or zones or more");
    Act act{"Same size", network, {}};
    for (const auto& [ref, frame] : frames) {
        Position position = positionOr(network, look.sheet, ref);
        position.at = scene::rounded({frame.x, frame.y});
        position.width = static_cast<int>(std::lround(largest.w));
        position.height = static_cast<int>(std::lround(largest.h));
        if (!isOnSheet(position.at + Point{position.width, position.height}))
            return error("that is off the sheet", "move the frames further in");
        act.network.put(std::move(position));
        act.subjects.push_back(ref);
    }
    return act;
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

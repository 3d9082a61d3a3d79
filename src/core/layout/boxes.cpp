// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/boxes.h"

namespace underridge::layout {

PointF turned(PointF p, PointF size, Turn turn) {
    switch (turn) {
    case Turn::down:
        return p;
    case Turn::up:
        return {p.x, size.y - p.y};
    case Turn::right:
        return {p.y, p.x};
    case Turn::left:
        return {size.y - p.y, p.x};
    }
    return p;
}

Rect turned(const Rect& rect, PointF size, Turn turn) {
    return scene::rectBetween(turned(PointF{rect.x, rect.y}, size, turn),
                              turned(PointF{rect.right(), rect.bottom()}, size, turn));
}

void Boxes::draw(std::size_t box, PointF at, Turn turn, Drawing& drawing) const {
    // A turned box is x' = xx x + xy y + x0, and the same for y.
    struct Placing {
        std::size_t box = 0;
        PointF ofX{1, 0}, ofY{0, 1}, zero;
        PointF operator()(PointF p) const { return ofX * p.x + ofY * p.y + zero; }
    };
    const auto within = [&](const Placing& place, const Box::Inner& inner) {
        const PointF size = all_[inner.box].size;
        Placing next{inner.box, {}, {}, place(inner.at + turned(PointF{0, 0}, size, inner.turn))};
        next.ofX = place(inner.at + turned(PointF{1, 0}, size, inner.turn)) - next.zero;
        next.ofY = place(inner.at + turned(PointF{0, 1}, size, inner.turn)) - next.zero;
        return next;
    };
    std::vector<Placing> open{within({}, {box, at, turn})};
    while (!open.empty()) {
        const Placing place = open.back();
        open.pop_back();
        const Box& here = all_[place.box];
        for (const Box::Plate& plate : here.plates) {
            const Rect frame = scene::rectBetween(place({plate.frame.x, plate.frame.y}),
                                                  place({plate.frame.right(), plate.frame.bottom()}));
            drawing.at[plate.node] = {frame.x, frame.y};
        }
        for (const Wire& wire : here.wires) {
            auto& path = drawing.paths[wire.edge];
            path.clear();
            for (const PointF p : wire.path)
                path.push_back(place(p));
        }
        for (const Box::Inner& inner : here.inner)
            open.push_back(within(place, inner));
    }
}

std::vector<double> exitsAlong(double from, double length, std::size_t count, std::span<const double> ticks) {
    std::vector<double> out(count);
    bool inOrder = ticks.size() == count;
    for (std::size_t i = 0; inOrder && i < count; ++i)
        inOrder = ticks[i] >= 0 && (i == 0 || ticks[i] > ticks[i - 1]);
    constexpr double widest = 9, margin = 6;
    const double pitch =
        count < 2 ? 0 : std::min(widest, (length - 2 * margin) / static_cast<double>(count - 1));
    for (std::size_t i = 0; i < count; ++i)
        out[i] =
            from +
            (inOrder ? ticks[i]
                     : length / 2 + pitch * (static_cast<double>(i) - (static_cast<double>(count) - 1) / 2));
    return out;
}

std::vector<PointF> besidePath(const std::vector<PointF>& path, double by) {
    if (std::abs(by) < 0.01 || path.size() < 2)
        return path;
    std::vector<PointF> out(path.size());
    const auto across = [&](std::size_t i) { // of the piece that begins there
        const PointF d = path[i + 1] - path[i];
        const double length = scene::length(d);
        return length < 1e-9 ? PointF{} : PointF{d.y / length, -d.x / length};
    };
    for (std::size_t i = 0; i < path.size(); ++i) {
        const PointF before = across(i == 0 ? 0 : i - 1), after = across(i + 1 == path.size() ? i - 1 : i);
        const PointF sum = before + after;
        const double square = sum.x * sum.x + sum.y * sum.y;
        out[i] = path[i] + (square < 0.3 ? before * by : sum * (2 * by / square));
    }
    return out;
}

} // namespace underridge::layout

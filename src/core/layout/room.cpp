// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/room.h"

#include "core/layout/wide.h"

#include <cmath>

namespace underridge::layout {

Room::Room(const std::vector<PointF>& at, const std::vector<PointF>& sizes, double gap) {
    for (std::size_t i = 0; i < at.size(); ++i) {
        x_.push_back(static_cast<float>(at[i].x));
        y_.push_back(static_cast<float>(at[i].y));
        w_.push_back(static_cast<float>(sizes[i].x / 2 + gap / 2));
        h_.push_back(static_cast<float>(sizes[i].y / 2 + gap / 2));
    }
}

void Room::move(Index node, PointF to) {
    x_[node] = static_cast<float>(to.x);
    y_[node] = static_cast<float>(to.y);
}

bool Room::isFree(Index node, PointF p) const {
    const auto x = static_cast<float>(p.x), y = static_cast<float>(p.y);
    const bool itself = std::abs(x_[node] - x) < 2 * w_[node] && std::abs(y_[node] - y) < 2 * h_[node];
    return taken(x, y, w_[node], h_[node]) == (itself ? 1 : 0);
}

UNDERRIDGE_WIDE int Room::taken(float x, float y, float w, float h) const {
    const std::size_t count = x_.size();
    const float *xs = x_.data(), *ys = y_.data(), *ws = w_.data(), *hs = h_.data();
    int out = 0;
    for (std::size_t i = 0; i < count; ++i)
        out += (std::abs(xs[i] - x) < ws[i] + w) & (std::abs(ys[i] - y) < hs[i] + h);
    return out;
}

} // namespace underridge::layout

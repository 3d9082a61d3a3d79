// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/bends.h"

#include <cmath>

namespace underridge::scene {
using namespace model;

std::optional<Between> Between::of(Span a, Span b, double pushedA, double pushedB) {
    Between out;
    out.turned_ = b.to < a.from;
    const Span &lower = out.turned_ ? b : a, &upper = out.turned_ ? a : b;
    out.lower_ = out.turned_ ? pushedB : pushedA;
    out.upper_ = out.turned_ ? pushedA : pushedB;
    out.end_ = lower.to;
    out.start_ = upper.from;
    constexpr double least = 1, widest = 4;
    const double room = out.start_ - out.end_, shown = room + out.upper_ - out.lower_;
    if (room < least || shown < least || shown > widest * room)
        return std::nullopt;
    return out;
}

double Between::shown(double place) const {
    if (place <= end_)
        return place + lower_;
    if (place >= start_)
        return place + upper_;
    return place + std::lerp(lower_, upper_, (place - end_) / (start_ - end_));
}

double Between::place(double shown) const {
    const double from = end_ + lower_, to = start_ + upper_;
    if (shown <= from)
        return shown - lower_;
    if (shown >= to)
        return shown - upper_;
    return std::lerp(end_, start_, (shown - from) / (to - from));
}

double Between::nearness(double place) const {
    const double along = std::clamp((place - end_) / (start_ - end_), 0.0, 1.0);
    return turned_ ? 1 - along : along;
}

namespace {

Between::Span alongX(const Rect& rect) {
    return {rect.x, rect.right()};
}

Between::Span alongY(const Rect& rect) {
    return {rect.y, rect.bottom()};
}

} // namespace

Bends::Bends(const Folding& folding, GroupId level, DeviceId a, DeviceId b)
    : folding_(folding), level_(level) {
    // Ends as the level alone would show them, and how far they are from where they are shown.
    const auto standing = [&](DeviceId id, PointF& pushed) -> std::optional<Rect> {
        const auto stands = folding.standingPlate(id);
        const auto plate = folding.plateOf(id);
        const auto corner = stands ? folding.shownFrom(level, {stands->x, stands->y}) : std::nullopt;
        if (!corner || !plate)
            return std::nullopt;
        pushed = {plate->x - corner->x, plate->y - corner->y};
        return Rect{corner->x, corner->y, plate->w, plate->h};
    };
    const auto atA = standing(a, a_), atB = standing(b, b_);
    if (!atA || !atB) {
        a_ = b_ = {};
        return;
    }
    x_ = Between::of(alongX(*atA), alongX(*atB), a_.x, b_.x);
    y_ = Between::of(alongY(*atA), alongY(*atB), a_.y, b_.y);
    constexpr double steepest = 3;
    byX_ = x_ && !y_ && std::abs(a_.y - b_.y) <= steepest * x_->room();
    byY_ = y_ && !x_ && std::abs(a_.x - b_.x) <= steepest * y_->room();
}

double Bends::nearnessOf(PointF place) const {
    return byX_ ? x_->nearness(place.x) : byY_ ? y_->nearness(place.y) : 0.5;
}

PointF Bends::shown(PointF stored) const {
    const PointF at = folding_.shownFrom(level_, stored).value_or(stored);
    if (a_ == b_)
        return at + a_;
    const double toB = nearnessOf(at);
    return {x_ ? x_->shown(at.x) : at.x + std::lerp(a_.x, b_.x, toB),
            y_ ? y_->shown(at.y) : at.y + std::lerp(a_.y, b_.y, toB)};
}

PointF Bends::stored(PointF shown) const {
    PointF at = shown - a_;
    if (!(a_ == b_)) {
        // What has room of its own first: the other axis goes by it.
        const double x = x_ ? x_->place(shown.x) : 0, y = y_ ? y_->place(shown.y) : 0;
        const double toB = nearnessOf({x, y});
        at = {x_ ? x : shown.x - std::lerp(a_.x, b_.x, toB), y_ ? y : shown.y - std::lerp(a_.y, b_.y, toB)};
    }
    return folding_.placeFor(level_, at).value_or(at);
}

bool Bends::keeps(PointF place) const {
    constexpr double rounded = 2; // places are whole units
    return length(stored(shown(place)) - place) < rounded;
}

} // namespace underridge::scene

// SPDX-License-Identifier: GPL-3.0-or-later
// Where the bends of a link are shown. They are stored among places as all stands unfolded; when
// groups fold, or make room for each other, the two ends of a link may be pushed by different ways.
#pragma once
#include "core/scene/folding.h"

namespace underridge::scene {

/// One axis of what lies between two plates that were pushed: beside and beyond a plate a place
/// goes with it, in the room between them each goes the more with the nearer of them. Places that
/// were in a line or in order stay so.
class Between {
public:
    struct Span {
        double from = 0, to = 0;
    };
    /// Of spans with room between them, in the same order where they are shown and not so much
    /// wider there that what is stored in whole units would come back elsewhere; else nothing.
    static std::optional<Between> of(Span a, Span b, double pushedA, double pushedB);

    double shown(double place) const;
    /// The place that is shown there.
    double place(double shown) const;
    /// How near a place is to b: from 0 (at a) to 1.
    double nearness(double place) const;
    /// Between the two spans.
    double room() const { return start_ - end_; }

private:
    double end_ = 0, start_ = 0;   ///< the room: from the lower span's end to the upper one's start
    double lower_ = 0, upper_ = 0; ///< how far these are pushed
    bool turned_ = false;          ///< the lower one is b's
};

/// The bends of one link.
class Bends {
public:
    /// `level`: the innermost group both devices are in.
    Bends(const Folding& folding, model::GroupId level, model::DeviceId a, model::DeviceId b);

    PointF shown(PointF stored) const;
    /// Where a bend has to be stored to be shown at a point; shown() of it is that point but where
    /// something is cut out.
    PointF stored(PointF shown) const;
    /// Whether a bend is shown at a place of its own, which is not so where something is cut out.
    bool keeps(PointF stored) const;

private:
    /// How near a place is to b, for the axis that has no room of its own.
    double nearnessOf(PointF place) const;

    const Folding& folding_;
    model::GroupId level_;
    std::optional<Between> x_, y_; ///< nothing: goes by the other axis, else by the middle
    PointF a_, b_;                 ///< how far the ends are pushed
    /// An axis goes by the other one: not where a unit there would be several here, as what is stored in
    /// whole units would come back elsewhere.
    bool byX_ = false, byY_ = false;
};

} // namespace underridge::scene

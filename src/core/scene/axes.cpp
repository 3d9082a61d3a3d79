// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/axes.h"

#include "core/scene/lines.h"
#include "core/scene/pieces.h"
#include "core/scene/tucking.h"

#include <set>

namespace underridge::scene {
using namespace model;
namespace {

using WayPath = std::vector<PointF>;

constexpr double leastGap = 16;     ///< between two plates, for a corner
constexpr double pastSide = 14;     ///< past the side of a plate
constexpr double lookedMargin = 20; ///< what is beside the plates and still looked at
constexpr double passClear = 3;     ///< between a line and a plate it passes
constexpr double endInset = 8;      ///< of a plate, where no line ends
constexpr double mostStub = 12;     ///< out of a plate before the first corner

/// Where a line ends on a side of a plate: spread by port, or where that is not known by where
/// it goes, so that lines of neighbours do not lie on one another.
double spreadOver(double from, double to, int port, int ports, double towards, double by) {
    const double way = towards - (from + to) / 2;
    const double share = port >= 0 && port < ports ? (port + 0.5) / ports
                                                   : 0.5 + 0.5 * way / (std::abs(way) + 6 * (to - from));
    const double low = from + endInset, high = std::max(low, to - endInset);
    return std::clamp(low + (high - low) * share + by, low, high);
}

/// One end of a line.
struct LineEnd {
    const Anchor& anchor;
    PointF towards;
    int port;
    double by; ///< aside, of parallel lines
    Bundling bundling;

    const Rect& frame() const { return anchor.frame; }
    /// On the lower edge, where the rail is.
    double tick() const {
        if (bundling.on)
            return std::clamp(frame().centre().x + bundling.lane + by, frame().x + endInset,
                              std::max(frame().x + endInset, frame().right() - endInset));
        if (port < 0 || port >= anchor.ports)
            return spreadOver(frame().x, frame().right(), -1, 0, towards.x, by);
        const Rect at = anchor.rail.tick(port);
        return std::clamp(at.x + at.w / 2 + by, frame().x + 4, frame().right() - 4);
    }
    double across() const {
        return spreadOver(frame().x, frame().right(), port, anchor.ports, towards.x, by);
    }
    double down() const { return spreadOver(frame().y, frame().bottom(), port, anchor.ports, towards.y, by); }
};

/// A plate or tile that is no end of a line.
bool isPlateBetween(const Item& item, const Anchor& a, const Anchor& b) {
    return item.layer == Layer::plates && item.object != a.shown && item.object != b.shown;
}

/// The frame of a group neither end of a line is in.
bool isFrameBetween(const Item& item, const Anchor& a, const Anchor& b) {
    const Frame* frame = item.as<Frame>();
    return frame && !frame->frame.contains(a.frame) && !frame->frame.contains(b.frame);
}

class AxisWays {
public:
    AxisWays(const LineEnd& a, const LineEnd& b, const Grid& plates) : a_(a), b_(b), plates_(plates) {}

    WayPath best() {
        const bool turned = b_.frame().centre().y < a_.frame().centre().y;
        const LineEnd &upper = turned ? b_ : a_, &lower = turned ? a_ : b_;
        const double gap = lower.frame().y - upper.frame().bottom();
        if (gap >= leastGap)
            upright(upper, lower, gap, turned);
        const bool mirrored = b_.frame().centre().x < a_.frame().centre().x;
        const LineEnd &left = mirrored ? b_ : a_, &right = mirrored ? a_ : b_;
        const double between = right.frame().x - left.frame().right();
        if (!done_ && between >= leastGap)
            level(left, right, between, mirrored);
        if (!done_ && gap >= leastGap)
            aside(upper, lower, gap, turned);
        if (!done_ && between >= leastGap)
            overOrUnder(left, right, mirrored);
        return std::move(best_);
    }

private:
    /// Down, across, down.
    void upright(const LineEnd& upper, const LineEnd& lower, double gap, bool turned) {
        const double from = upper.tick(), top = upper.frame().bottom(), bottom = lower.frame().y;
        const Rect& under = lower.frame();
        if (from >= under.x + endInset && from <= under.right() - endInset)
            offer({{from, top}, {from, bottom}}, turned);
        const double to = lower.across();
        if (upper.bundling.on)
            return trunk(upper, from, to, gap, turned);
        // Of lines to the left the leftmost turns first, of those to the right the rightmost.
        const double place = std::clamp((from - upper.frame().x) / upper.frame().w, 0.0, 1.0);
        const double share = 0.22 + 0.56 * (to < from ? place : 1 - place);
        for (const double each : {share, share * 0.45, 0.55 + share * 0.45}) {
            const double y = top + gap * each;
            offer({{from, top}, {from, y}, {to, y}, {to, bottom}}, turned);
        }
    }

    /// Which share of the room a trunk of a plate takes: those of its neighbours take others.
    static double shareOf(const LineEnd& end) {
        constexpr double repeats = 731; // along the sheet
        const double place = end.frame().centre().x / repeats;
        return place - std::floor(place);
    }
    /// The same where trunks of several plates come together: those from the left take other halves than
    /// those from the right.
    static double shareAtEnd(const LineEnd& end, bool leftwards) {
        return (shareOf(end) + (leftwards ? 1 : 0)) / 2;
    }

    /// Down and across with all that leave the upper plate, or that come to where the lower one
    /// stands; trunks of neighbours turn at different heights.
    void trunk(const LineEnd& upper, double from, double to, double gap, bool turned) {
        const double nearest = std::min(18.0, gap * 0.25), spread = std::min(24.0, gap * 0.35);
        const double inward = to < from ? upper.by : -upper.by; // parallel lines do not cross
        const auto down = [&](double share) {
            return std::min(nearest + spread * share + upper.bundling.lane / 2, gap * 0.6) + inward;
        };
        const double top = upper.frame().bottom(), bottom = top + gap;
        const double first = upper.bundling.bySide ? shareAtEnd(upper, to < from) : shareOf(upper);
        for (const double y :
             {top + down(first), bottom - down(shareAtEnd(upper, to < from)), top + gap / 2 + inward}) {
            const double turn = std::clamp(y, top + 4, bottom - 4);
            offer({{from, top}, {from, turn}, {to, turn}, {to, bottom}}, turned);
        }
    }

    /// Out at the sides that face one another.
    void level(const LineEnd& left, const LineEnd& right, double between, bool turned) {
        const double out = left.frame().right(), in = right.frame().x;
        const double low = std::max(left.frame().y, right.frame().y) + 4,
                     high = std::min(left.frame().bottom(), right.frame().bottom()) - 4;
        if (high > low) {
            const double y = std::clamp((low + high) / 2 + left.by, low, high);
            offer({{out, y}, {in, y}}, turned);
        }
        const double from = left.down(), to = right.down();
        const double place = std::clamp((from - left.frame().y) / left.frame().h, 0.0, 1.0);
        const double share = 0.3 + 0.4 * (to < from ? place : 1 - place);
        for (const double each : {share, share * 0.4, 0.6 + share * 0.4}) {
            const double x = out + between * each;
            offer({{out, from}, {x, from}, {x, to}, {in, to}}, turned);
        }
    }

    /// Past what stands between, to the left or right of both.
    void aside(const LineEnd& upper, const LineEnd& lower, double gap, bool turned) {
        const double from = upper.tick(), to = lower.across(), top = upper.frame().bottom(),
                     bottom = lower.frame().y;
        const double stub = std::min(mostStub, gap / 3),
                     in = upper.bundling.on
                              ? std::min(stub + mostStub * shareAtEnd(upper, to < from), gap / 2)
                              : stub;
        const double left = std::min(upper.frame().x, lower.frame().x) - pastSide + upper.by,
                     right = std::max(upper.frame().right(), lower.frame().right()) + pastSide + upper.by;
        // The way with less of a detour first.
        const auto detour = [&](double x) { return std::abs(x - from) + std::abs(x - to); };
        const bool leftFirst = detour(left) <= detour(right);
        for (const double x : {leftFirst ? left : right, leftFirst ? right : left})
            offer({{from, top},
                   {from, top + stub},
                   {x, top + stub},
                   {x, bottom - in},
                   {to, bottom - in},
                   {to, bottom}},
                  turned);
    }

    /// Past what stands between, above or below both.
    void overOrUnder(const LineEnd& left, const LineEnd& right, bool turned) {
        const double from = left.across(), to = right.across();
        // At one of several heights, by the ports, so that neighbours do not lie on one another.
        constexpr int heights = 5;
        constexpr double nearest = 8, apart = 4, farthest = 30;
        const double past = std::clamp(
            nearest + apart * ((2 * left.port + right.port + 3) % heights) - left.by, 4.0, farthest);
        const double over = std::min(left.frame().y, right.frame().y) - past;
        offer({{from, left.frame().y}, {from, over}, {to, over}, {to, right.frame().y}}, turned);
        const double below = std::max(left.frame().bottom(), right.frame().bottom()) + past;
        offer({{left.tick(), left.frame().bottom()},
               {left.tick(), below},
               {right.tick(), below},
               {right.tick(), right.frame().bottom()}},
              turned);
    }

    void offer(WayPath path, bool turned) {
        if (done_)
            return;
        const int met = meets(path);
        if (!best_.empty() && met >= least_)
            return;
        least_ = met;
        done_ = met == 0;
        if (turned)
            std::reverse(path.begin(), path.end());
        best_ = std::move(path);
    }

    /// How many plates of others lie on a way, and frames where these count.
    int meets(const WayPath& path) const {
        int met = 0;
        for (std::size_t i = 0; i + 1 < path.size() && (best_.empty() || met < least_); ++i) {
            const Rect piece = rectBetween(path[i], path[i + 1]).grown(passClear);
            for (const Item* item : plates_.obstaclesIn(piece))
                met += (isPlateBetween(*item, a_.anchor, b_.anchor) ||
                        (a_.bundling.roundFrames && isFrameBetween(*item, a_.anchor, b_.anchor))) &&
                       frameOf(*item).intersects(piece);
        }
        return met;
    }

    const LineEnd &a_, &b_;
    const Grid& plates_;
    WayPath best_;
    int least_ = 0;
    bool done_ = false;
};

} // namespace

Grid gridOfPlates(const Network& network, SheetId sheet, const Folding* folding,
                  const std::vector<ItemPtr>& plates) {
    if (!anyTucks(network, sheet))
        return Grid::of(plates);
    std::vector<ItemPtr> seen;
    for (const ItemPtr& item : plates)
        if (const Plate* plate = item->as<Plate>(); !plate || !tuckedInto(network, sheet, folding, plate->id))
            seen.push_back(item);
    return Grid::of(seen);
}

bool isAligned(const std::vector<PointF>& path) {
    return std::equal(path.begin() + 1, path.end(), path.begin(),
                      [](PointF to, PointF from) { return to.x == from.x || to.y == from.y; });
}

Met metBy(const WayPath& path, const Anchor& a, const Anchor& b, const Grid& plates) {
    constexpr double most = 512;
    std::set<ObjectRef> met, frames;
    forEachPiece(path, most, [&](PointF from, PointF to) {
        for (const Item* item : plates.obstaclesIn(rectBetween(from, to).grown(passClear)))
            if (const bool plate = isPlateBetween(*item, a, b); plate || isFrameBetween(*item, a, b))
                if (segmentMeets(from, to, frameOf(*item).grown(passClear)))
                    (plate ? met : frames).insert(item->object);
    });
    return {static_cast<int>(met.size()), static_cast<int>(frames.size())};
}

Rect reachBetween(const Anchor& a, const Anchor& b) {
    return a.frame.united(b.frame).grown(pastSide + lookedMargin);
}

WayPath axisPath(const Anchor& a, const Anchor& b, int portA, int portB, std::pair<int, int> parallels,
                 const Grid& plates, Bundling bundling) {
    const auto [place, all] = parallels;
    // As far aside as is looked at, at most.
    const double by = all < 2 ? 0 : std::clamp((place - (all - 1) / 2.0) * parallelGap, -16.0, 16.0);
    if (bundling.on) // not by port
        portA = portB = -1;
    const LineEnd from{a, b.frame.centre(), portA, by, bundling},
        to{b, a.frame.centre(), portB, by, bundling};
    WayPath path = AxisWays(from, to, plates).best();
    return path.empty() ? straightPath(a, b, portA, portB, parallels) : path;
}

} // namespace underridge::scene

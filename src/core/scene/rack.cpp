// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/rack.h"

#include "core/scene/folding.h"

#include <cmath>

namespace underridge::scene {
using namespace model;

Rect RackPicture::areaOf(const Mounted& mounted, Side seenFrom) const {
    const Rect& all = seenFrom == Side::front ? front : rear;
    Rect out{all.x, all.bottom() - mounted.top() * rackUnitHeight, all.w, mounted.height * rackUnitHeight};
    if (mounted.halfWide) {
        out.w /= 2;
        out.x += (mounted.half == Half::right) == (seenFrom == Side::front) ? out.w : 0;
    }
    return out;
}

Half RackPicture::halfAt(PointF point) const {
    const bool fromFront = point.x < rear.x;
    const bool toTheRight = point.x >= (fromFront ? front : rear).centre().x;
    return toTheRight == fromFront ? Half::right : Half::left;
}

int RackPicture::unitAt(PointF point) const {
    if (point.y < front.y || point.y >= front.bottom())
        return 0;
    return 1 + static_cast<int>((front.bottom() - point.y - 0.001) / rackUnitHeight);
}

std::optional<Side> RackPicture::sideAt(PointF point) const {
    if (point.x >= front.x && point.x < front.right())
        return Side::front;
    return point.x >= rear.x && point.x < rear.right() ? std::optional(Side::rear) : std::nullopt;
}

const RackSlot* RackPicture::slotAt(PointF point) const {
    const RackSlot* found = nullptr;
    for (const RackSlot& slot : slots)
        if (slot.area.contains(point) && (!found || found->behind))
            found = &slot;
    return found;
}

Rect SheetRack::frame() const {
    return {at.x, at.y, 2 * framePadding + numbers + 2 * width + between,
            frameTitle + 2 * framePadding + units * pitch};
}

Rect SheetRack::side(Side side) const {
    const double left = at.x + framePadding + numbers + (side == Side::rear ? width + between : 0);
    return {left, at.y + frameTitle + framePadding, width, units * pitch};
}

PointF SheetRack::corner(const Mounted& mounted, double height) const {
    const Rect all = side(mounted.side);
    const double top = all.bottom() - mounted.top() * pitch;
    const bool toTheRight =
        mounted.halfWide && (mounted.half == Half::right) == (mounted.side == Side::front);
    return {all.x + (toTheRight ? all.w / 2 : 0), top + std::max(0.0, (mounted.height * pitch - height) / 2)};
}

int SheetRack::unitAt(PointF middle, int height) const {
    return static_cast<int>(std::lround((side(Side::front).bottom() - middle.y) / pitch - height / 2.0 + 1));
}

Side SheetRack::sideAt(PointF point) const {
    return point.x < side(Side::rear).x - between / 2 ? Side::front : Side::rear;
}

Half SheetRack::halfAt(PointF point) const {
    const Side from = sideAt(point);
    return (point.x >= side(from).centre().x) == (from == Side::front) ? Half::right : Half::left;
}

std::optional<RackPicture> rackPicture(const Network& network, GroupId id) {
    const Group* rack = network.group(id);
    if (!rack || rack->rackUnits < 1)
        return std::nullopt;
    RackPicture out;
    out.rack = id;
    out.units = rack->rackUnits;
    const double height = rack->rackUnits * rackUnitHeight;
    out.front = {rackNumbers, rackHead, rackWidth, height};
    out.rear = {out.front.right() + rackBetween, rackHead, rackWidth, height};
    for (const Mounted& each : mountedIn(network, id)) {
        if (each.unit < 1) {
            out.loose.push_back(each.device);
            continue;
        }
        const bool clash = each.top() > rack->rackUnits || inTheWay(network, id, each);
        const Side other = each.side == Side::front ? Side::rear : Side::front;
        out.slots.push_back({each, out.areaOf(each, each.side), false, clash});
        out.slots.push_back({each, out.areaOf(each, other), true, clash});
    }
    return out;
}

} // namespace underridge::scene

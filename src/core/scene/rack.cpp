// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/rack.h"

namespace underridge::scene {
using namespace model;

Rect RackPicture::areaOf(int unit, int height, Side side) const {
    const Rect& all = side == Side::front ? front : rear;
    return {all.x, all.bottom() - (unit + height - 1) * rackUnitHeight, all.w, height * rackUnitHeight};
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
        out.slots.push_back({each, out.areaOf(each.unit, each.height, each.side), false, clash});
        out.slots.push_back({each, out.areaOf(each.unit, each.height, other), true, clash});
    }
    return out;
}

} // namespace underridge::scene

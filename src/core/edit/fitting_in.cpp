// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/fitting_in.h"

#include "core/edit/shown_places.h"
#include "core/model/group_tree.h"
#include "core/model/uplinks.h"
#include "core/scene/grid.h"
#include "core/scene/lines.h"
#include "core/scene/plates.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {

constexpr double plateRoom = 18; ///< between plates
constexpr double rowDrop = 92;   ///< from a row to the next
constexpr double lookStep = 12;  ///< between places that are looked at
constexpr int mostSteps = 260;   ///< steps away from where it would stand best

class FittingIn {
public:
    FittingIn(const Network& network, SheetId sheet, const std::vector<DeviceId>& devices)
        : network_(network), sheet_(*network.sheet(sheet)), fresh_(devices.begin(), devices.end()) {
        std::vector<scene::ItemPtr> plates;
        network.all<Position>().forEachIn(sheet.value, [&](const Position& position) {
            const Device* device = position.of == Kind::device ? network.device({position.object}) : nullptr;
            if (const Note* note = position.of == Kind::note ? network.note({position.object}) : nullptr;
                note && !note->zone && !note->behind)
                if (auto card = scene::cardOf(network, sheet, *note))
                    plates.push_back(std::make_shared<const scene::Item>(scene::itemOf(*std::move(card))));
            if (!device)
                return;
            scene::Plate plate = *scene::plateOf(network, sheet, *device);
            plates_[device->id] = plate;
            if (position.pinned)
                fresh_.erase(device->id);
            if (!fresh_.contains(device->id))
                plates.push_back(std::make_shared<const scene::Item>(scene::itemOf(std::move(plate))));
        });
        taken_ = scene::Grid::of(plates);
        if (!sheet_.drawsGroups())
            return;
        const scene::Folding folding = foldingOf(network, {sheet});
        network.all<Group>().forEach([&](const Group& group) {
            if (const auto frame = folding.standing(group.id))
                frames_.emplace_back(group.id, *frame);
        });
    }

    /// Where devices go, of those that are linked to something.
    std::map<DeviceId, Point> places() {
        std::map<DeviceId, Point> out;
        while (!fresh_.empty()) {
            DeviceId next;
            std::size_t most = 0;
            for (const DeviceId id : fresh_)
                if (const std::size_t count = standing(id).size(); count > most) {
                    next = id;
                    most = count;
                }
            if (!next)
                break;
            scene::Plate& plate = plates_.at(next);
            plate = plate.movedTo(placeFor(next));
            taken_.put(std::make_shared<const scene::Item>(scene::itemOf(plate)));
            out[next] = scene::rounded({plate.frame.x, plate.frame.y});
            fresh_.erase(next);
        }
        return out;
    }

private:
    /// What a device is linked to that has its place.
    std::vector<DeviceId> standing(DeviceId id) const {
        std::vector<DeviceId> out;
        network_.forEachLinkOf(id, [&](const Link& link) {
            const DeviceId other = link.a.device == id ? link.b.device : link.a.device;
            if (other != id && scene::isDrawnOn(link, sheet_) && plates_.contains(other) &&
                !fresh_.contains(other))
                out.push_back(other);
        });
        return out;
    }

    int tier(DeviceId id) const { return tierOf(roleOf(network_, *network_.device(id))); }

    Rect placeFor(DeviceId id) const {
        const auto neighbours = standing(id);
        const Rect own = plates_.at(id).frame;
        PointF mean;
        Rect all;
        int higher = 0;
        for (const DeviceId each : neighbours) {
            const Rect& frame = plates_.at(each).frame;
            mean = mean + frame.centre() * (1.0 / static_cast<double>(neighbours.size()));
            all = all.united(frame);
            higher += tier(each) >= tier(id) ? 1 : -1;
        }
        const bool above = higher < 0;
        const PointF wanted{mean.x - own.w / 2, above ? all.y - rowDrop : all.bottom() + rowDrop - own.h};
        Rect best{wanted.x, wanted.y, own.w, own.h};
        double least = std::numeric_limits<double>::infinity();
        // Ring by ring about the best place; what is farther costs more.
        for (int ring = 0; ring <= mostSteps && ring * lookStep < least; ++ring)
            for (int i = -ring; i <= ring; ++i)
                for (int side = 0; side < (ring == 0 ? 1 : 4); ++side) {
                    const double r = ring * lookStep, along = i * lookStep;
                    const PointF off = side == 0   ? PointF{along, r}
                                       : side == 1 ? PointF{along, -r}
                                       : side == 2 ? PointF{r, along}
                                                   : PointF{-r, along};
                    const Rect place{wanted.x + off.x, wanted.y + off.y, own.w, own.h};
                    const double cost = costOf(id, place, off, above);
                    if (cost < least && isFree(id, place)) {
                        const double whole = cost + crossed(neighbours, place);
                        if (whole < least) {
                            least = whole;
                            best = place;
                        }
                    }
                }
        return best;
    }

    /// Ways aside are better than ways back up the flow.
    double costOf(DeviceId id, const Rect& place, PointF off, bool above) const {
        const double back = above ? off.y : -off.y;
        double cost = scene::length(off) + (back > 0 ? 2 * back : 0);
        if (const GroupId group = network_.device(id)->group)
            for (const auto& [each, frame] : frames_)
                if (each == group && !frame.contains(place.grown(plateRoom / 2)))
                    cost += 400;
        return cost;
    }

    bool isFree(DeviceId id, const Rect& place) const {
        constexpr double limit = sheetLimit;
        if (place.x < -limit || place.y < -limit || place.right() > limit || place.bottom() > limit)
            return false;
        const Rect room = place.grown(plateRoom);
        for (const scene::Item* item : taken_.itemsIn(room))
            if (scene::frameOf(*item).intersects(room))
                return false;
        for (const auto& [group, frame] : frames_)
            if (frame.intersects(room) && !isWithin(network_, network_.device(id)->group, group))
                return false; // nobody is inside who does not belong
        return true;
    }

    /// What plates its links would cross cost.
    double crossed(const std::vector<DeviceId>& neighbours, const Rect& place) const {
        constexpr double each = 150;
        double cost = 0;
        for (const DeviceId to : neighbours) {
            const PointF from = place.centre(), end = plates_.at(to).frame.centre();
            for (const scene::Item* item : taken_.itemsIn(scene::rectBetween(from, end)))
                if (item->object != refTo(to) &&
                    scene::segmentMeets(from, end, scene::frameOf(*item).grown(3)))
                    cost += each;
        }
        return cost;
    }

    const Network& network_;
    const Sheet& sheet_;
    std::set<DeviceId> fresh_; ///< those that have no place yet
    std::map<DeviceId, scene::Plate> plates_;
    scene::Grid taken_;
    std::vector<std::pair<GroupId, Rect>> frames_;
};

} // namespace

ActResult fitIn(const Network& network, SheetId sheet, const std::vector<DeviceId>& devices) {
    const Sheet* held = network.sheet(sheet);
    if (!held)
        return error("the sheet is no longer there", "choose another");
    if (held->mmPerUnit > 0)
        return error("what stands on a plan is where it is built", "use another sheet");
    if (held->follows())
        return error("on a sheet of an upper layer devices are only arranged", "use a sheet of devices");
    for (const DeviceId id : devices)
        if (!network.device(id) || !network.position(sheet, id.value))
            return error("a device is not on that sheet", "put it there first");
    Act act{devices.size() == 1 ? fmt::format("Fit in {}", network.device(devices.front())->name)
                                : fmt::format("Fit in {} devices", devices.size()),
            network,
            {}};
    for (const auto& [id, at] : FittingIn(network, sheet, devices).places()) {
        Position position = *network.position(sheet, id.value);
        position.at = at;
        act.network.put(std::move(position));
    }
    return act;
}

} // namespace underridge::edit

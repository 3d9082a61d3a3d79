// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/following.h"

#include "core/edit/arranging.h"
#include "core/edit/layer_sheets.h"
#include "core/edit/plans.h"
#include "core/edit/rack_sheets.h"
#include "core/linking/route.h"
#include "core/model/group_tree.h"

#include <set>

namespace underridge::edit {
using namespace model;
namespace {

/// Whether where it stands, or what stands in it, is another.
bool standsElsewhere(const Group& was, const Group& is) {
    return was.parent != is.parent || was.type != is.type || was.xMm != is.xMm || was.yMm != is.yMm ||
           was.heightMm != is.heightMm || was.risers != is.risers;
}

/// Devices whose cables may have become longer or shorter.
std::set<DeviceId> devicesMoved(const Network& before, const Network& after) {
    std::set<DeviceId> devices;
    std::set<GroupId> groups;
    Network::compare(before, after, [&]<class R>(const R* was, const R* is) {
        if constexpr (std::is_same_v<R, Device>) {
            if (was && is && !(was->place == is->place && was->stack == is->stack))
                devices.insert(is->id);
        } else if constexpr (std::is_same_v<R, Group>) {
            if (was && is && standsElsewhere(*was, *is))
                groups.insert(is->id);
        } else if constexpr (std::is_same_v<R, CableRoute>) {
            for (const CableRoute* route : {was, is})
                if (route)
                    groups.insert(route->floor);
        }
    });
    const auto take = [&](GroupId group) {
        after.forEachPlacedIn(group, [&](const Device& device) { devices.insert(device.id); });
    };
    for (const GroupId group : groups) {
        take(group);
        for (const GroupId inner : groupsWithin(after, group))
            take(inner);
    }
    return devices;
}

} // namespace

void followLengths(const Network& before, Network& after) {
    if (!after.anythingStands())
        return;
    std::set<CableId> cables;
    for (const DeviceId id : devicesMoved(before, after))
        after.forEachCableOf(id, [&](const Cable& cable) { cables.insert(cable.id); });
    linking::CableWays were(before), are(after);
    std::vector<Cable> changed;
    for (const CableId id : cables) {
        const Cable *was = before.cable(id), *is = after.cable(id);
        const CableType* type = is ? after.typeOf(*is) : nullptr;
        if (!was || !type || is->lengthMeasured || is->lengthMm == 0 || is->lengthMm != was->lengthMm ||
            is->ends != was->ends || is->ends.size() < 2)
            continue;
        const PortRef &a = is->ends.front().at, &b = is->ends.back().at;
        const auto old = linking::lengthFor(before, were, *type, a, b);
        const auto fresh = linking::lengthFor(after, are, *type, a, b);
        if (!old || !fresh || *old != is->lengthMm || *fresh == *old)
            continue;
        changed.push_back(*is);
        changed.back().lengthMm = *fresh;
    }
    for (Cable& cable : changed)
        after.put(std::move(cable));
}

void followAct(const Network& before, Network& after) {
    followPlans(before, after);
    followRacks(before, after);
    followLengths(before, after);
    followArranged(before, after);
    followLayers(before, after);
}

} // namespace underridge::edit

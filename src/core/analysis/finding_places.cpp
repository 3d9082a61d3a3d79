// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/finding_places.h"

#include "core/model/group_tree.h"

namespace underridge::analysis {
using namespace model;

std::set<GroupId> placesOf(const Network& network, const linking::Finding& finding) {
    std::set<GroupId> places;
    addPlacesOf(network, finding, places);
    return places;
}

void addPlacesOf(const Network& network, const linking::Finding& finding, std::set<GroupId>& places) {
    const auto within = [&](GroupId group) {
        if (!group || places.contains(group))
            return;
        for (const GroupId each : upwards(network, group))
            places.insert(each);
    };
    const auto at = [&](DeviceId id) {
        if (const Device* device = network.device(id))
            within(device->group);
    };
    for (const ObjectRef& subject : finding.subjects) {
        if (const Link* link = network.link({subject.id})) {
            at(link->a.device);
            at(link->b.device);
        } else if (const Cable* cable = network.cable({subject.id})) {
            for (const CableEnd& end : cable->ends)
                at(end.at.device);
        } else if (network.group({subject.id})) {
            within({subject.id});
        } else if (const CableRoute* route = network.cableRoute({subject.id})) {
            within(route->floor);
        } else {
            at({subject.id});
        }
    }
}

} // namespace underridge::analysis

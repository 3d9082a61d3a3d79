// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/trouble.h"

#include "core/model/group_tree.h"

#include <set>

namespace underridge::scene {
using namespace model;
namespace {

Severity worstOf(const std::set<const linking::Rule*>& rules) {
    Severity worst = Severity::advice;
    for (const linking::Rule* rule : rules)
        worst = std::min(worst, rule->severity);
    return worst;
}

} // namespace

std::vector<DeviceId> devicesAt(const Network& network, std::uint64_t id) {
    if (network.device({id}))
        return {{id}};
    if (const Link* link = network.link({id}))
        return {link->a.device, link->b.device};
    std::vector<DeviceId> out;
    if (const Cable* cable = network.cable({id}))
        for (const CableEnd& end : cable->ends)
            out.push_back(end.at.device);
    return out;
}

std::map<GroupId, Trouble> troubleByGroup(const Network& network, const find::Findings& findings) {
    std::map<GroupId, Trouble> out;
    findings.forEach([&](std::uint64_t id, const std::set<const linking::Rule*>& rules) {
        const Severity worst = worstOf(rules);
        if (worst == Severity::advice)
            return;
        std::set<GroupId> groups;
        for (const DeviceId each : devicesAt(network, id))
            if (const Device* device = network.device(each))
                for (const GroupId group : upwards(network, device->group))
                    groups.insert(group);
        for (const GroupId group : groups)
            ++(worst == Severity::error ? out[group].errors : out[group].warnings);
    });
    return out;
}

std::vector<PointF> errorsOn(const Network& network, const Scene& scene, const find::Findings& findings) {
    std::vector<PointF> out;
    findings.forEach([&](std::uint64_t id, const std::set<const linking::Rule*>& rules) {
        if (worstOf(rules) != Severity::error)
            return;
        if (const LinkLine* line = scene.link({id})) {
            out.push_back(boundsOf(line->path).centre());
            return;
        }
        for (const DeviceId device : devicesAt(network, id))
            if (const auto anchor = scene.anchorOf(device))
                out.push_back(anchor->frame.centre());
    });
    return out;
}

} // namespace underridge::scene

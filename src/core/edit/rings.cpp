// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/rings.h"

#include "core/analysis/layers.h"
#include "core/edit/links.h"
#include "core/linking/chain.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

bool has(const std::vector<LinkId>& links, LinkId id) {
    return std::find(links.begin(), links.end(), id) != links.end();
}

bool endsAt(const Network& network, LinkId id, DeviceId device) {
    const Link* link = network.link(id);
    return link && (link->a.device == device || link->b.device == device);
}

} // namespace

Result<std::vector<LinkId>> ringAmong(const Network& network, const std::vector<DeviceId>& devices) {
    std::map<DeviceId, std::map<DeviceId, std::vector<LinkId>>> joined;
    const std::set<DeviceId> all(devices.begin(), devices.end());
    for (const analysis::FrameLink& each : analysis::frameLinksOf(network)) // panels are passed
        for (const auto& [from, to] :
             {std::pair(each.a.device, each.b.device), {each.b.device, each.a.device}})
            if (all.contains(from) && all.contains(to)) {
                auto& links = joined[from][to];
                links.insert(links.end(), each.links.begin(), each.links.end());
            }
    if (all.size() < 2 || (all.size() == 2 && joined[*all.begin()][*all.rbegin()].size() < 2))
        return error("a ring has two devices or more, and two ways between them",
                     "select all devices of the ring");
    for (const DeviceId id : all) {
        const std::size_t others = joined[id].size();
        if (all.size() > 2 && others != 2)
            return error(
                fmt::format("{} is joined to {} of the others, not to two", network.device(id)->name, others),
                "select the devices of the ring, or its links");
    }
    std::vector<LinkId> out;
    DeviceId before, here = devices.front();
    do {
        DeviceId next;
        for (const auto& [other, links] : joined[here])
            if (other != before && (!next || other == devices[1]))
                next = other; // the way round that the second is named
        out.insert(out.end(), joined[here][next].begin(), joined[here][next].end());
        before = here;
        here = next;
    } while (here != devices.front() && all.size() > 2);
    std::set<DeviceId> met;
    for (const DeviceId id : devicesOf(network, out))
        met.insert(id);
    if (met != all)
        return error("the devices are joined in more rings than one", "select those of one");
    return out;
}

std::vector<DeviceId> devicesOf(const Network& network, const std::vector<LinkId>& links) {
    std::vector<DeviceId> out;
    for (const LinkId each : links)
        if (const Link* link = network.link(each))
            for (const DeviceId id : {link->a.device, link->b.device})
                if (const Device* device = network.device(id);
                    device && !linking::isPassive(network, *device) &&
                    std::find(out.begin(), out.end(), id) == out.end())
                    out.push_back(id);
    return out;
}

ActResult declareRing(const Network& network, Ring ring, IdSource& ids) {
    std::set<std::string> names;
    network.all<Ring>().forEach([&](const Ring& each) {
        if (each.id != ring.id)
            names.insert(each.name);
    });
    if (trimmed(ring.name).empty())
        for (int n = 1; ring.name.empty() || names.contains(ring.name); ++n)
            ring.name = fmt::format("ring {}", n);
    if (names.contains(ring.name))
        return error(fmt::format("there is a ring {}", ring.name), "choose another name");
    for (const LinkId id : ring.links)
        if (!network.link(id))
            return error("a link is no longer there", "select again");
    if (ring.links.size() < 2)
        return error("a ring has two links or more", "select all of its links");
    for (const VlanRange& range : ring.vlans)
        if (!range.valid())
            return error(fmt::format("{}-{} are no VLANs", range.first, range.last), "write 1 to 4094");
    const auto devices = devicesOf(network, ring.links);
    if (devices.size() < 2)
        return error("the links join no two devices", "select all links of the ring");
    if (!ring.owner)
        ring.owner = devices.front();
    if (std::find(devices.begin(), devices.end(), ring.owner) == devices.end())
        return error("who blocks is not in the ring", "name a device of it");
    if (ring.protocol == RingProtocol::hsr)
        ring.blocked = {};
    else if (!ring.blocked)
        for (const LinkId id : ring.links)
            if (endsAt(network, id, ring.owner))
                ring.blocked = id;
    if (ring.blocked && !has(ring.links, ring.blocked))
        return error("what is blocked is no link of the ring", "name one of its links");
    if (ring.blocked && !endsAt(network, ring.blocked, ring.owner))
        return error(fmt::format("{} does not end at {}", linkText(network, *network.link(ring.blocked)),
                                 network.device(ring.owner)->name),
                     "who blocks has the blocked link: name one of its two");
    if (!ring.id)
        ring.id = ids.make<RingId>();
    Act act{fmt::format("Declare {}", ring.name), network, {}, {}};
    for (const LinkId id : ring.links)
        act.subjects.push_back(refTo(id));
    act.network.put(std::move(ring));
    return act;
}

Ring blockedAt(const Network& network, Ring ring, LinkId link) {
    ring.blocked = link;
    const auto ends = devicesOf(network, {link});
    if (!ends.empty() && std::find(ends.begin(), ends.end(), ring.owner) == ends.end())
        ring.owner = ends.front();
    return ring;
}

ActResult dissolveRings(const Network& network, const std::vector<RingId>& rings) {
    Act act{"Dissolve rings", network, {}, {}};
    for (const RingId id : rings) {
        const Ring* held = network.find<Ring>({id.value, 0});
        if (!held)
            return error("the ring is no longer there", "select again");
        act.name = fmt::format("Dissolve {}", held->name);
        for (const LinkId link : held->links)
            act.subjects.push_back(refTo(link));
        act.network.erase<Ring>(held->key());
    }
    if (rings.empty())
        return error("no link of these is in a ring", "select one that is");
    return act;
}

std::vector<RingId> ringsOf(const Network& network, const std::vector<LinkId>& links) {
    std::vector<RingId> out;
    network.all<Ring>().forEach([&](const Ring& ring) {
        if (std::any_of(links.begin(), links.end(), [&](LinkId id) { return has(ring.links, id); }))
            out.push_back(ring.id);
    });
    return out;
}

} // namespace underridge::edit

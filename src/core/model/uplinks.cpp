// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/uplinks.h"

#include "core/model/ports.h"
#include "core/model/words.h"

#include <algorithm>

namespace underridge::model {
namespace {

struct Node {
    DeviceId id;
    int tier = 0;
    std::vector<std::size_t> peers;
    std::size_t part = SIZE_MAX; ///< of what is connected
    int distance = -1;
};

/// Devices and who is linked to whom.
std::vector<Node> nodesOf(const Network& network) {
    std::vector<Node> nodes;
    std::unordered_map<std::uint64_t, std::size_t> at;
    network.all<Device>().forEach([&](const Device& device) {
        at[device.id.value] = nodes.size();
        nodes.push_back({device.id, tierOf(roleOf(network, device)), {}, SIZE_MAX, -1});
    });
    network.all<Link>().forEach([&](const Link& link) {
        const auto a = at.find(link.a.device.value), b = at.find(link.b.device.value);
        if (a == at.end() || b == at.end() || a == b)
            return;
        nodes[a->second].peers.push_back(b->second);
        nodes[b->second].peers.push_back(a->second);
    });
    return nodes;
}

/// Everything reached from a node, as one part.
std::vector<std::size_t> partFrom(std::vector<Node>& nodes, std::size_t first, std::size_t part) {
    std::vector<std::size_t> members{first};
    nodes[first].part = part;
    for (std::size_t i = 0; i < members.size(); ++i)
        for (const std::size_t peer : nodes[members[i]].peers)
            if (nodes[peer].part == SIZE_MAX) {
                nodes[peer].part = part;
                members.push_back(peer);
            }
    return members;
}

} // namespace

int tierOf(Role role) {
    switch (familyOf(role)) {
    case RoleFamily::provider:
        return 6;
    case RoleFamily::router:
    case RoleFamily::firewall:
        return 5;
    case RoleFamily::switch_:
        return 4;
    case RoleFamily::server:
    case RoleFamily::accessPoint:
        return 2;
    case RoleFamily::patchPanel:
        return 1;
    case RoleFamily::endpoint:
        return 0;
    }
    return 0;
}

DeviceId UplinkTree::aboveOf(DeviceId device) const {
    const auto at = above.find(device.value);
    return at == above.end() ? DeviceId{} : at->second;
}

UplinkTree uplinksOf(const Network& network) {
    UplinkTree out;
    std::vector<Node> nodes = nodesOf(network);
    std::vector<DeviceId> alone;
    for (std::size_t first = 0; first < nodes.size(); ++first) {
        if (nodes[first].part != SIZE_MAX)
            continue;
        const auto members = partFrom(nodes, first, first);
        if (members.size() == 1) {
            alone.push_back(nodes[first].id);
            continue;
        }
        int highest = 0;
        for (const std::size_t each : members)
            highest = std::max(highest, nodes[each].tier);
        std::vector<std::size_t> reached;
        for (const std::size_t each : members)
            if (nodes[each].tier == highest) {
                nodes[each].distance = 0;
                reached.push_back(each);
                out.roots.push_back(nodes[each].id);
            }
        for (std::size_t i = 0; i < reached.size(); ++i)
            for (const std::size_t peer : nodes[reached[i]].peers)
                if (nodes[peer].distance < 0) {
                    nodes[peer].distance = nodes[reached[i]].distance + 1;
                    reached.push_back(peer);
                }
        for (const std::size_t each : reached) {
            const Node* best = nullptr;
            for (const std::size_t peer : nodes[each].peers) {
                const Node& other = nodes[peer];
                const auto rank = [](const Node& node) {
                    return std::tuple(-node.tier, -static_cast<std::ptrdiff_t>(node.peers.size()), node.id);
                };
                if (other.distance == nodes[each].distance - 1 && (!best || rank(other) < rank(*best)))
                    best = &other;
            }
            if (best)
                out.above[nodes[each].id.value] = best->id;
        }
    }
    std::sort(out.roots.begin(), out.roots.end());
    out.roots.insert(out.roots.end(), alone.begin(), alone.end());
    return out;
}

} // namespace underridge::model

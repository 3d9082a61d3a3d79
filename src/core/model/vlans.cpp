// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/vlans.h"

#include <fmt/format.h>

#include "core/model/group_tree.h"

#include <algorithm>

namespace underridge::model {

int numberOf(const Network& network, VlanId id) {
    const Vlan* vlan = id ? network.vlan(id) : nullptr;
    return vlan ? vlan->number : 0;
}

VlanId vlanFor(const Network& network, GroupId in, int number) {
    std::vector<GroupId> scopes = upwards(network, in);
    scopes.push_back({});
    VlanId found;
    std::size_t nearest = scopes.size();
    network.all<Vlan>().forEach([&](const Vlan& vlan) {
        const auto at = std::find(scopes.begin(), scopes.end(), vlan.scope);
        const auto rank = static_cast<std::size_t>(at - scopes.begin());
        if (vlan.number == number && rank < nearest) {
            nearest = rank;
            found = vlan.id;
        }
    });
    return found;
}

bool saysVlans(const Interface& interface) {
    return interface.untagged || interface.voice || !interface.tagged.empty() ||
           !interface.taggedRanges.empty() || !interface.untaggedToo.empty();
}

std::string taggedText(const Network& network, const Interface& interface) {
    std::string out;
    const auto add = [&](const std::string& text) { out += (out.empty() ? "" : ",") + text; };
    for (const VlanId id : interface.tagged)
        if (const Vlan* vlan = network.vlan(id))
            add(std::to_string(vlan->number));
    for (const VlanRange range : interface.taggedRanges)
        add(range.first == range.last ? std::to_string(range.first)
                                      : fmt::format("{}-{}", range.first, range.last));
    return out;
}

} // namespace underridge::model

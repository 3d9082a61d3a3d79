// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/group_tree.h"

#include <algorithm>
#include <set>

namespace underridge::model {

std::vector<GroupId> upwards(const Network& network, GroupId group) {
    std::vector<GroupId> out;
    const std::size_t most = network.all<Group>().size();
    for (const Group* at = network.group(group); at && out.size() < most; at = network.group(at->parent))
        out.push_back(at->id);
    return out;
}

GroupId commonGroup(const Network& network, GroupId a, GroupId b) {
    const auto aroundA = upwards(network, a), aroundB = upwards(network, b);
    const auto common = std::find_if(aroundA.begin(), aroundA.end(), [&](GroupId each) {
        return std::find(aroundB.begin(), aroundB.end(), each) != aroundB.end();
    });
    return common == aroundA.end() ? GroupId{} : *common;
}

std::vector<GroupId> groupsWithin(const Network& network, GroupId group) {
    std::vector<GroupId> out;
    std::set<GroupId> seen{group};
    const auto take = [&](GroupId of) {
        network.forEachIn(of, [&](ObjectRef member) {
            if (member.kind == Kind::group && seen.insert({member.id}).second)
                out.push_back({member.id});
        });
    };
    take(group);
    for (std::size_t i = 0; i < out.size(); ++i)
        take(out[i]);
    return out;
}

std::vector<DeviceId> devicesWithin(const Network& network, GroupId group) {
    std::vector<GroupId> all = groupsWithin(network, group);
    all.push_back(group);
    std::vector<DeviceId> out;
    for (const GroupId each : all)
        network.forEachIn(each, [&](ObjectRef member) {
            if (member.kind == Kind::device)
                out.push_back({member.id});
        });
    std::sort(out.begin(), out.end());
    return out;
}

std::string pathText(const Network& network, GroupId group) {
    std::string out;
    for (const GroupId each : upwards(network, group))
        out = network.group(each)->name + (out.empty() ? "" : "/" + out);
    return out;
}

} // namespace underridge::model

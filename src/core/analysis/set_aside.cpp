// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/set_aside.h"

#include <algorithm>
#include <map>
#include <set>

namespace underridge::analysis {
using namespace model;

Sifted sift(const Network& network, std::vector<linking::Finding> findings, std::string_view today) {
    Sifted sifted;
    if (network.all<SetAside>().empty()) {
        sifted.open = std::move(findings);
        return sifted;
    }
    const auto inOrder = [](std::vector<ObjectRef> subjects) {
        std::sort(subjects.begin(), subjects.end());
        return subjects;
    };
    std::map<std::pair<std::string, std::vector<ObjectRef>>, SetAsideId> records;
    std::set<SetAsideId> idle;
    network.all<SetAside>().forEach([&](const SetAside& each) {
        idle.insert(each.id);
        if (each.until.empty() || today.empty() || today <= each.until)
            records.emplace(std::pair(each.rule, inOrder(each.subjects)), each.id);
    });
    for (linking::Finding& finding : findings) {
        const auto at = records.find({std::string(finding.rule->code), inOrder(finding.subjects)});
        if (at == records.end()) {
            sifted.open.push_back(std::move(finding));
            continue;
        }
        idle.erase(at->second);
        sifted.aside.push_back({std::move(finding), at->second});
    }
    sifted.idle.assign(idle.begin(), idle.end());
    return sifted;
}

} // namespace underridge::analysis

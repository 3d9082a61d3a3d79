// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/filtering.h"

#include <algorithm>

namespace underridge::analysis {
using namespace model;
namespace {

bool fits(const std::vector<Address>& prefixes, const Ip& ip) {
    return prefixes.empty() || std::any_of(prefixes.begin(), prefixes.end(), [&](const Address& each) {
               return each.valid() && prefixOf(each).contains(ip);
           });
}

enum class Fit { no, perhaps, yes };

Fit fitOf(const FilterRule& rule, const Packet& packet, const std::string& from, const std::string& to) {
    if (!fits(rule.from, packet.source) || !fits(rule.to, packet.target) ||
        (!rule.fromZone.empty() && rule.fromZone != from) || (!rule.toZone.empty() && rule.toZone != to))
        return Fit::no;
    Fit fit = Fit::yes;
    if (rule.protocol != Protocol::any && rule.protocol != packet.protocol) {
        if (packet.protocol != Protocol::any)
            return Fit::no;
        fit = Fit::perhaps;
    }
    if (!rule.ports.empty()) {
        const bool has = std::any_of(rule.ports.begin(), rule.ports.end(),
                                     [&](PortRange range) { return range.contains(packet.port); });
        if (packet.port == 0)
            fit = Fit::perhaps;
        else if (!has)
            return Fit::no;
    }
    return fit;
}

} // namespace

Verdict judge(const PacketFilter& filter, const Packet& packet, const std::string& from,
              const std::string& to) {
    Verdict out;
    if (filter.rules.empty())
        return out;
    for (std::size_t i = 0; i < filter.rules.size(); ++i) {
        const FilterRule& rule = filter.rules[i];
        const Fit fit = fitOf(rule, packet, from, to);
        if (fit == Fit::perhaps)
            out.depends = true;
        if (fit != Fit::yes)
            continue;
        out.allowed = rule.action == FilterAction::allow;
        out.rule = static_cast<int>(i);
        return out;
    }
    out.allowed = false;
    return out;
}

} // namespace underridge::analysis

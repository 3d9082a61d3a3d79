// SPDX-License-Identifier: GPL-3.0-or-later
// The register of filter rules, device by device in the order they are looked at. A row
// names its rule by its place in the list, from 1, in `port`.
#include "core/edit/interfaces.h"
#include "core/edit/registers/table.h"

#include <array>
#include <charconv>
#include <fmt/format.h>
#include <map>
#include <optional>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

enum RuleColumn : std::size_t {
    fDevice,
    fPlace,
    fName,
    fAction,
    fFrom,
    fTo,
    fFromZone,
    fToZone,
    fProtocol,
    fPorts
};
constexpr std::array<Column, 10> ruleColumns{{{"device", "Device"},
                                              {"place", "No.", false, true},
                                              {"name", "Rule", true},
                                              {"action", "Action", true},
                                              {"from", "From", true},
                                              {"to", "To", true},
                                              {"fromZone", "From zone", true},
                                              {"toZone", "To zone", true},
                                              {"protocol", "Protocol", true},
                                              {"ports", "Ports", true}}};

std::size_t placeOf(const Row& row) {
    std::size_t place = 0;
    std::from_chars(row.port.data(), row.port.data() + row.port.size(), place);
    return place;
}

const FilterRule* ruleOfRow(const Network& network, const Row& row) {
    const Device* device = network.device({row.object.id});
    const std::size_t place = placeOf(row);
    return device && place >= 1 && place <= device->filter->rules.size() ? &device->filter->rules[place - 1]
                                                                         : nullptr;
}

std::vector<NamedRow> ruleRows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<Device>().forEach([&](const Device& device) {
        for (std::size_t i = 1; i <= device.filter->rules.size(); ++i)
            out.push_back({fmt::format("{} {}", device.name, i), {refTo(device.id), std::to_string(i)}});
    });
    return out;
}

std::string listed(const std::vector<Address>& prefixes) {
    std::string out;
    for (const Address& prefix : prefixes)
        out += (out.empty() ? "" : ", ") + prefix.text();
    return out;
}

std::string listed(const std::vector<PortRange>& ports) {
    std::string out;
    for (const PortRange& range : ports)
        out += (out.empty() ? "" : ", ") + (range.first == range.last
                                                ? std::to_string(range.first)
                                                : fmt::format("{}-{}", range.first, range.last));
    return out;
}

std::string ruleText(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const FilterRule* rule = ruleOfRow(network, row);
    if (!rule)
        return {};
    switch (column) {
    case fDevice:
        return network.device({row.object.id})->name;
    case fPlace:
        return row.port;
    case fName:
        return rule->name;
    case fAction:
        return std::string(titleOf(rule->action));
    case fFrom:
        return listed(rule->from);
    case fTo:
        return listed(rule->to);
    case fFromZone:
        return rule->fromZone;
    case fToZone:
        return rule->toZone;
    case fProtocol:
        return std::string(titleOf(rule->protocol));
    default:
        return listed(rule->ports);
    }
}

Result<std::vector<Address>> prefixesFrom(const std::string& typed) {
    auto prefixes = addressesFrom(typed);
    for (const Address& prefix : prefixes)
        if (!prefix.valid())
            return error(fmt::format("{} is no address or prefix", prefix.text()),
                         "write it as 10.84.20.0/24; empty means any");
    return prefixes;
}

Result<std::vector<PortRange>> portsFrom(const std::string& typed) {
    std::vector<PortRange> out;
    const auto number = [](std::string_view text) {
        int value = 0;
        const auto [end, fault] = std::from_chars(text.data(), text.data() + text.size(), value);
        return fault == std::errc{} && end == text.data() + text.size() && value <= 65'535 ? value : 0;
    };
    for (std::size_t at = 0; at < typed.size();) {
        const std::size_t comma = std::min(typed.find(',', at), typed.size());
        const std::string part = trimmed(typed.substr(at, comma - at));
        at = comma + 1;
        const auto dash = part.find('-');
        const int first = number(trimmed(part.substr(0, dash)));
        const int last = dash == std::string::npos ? first : number(trimmed(part.substr(dash + 1)));
        if (first < 1 || last < first)
            return error(fmt::format("{} is no port or range of ports", part),
                         "write 443 or 8000-8080; empty means any");
        out.push_back({first, last});
    }
    return out;
}

template <class Value>
std::optional<Remark> takeInto(Value& value, Result<Value> read) {
    if (!read)
        return read.refusal();
    value = *std::move(read);
    return std::nullopt;
}

void putRules(Network& network, const Device& held, std::vector<FilterRule> rules) {
    Device device = held;
    PacketFilter filter = *device.filter;
    filter.rules = std::move(rules);
    device.filter = std::move(filter);
    network.put(std::move(device));
}

Result<Done> setRule(Network& network, const Catalogue&, const CellChange& change, LengthUnit, IdSource&) {
    const FilterRule* held = ruleOfRow(network, change.row);
    if (!held)
        return goneFromRegister();
    FilterRule rule = *held;
    const std::string typed = trimmed(change.text);
    std::optional<Remark> wrong;
    switch (change.column) {
    case fName:
        rule.name = typed;
        break;
    case fAction:
        wrong = takeInto(rule.action, wordFrom<FilterAction>(typed));
        break;
    case fFrom:
        wrong = takeInto(rule.from, prefixesFrom(typed));
        break;
    case fTo:
        wrong = takeInto(rule.to, prefixesFrom(typed));
        break;
    case fFromZone:
        rule.fromZone = typed;
        break;
    case fToZone:
        rule.toZone = typed;
        break;
    case fProtocol:
        wrong = takeInto(rule.protocol, wordFrom<Protocol>(typed));
        break;
    case fPorts:
        wrong = takeInto(rule.ports, portsFrom(typed));
        break;
    default:
        return error("this cannot be typed here");
    }
    if (wrong)
        return *wrong;
    const Device& device = *network.device({change.row.object.id});
    std::vector<FilterRule> rules = device.filter->rules;
    rules[placeOf(change.row) - 1] = std::move(rule);
    putRules(network, device, std::move(rules));
    return Done{};
}

/// A copy below the rule it is like; the first of a device lets everything pass, as none
/// did.
Result<Done> addRule(Network& network, const Row& like, IdSource&) {
    const Device* device = network.device({like.object.id});
    if (!device)
        return error("there is no device to add a rule to", "select a row or a device first");
    std::vector<FilterRule> rules = device->filter->rules;
    const FilterRule* held = ruleOfRow(network, like);
    FilterRule rule = held ? *held : FilterRule{};
    rule.name = "new";
    rules.insert(held ? rules.begin() + static_cast<std::ptrdiff_t>(placeOf(like)) : rules.end(),
                 std::move(rule));
    putRules(network, *device, std::move(rules));
    return Done{};
}

Result<Done> removeRules(Network& network, const std::vector<Row>& rows) {
    std::map<DeviceId, std::set<std::size_t>> gone;
    for (const Row& row : rows) {
        if (!ruleOfRow(network, row))
            return goneFromRegister();
        gone[{row.object.id}].insert(placeOf(row));
    }
    for (const auto& [id, places] : gone) {
        const Device& device = *network.device(id);
        std::vector<FilterRule> left;
        for (std::size_t i = 0; i < device.filter->rules.size(); ++i)
            if (!places.contains(i + 1))
                left.push_back(device.filter->rules[i]);
        putRules(network, device, std::move(left));
    }
    return Done{};
}

} // namespace

const RegisterTable& filterRulesTable() {
    static constexpr RegisterTable table{"Filter rules", ruleColumns, ruleRows,   ruleText,
                                         setRule,        addRule,     removeRules};
    return table;
}

} // namespace underridge::edit

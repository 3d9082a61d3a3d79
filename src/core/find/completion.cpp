// SPDX-License-Identifier: GPL-3.0-or-later
// Ways to go on with a filter: fields, then what the network has for them.
#include "core/base/text.h"
#include "core/find/matching.h"

#include <map>

namespace underridge::find {
using namespace model;

std::vector<Completion> completions(const Network& network, std::string_view text, std::size_t cursor,
                                    std::span<const linking::Rule> further) {
    const auto typed = typedValue(text, cursor);
    if (!typed)
        return fieldCompletions(text, cursor);
    const std::string begun = lowered(typed->text);
    std::map<std::string, std::string> values; // sorted, each once
    const auto add = [&](std::string_view value, std::string_view means = {}) {
        if (!value.empty() && lowered(value).find(begun) != std::string::npos)
            values.try_emplace(std::string(value), std::string(means));
    };
    const auto addWords = [&](auto words) {
        for (const auto& word : words)
            add(word.text, word.title == word.text ? std::string_view() : word.title);
    };
    switch (typed->field) {
    case Field::role:
        addWords(wordsOf(Role{}));
        add("endpoint");
        add("infrastructure");
        break;
    case Field::medium:
        addWords(wordsOf(Medium{}));
        add("fibre");
        add("copper");
        break;
    case Field::kind:
        addWords(wordsOf(GroupKind{}));
        break;
    case Field::from:
        addWords(wordsOf(Origin{}));
        break;
    case Field::is:
        for (const StateWord& word : states())
            add(word.text, word.means);
        break;
    case Field::finding:
        for (const std::string_view severity : {"error", "warning", "advice", "any", "none"})
            add(severity);
        for (const auto rules : {linking::rules(), further})
            for (const linking::Rule& rule : rules)
                add(rule.code, rule.title);
        break;
    case Field::in:
        network.all<Group>().forEach([&](const Group& group) { add(group.name, titleOf(group.type)); });
        break;
    case Field::model:
        network.all<DeviceModel>().forEach([&](const DeviceModel& model) { add(model.id, model.name); });
        break;
    case Field::cable:
        network.all<CableType>().forEach([&](const CableType& type) { add(type.id, type.name); });
        break;
    case Field::vlan:
        network.all<Vlan>().forEach([&](const Vlan& vlan) { add(std::to_string(vlan.number), vlan.name); });
        break;
    case Field::subnet:
        network.all<Subnet>().forEach([&](const Subnet& subnet) { add(subnet.prefix.text(), subnet.name); });
        break;
    case Field::sheet:
        for (const Sheet& sheet : network.sheetsInOrder())
            add(sheet.name);
        break;
    case Field::service:
        network.all<Service>().forEach([&](const Service& service) { add(service.name); });
        break;
    default:
        break;
    }
    std::vector<Completion> out;
    const auto take = [&](bool starts) {
        for (const auto& [value, means] : values)
            if (out.size() < 12 && lowered(value).starts_with(begun) == starts)
                out.push_back({typed->from, quoted(value), means});
    };
    take(true);
    take(false);
    return out;
}

} // namespace underridge::find

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_members.h"

#include <algorithm>
#include <charconv>

namespace underridge::exchange::rfc8345 {

bool isMember(std::string_view key, std::string_view module, std::string_view name) {
    if (key.size() == name.size())
        return key == name;
    if (key.size() <= module.size() + name.size() || !key.starts_with(module) || !key.ends_with(name))
        return false;
    const std::string_view between = key.substr(module.size(), key.size() - module.size() - name.size());
    return between == ":" || between == "-state:";
}

JsonView member(JsonView object, std::string_view module, std::string_view name) {
    JsonView found;
    object.forEachMember([&](std::string_view key, JsonView value) {
        if (isMember(key, module, name))
            found = value;
    });
    return found;
}

JsonView listIn(JsonView object, std::string_view module, std::string_view name) {
    const JsonView list = member(object, module, name);
    return list.isArray() ? list : JsonView();
}

std::string textIn(JsonView object, std::string_view module, std::string_view name) {
    return member(object, module, name).text();
}

JsonMembers without(JsonView object, std::string_view module, std::initializer_list<std::string_view> names) {
    JsonMembers rest;
    object.forEachMember([&](std::string_view key, JsonView value) {
        if (std::none_of(names.begin(), names.end(),
                         [&](std::string_view name) { return isMember(key, module, name); }))
            rest.set(key, value.compact());
    });
    return rest;
}

void drop(JsonMembers& object, std::string_view module, std::string_view name) {
    std::vector<std::string> keys;
    for (const auto& [key, value] : object.members())
        if (isMember(key, module, name))
            keys.push_back(key);
    for (const std::string& key : keys)
        object.erase(key);
}

std::optional<std::uint64_t> wholeIn(JsonView value) {
    if (!value.isText())
        return value.whole();
    const std::string text = value.text();
    std::uint64_t number = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), number);
    return code == std::errc() && end == text.data() + text.size() && !text.empty() ? std::optional(number)
                                                                                    : std::nullopt;
}

std::vector<model::VlanRange> vlansIn(const std::string& text) {
    std::vector<model::VlanRange> out;
    std::size_t at = 0;
    while (at < text.size()) {
        int from = 0, to = 0;
        const char* end = text.data() + text.size();
        auto [p, code] = std::from_chars(text.data() + at, end, from);
        if (code != std::errc())
            return {};
        to = from;
        if (p != end && (*p == '-' || *p == '.')) {
            while (p != end && (*p == '-' || *p == '.'))
                ++p;
            const auto range = std::from_chars(p, end, to);
            if (range.ec != std::errc())
                return {};
            p = range.ptr;
        }
        if (from < 1 || to > 4094 || to < from)
            return {};
        out.push_back({from, to});
        if (p != end && *p != ',')
            return {};
        at = static_cast<std::size_t>(p - text.data()) + 1;
    }
    return out;
}

std::string_view localName(std::string_view key) {
    return key.substr(key.find(':') + 1); // all of it without one
}

namespace {

/// A member by its name alone, whatever module it is of.
JsonView memberNamed(JsonView object, std::string_view name) {
    JsonView found;
    object.forEachMember([&](std::string_view key, JsonView value) {
        if (!found && localName(key) == name)
            found = value;
    });
    return found;
}

} // namespace

bool isPseudonode(JsonView node) {
    bool pseudo = false;
    const auto look = [&](JsonView flag) {
        pseudo |= lowered(flag.text()).find("pseudonode") != std::string::npos;
    };
    const JsonView l3Attributes = member(node, l3, "l3-node-attributes");
    listIn(member(node, l2, "l2-node-attributes"), l2, "flags").forEach(look);
    listIn(l3Attributes, l3, "flag").forEach(look);
    l3Attributes.forEachMember([&](std::string_view, JsonView value) {
        constexpr std::string_view isis = "ietf-network-isis-topology";
        const std::string id = textIn(member(value, isis, "iso"), isis, "iso-pseudonode-id");
        pseudo |= !id.empty() && id.find_first_not_of('0') != std::string::npos;
    });
    return pseudo ||
           static_cast<bool>(memberNamed(memberNamed(l3Attributes, "ospf-node-attributes"), "pseudonode"));
}

std::string ospfAreaOf(JsonView network) {
    const JsonView attributes = member(network, l3, "l3-topology-attributes");
    const JsonView id = memberNamed(memberNamed(attributes, "ospf-topology-attributes"), "area-id");
    const std::string text = id.whole() ? std::string(id.raw()) : id.text();
    return model::OspfArea(text).number() ? text : std::string();
}

bool isUnicast(JsonView network) {
    return member(network, l3, "l3-topology-attributes") ||
           member(member(network, nw, "network-types"), l3, "l3-unicast-topology");
}

std::vector<LayerPrefix> prefixesIn(JsonView l3Attributes) {
    std::vector<LayerPrefix> out;
    listIn(l3Attributes, l3, "prefix").forEach([&](JsonView prefix) {
        const auto metric = wholeIn(member(prefix, l3, "metric")).value_or(0);
        constexpr std::uint64_t most = 0xFFFFFFFF;
        out.push_back({model::Address(textIn(prefix, l3, "prefix")),
                       metric <= most ? static_cast<std::int64_t>(metric) : 0});
    });
    return out;
}

void replaceMember(JsonMembers& object, std::string_view module, std::string_view name, std::string value) {
    for (const auto& [key, old] : object.members())
        if (isMember(key, module, name)) {
            object.set(std::string(key), std::move(value));
            return;
        }
}

} // namespace underridge::exchange::rfc8345

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/fields.h"

#include "core/model/ports.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

/// The innermost group of a kind a device is in.
std::string groupName(const Network& network, const Device& device, std::optional<GroupKind> kind) {
    for (const Group* group = network.group(device.group); group; group = network.group(group->parent))
        if (!kind || group->type == *kind)
            return group->name;
    return {};
}

bool isNumberField(const std::string& field) {
    return field == "n" || (!field.empty() && field[0] >= '0' && field[0] <= '9');
}

/// A field's text as part of a name: small letters, hyphens for blanks.
std::string asPart(const std::string& text) {
    std::string out = lowered(trimmed(text));
    std::replace(out.begin(), out.end(), ' ', '-');
    return out;
}

std::optional<GroupKind> groupField(const std::string& field) {
    return fromText<GroupKind>(field);
}

} // namespace

Result<std::string> filledFields(const std::string& pattern, const FieldText& textOf) {
    std::string out;
    for (std::size_t at = 0; at < pattern.size();) {
        const auto open = pattern.find('{', at);
        out += pattern.substr(at, open - at);
        if (open == std::string::npos)
            break;
        const auto close = pattern.find('}', open);
        if (close == std::string::npos)
            return error(fmt::format("{} has a brace that is not closed", pattern),
                         "write it as till-{01..}");
        const std::string field = lowered(pattern.substr(open + 1, close - open - 1));
        at = close + 1;
        if (isNumberField(field)) {
            out += field == "n" ? "{1..}" : "{" + field + "}";
            continue;
        }
        auto text = textOf(field);
        if (!text)
            return text.refusal();
        out += *text;
    }
    return out;
}

Result<std::string> deviceField(const Network& network, const Device& device, const std::string& field) {
    std::string text;
    if (field == "name")
        return device.name;
    if (field == "role")
        text = titleOf(roleOf(network, device));
    else if (field == "model")
        text = modelName(network, device);
    else if (field == "group")
        text = groupName(network, device, {});
    else if (const auto kind = groupField(field))
        text = groupName(network, device, kind);
    else
        return error(
            fmt::format("{{{}}} is not a field", field),
            "use role, model, name, site, building, floor, room, rack, group or a number such as {01..}");
    if (text.empty())
        return error(fmt::format("{} has no {}", device.name, field),
                     "leave the field out, or put it into one");
    return asPart(text);
}

Result<std::string> cableField(const Network& network, const Cable& cable, const std::string& field) {
    const auto known = [&](std::size_t end) {
        return cable.ends.size() >= 2 ? network.device(cable.ends[end].at.device) : nullptr;
    };
    const Device *from = known(0), *to = known(1);
    if (!from || !to)
        return error(fmt::format("a cable{} has an end that is not known",
                                 cable.label.empty() ? std::string() : " (" + cable.label + ")"),
                     "leave it out");
    const CableType* type = network.typeOf(cable);
    if (field == "from")
        return from->name;
    if (field == "to")
        return to->name;
    if (field == "from-port")
        return cable.ends[0].at.port;
    if (field == "to-port")
        return cable.ends[1].at.port;
    if (field == "type")
        return asPart(type ? type->name : cable.type);
    if (field == "medium")
        return asPart(std::string(titleOf(type ? type->medium : Medium::unknown)));
    if (field == "group" || groupField(field))
        return deviceField(network, *from, field);
    return error(fmt::format("{{{}}} is not a field", field),
                 "use from, from-port, to, to-port, type, medium, site, building, floor, room, rack or a "
                 "number such as {0001..}");
}

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/overlay_keys.h"

#include "core/base/text.h"
#include "core/find/filter.h"

#include <array>
#include <charconv>
#include <fmt/format.h>

namespace underridge::scene {
using namespace model;
namespace {

struct Written {
    OverlayKind kind;
    std::string_view text; ///< one that is followed by more ends with a colon
};
constexpr std::array<Written, 11> written{{{OverlayKind::tree, "tree"},
                                           {OverlayKind::findings, "findings"},
                                           {OverlayKind::areas, "areas"},
                                           {OverlayKind::speed, "speed"},
                                           {OverlayKind::power, "power"},
                                           {OverlayKind::mains, "mains"},
                                           {OverlayKind::age, "age"},
                                           {OverlayKind::vlan, "vlan:"},
                                           {OverlayKind::subnet, "subnet:"},
                                           {OverlayKind::filter, "where:"},
                                           {OverlayKind::impact, "impact:"}}};
constexpr char between = '\n';

} // namespace

std::string OverlayKey::text() const {
    const std::string head(written[static_cast<std::size_t>(kind)].text);
    switch (kind) {
    case OverlayKind::vlan:
        return fmt::format("{}{}", head, vlan);
    case OverlayKind::subnet:
        return head + subnet.text();
    case OverlayKind::filter:
        return head + filter;
    case OverlayKind::impact:
        return head + idText(object);
    default:
        return head;
    }
}

Result<OverlayKey> OverlayKey::parse(std::string_view text) {
    OverlayKey key;
    const auto no = [&](const char* remedy) { return error(fmt::format("{} is no overlay", text), remedy); };
    const auto at = std::find_if(written.begin(), written.end(), [&](const Written& each) {
        return each.text.ends_with(':') ? text.starts_with(each.text) : text == each.text;
    });
    if (at == written.end() || text.find(between) != std::string_view::npos)
        return no("write tree, findings, areas, speed, power, mains, age, vlan:NUMBER, subnet:PREFIX, "
                  "where:FILTER or impact:ID");
    key.kind = at->kind;
    const std::string rest = trimmed(std::string(text.substr(at->text.size())));
    switch (key.kind) {
    case OverlayKind::vlan: {
        const auto [end, fault] = std::from_chars(rest.data(), rest.data() + rest.size(), key.vlan);
        if (fault != std::errc{} || end != rest.data() + rest.size() || key.vlan < 1 || key.vlan > 4094)
            return no("write vlan: and a number from 1 to 4094");
        break;
    }
    case OverlayKind::subnet:
        key.subnet = Address(rest);
        if (!key.subnet.valid())
            return no("write subnet: and a prefix, as 10.84.20.0/24");
        break;
    case OverlayKind::filter: {
        const auto filter = find::Filter::parse(rest);
        if (!filter)
            return filter.refusal();
        if (filter->empty())
            return no("write where: and a filter, as role:camera");
        key.filter = rest;
        break;
    }
    case OverlayKind::impact: {
        const auto id = idFromText(rest);
        if (!id)
            return no("write impact: and the id of a device or link");
        key.object = *id;
        break;
    }
    default:
        break;
    }
    return key;
}

std::vector<std::string> overlaysOf(const Sheet& sheet) {
    std::vector<std::string> out;
    std::string_view left = sheet.overlay;
    while (!left.empty()) {
        const std::size_t end = std::min(left.find(between), left.size());
        if (end > 0)
            out.emplace_back(left.substr(0, end));
        left.remove_prefix(std::min(end + 1, left.size()));
    }
    return out;
}

std::string overlayText(const std::vector<std::string>& keys) {
    std::string out;
    for (const std::string& key : keys)
        out += (out.empty() ? "" : std::string(1, between)) + key;
    return out;
}

} // namespace underridge::scene

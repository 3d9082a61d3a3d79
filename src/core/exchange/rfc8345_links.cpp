// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_links.h"

#include <algorithm>
#include <deque>
#include <fmt/format.h>

namespace underridge::exchange::rfc8345 {
using namespace model;
namespace {

struct EndsHash {
    std::size_t operator()(const std::pair<PortRef, PortRef>& ends) const {
        const auto one = [](const PortRef& ref) { return ref.device.value * 31 ^ fnv1a(ref.port); };
        return one(ends.first) * 0x9E3779B97F4A7C15ULL ^ one(ends.second);
    }
};

std::string restOf(JsonView json) {
    constexpr std::size_t ownMembers = 3;
    if (json.size() == ownMembers) // id and both ends were there: nothing else is
        return "{}";
    return without(json, nt, {"link-id", "source", "destination"}).text();
}

} // namespace

void Links::read(Net& net) {
    const JsonView list = member(net.json, nt, "link");
    if (list && !list.isArray()) {
        remarks_.warn("\"link\" is not a list; it was passed over", "correct it", list, net.id);
        return;
    }
    std::vector<Direction> directions;
    std::unordered_set<std::string> seen;
    list.forEach([&](JsonView json) { direction(net, json, seen, directions); });
    // RFC 8345 links go one way; what goes both ways is two of them.
    std::unordered_map<std::pair<PortRef, PortRef>, std::deque<std::size_t>, EndsHash> waiting;
    for (std::size_t i = 0; i < directions.size(); ++i) {
        const PortRef from = directions[i].source.key(), to = directions[i].destination.key();
        const bool loop = from == to;
        const auto back = waiting.find({to, from});
        if (back != waiting.end() && !back->second.empty() && !loop) {
            const std::size_t first = back->second.front();
            back->second.pop_front();
            directions[first].paired = directions[i].paired = true;
            join(net, directions[first], &directions[i]);
        } else {
            waiting[{from, to}].push_back(i);
        }
    }
    for (const Direction& direction : directions)
        if (!direction.paired)
            join(net, direction, nullptr);
}

void Links::direction(Net& net, JsonView json, std::unordered_set<std::string>& seen,
                      std::vector<Direction>& out) {
    remarks_.strangers(json, {"link-id", "source", "destination", "supporting-link"});
    Direction direction{json, textIn(json, nt, "link-id"), {}, {}, {}};
    if (direction.id.empty()) {
        remarks_.warn("a link has no link-id; it is kept, not drawn", "give it one", json);
        addRaw(net.keptLinks, json);
        return;
    }
    if (!seen.insert(direction.id).second) {
        remarks_.warn("the link is there twice; the second was passed over", "give each link its own id",
                      json, direction.id);
        return;
    }
    const auto from = end(net, json, "source", "source-node", "source-tp", direction.id);
    const auto to = end(net, json, "destination", "dest-node", "dest-tp", direction.id);
    if (!from || !to) {
        addRaw(net.keptLinks, json);
        return;
    }
    if (!net.area.empty()) {
        const auto metric = wholeIn(member(member(json, l3, "l3-link-attributes"), l3, "metric1"));
        points_.setOspf(net, textIn(member(json, nt, "source"), nt, "source-node"), from->point, from->port,
                        static_cast<std::int64_t>(metric.value_or(0)));
        points_.setOspf(net, textIn(member(json, nt, "destination"), nt, "dest-node"), to->point, to->port,
                        0);
    }
    direction.source = *from;
    direction.destination = *to;
    direction.over = supportsOf(json, *from, *to);
    out.push_back(std::move(direction));
}

/// The links below that one rests on, in their order, as far as they are there; what joins its
/// ports where it does not say.
std::vector<LinkId> Links::supportsOf(JsonView json, const End& from, const End& to) const {
    std::vector<LinkId> over;
    const JsonView supports = listIn(json, nt, "supporting-link");
    supports.forEach([&](JsonView support) {
        const auto below = nets_.link(textIn(support, nt, "network-ref"), textIn(support, nt, "link-ref"));
        if (below && std::find(over.begin(), over.end(), *below) == over.end())
            over.push_back(*below);
    });
    const auto at = supports.empty() ? joined_.find(std::minmax(from.port, to.port)) : joined_.end();
    if (at != joined_.end() && from.port.known() && to.port.known())
        over.push_back(at->second);
    return over;
}

std::optional<Links::End> Links::end(const Net& net, JsonView link, std::string_view container,
                                     std::string_view nodeName, std::string_view pointName,
                                     const std::string& id) {
    const JsonView json = member(link, nt, container);
    const std::string node = textIn(json, nt, nodeName);
    std::string point = textIn(json, nt, pointName);
    const auto at = net.nodes.find(node);
    if (at == net.nodes.end()) {
        remarks_.warn(node.empty()
                          ? fmt::format("the link has no {}; it is kept, not drawn", nodeName)
                          : fmt::format("the link names the node \"{}\", which is not there; it is kept, "
                                        "not drawn",
                                        node),
                      "correct the ends where it came from", link, id);
        return std::nullopt;
    }
    const Node& held = at->second;
    if (point.empty())
        return End{&held, {held.device, {}}, {}};
    if (auto known = held.portOf(point))
        return End{&held, *known, point};
    remarks_.warn(
        fmt::format("the link names the termination point \"{}\" of {}, which does not list it", point, node),
        "the port is taken as named", link, id);
    const PortRef port = builder_.port(held.device, point);
    points_.takeUnlisted(net, port);
    return End{&held, port, point};
}

void Links::join(Net& net, const Direction& forth, const Direction* back) {
    const PortRef a = forth.source.drawn(), b = forth.destination.drawn();
    const bool moved =
        (!forth.source.point.empty() && !a.known()) || (!forth.destination.point.empty() && !b.known());
    Link& link = builder_.addLink(net.id == nets_.all.front().id ? forth.id : named(net.id, forth.id), a, b);
    if (forth.isUpper()) {
        link.onlyOn = net.sheet;
        link.over = forth.over;
    } else if (!nets_.isOne()) {
        joined_[std::minmax(a, b)] = link.id;
    }
    const auto described = [&](const Direction& direction) {
        JsonMembers members;
        members.setText("link", direction.id);
        members.set("rest", restOf(direction.json));
        if (moved) { // what it says of its ends is more than the drawing does
            members.set("source", member(direction.json, nt, "source").compact());
            members.set("destination", member(direction.json, nt, "destination").compact());
        }
        if (!nets_.isOne())
            net.links.emplace(direction.id, link.id);
        builder_.knowAs(direction.id, link.id.value);
        return members;
    };
    JsonMembers entry = described(forth);
    entry.setText("network", net.id);
    if (back)
        entry.set("back", described(*back).text());
    // RFC 8944: rate in kbit/s.
    const auto rate = wholeIn(member(member(forth.json, l2, "l2-link-attributes"), l2, "rate"));
    if (rate && *rate >= 1000 && *rate < 10'000'000'000)
        for (const PortRef* end : {&link.a, &link.b})
            if (builder_.isLearned(*end))
                builder_.portRecord(*end).speed = static_cast<int>(*rate / 1000);
    addEntry(entries_[link.id.value], entry);
}

} // namespace underridge::exchange::rfc8345

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_nets.h"

#include <algorithm>
#include <set>

namespace underridge::exchange::rfc8345 {
using namespace model;

const PointList& PointLists::of(JsonView list) {
    std::string whole;
    list.forEach([&](JsonView json) { appendCounted(whole, textIn(json, nt, "tp-id")); });
    const auto [at, fresh] = lists_.try_emplace(std::move(whole));
    PointList& points = at->second;
    if (!fresh)
        return points;
    std::vector<std::string> names;
    std::set<std::string> seen;
    list.forEach([&](JsonView json) {
        std::string id = textIn(json, nt, "tp-id");
        const bool usable = !id.empty() && id.size() <= maxPoint && seen.insert(id).second;
        points.usable &= usable;
        if (usable)
            names.push_back(std::move(id));
    });
    points.names = PortNames(std::move(names));
    return points;
}

std::optional<PortRef> Node::portOf(const std::string& point) const {
    if (const auto at = renamed.find(point); at != renamed.end())
        return PortRef{device, at->second};
    return points.contains(point) ? std::optional(PortRef{device, point}) : std::nullopt;
}

bool Node::isJoinedBelow() const {
    for (const Node* each = below; each; each = each->below)
        if (!each->in->links.empty())
            return true;
    return false;
}

const Net* Nets::net(std::string_view id) const {
    const auto at = std::find_if(all.begin(), all.end(), [&](const Net& each) { return each.id == id; });
    return at == all.end() ? nullptr : &*at;
}

const Node* Nets::node(std::string_view in, std::string_view id) const {
    const Net* held = net(in);
    if (!held)
        return nullptr;
    const auto at = held->nodes.find(id);
    return at == held->nodes.end() ? nullptr : &at->second;
}

std::optional<LinkId> Nets::link(std::string_view in, std::string_view id) const {
    const Net* held = net(in);
    if (!held)
        return std::nullopt;
    const auto at = held->links.find(id);
    return at == held->links.end() ? std::nullopt : std::optional(at->second);
}

/// The networks another rests on, by what it says itself and by what its nodes say.
std::vector<std::size_t> Nets::below(const Net& net, const ByText<std::size_t>& index) const {
    std::set<std::size_t> found;
    const auto note = [&](JsonView support) {
        if (const auto at = index.find(textIn(support, nw, "network-ref")); at != index.end())
            found.insert(at->second);
    };
    listIn(net.json, nw, "supporting-network").forEach(note);
    listIn(net.json, nw, "node").forEach([&](JsonView node) {
        listIn(node, nw, "supporting-node").forEach(note);
    });
    return {found.begin(), found.end()};
}

std::vector<std::size_t> Nets::inOrder(FunctionRef<void(const Net&)> circle) const {
    ByText<std::size_t> index;
    for (std::size_t i = 0; i < all.size(); ++i)
        index[all[i].id] = i;
    std::vector<std::vector<std::size_t>> rests;
    for (const Net& net : all)
        rests.push_back(below(net, index));
    std::vector<std::size_t> order;
    enum State { untouched, visited, done };
    std::vector<State> state(all.size(), untouched);
    for (std::size_t root = 0; root < all.size(); ++root) {
        std::vector<std::size_t> path{root};
        while (!path.empty()) {
            const std::size_t i = path.back();
            if (state[i] == untouched) {
                state[i] = visited;
                for (const std::size_t next : rests[i]) {
                    if (state[next] == untouched)
                        path.push_back(next);
                    else if (state[next] == visited)
                        circle(all[i]);
                }
                continue;
            }
            if (state[i] == visited) {
                state[i] = done;
                order.push_back(i);
            }
            path.pop_back();
        }
    }
    return order;
}

void addEntry(Entries& entries, const JsonMembers& entry) {
    if (!entries.empty())
        entries += ',';
    entries += entry.text();
}

void addRaw(Entries& entries, JsonView json) {
    if (!entries.empty())
        entries += ',';
    entries += json.compact();
}

std::string named(std::string_view network, std::string_view object) {
    std::string out;
    out.reserve(network.size() + object.size() + 1);
    return ((out += network) += '\n') += object;
}

} // namespace underridge::exchange::rfc8345

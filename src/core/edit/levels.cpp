// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/levels.h"

#include "core/analysis/prefix.h"
#include "core/base/text.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/model/standing.h"
#include "core/model/uplinks.h"
#include "core/scene/lines.h"
#include "core/scene/plates.h"

#include <set>

namespace underridge::edit::levels {
using namespace model;
using layout::Index;
using scene::PointF;
using scene::Rect;
namespace {

constexpr double plateWide = 120; ///< about

class Gatherer {
public:
    Gatherer(const Network& network, const Look& look, const ArrangeWish& wish, const scene::Folding& folding)
        : network_(network),
          sheet_(*network.sheet(look.sheet)),
          look_(look),
          wish_(wish),
          folding_(folding) {}

    LevelTree made() {
        gather();
        return std::move(tree_);
    }

private:
    void gather() {
        const GroupId within = scene::shownGroup(network_, sheet_, look_.entered);
        const std::set<DeviceId> only(wish_.only.begin(), wish_.only.end());
        network_.all<Position>().forEachIn(sheet_.id.value, [&](const Position& position) {
            const Device* device = position.of == Kind::device ? network_.device({position.object}) : nullptr;
            if (!device || (!only.empty() && !only.contains(device->id)))
                return;
            if (within && !liesIn(device->group, within))
                return;
            const auto plate = scene::plateOf(network_, sheet_.id, *device);
            if (plate)
                tree_.plates.emplace(device->id.value, *plate);
        });
        // Levels, with groups where the sheet shows them.
        tree_.levels[0].group = within;
        const bool racks = wish_.style == layout::Style::rack && !sheet_.drawsGroups();
        const bool grouped = sheet_.drawsGroups() || racks;
        only_ = &only;
        std::vector<DeviceId> order;
        for (const auto& [id, plate] : tree_.plates)
            order.push_back({id});
        sortByWish(order);
        for (const DeviceId id : order) {
            const Device& device = *network_.device(id);
            Level& level = racks     ? rackLevel(device, within)
                           : grouped ? levelFor(device.group, within)
                                     : tree_.levels[0];
            const Rect& frame = tree_.plates.at(id.value).frame;
            tree_.itemOf[id.value] = {level.group.value, static_cast<Index>(level.items.size())};
            level.items.push_back({id, {}, {frame.w, frame.h}});
        }
        if (grouped)
            for (auto& [id, level] : tree_.levels)
                if (id != 0) {
                    Level& parent = tree_.levels.at(level.parent == within ? 0 : level.parent.value);
                    tree_.itemOf[id] = {parent.group.value, static_cast<Index>(parent.items.size())};
                    parent.items.push_back({{}, level.group, {}});
                }
        if (wish_.keepOrder)
            for (auto& [id, level] : tree_.levels)
                if (!isOfRack(network_, wish_, level)) // there the units say it
                    takeOrder(level);
        for (const DeviceId id : order)
            network_.forEachLinkOf(id, [&](const Link& link) {
                if (link.a.device != id || !scene::isDrawnOn(link, sheet_) || link.b.device == id ||
                    !tree_.plates.contains(link.b.device.value))
                    return;
                addLink(link);
            });
    }

    /// The items of a level in the order in which they stand: along the rows of the flow, and of
    /// styles with several rows of equals row by row.
    void takeOrder(Level& level) {
        struct Placed {
            Index item;
            double across, along; ///< the middle, as the flow goes
            std::size_t row = 0;
        };
        const bool sideways = wish_.flow == layout::Flow::left || wish_.flow == layout::Flow::right;
        std::vector<Placed> placed;
        for (Index i = 0; i < level.items.size(); ++i) {
            const Item& item = level.items[i];
            const Rect frame = item.device ? tree_.plates.at(item.device.value).frame
                                           : folding_.standing(item.group).value_or(Rect{});
            const PointF middle = frame.centre();
            placed.push_back({i, sideways ? middle.y : middle.x, sideways ? middle.x : middle.y});
        }
        if (wish_.style != layout::Style::layered) {
            std::stable_sort(placed.begin(), placed.end(),
                             [](const Placed& a, const Placed& b) { return a.along < b.along; });
            const double tall = sideways ? plateWide : scene::plateHeight;
            double first = placed.empty() ? 0 : placed.front().along;
            std::size_t row = 0;
            for (Placed& each : placed) {
                if (each.along > first + tall) {
                    ++row;
                    first = each.along;
                }
                each.row = row;
            }
        }
        std::stable_sort(placed.begin(), placed.end(), [](const Placed& a, const Placed& b) {
            return std::pair(a.row, a.across) < std::pair(b.row, b.across);
        });
        std::vector<Item> items;
        for (const Placed& each : placed) {
            const Item& item = level.items[each.item];
            tree_.itemOf[item.device ? item.device.value : item.group.value].second =
                static_cast<Index>(items.size());
            items.push_back(item);
        }
        level.items = std::move(items);
    }

    /// By the order wished, then by name.
    void sortByWish(std::vector<DeviceId>& order) const {
        using Rank = std::tuple<std::int64_t, analysis::Ip>;
        std::unordered_map<std::uint64_t, Rank> ranks;
        for (const DeviceId id : order)
            ranks[id.value] = rankOf(*network_.device(id));
        std::sort(order.begin(), order.end(), [&](DeviceId x, DeviceId y) {
            const Rank &one = ranks.at(x.value), &two = ranks.at(y.value);
            if (one != two)
                return one < two;
            const Device &a = *network_.device(x), &b = *network_.device(y);
            return a.name != b.name ? naturalLess(a.name, b.name) : x < y;
        });
    }

    std::tuple<std::int64_t, analysis::Ip> rankOf(const Device& device) const {
        constexpr std::int64_t last = 1'000'000;
        if (wish_.style == layout::Style::rack)
            return {-device.place.unit, {}}; // the uppermost first
        switch (wish_.by) {
        case OrderBy::name:
            break;
        case OrderBy::role: {
            const Role role = roleOf(network_, device);
            return {-tierOf(role) * last + static_cast<int>(role), {}};
        }
        case OrderBy::address: {
            const analysis::Ip ip = analysis::ipOf(firstAddress(network_, device.id));
            return {ip ? ip.version : last, ip};
        }
        case OrderBy::floor:
            for (const GroupId each : upwards(network_, device.group))
                if (const Group* group = network_.group(each); group && group->type == GroupKind::floor)
                    return {group->level, {}};
            return {last, {}};
        }
        return {};
    }

    /// Whether all of a group is arranged, so that it can stand as one.
    bool isWhole(GroupId group) {
        if (only_->empty())
            return true;
        const auto [at, fresh] = whole_.try_emplace(group.value, true);
        if (fresh)
            for (const DeviceId id : devicesWithin(network_, group))
                at->second &= !network_.position(sheet_.id, id.value) || only_->contains(id);
        return at->second;
    }

    bool liesIn(GroupId group, GroupId in) const {
        for (const GroupId each : upwards(network_, group))
            if (each == in)
                return true;
        return false;
    }

    /// The level of a group, with those around it. A level in a group that stays as it is is
    /// that group's.
    Level& levelFor(GroupId group, GroupId within) {
        if (group == within || !group || !network_.group(group) || !isWhole(group))
            return tree_.levels[0];
        if (const auto at = tree_.levels.find(group.value); at != tree_.levels.end())
            return at->second;
        Level& parent = levelFor(network_.group(group)->parent, within);
        if (parent.asIs)
            return parent;
        const std::size_t depth = parent.depth + 1;
        const GroupId around = parent.group;
        Level level;
        level.group = group;
        level.parent = around;
        level.depth = depth;
        const Position* position = network_.position(sheet_.id, group.value);
        const Group& held = *network_.group(group);
        level.asIs = (position && position->folded) || (sheet_.racks && held.rackUnits > 0);
        return tree_.levels.emplace(group.value, std::move(level)).first->second;
    }

    /// The level of the rack a device is in, among all others; where it is in none the whole.
    Level& rackLevel(const Device& device, GroupId within) {
        for (const GroupId from : {device.place.in, device.group})
            for (const GroupId each : upwards(network_, from))
                if (const Group* group = network_.group(each); group && isRack(group->type)) {
                    Level& level = tree_.levels[each.value];
                    level.group = each;
                    level.parent = within;
                    level.depth = 1;
                    return level;
                }
        return tree_.levels[0];
    }

    void addLink(const Link& link) {
        // The innermost level both ends are on.
        std::vector<std::uint64_t> ofA;
        for (auto at = tree_.itemOf.find(link.a.device.value); at != tree_.itemOf.end();
             at = tree_.itemOf.find(at->second.first))
            ofA.push_back(at->second.first);
        for (auto at = tree_.itemOf.find(link.b.device.value); at != tree_.itemOf.end();
             at = tree_.itemOf.find(at->second.first)) {
            const std::uint64_t id = at->second.first;
            if (std::find(ofA.begin(), ofA.end(), id) == ofA.end())
                continue;
            Level& level = tree_.levels.at(id == tree_.levels.at(0).group.value ? 0 : id);
            const auto a = tree_.itemOn(level, link.a.device), b = tree_.itemOn(level, link.b.device);
            if (level.asIs || !a || !b || *a == *b)
                return;
            const auto key = std::tuple(id, std::min(*a, *b), std::max(*a, *b));
            const auto [bundle, fresh] = bundles_.try_emplace(key, level.bundles.size());
            if (fresh)
                level.bundles.push_back({std::min(*a, *b), std::max(*a, *b), {}});
            level.bundles[bundle->second].links.push_back(&link);
            return;
        }
    }

    const Network& network_;
    const Sheet& sheet_;
    const Look& look_;
    const ArrangeWish& wish_;
    const scene::Folding& folding_;
    LevelTree tree_;
    const std::set<DeviceId>* only_ = nullptr; ///< while gathering
    std::map<std::uint64_t, bool> whole_;      ///< groups, as far as asked
    std::map<std::tuple<std::uint64_t, Index, Index>, std::size_t> bundles_;
};

} // namespace

std::optional<Index> LevelTree::itemOn(const Level& level, DeviceId device) const {
    auto at = itemOf.find(device.value);
    while (at != itemOf.end()) {
        if (at->second.first == level.group.value)
            return at->second.second;
        at = itemOf.find(at->second.first);
    }
    return std::nullopt;
}

bool isOfRack(const Network& network, const ArrangeWish& wish, const Level& level) {
    const Group* group = network.group(level.group);
    return wish.style == layout::Style::rack && group && isRack(group->type);
}

LevelTree gathered(const Network& network, const Look& look, const ArrangeWish& wish,
                   const scene::Folding& folding) {
    return Gatherer(network, look, wish, folding).made();
}

} // namespace underridge::edit::levels

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/layer_sheets.h"

#include "core/analysis/layers.h"
#include "core/edit/arranging.h"
#include "core/edit/sheets.h"
#include "core/scene/layer_network.h"
#include "core/scene/plates.h"

#include <fmt/format.h>
#include <map>
#include <set>

namespace underridge::edit {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {

/// Whether an edit may bring something onto a layer or take it away.
bool mayChangeLayers(const Network& before, const Network& after) {
    bool may = false;
    Network::compare(before, after, [&]<class Record>(const Record* was, const Record* is) {
        if constexpr (std::is_same_v<Record, Device>)
            may |= !was || !is || was->model != is->model || was->routing != is->routing;
        else if constexpr (std::is_same_v<Record, DeviceModel> || std::is_same_v<Record, Subnet>)
            may = true;
        else if constexpr (std::is_same_v<Record, Interface>)
            may |= !was || !is || was->addresses != is->addresses || was->vrf != is->vrf;
        else if constexpr (std::is_same_v<Record, Sheet>)
            may |= is && (!was || was->layer != is->layer);
    });
    return may;
}

/// Of the data link layer there are no subnets.
analysis::NetworkLayer subnetsOf(const Network& network, SheetLayer layer) {
    return layer == SheetLayer::network ? analysis::networkLayerOf(network) : analysis::NetworkLayer{};
}

std::set<ObjectRef> nodesOn(const Network& network, SheetLayer layer, const analysis::NetworkLayer& subnets) {
    std::set<ObjectRef> nodes;
    network.all<Device>().forEach([&](const Device& device) {
        if (analysis::isOnLayer(network, device, layer))
            nodes.insert(refTo(device.id));
    });
    for (const analysis::SubnetNode& node : subnets.subnets)
        nodes.insert(refTo(node.id));
    return nodes;
}

/// Where there is room for plates on a sheet.
class Room {
public:
    Room(const Network& drawn, SheetId sheet) : drawn_(drawn), sheet_(sheet) {
        drawn.all<Position>().forEachIn(sheet.value, [&](const Position& position) {
            if (const auto frame = frameOf({position.object}))
                take(*frame);
        });
    }

    std::optional<Rect> frameOf(DeviceId id) {
        const auto [at, first] = frames_.try_emplace(id);
        const Device* device = first ? drawn_.device(id) : nullptr;
        if (const auto plate = device ? scene::plateOf(drawn_, sheet_, *device) : std::nullopt)
            at->second = plate->frame;
        return at->second;
    }

    /// The nearest free place below or beside the plate of a device; of several that are as
    /// near the first.
    Point beside(DeviceId id) {
        constexpr double across = 176, down = 104;
        constexpr int most = 60;
        const Rect frame = *frameOf(id);
        for (int& ring = full_.try_emplace(id, 1).first->second; ring < most; ++ring) // nearer ones are taken
            for (int row = ring; row >= -ring; --row)
                for (int turn = 0; turn <= 2 * ring; ++turn) {
                    const int column = turn % 2 == 0 ? turn / 2 : -(turn + 1) / 2;
                    if (std::max(std::abs(row), std::abs(column)) != ring)
                        continue;
                    const Rect place{frame.x + column * across, frame.y + row * down, frame.w, frame.h};
                    if (isFree(place))
                        return ontoSheet(scene::rounded({place.x, place.y}));
                }
        return scene::rounded({frame.x, frame.y + down});
    }

    Point below() const { return ontoSheet(scene::rounded({all_.x, all_.empty() ? 0 : all_.bottom() + 80})); }
    void take(const Rect& frame) {
        const Rect kept = frame.grown(16);
        forEachCell(kept, [&](const Cell& cell) { taken_[cell].push_back(kept); });
        all_ = all_.united(frame);
    }

private:
    using Cell = std::pair<int, int>;

    template <class Each>
    static void forEachCell(const Rect& area, Each&& each) {
        constexpr double size = 256;
        const auto cell = [](double at) { return static_cast<int>(std::floor(at / size)); };
        for (int x = cell(area.x); x <= cell(area.right()); ++x)
            for (int y = cell(area.y); y <= cell(area.bottom()); ++y)
                each({x, y});
    }

    bool isFree(const Rect& place) const {
        bool free = true;
        forEachCell(place, [&](const Cell& cell) {
            if (const auto at = taken_.find(cell); free && at != taken_.end())
                free = std::none_of(at->second.begin(), at->second.end(),
                                    [&](const Rect& each) { return each.intersects(place); });
        });
        return free;
    }

    const Network& drawn_;
    SheetId sheet_;
    std::map<Cell, std::vector<Rect>> taken_;
    std::map<DeviceId, std::optional<Rect>> frames_;
    std::map<DeviceId, int> full_; ///< how far round a device there is no room
    Rect all_;
};

/// Puts what is new beside what it is joined to, as far as that stands already.
void putBeside(Network& after, SheetId sheet, const std::vector<ObjectRef>& fresh) {
    const Network drawn = scene::networkOn(after, sheet);
    Room room(drawn, sheet);
    constexpr double width = 144;
    for (const ObjectRef each : fresh) {
        DeviceId near;
        drawn.forEachLinkOf({each.id}, [&](const Link& link) {
            const DeviceId other = link.a.device.value == each.id ? link.b.device : link.a.device;
            if (!near && link.onlyOn == sheet && room.frameOf(other))
                near = other;
        });
        Position position = positionOr(after, sheet, each);
        position.at = near ? room.beside(near) : room.below();
        room.take({static_cast<double>(position.at.x), static_cast<double>(position.at.y), width,
                   scene::plateHeight});
        after.put(std::move(position));
    }
}

/// Subnets that are known by another number now, because they were recorded or no longer are,
/// or became one with another, stand where they stood.
void renumber(const Sheet& sheet, const analysis::NetworkLayer& were, const analysis::NetworkLayer& are,
              Network& after) {
    std::map<std::pair<std::string, std::string>, SubnetId> by;
    for (const analysis::SubnetNode& node : were.subnets)
        for (const Address& prefix : node.prefixes)
            by[{node.vrf, prefix.text()}] = node.id;
    for (const analysis::SubnetNode& node : are.subnets) {
        if (after.position(sheet.id, node.id.value))
            continue;
        for (const Address& prefix : node.prefixes) {
            const auto at = by.find({node.vrf, prefix.text()});
            const Position* held = at == by.end() ? nullptr : after.position(sheet.id, at->second.value);
            if (!held)
                continue;
            Position position = *held;
            position.object = node.id.value;
            after.put(std::move(position));
            break;
        }
    }
}

void followSheet(const Sheet& sheet, const Network& before, Network& after) {
    const analysis::NetworkLayer subnets = subnetsOf(after, sheet.layer);
    const std::set<ObjectRef> nodes = nodesOn(after, sheet.layer, subnets);
    const auto isMissing = [&](const ObjectRef& node) { return !after.position(sheet.id, node.id); };
    const bool fresh = std::any_of(nodes.begin(), nodes.end(), [&](const ObjectRef& node) {
        return node.kind == Kind::subnet && isMissing(node);
    });
    if (fresh)
        renumber(sheet, subnetsOf(before, sheet.layer), subnets, after);
    std::set<std::uint64_t> lines; // that have a way of their own
    for (const analysis::Attachment& each : subnets.attachments)
        lines.insert(each.interface.value);
    std::vector<std::uint64_t> gone;
    after.all<Position>().forEachIn(sheet.id.value, [&](const Position& position) {
        const bool node = position.of == Kind::device || position.of == Kind::subnet;
        if (node ? !nodes.contains(position.drawn())
                 : position.of == Kind::interface && !lines.contains(position.object))
            gone.push_back(position.object);
    });
    for (const std::uint64_t object : gone)
        after.erase<Position>({sheet.id.value, object});
    std::vector<ObjectRef> missing;
    std::copy_if(nodes.begin(), nodes.end(), std::back_inserter(missing), isMissing);
    if (!missing.empty())
        putBeside(after, sheet.id, missing);
}

} // namespace

ActResult addLayerSheet(const Network& network, const std::string& name, SheetLayer layer, IdSource& ids) {
    if (layer != SheetLayer::dataLink && layer != SheetLayer::network)
        return error("only sheets of the data link and the network layer are made of the network",
                     "make an empty sheet");
    auto act = newSheet(network, name, std::nullopt, {}, false, ids);
    if (!act)
        return act;
    const SheetId id{act->subjects.front().id};
    Sheet sheet = *act->network.sheet(id);
    sheet.layer = layer;
    act->network.put(sheet);
    std::vector<ObjectRef> endpoints;
    bool any = false;
    for (const ObjectRef node : nodesOn(act->network, layer, subnetsOf(act->network, layer))) {
        const Device* device = act->network.device({node.id});
        if (layer == SheetLayer::dataLink && isEndpoint(roleOf(act->network, *device))) {
            endpoints.push_back(node);
            continue;
        }
        Position position = positionOr(act->network, id, node);
        position.tucks = layer == SheetLayer::dataLink;
        act->network.put(std::move(position));
        any = true;
    }
    if (any) {
        auto arranged = arrange(act->network, {id}, {});
        if (!arranged)
            return arranged;
        act->network = std::move(arranged->network);
    }
    putBeside(act->network, id, endpoints);
    return act;
}

void followLayers(const Network& before, Network& after) {
    std::vector<Sheet> sheets;
    after.all<Sheet>().forEach([&](const Sheet& sheet) {
        if (sheet.follows())
            sheets.push_back(sheet);
    });
    if (sheets.empty() || !mayChangeLayers(before, after))
        return;
    for (const Sheet& sheet : sheets)
        followSheet(sheet, before, after);
}

} // namespace underridge::edit

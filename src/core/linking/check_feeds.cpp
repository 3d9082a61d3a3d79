// SPDX-License-Identifier: GPL-3.0-or-later
// The rules of what devices are fed from.
#include "core/linking/rules.h"
#include "core/model/ports.h"
#include "core/model/power.h"

#include <cmath>
#include <fmt/format.h>
#include <set>

namespace underridge::linking {
using namespace model;
namespace {

Finding said(std::string_view code, std::string message, const char* remedy,
             std::vector<ObjectRef> subjects) {
    return {ruleOf(code),
            std::move(message),
            {Remedy::Kind::none, remedy, {}, {}, {}, {}},
            std::move(subjects),
            -1};
}

/// Outlets that are not there, or that two supplies hang on.
void checkOutlets(const Network& network, std::map<DeviceId, std::vector<Finding>>& out) {
    std::map<std::pair<DeviceId, std::string>, DeviceId> taken;
    network.all<Device>().forEach([&](const Device& device) {
        for (const PowerFeed& feed : device.feeds) {
            const Device* from = network.device(feed.from);
            if (!from)
                continue;
            const auto outlets = outletsOf(network, *from);
            if (std::find(outlets.begin(), outlets.end(), feed.outlet) == outlets.end()) {
                out[device.id].push_back(said("feed-outlet",
                                              fmt::format("{} {} hangs on {} {}, which is not there",
                                                          device.name, feed.supply, from->name, feed.outlet),
                                              "choose an outlet it has",
                                              {refTo(device.id), refTo(from->id)}));
                continue;
            }
            const auto [first, free] = taken.try_emplace({from->id, feed.outlet}, device.id);
            if (!free)
                out[device.id].push_back(said("feed-outlet",
                                              fmt::format("{} {} feeds {} and {}", from->name, feed.outlet,
                                                          network.device(first->second)->name, device.name),
                                              "give each its own outlet",
                                              {refTo(device.id), refTo(first->second), refTo(from->id)}));
        }
    });
}

/// Cords that do not go into the outlet or the inlet, or carry less than what hangs on them
/// draws, at 230 V (IEC 60320, IEC 60038).
void checkCords(const Network& network, const PowerTree& tree, const Device& device,
                std::map<DeviceId, std::vector<Finding>>& out) {
    constexpr int volts = 230;
    for (const PowerFeed& feed : device.feeds) {
        const Cable* cord = network.cable(feed.cable);
        const CableType* type = cord ? network.typeOf(*cord) : nullptr;
        const Device* from = network.device(feed.from);
        if (!type || !from)
            continue;
        const auto outlet = portAt(network, {feed.from, feed.outlet}),
                   inlet = portAt(network, {device.id, feed.supply});
        const auto goes = [](Connector plug, const std::optional<PortView>& port) {
            return !port || port->connector() == mateOf(plug);
        };
        const std::vector<ObjectRef> subjects{refTo(device.id), refTo(from->id), refTo(cord->id)};
        if (type->medium != Medium::mains ||
            !((goes(type->connectorA, outlet) && goes(type->connectorB, inlet)) ||
              (goes(type->connectorB, outlet) && goes(type->connectorA, inlet))))
            out[device.id].push_back(said("feed-cord",
                                          fmt::format("{} {} at {} {}: {} does not go into both", device.name,
                                                      feed.supply, from->name, feed.outlet, type->name),
                                          "use a cord with the plugs of both", subjects));
        const bool feedsOthers = !outletsOf(network, device).empty();
        const double watts = feedsOthers ? tree.loadOf({device.id, {}}).worstWatts : drawOf(network, device);
        if (type->amperes > 0 && watts > type->amperes * volts)
            out[device.id].push_back(
                said("feed-cord",
                     fmt::format("{} {}: {:.0f} W may go over {}, which carries {} W at {} V", device.name,
                                 feed.supply, watts, type->name, type->amperes * volts, volts),
                     "use a cord that carries more, or feed it in parts", subjects));
    }
}

} // namespace

std::map<DeviceId, std::vector<Finding>> checkFeeds(const Network& network) {
    std::map<DeviceId, std::vector<Finding>> out;
    checkOutlets(network, out);
    const PowerTree tree(network);
    for (const PowerSource& source : tree.sources()) {
        const PowerLoad load = tree.loadOf(source);
        if (!source.device || !load.isOver())
            continue;
        const bool always = load.watts > load.ratingWatts;
        out[source.device].push_back(
            said("feed-overload",
                 always ? fmt::format("{}: {:.0f} W hang on it, it can carry {} W", tree.nameOf(source),
                                      load.watts, load.ratingWatts)
                        : fmt::format("{}: {:.0f} W hang on it when other feeds fail, it can carry {} W",
                                      tree.nameOf(source), load.worstWatts, load.ratingWatts),
                 "feed some from elsewhere", {refTo(source.device)}));
    }
    network.all<Device>().forEach([&](const Device& device) {
        if (tree.circles(device.id))
            out[device.id].push_back(said("feed-circle", fmt::format("{} is fed by itself", device.name),
                                          "feed one of the devices in the circle from the mains",
                                          {refTo(device.id)}));
        checkCords(network, tree, device, out);
        if (device.feeds.size() < 2 || tree.needs(device.id).empty())
            return;
        // Of what both hang on the nearest is named: the one that hangs on all the others.
        const auto& needs = tree.needs(device.id);
        const PowerSource* nearest = &*needs.begin();
        for (const PowerSource& each : needs)
            if (each.device && tree.needs(each.device).size() + 1 >= needs.size())
                nearest = &each;
        std::vector<ObjectRef> subjects{refTo(device.id)};
        if (nearest->device)
            subjects.push_back(refTo(nearest->device));
        out[device.id].push_back(
            said("feed-single",
                 fmt::format("{}: without {} all its supplies are dead", device.name, tree.nameOf(*nearest)),
                 "feed one of them from elsewhere", std::move(subjects)));
    });
    return out;
}

} // namespace underridge::linking

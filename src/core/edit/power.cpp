// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/power.h"

#include "core/model/standing.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

constexpr int mostWatts = 100'000;

std::set<std::string> takenOutlets(const Network& network, DeviceId source) {
    std::set<std::string> taken;
    network.all<Device>().forEach([&](const Device& device) {
        for (const PowerFeed& feed : device.feeds)
            if (feed.from == source)
                taken.insert(feed.outlet);
    });
    return taken;
}

/// Whether `device` is fed, over however many others, by `by`.
bool hangsOn(const Network& network, DeviceId device, DeviceId by, std::set<DeviceId>& seen) {
    if (device == by)
        return true;
    const Device* held = network.device(device);
    return held && seen.insert(device).second &&
           std::any_of(held->feeds.begin(), held->feeds.end(), [&](const PowerFeed& feed) {
               return feed.from && hangsOn(network, feed.from, by, seen);
           });
}

bool has(const std::vector<std::string>& keys, const std::string& key) {
    return std::find(keys.begin(), keys.end(), key) != keys.end();
}

} // namespace

ActResult feedSupply(const Network& network, DeviceId id, const std::string& supply,
                     const PowerSource& source, const std::string& outlet) {
    const Device* held = network.device(id);
    if (!held)
        return error("the device is no longer there", "select again");
    if (!has(suppliesOf(network, *held), supply))
        return error(fmt::format("{} has no supply {}", held->name, supply), "choose one it has");
    std::string name = fmt::format("Feed {} {} from feed {}", held->name, supply, source.mains);
    if (source.device) {
        const Device* from = network.device(source.device);
        if (!from)
            return error("what it would be fed from is no longer there", "choose another outlet");
        if (!has(outletsOf(network, *from), outlet))
            return error(fmt::format("{} has no outlet {}", from->name, outlet), "choose one it has");
        std::set<DeviceId> seen;
        if (hangsOn(network, from->id, id, seen))
            return error(fmt::format("{} would feed itself", held->name), "choose another outlet");
        const bool same = std::any_of(held->feeds.begin(), held->feeds.end(), [&](const PowerFeed& feed) {
            return feed.supply == supply && feed.from == from->id && feed.outlet == outlet;
        });
        if (!same && takenOutlets(network, from->id).contains(outlet))
            return error(fmt::format("{} {} feeds another supply", from->name, outlet),
                         "choose a free outlet");
        name = fmt::format("Feed {} {} from {} {}", held->name, supply, from->name, outlet);
    } else if (source.mains.empty()) {
        name = fmt::format("Feed {} {} no longer", held->name, supply);
    }
    Act act{std::move(name), network, {refTo(id)}};
    Device device = *held;
    std::erase_if(device.feeds, [&](const PowerFeed& feed) { return feed.supply == supply; });
    if (source)
        device.feeds.push_back({supply, source.device, source.device ? outlet : std::string(),
                                source.device ? std::string() : source.mains});
    std::sort(device.feeds.begin(), device.feeds.end(),
              [](const PowerFeed& a, const PowerFeed& b) { return naturalLess(a.supply, b.supply); });
    act.network.put(std::move(device));
    return act;
}

ActResult setDraw(const Network& network, DeviceId id, int watts) {
    if (watts < 0 || watts > mostWatts)
        return error(fmt::format("a device does not draw {} W", watts), "write 0 to 100,000");
    const Device* device = network.device(id);
    if (!device)
        return error("the device is no longer there", "select again");
    return changeEach<Device>(network, {{id.value, 0}}, fmt::format("Set what {} draws", device->name),
                              [&](Device& d) { d.watts = watts; });
}

std::vector<FreeOutlet> freeOutlets(const Network& network, DeviceId forDevice) {
    const Device* device = network.device(forDevice);
    std::vector<const Device*> sources;
    std::map<DeviceId, std::set<std::string>> taken;
    network.all<Device>().forEach([&](const Device& each) {
        for (const PowerFeed& feed : each.feeds)
            if (feed.from)
                taken[feed.from].insert(feed.outlet);
        std::set<DeviceId> seen;
        if (each.id != forDevice && !outletsOf(network, each).empty() &&
            !hangsOn(network, each.id, forDevice, seen))
            sources.push_back(&each);
    });
    const auto isNear = [&](const Device& each) {
        return device && device->place.in && each.place.in == device->place.in;
    };
    std::sort(sources.begin(), sources.end(), [&](const Device* a, const Device* b) {
        return isNear(*a) != isNear(*b) ? isNear(*a) : naturalLess(a->name, b->name);
    });
    std::vector<FreeOutlet> out;
    for (const Device* source : sources)
        for (const std::string& outlet : outletsOf(network, *source))
            if (!taken[source->id].contains(outlet))
                out.push_back({source->id, outlet});
    return out;
}

namespace {

/// The outlet a supply is best fed from, next to what feeds the device already.
std::optional<FreeOutlet> bestOutlet(const Network& network, const Device& device) {
    const PowerTree tree(network);
    std::set<PowerSource> had; // sources its other supplies hang on, to the mains
    for (const PowerFeed& feed : device.feeds) {
        had.insert({feed.from, feed.mains});
        const auto& needs = tree.needs(feed.from);
        had.insert(needs.begin(), needs.end());
    }
    struct Choice {
        FreeOutlet outlet;
        std::tuple<bool, int, double> rank; ///< another rack, how much is shared, load
    };
    std::optional<Choice> best;
    DeviceId looked;
    for (const FreeOutlet& each : freeOutlets(network, device.id)) {
        if (each.device == looked)
            continue; // the first free one of each
        looked = each.device;
        const Device& source = *network.device(each.device);
        if (device.place.in && source.place.in != device.place.in && best && !std::get<0>(best->rank) &&
            std::get<1>(best->rank) == 0)
            break; // nothing beyond its own rack is better
        int shared = had.contains({each.device, {}});
        for (const PowerSource& need : tree.needs(each.device))
            shared += had.contains(need);
        const std::tuple rank{source.place.in != device.place.in, shared,
                              tree.loadOf({each.device, {}}).watts};
        // What is shared with another supply weighs more than another rack.
        const auto key = [](const auto& r) {
            return std::tuple(std::get<1>(r), std::get<0>(r), std::get<2>(r));
        };
        if (!best || key(rank) < key(best->rank))
            best = Choice{each, rank};
    }
    return best ? std::optional(best->outlet) : std::nullopt;
}

} // namespace

ActResult feedAll(const Network& network, const std::vector<DeviceId>& devices) {
    Act act{{}, network, {}};
    int fed = 0;
    for (const DeviceId id : devices) {
        if (!network.device(id) || !outletsOf(network, *network.device(id)).empty())
            continue; // what feeds others is fed by hand
        for (const std::string& supply : suppliesOf(network, *network.device(id))) {
            const Device& device = *act.network.device(id);
            const bool has = std::any_of(device.feeds.begin(), device.feeds.end(),
                                         [&](const PowerFeed& feed) { return feed.supply == supply; });
            const auto outlet = has ? std::nullopt : bestOutlet(act.network, device);
            if (!outlet)
                continue;
            auto next = feedSupply(act.network, id, supply, {outlet->device, {}}, outlet->outlet);
            if (!next)
                return next;
            act.network = std::move(next->network);
            ++fed;
        }
        act.subjects.push_back(refTo(id));
    }
    if (fed == 0)
        return error(
            "nothing here can be fed",
            "select devices with supplies that are not fed, and give their rack a PDU with free outlets");
    act.name = fed == 1 ? std::string("Feed 1 supply") : fmt::format("Feed {} supplies", fed);
    return act;
}

} // namespace underridge::edit

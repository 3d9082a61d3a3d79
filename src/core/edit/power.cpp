// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/power.h"

#include "core/linking/route.h"
#include "core/model/ports.h"
#include "core/model/standing.h"

#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

constexpr int mostWatts = 100'000;

/// The outlets that feed something, by whose they are.
std::map<DeviceId, std::set<std::string>> takenOutlets(const Network& network) {
    std::map<DeviceId, std::set<std::string>> taken;
    network.all<Device>().forEach([&](const Device& device) {
        for (const PowerFeed& feed : device.feeds)
            if (feed.from)
                taken[feed.from].insert(feed.outlet);
    });
    return taken;
}

void sortBySupply(std::vector<PowerFeed>& feeds) {
    std::sort(feeds.begin(), feeds.end(),
              [](const PowerFeed& a, const PowerFeed& b) { return naturalLess(a.supply, b.supply); });
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

const PowerFeed* feedOf(const Device& device, const std::string& supply) {
    const auto at = std::find_if(device.feeds.begin(), device.feeds.end(),
                                 [&](const PowerFeed& feed) { return feed.supply == supply; });
    return at == device.feeds.end() ? nullptr : &*at;
}

/// The first cord that goes into the outlet and the inlet of a feed; of a supply that is no
/// port of its model, into a C14 inlet.
const CableType* cordFor(const Network& network, const Device& device, const PowerFeed& feed,
                         const Catalogue& catalogue) {
    const auto outlet = portAt(network, {feed.from, feed.outlet}),
               inlet = portAt(network, {device.id, feed.supply});
    if (!outlet)
        return nullptr;
    const Connector taken = inlet ? inlet->connector() : Connector::c14;
    for (const CableType& type : catalogue.cables)
        if (type.medium == Medium::mains && type.approved && type.connectorA == mateOf(outlet->connector()) &&
            type.connectorB == mateOf(taken))
            return &type;
    return nullptr;
}

void keepCord(Network& network, DeviceId id, const std::string& supply, CableId cable) {
    Device device = *network.device(id);
    for (PowerFeed& feed : device.feeds)
        if (feed.supply == supply)
            feed.cable = cable;
    network.put(std::move(device));
}

/// A new cord for a feed.
void lay(Network& network, DeviceId id, const PowerFeed& feed, const CableType& type, IdSource& ids) {
    const bool isPort = portAt(network, {id, feed.supply}).has_value();
    const PortRef outlet{feed.from, feed.outlet}, inlet{id, isPort ? feed.supply : std::string()};
    Cable cord;
    cord.id = ids.make<CableId>();
    cord.type = type.id;
    cord.ends = {{outlet, {}}, {inlet, {}}};
    if (const auto length = linking::lengthFor(network, type, outlet, inlet))
        cord.lengthMm = *length;
    if (!network.typeOf(cord))
        network.put(type);
    keepCord(network, id, feed.supply, cord.id);
    network.put(std::move(cord));
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
        if (!same && takenOutlets(network)[from->id].contains(outlet))
            return error(fmt::format("{} {} feeds another supply", from->name, outlet),
                         "choose a free outlet");
        name = fmt::format("Feed {} {} from {} {}", held->name, supply, from->name, outlet);
    } else if (source.mains.empty()) {
        name = fmt::format("Feed {} {} no longer", held->name, supply);
    }
    Act act{std::move(name), network, {refTo(id)}};
    Device device = *held;
    PowerFeed fed{supply, source.device, source.device ? outlet : std::string(),
                  source.device ? std::string() : source.mains, CableId{}};
    if (const PowerFeed* before = feedOf(device, supply)) {
        if (before->from == fed.from && before->outlet == fed.outlet)
            fed.cable = before->cable;
        else
            act.network.erase<Cable>({before->cable.value, 0});
    }
    std::erase_if(device.feeds, [&](const PowerFeed& feed) { return feed.supply == supply; });
    if (source)
        device.feeds.push_back(std::move(fed));
    sortBySupply(device.feeds);
    act.network.put(std::move(device));
    return act;
}

ActResult withCords(ActResult act, const Network& before, const Catalogue& catalogue, IdSource& ids) {
    if (!act)
        return act;
    for (const ObjectRef subject : act->subjects) {
        const Device* held = subject.kind == Kind::device ? act->network.device({subject.id}) : nullptr;
        if (!held)
            continue;
        const Device device = *held; // which goes as its feeds get their cords
        const Device* was = before.device(device.id);
        for (const PowerFeed& feed : device.feeds) {
            const PowerFeed* old = was ? feedOf(*was, feed.supply) : nullptr;
            if (feed.cable || !feed.from || (old && *old == feed))
                continue;
            if (const CableType* type = cordFor(act->network, device, feed, catalogue))
                lay(act->network, device.id, feed, *type, ids);
        }
    }
    return act;
}

ActResult setCord(const Network& network, const Catalogue& catalogue, DeviceId id, const std::string& supply,
                  const std::string& type, IdSource& ids) {
    const Device* device = network.device(id);
    if (!device)
        return deviceGone();
    const PowerFeed* feed = feedOf(*device, supply);
    if (!feed || !feed->from)
        return error(fmt::format("{} {} hangs on no outlet", device->name, supply), "feed it from one first");
    const CableType* cord = catalogue.cable(type);
    if (!type.empty() && (!cord || cord->medium != Medium::mains))
        return error(fmt::format("{} is no mains cord", type), "choose one of the catalogue");
    Act act{cord ? fmt::format("Feed {} {} by {}", device->name, supply, cord->name)
                 : fmt::format("Take the cord of {} {} away", device->name, supply),
            network,
            {refTo(id)}};
    if (feed->cable)
        act.network.erase<Cable>({feed->cable.value, 0});
    if (cord)
        lay(act.network, id, *feed, *cord, ids);
    else
        keepCord(act.network, id, supply, {});
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
    auto taken = takenOutlets(network);
    network.all<Device>().forEach([&](const Device& each) {
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

/// Outlets handed out one after another: what is free, and what hangs where meanwhile, are
/// known without looking at the whole network again for each.
class Feeding {
public:
    explicit Feeding(const Network& network) : tree_(network) {
        auto taken = takenOutlets(network);
        network.all<Device>().forEach([&](const Device& device) {
            Source source{&device, {}, tree_.loadOf({device.id, {}}).watts};
            for (const std::string& outlet : outletsOf(network, device))
                if (!taken[device.id].contains(outlet))
                    source.free.push_back(outlet);
            std::reverse(source.free.begin(), source.free.end()); // the first one last
            if (!source.free.empty())
                sources_.push_back(std::move(source));
        });
        std::sort(sources_.begin(), sources_.end(), [](const Source& a, const Source& b) {
            return naturalLess(a.device->name, b.device->name);
        });
    }

    /// The outlet a further supply of a device is best fed from: one that shares least with
    /// what feeds it already, of its own rack, with least load.
    std::optional<PowerFeed> best(const Device& device, const std::string& supply, double watts) {
        std::set<PowerSource> had; // what its other supplies hang on, up to the mains
        for (const PowerFeed& feed : device.feeds) {
            had.insert({feed.from, feed.mains});
            const auto& needs = tree_.needs(feed.from);
            had.insert(needs.begin(), needs.end());
        }
        Source* best = nullptr;
        std::tuple<int, bool, double> least;
        for (Source& source : sources_) {
            if (source.free.empty() || source.device->id == device.id)
                continue;
            int shared = had.contains({source.device->id, {}});
            for (const PowerSource& need : tree_.needs(source.device->id))
                shared += had.contains(need);
            const bool elsewhere = source.device->place.in != device.place.in;
            const std::tuple rank{shared, elsewhere, source.watts};
            if (!best || rank < least) {
                best = &source;
                least = rank;
            }
        }
        if (!best)
            return std::nullopt;
        const std::string outlet = best->free.back();
        best->free.pop_back();
        best->watts += watts;
        return PowerFeed{supply, best->device->id, outlet, {}, {}};
    }

private:
    struct Source {
        const Device* device = nullptr;
        std::vector<std::string> free; ///< the next one last
        double watts = 0;
    };
    PowerTree tree_;
    std::vector<Source> sources_;
};

} // namespace

ActResult feedAll(const Network& network, const std::vector<DeviceId>& devices) {
    Act act{{}, network, {}};
    Feeding feeding(network);
    int fed = 0;
    for (const DeviceId id : devices) {
        const Device* held = network.device(id);
        if (!held || !outletsOf(network, *held).empty())
            continue; // what feeds others is fed by hand
        Device device = *act.network.device(id);
        const auto supplies = suppliesOf(network, device);
        for (const std::string& supply : supplies) {
            const bool has = std::any_of(device.feeds.begin(), device.feeds.end(),
                                         [&](const PowerFeed& feed) { return feed.supply == supply; });
            const double share =
                static_cast<double>(drawOf(network, device)) / static_cast<double>(supplies.size());
            const auto feed = has ? std::nullopt : feeding.best(device, supply, share);
            if (!feed)
                continue;
            device.feeds.push_back(*feed);
            ++fed;
        }
        sortBySupply(device.feeds);
        act.network.put(std::move(device));
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

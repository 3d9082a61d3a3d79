// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/power.h"

#include "core/model/ports.h"

#include <algorithm>
#include <array>

namespace underridge::model {
namespace {

/// The connectors of IEC 60320 that take power, and those that give it.
using Ends = std::array<Connector, 2>;
constexpr Ends inlets{Connector::c14, Connector::c20}, outlets{Connector::c13, Connector::c19};

bool isOneOf(Ends ends, Connector connector) {
    return connector == ends[0] || connector == ends[1];
}

/// Whether a device may have such a port at all, without looking at each.
bool mayHave(const Network& network, const Device& device, Ends ends) {
    const DeviceModel* model = network.modelOf(device);
    if (!model)
        return false;
    if (!device.modules.empty() || !device.stack.empty() || !device.added.empty())
        return true;
    const auto& blocks = model->ports.blocks();
    return std::any_of(blocks.begin(), blocks.end(), [&](const PortBlock& block) {
        return block.use == PortUse::power && isOneOf(ends, block.connector);
    });
}

std::vector<std::string> powerPorts(const Network& network, const Device& device, Ends ends) {
    std::vector<std::string> out;
    if (!mayHave(network, device, ends))
        return out;
    for (const PortView& port : portsOf(network, device))
        if (port.like->use == PortUse::power && isOneOf(ends, port.connector()))
            out.push_back(port.key);
    return out;
}

bool isPassiveRole(Role role) {
    return role == Role::patchPanel || role == Role::outlet || role == Role::splitter;
}

} // namespace

std::vector<std::string> suppliesOf(const Network& network, const Device& device) {
    auto supplies = powerPorts(network, device, inlets);
    const DeviceModel* model = network.modelOf(device);
    if (supplies.empty() && model && model->rackUnits > 0 && !isPassiveRole(model->role))
        supplies.emplace_back("supply");
    return supplies;
}

std::vector<std::string> outletsOf(const Network& network, const Device& device) {
    return powerPorts(network, device, outlets);
}

int drawOf(const Network& network, const Device& device) {
    const DeviceModel* model = network.modelOf(device);
    return device.watts > 0 ? device.watts : model ? model->watts : 0;
}

PowerTree::PowerTree(const Network& network) : network_(network) {
    network_.all<Device>().forEach([&](const Device& device) {
        for (const PowerFeed& feed : device.feeds)
            if (const PowerSource source = sourceOf(feed); source && feed.from != device.id)
                fed_[source].push_back(device.id);
    });
    for (const auto& [source, devices] : fed_)
        sources_.push_back(source);
    std::sort(sources_.begin(), sources_.end(), [&](const PowerSource& a, const PowerSource& b) {
        const bool mainsA = !a.device, mainsB = !b.device;
        return mainsA != mainsB ? mainsA : naturalLess(nameOf(a), nameOf(b));
    });
    network_.all<Device>().forEach([&](const Device& device) {
        std::set<DeviceId> open;
        if (!device.feeds.empty())
            work(device.id, open);
    });
}

/// A source, and what it hangs on itself.
std::set<PowerSource> PowerTree::behind(const PowerSource& source, std::set<DeviceId>& open) {
    std::set<PowerSource> out{source};
    if (source.device) {
        const auto& needed = work(source.device, open);
        out.insert(needed.begin(), needed.end());
    }
    return out;
}

const std::set<PowerSource>& PowerTree::work(DeviceId id, std::set<DeviceId>& open) {
    static const std::set<PowerSource> none;
    if (const auto held = needs_.find(id); held != needs_.end())
        return held->second;
    const Device* device = network_.device(id);
    if (!device)
        return none;
    if (!open.insert(id).second) {
        circles_.insert(id);
        return none;
    }
    std::vector<std::set<PowerSource>> feeds;
    for (const PowerFeed& feed : device->feeds)
        if (feed.from == id)
            circles_.insert(id);
        else if (const PowerSource source = sourceOf(feed))
            feeds.push_back(behind(source, open));
    open.erase(id);
    std::set<PowerSource> common = feeds.empty() ? std::set<PowerSource>() : feeds.front();
    for (const auto& each : feeds)
        std::erase_if(common, [&](const PowerSource& source) { return !each.contains(source); });
    feeds_[id] = std::move(feeds);
    return needs_[id] = std::move(common);
}

const std::set<PowerSource>& PowerTree::needs(DeviceId device) const {
    static const std::set<PowerSource> none;
    const auto held = needs_.find(device);
    return held == needs_.end() ? none : held->second;
}

std::vector<DeviceId> PowerTree::darkWithout(const PowerSource& source) const {
    std::vector<DeviceId> out;
    for (const auto& [device, needed] : needs_)
        if (needed.contains(source))
            out.push_back(device);
    return out;
}

std::vector<DeviceId> PowerTree::weakerWithout(const PowerSource& source) const {
    std::vector<DeviceId> out;
    for (const auto& [device, feeds] : feeds_) {
        const auto lost = std::count_if(feeds.begin(), feeds.end(),
                                        [&](const auto& feed) { return feed.contains(source); });
        if (lost > 0 && lost < static_cast<std::ptrdiff_t>(feeds.size()))
            out.push_back(device);
    }
    return out;
}

std::map<PowerSource, PowerTree::Loss> PowerTree::losses() const {
    std::map<PowerSource, Loss> out;
    for (const auto& [device, needed] : needs_)
        for (const PowerSource& source : needed)
            out[source].dark.push_back(device);
    for (const auto& [device, feeds] : feeds_) {
        std::map<PowerSource, std::size_t> lost;
        for (const auto& feed : feeds)
            for (const PowerSource& source : feed)
                ++lost[source];
        for (const auto& [source, count] : lost)
            if (count < feeds.size())
                out[source].weaker.push_back(device);
    }
    return out;
}

/// What a device draws itself and passes on to others.
double PowerTree::throughput(DeviceId id, bool worst, std::set<DeviceId>& open) const {
    const Device* device = network_.device(id);
    if (!device || !open.insert(id).second)
        return 0;
    double watts = drawOf(network_, *device);
    if (const auto fed = fed_.find({id, {}}); fed != fed_.end()) {
        std::map<DeviceId, int> supplies;
        for (const DeviceId each : fed->second)
            ++supplies[each];
        for (const auto& [each, count] : supplies) {
            const auto feeds = feeds_.find(each);
            const double all = feeds == feeds_.end() ? 1 : static_cast<double>(feeds->second.size());
            watts += throughput(each, worst, open) * (worst ? 1 : count / std::max(1.0, all));
        }
    }
    open.erase(id);
    return watts;
}

PowerLoad PowerTree::loadOf(const PowerSource& source) const {
    PowerLoad load;
    const auto fed = fed_.find(source);
    if (fed == fed_.end())
        return load;
    std::map<DeviceId, int> supplies;
    for (const DeviceId each : fed->second)
        ++supplies[each];
    for (const auto& [each, count] : supplies) {
        std::set<DeviceId> open;
        const auto feeds = feeds_.find(each);
        const double all = feeds == feeds_.end() ? 1 : static_cast<double>(feeds->second.size());
        load.watts += throughput(each, false, open) * count / std::max(1.0, all);
        load.worstWatts += throughput(each, true, open);
        const Device& device = *network_.device(each);
        load.unknown += drawOf(network_, device) == 0 && outletsOf(network_, device).empty();
    }
    if (const Device* device = network_.device(source.device))
        if (const DeviceModel* model = network_.modelOf(*device))
            load.ratingWatts = model->ratingWatts;
    return load;
}

std::string PowerTree::nameOf(const PowerSource& source) const {
    if (const Device* device = network_.device(source.device))
        return device->name;
    return source.device ? std::string() : "feed " + source.mains;
}

} // namespace underridge::model

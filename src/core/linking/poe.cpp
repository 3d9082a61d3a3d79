// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/poe.h"

namespace underridge::linking {
using namespace model;

double classPowerW(int powerClass) {
    constexpr std::array<double, 9> watts{15.4, 4, 7, 15.4, 30, 45, 60, 75, 90};
    return powerClass < 0 || powerClass > 8 ? 0 : watts[static_cast<std::size_t>(powerClass)];
}

double podlPowerW(int podlClass) {
    constexpr std::array<double, 6> watts{1.85, 4.8, 12.63, 11.54, 30, 79};
    return podlClass < 10 || podlClass > 15 ? 0 : watts[static_cast<std::size_t>(podlClass - 10)];
}

bool podlFeeds(int source, int load) {
    const auto isHigh = [](int podlClass) { return podlClass >= 13; };
    return source >= 10 && source <= 15 && load >= 10 && isHigh(source) == isHigh(load) && source >= load;
}

int largestClassOf(int powerType) {
    switch (powerType) {
    case 1:
        return 3;
    case 2:
        return 4;
    case 3:
        return 6;
    case 4:
        return 8;
    default:
        return -1;
    }
}

int classOf(const PortBlock& load) {
    return load.powerClass >= 0 ? load.powerClass : std::max(0, largestClassOf(load.powerType));
}

bool reaches(const PortBlock& source, int pairs) {
    return source.powerPairs != PowerPairs::alternativeB || pairs <= 0 || pairs >= 4;
}

double allocatedW(const PortBlock& load, const PortBlock& source, int pairs) {
    if (load.powerClass >= 10 || source.powerClass >= 10)
        return podlPowerW(load.powerClass);
    constexpr int largestOnTwoPairs = 4;
    const bool onTwo =
        source.powerPairs == PowerPairs::alternativeA || source.powerPairs == PowerPairs::alternativeB;
    const bool twoPairs = pairs > 0 && pairs < 4;
    if (!reaches(source, pairs))
        return 0;
    int given = classOf(load);
    if (twoPairs || onTwo)
        given = std::min(given, largestOnTwoPairs);
    if (const int largest = largestClassOf(source.powerType); largest >= 0)
        given = std::min(given, largest);
    return classPowerW(given);
}

PowerWay powerAt(const Channel& channel, int end) {
    const auto source = [](const PortRef& at, const std::optional<PortView>& port) {
        return PowerWay{PowerWay::Kind::fed, at, port};
    };
    const auto gives = [](const std::optional<PortView>& port) {
        return port && port->like->power == PowerSide::source;
    };
    for (std::size_t i = 0; i < channel.passages.size(); ++i) {
        const Passage& passage = channel.passages[end == 0 ? i : channel.passages.size() - 1 - i];
        const auto& near = end == 0 ? passage.inPort : passage.outPort;
        if (gives(near))
            return source(end == 0 ? passage.in : passage.out, near);
        if (passage.midspan)
            return {}; // its data side passes no power on
    }
    const ChannelEnd& far = channel.ends[static_cast<std::size_t>(1 - end)];
    if (!far.isKnown())
        return {PowerWay::Kind::unknown, far.at, {}};
    return gives(far.port) ? source(far.at, far.port) : PowerWay{};
}

bool isPowered(const Network& network, const Device& device, const PortRef& except) {
    bool powered = false;
    network.forEachLinkOf(device.id, [&](const Link& link) {
        for (const PortRef* at : {&link.a, &link.b}) {
            if (powered || at->device != device.id || *at == except)
                continue;
            const auto here = portAt(network, *at);
            if (!here || here->like->power != PowerSide::load)
                continue;
            const Channel channel = channelOf(network, chainThrough(network, *at));
            powered = powerAt(channel, channel.ends[0].at == *at ? 0 : 1).source.has_value();
        }
    });
    return powered;
}

std::vector<Fed> loadsOf(const Network& network, const Device& device) {
    std::vector<Fed> out;
    network.forEachLinkOf(device.id, [&](const Link& link) {
        for (const PortRef* at : {&link.a, &link.b}) {
            if (at->device != device.id)
                continue;
            const auto here = portAt(network, *at);
            if (!here || here->like->power != PowerSide::source || (here->record && here->record->powerOff))
                continue;
            const PortRef& next = at == &link.a ? link.b : link.a;
            if (const Device* there = network.device(next.device); there && !isPassive(network, *there)) {
                const auto view = portAt(network, next); // most sources are joined to what takes none
                if (!view || view->like->power != PowerSide::load)
                    continue;
            }
            const Channel channel = channelOf(network, chainThrough(network, *at));
            for (const int end : {0, 1}) {
                const ChannelEnd& load = channel.ends[static_cast<std::size_t>(end)];
                if (!load.port || load.port->like->power != PowerSide::load)
                    continue;
                if (const PowerWay way = powerAt(channel, end);
                    way.source && way.at == *at && here->like->passivePower == load.port->like->passivePower)
                    out.push_back({load.at, *at, allocatedW(*load.port->like, *here->like, channel.pairs),
                                   load.port->like->powerClass >= 0});
            }
        }
    });
    return out;
}

std::optional<Budget> budgetOf(const Network& network, DeviceId id) {
    const Device* device = network.device(id);
    const DeviceModel* model = device ? network.modelOf(*device) : nullptr;
    if (!model || model->powerBudgetW <= 0)
        return std::nullopt;
    Budget budget{id, static_cast<double>(model->powerBudgetW)};
    for (const Fed& fed : loadsOf(network, *device))
        budget.leftW -= fed.watts;
    return budget;
}

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
// What the ends of a channel get of power over it.
#include "core/linking/judged.h"
#include "core/linking/poe.h"

namespace underridge::linking {
using namespace model;

void judgePower(const Network& network, const Channel& channel, int end, Say say) {
    const ChannelEnd& load = channel.ends[static_cast<std::size_t>(end)];
    const PowerWay way = powerAt(channel, end);
    const Device* there = network.device(load.at.device);
    if (!load.isKnown() || !there || isPassive(network, *there))
        return;
    if (load.port->like->power != PowerSide::load) {
        if (way.source && way.source->like->passivePower &&
            !(way.source->record && way.source->record->powerOff))
            say("power-passive", end, [&] {
                return Said{fmt::format("{} feeds {} all the time, which is not made for it",
                                        portText(network, way.at), portText(network, load.at)),
                            words("use a source by IEEE 802.3")};
            });
        return;
    }
    const PortBlock& wants = *load.port->like;
    const auto name = [&] { return there->name; };
    const ChannelEnd& far = channel.ends[static_cast<std::size_t>(1 - end)];
    if (way.kind == PowerWay::Kind::unknown)
        return;
    if (!way.source) {
        say("power-missing", end, [&] {
            return Said{fmt::format("{} wants power; {} gives none", name(), portText(network, far.at)),
                        words("use a port with power, or an injector")};
        });
        return;
    }
    const PortBlock& gives = *way.source->like;
    const std::string from = portText(network, way.at);
    if (way.source->record && way.source->record->powerOff) {
        say("power-missing", end, [&] {
            const auto budget = budgetOf(network, way.at.device);
            const bool enough = !budget || budget->leftW >= allocatedW(wants, gives, channel.pairs);
            return Said{fmt::format("{} wants power; it is off at {}", name(), from),
                        enough ? atPort(Remedy::Kind::givePower, "switch it on", way.at)
                               : words("switch it on when there is power to spare, or use another port")};
        });
        return;
    }
    if (gives.passivePower != wants.passivePower) {
        say("power-passive", end, [&] {
            return Said{
                gives.passivePower
                    ? fmt::format("{} is fed all the time by {}; it asks for power by IEEE 802.3", name(),
                                  from)
                    : fmt::format("{} takes passive power; {} gives it by IEEE 802.3 only", name(), from),
                words("use a source of the same kind")};
        });
        return;
    }
    if (gives.passivePower)
        return;
    if (mediumOf(*load.port) == Medium::singlePair) {
        if (!podlFeeds(gives.powerClass, wants.powerClass))
            say("power-podl", end, [&] {
                return Said{
                    fmt::format("{} is of class {} ({:g} W at the source); {} gives class {} ({:g} W)",
                                name(), wants.powerClass, podlPowerW(wants.powerClass), from,
                                gives.powerClass, podlPowerW(gives.powerClass)),
                    words("use a port of its class")};
            });
        return;
    }
    if (!reaches(gives, channel.pairs)) {
        say("power-missing", end, [&] {
            return Said{
                fmt::format("{} wants power; {} gives it on the spare pairs, which the cable does not have",
                            name(), from),
                words("use a cable of four pairs")};
        });
        return;
    }
    const double full = classPowerW(classOf(wants)), given = allocatedW(wants, gives, channel.pairs);
    if (given < full)
        say("power-type", end, [&] {
            const bool byCable = given < allocatedW(wants, gives, 0);
            PortBlock onAll = gives;
            onAll.powerPairs = PowerPairs::four;
            const bool bySource = given < allocatedW(wants, onAll, 0);
            return Said{fmt::format("{} is of class {} ({:g} W); {} gives {:g} W{}", name(), classOf(wants),
                                    full, from, given,
                                    byCable || bySource ? std::string(" over two pairs")
                                                        : fmt::format(" as Type {}", gives.powerType)),
                        words(byCable    ? "use a cable of four pairs"
                              : bySource ? "use a source that gives power on all four pairs"
                                         : "use a port of a higher Type")};
        });
}

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
// What meets in the adapters and contacts of a channel.
#include "core/linking/judged.h"
#include "core/linking/light.h"

namespace underridge::linking {
using namespace model;
namespace {

/// The view of a cable's end at the passage it comes to, or leaves from.
struct CableEndView {
    bool angled = false, pinned = false;
};
CableEndView endOf(const ChannelPart& part, bool far) {
    const bool isB = part.turned != far;
    return {isB ? part.type->angledB : part.type->angledA, isB ? part.type->pinnedB : part.type->pinnedA};
}

} // namespace

void judgeJoins(const Network& network, const Channel& channel, Say say) {
    std::vector<const ChannelPart*> cables;
    for (const ChannelPart& part : channel.parts)
        if (part.kind == ChannelPart::Kind::cable)
            cables.push_back(&part);
    for (std::size_t i = 0; i < channel.passages.size() && i + 1 < cables.size(); ++i) {
        const Passage& passage = channel.passages[i];
        const ChannelPart &x = *cables[i], &y = *cables[i + 1];
        const auto& port = passage.inPort;
        if (!x.type || !y.type || !port || !passage.outPort || !isAdapter(*port->like) ||
            port->connector() != passage.outPort->connector())
            continue; // a cassette holds contacts of its own
        const CableEndView in = endOf(x, true), out = endOf(y, false);
        if (isFibre(x.type->medium) && in.angled != out.angled)
            say("end-face", -1, [&] {
                return Said{fmt::format("{}: an angled end face (APC) meets a flat one (UPC)",
                                        portText(network, passage.in)),
                            words("use cables of one polish, or one that changes it")};
            });
        if (isArray(port->connector()) && in.pinned == out.pinned)
            say("pins", -1, [&] {
                return Said{fmt::format("{}: of two plugs exactly one must have guide pins",
                                        portText(network, passage.in)),
                            words("use a cable with the other plug")};
            });
    }
    if (const auto mixed = mixedCores(channel))
        say("fibre-mixed", -1, [&] {
            return Said{fmt::format("{} to {}: {} ({:g} µm) is joined to {} ({:g} µm)",
                                    portText(network, channel.ends[0].at),
                                    portText(network, channel.ends[1].at), mixed->first->name,
                                    mixed->first->coreUm, mixed->second->name, mixed->second->coreUm),
                        words("use one class throughout")};
        });
    // Both ends of a fixed cable are terminated alike: TIA-568.2.
    for (std::size_t i = 0; i + 1 < channel.passages.size(); ++i) {
        const auto &from = channel.passages[i].outPort, &to = channel.passages[i + 1].inPort;
        const Wiring x = from ? from->like->wiring : Wiring::unknown,
                     y = to ? to->like->wiring : Wiring::unknown;
        if (x != Wiring::unknown && y != Wiring::unknown && x != y)
            say("wiring", -1, [&] {
                return Said{fmt::format("{} is wired {}, {} is wired {}",
                                        portText(network, channel.passages[i].out), titleOf(x),
                                        portText(network, channel.passages[i + 1].in), titleOf(y)),
                            words("terminate both ends alike")};
            });
    }
}

} // namespace underridge::linking

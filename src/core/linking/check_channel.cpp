// SPDX-License-Identifier: GPL-3.0-or-later
// The findings of a channel: what judging says of it, with remedies that can be applied.
#include "core/linking/judging.h"
#include "core/linking/mending.h"

#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

/// Rules that another cable or transceivers may put right.
bool isOfJoint(std::string_view code) {
    for (const char* each : {"optics", "transceiver-fit", "fibre-class", "pinout", "category", "polarity",
                             "reach", "loss", "overload", "speed", "permanent-link"})
        if (code == each)
            return true;
    return false;
}

} // namespace

std::vector<Finding> checkChannel(const Network& network, Fits& fits, const Chain& chain) {
    std::vector<Finding> findings;
    if (chain.empty())
        return findings;
    const LinkId first = chain.stretches.front().link;
    const auto take = [&](std::string_view code, int end, FunctionRef<Said()> words) {
        Said said = words();
        said.remedy.link = first;
        const Link* link = chain.stretches.size() == 1 ? network.link(first) : nullptr;
        if (link && said.remedy.kind == Remedy::Kind::none && isOfJoint(code))
            if (Remedy better = otherJoint(network, fits, *link); better.kind != Remedy::Kind::none)
                said.remedy = std::move(better);
        std::vector<ObjectRef> subjects;
        for (const Stretch& stretch : chain.stretches)
            subjects.push_back(refTo(stretch.link));
        for (const int which : {0, 1})
            if (end != 1 - which)
                subjects.push_back(refTo((which == 0 ? chain.a : chain.b).device));
        findings.push_back(
            {ruleOf(code), std::move(said.message), std::move(said.remedy), std::move(subjects), end});
    };
    const auto say = [&](std::string_view code, const std::string& message, const char* remedy) {
        const auto words = [&] { return Said{message, {Remedy::Kind::none, remedy, {}, {}, {}, {}}}; };
        take(code, -1, words);
    };
    if (chain.endA == ChainEnd::loop || chain.endB == ChainEnd::loop) {
        say("chain-loop", fmt::format("{}: the cables come round to it again", portText(network, chain.a)),
            "take one of them out");
        return findings;
    }
    const Channel channel = channelOf(network, chain);
    judgeJoins(network, channel, take);
    const bool openA = chain.endA == ChainEnd::open, openB = chain.endB == ChainEnd::open;
    if (openA != openB) {
        // One side goes on, the other ends in a panel that nothing is patched to.
        if ((openA ? chain.endB : chain.endA) == ChainEnd::device)
            say("chain-open",
                fmt::format("{}: the chain ends at {}, which goes no further",
                            portText(network, openA ? chain.b : chain.a),
                            portText(network, openA ? chain.a : chain.b)),
                "patch the other side of that panel");
        return findings;
    }
    const auto plugged = [&](const Stretch& stretch) {
        const Link* link = network.link(stretch.link);
        return link && plugsFit(network, *link);
    };
    // What is joined by plugs that do not go in need not be judged further.
    if (chain.whole() && std::all_of(chain.stretches.begin(), chain.stretches.end(), plugged))
        judge(network, channel, take);
    return findings;
}

} // namespace underridge::linking

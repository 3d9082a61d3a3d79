// SPDX-License-Identifier: GPL-3.0-or-later
// The rules that regard the whole channel between two devices.
#include "core/linking/rules.h"

#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

std::string metres(std::int64_t mm) {
    return fmt::format("{:g} m", static_cast<double>(mm) / 1000);
}

/// Transmit and receive positions: 1 and 2 of a pair; 1–4 and 12–9 of an array of twelve
/// (IEEE 802.3 clause 86.10.3).
std::pair<std::vector<int>, std::vector<int>> lanesOf(const TransceiverModel& optics, int lanes) {
    if (optics.connector == Connector::mpo && lanes == 1)
        return {{1, 2, 3, 4}, {12, 11, 10, 9}};
    return {{1}, {2}};
}

struct Look {
    const Network& network;
    const Chain& chain;
    std::optional<PortView> a, b;
    std::vector<Finding> findings;

    std::string both() const {
        return fmt::format("{} to {}", portText(network, chain.a), portText(network, chain.b));
    }
    void say(std::string_view code, std::string message, std::string remedy) {
        std::vector<ObjectRef> subjects;
        for (const Stretch& stretch : chain.stretches)
            subjects.push_back(refTo(stretch.link));
        subjects.push_back(refTo(chain.a.device));
        subjects.push_back(refTo(chain.b.device));
        findings.push_back({ruleOf(code),
                            std::move(message),
                            {Remedy::Kind::none, std::move(remedy), chain.stretches.front().link, {}, {}, {}},
                            std::move(subjects),
                            -1});
    }
};

/// Classes whose cores differ: single-mode, 62.5 µm, 50 µm.
int coreOf(std::string_view grade) {
    return grade.starts_with("OS") ? 1 : grade == "OM1" ? 2 : grade.starts_with("OM") ? 3 : 0;
}

void checkClasses(Look& look, const Channel& channel) {
    std::string first;
    for (const std::string& grade : channel.grades) {
        if (coreOf(grade) == 0)
            continue;
        if (first.empty()) {
            first = grade;
        } else if (coreOf(first) != coreOf(grade)) {
            look.say("fibre-mixed", fmt::format("{}: {} is joined to {}", look.both(), first, grade),
                     "use one class throughout");
            return;
        }
    }
}

void checkReach(Look& look, const Channel& channel, std::string_view phy) {
    for (const std::string& grade : channel.grades) {
        const auto reach = reachOf(phy, grade);
        if (!reach) {
            if (coreOf(grade) != 0)
                look.say("fibre-class", fmt::format("{}: {} does not run over {}", look.both(), phy, grade),
                         "use another cable or other transceivers");
            continue;
        }
        if (channel.lengthMm > reach->mm) {
            look.say("reach",
                     fmt::format("{}: {} over {} reaches {}, the channel is {}{}", look.both(), phy, grade,
                                 metres(reach->mm), channel.unmeasured > 0 ? "at least " : "",
                                 metres(channel.lengthMm)),
                     coreOf(grade) != 0 ? "use transceivers with a longer reach"
                                        : "shorten it, or go by fibre");
            return;
        }
        if (reach->lossDb > 0 && channel.lossDb > reach->lossDb + 1e-9) {
            look.say("loss",
                     fmt::format("{}: the channel may lose {:.1f} dB, {} allows {:.1f} dB", look.both(),
                                 channel.lossDb, phy, reach->lossDb),
                     channel.connections > 0 ? "pass fewer panels, or splice" : "use a shorter cable");
            return;
        }
    }
}

/// What meets in the adapters between the cables: end faces and pins.
void checkAdapters(Look& look) {
    const auto typeOf = [&](const Stretch& stretch) -> const CableType* {
        const Link* link = look.network.link(stretch.link);
        const Cable* cable = link ? look.network.cable(link->cable) : nullptr;
        return cable ? look.network.typeOf(*cable) : nullptr;
    };
    // Which end of the type is plugged in at a port; nothing when that cannot be told.
    const auto isEndB = [&](const CableType& type, const Stretch& stretch, bool at) -> std::optional<bool> {
        if (type.angledA == type.angledB && type.pinnedA == type.pinnedB)
            return false;
        const Link* link = look.network.link(stretch.link);
        return (at ? stretch.to : stretch.from) == link->b;
    };
    for (std::size_t i = 0; i + 1 < look.chain.stretches.size(); ++i) {
        const Stretch &in = look.chain.stretches[i], &out = look.chain.stretches[i + 1];
        const CableType *x = typeOf(in), *y = typeOf(out);
        const auto port = portAt(look.network, in.to);
        const auto other = portAt(look.network, out.from);
        if (!x || !y || !port || !other || !isAdapter(*port->like) || port->connector() != other->connector())
            continue; // a cassette holds contacts of its own
        const auto endX = isEndB(*x, in, true), endY = isEndB(*y, out, false);
        if (!endX || !endY)
            continue;
        const std::string at = portText(look.network, in.to);
        if ((*endX ? x->angledB : x->angledA) != (*endY ? y->angledB : y->angledA))
            look.say("end-face", fmt::format("{}: an angled end face (APC) meets a flat one (UPC)", at),
                     "use cables of one polish, or one that changes it");
        if (port->connector() == Connector::mpo &&
            (*endX ? x->pinnedB : x->pinnedA) == (*endY ? y->pinnedB : y->pinnedA))
            look.say("pins", fmt::format("{}: of two plugs exactly one must have guide pins", at),
                     "use a cable with the other plug");
    }
}

/// Both ends of a fixed cable are terminated alike: TIA-568.2.
void checkWiring(Look& look) {
    for (const Stretch& stretch : look.chain.stretches) {
        const auto a = portAt(look.network, stretch.from), b = portAt(look.network, stretch.to);
        const Wiring x = a ? a->like->wiring : Wiring::unknown, y = b ? b->like->wiring : Wiring::unknown;
        if (x != Wiring::unknown && y != Wiring::unknown && x != y)
            look.say("wiring",
                     fmt::format("{} is wired {}, {} is wired {}", portText(look.network, stretch.from),
                                 titleOf(x), portText(look.network, stretch.to), titleOf(y)),
                     "terminate both ends alike");
    }
}

/// One side goes on, the other ends in a panel that nothing is patched to.
void checkOpenEnd(Look& look, const Chain& chain) {
    const bool openA = chain.endA == ChainEnd::open;
    const PortRef &from = openA ? chain.b : chain.a, &to = openA ? chain.a : chain.b;
    if ((openA ? chain.endB : chain.endA) == ChainEnd::device)
        look.say("chain-open",
                 fmt::format("{}: the chain ends at {}, which goes no further", portText(look.network, from),
                             portText(look.network, to)),
                 "patch the other side of that panel");
}

void checkFibre(Look& look, const Chain& chain, const Channel& channel, const TransceiverModel& optics) {
    const bool both = look.a->transceiver && look.b->transceiver;
    if (both && optics.receiveNm == 0 && !channel.txMeetsRx)
        look.say("polarity",
                 fmt::format("{}: what one end sends does not reach where the other receives", look.both()),
                 "use one cable that crosses (A to B, Type B), or one less");
    // Over several cables the transceivers meet only here.
    if (both && chain.stretches.size() > 1 &&
        !understand(*look.a->transceiver, *look.b->transceiver, look.a->lanes, look.b->lanes))
        look.say("optics",
                 fmt::format("{}: {} and {} do not understand each other", look.both(),
                             look.a->transceiver->name, look.b->transceiver->name),
                 "fit alike transceivers");
    checkReach(look, channel, optics.phy);
}

/// The highest rate both ends have; 0: none.
int commonRate(const PortView& a, const PortView& b) {
    const auto rates = b.rates();
    int speed = 0;
    for (const int rate : a.rates())
        if (std::find(rates.begin(), rates.end(), rate) != rates.end())
            speed = std::max(speed, rate);
    return speed;
}

void checkCopper(Look& look, const Chain& chain, const Channel& channel) {
    const int speed = commonRate(*look.a, *look.b);
    if (chain.stretches.size() > 1 && speed == 0 && !look.b->rates().empty() && !look.a->rates().empty())
        look.say("speed",
                 fmt::format("{}: {} and {} have no speed in common", look.both(), describe(*look.a),
                             describe(*look.b)),
                 "choose other ports");
    if (const std::string_view phy = copperPhy(speed); !phy.empty())
        checkReach(look, channel, phy);
    if (channel.permanentMm > permanentLinkMm)
        look.say("permanent-link",
                 fmt::format("{}: the fixed cable is {}, more than {}", look.both(),
                             metres(channel.permanentMm), metres(permanentLinkMm)),
                 "put a panel nearer, or go by fibre");
}

} // namespace

std::vector<Finding> checkChain(const Network& network, const Chain& chain) {
    Look look{network, chain, portAt(network, chain.a), portAt(network, chain.b), {}};
    if (chain.empty())
        return {};
    if (chain.endA == ChainEnd::loop || chain.endB == ChainEnd::loop) {
        look.say("chain-loop",
                 fmt::format("{}: the cables come round to it again", portText(network, chain.a)),
                 "take one of them out");
        return look.findings;
    }
    checkAdapters(look);
    checkWiring(look);
    if ((chain.endA == ChainEnd::open) != (chain.endB == ChainEnd::open)) {
        checkOpenEnd(look, chain);
        return look.findings;
    }
    if (!chain.whole() || !look.a || !look.b)
        return look.findings;
    const TransceiverModel* optics = look.a->transceiver ? look.a->transceiver : look.b->transceiver;
    const bool fibre = optics && optics->medium != Medium::twistedPair;
    const auto lanes = fibre ? lanesOf(*optics, (look.a->transceiver ? *look.a : *look.b).lanes)
                             : std::pair(std::vector<int>{1}, std::vector<int>{1});
    const Channel channel =
        channelOf(network, chain, fibre ? optics->wavelengthNm : 0, lanes.first, lanes.second);
    checkClasses(look, channel);
    if (fibre)
        checkFibre(look, chain, channel, *optics);
    else if (!channel.grades.empty() && channel.grades.front().starts_with("Cat"))
        checkCopper(look, chain, channel);
    return look.findings;
}

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/judging.h"

#include "core/linking/judged.h"
#include "core/linking/light.h"
#include "core/linking/mixing_segment.h"
#include "core/linking/poe.h"

namespace underridge::linking {
using namespace model;
namespace {

/// Judges one channel between two ends that are known.
class Judging : Judged {
public:
    using Judged::Judged;

    void all() {
        if (!modulesFit() || !understandEachOther())
            return;
        const int common = commonRate(a_.rates(), b_.rates());
        if (common == 0 && !a_.rates().empty() && !b_.rates().empty()) {
            noSpeed();
            return;
        }
        speed_ = rateOf(channel_);
        if (common > 0 && speed_ < common)
            say_("category", -1, [&] {
                return Said{fmt::format("{}: {} carries no more than {}, the ports run at {}", both(),
                                        channel_.slowest, speedText(channel_.maxRate), speedText(common)),
                            words("use a better one")};
            });
        judgeSettings(network_, channel_, speed_, say_);
        if (!firstType())
            return;
        if (isFibre(firstType()->medium))
            judgeLight(network_, channel_, speed_, say_);
        else
            judgeWires(network_, channel_, speed_, say_);
    }

private:
    bool modulesFit() {
        bool all = true;
        for (const int end : {0, 1}) {
            const PortView& port = channel_.port(end);
            if (!port.transceiver || fitsCage(*port.like, *port.transceiver))
                continue;
            all = false;
            say_("transceiver-fit", end, [&] {
                return Said{fmt::format("{}: {} does not work in {}", at(end), port.transceiver->name,
                                        cageText(*port.like)),
                            words("fit one of its form and rates")};
            });
        }
        return all;
    }

    bool understandEachOther() {
        const bool optics = a_.transceiver && b_.transceiver &&
                            !understand(*a_.transceiver, *b_.transceiver, a_.lanes, b_.lanes);
        const std::string x = a_.transceiver ? a_.transceiver->phy : a_.like->phy,
                          y = b_.transceiver ? b_.transceiver->phy : b_.like->phy;
        const bool phys =
            !(a_.transceiver && b_.transceiver) && !x.empty() && !y.empty() && !speakAlike(x, y);
        if (optics || phys)
            say_("optics", -1, [&] {
                return Said{fmt::format("{}: {} and {} do not understand each other", both(),
                                        a_.transceiver ? a_.transceiver->name : x,
                                        b_.transceiver ? b_.transceiver->name : y),
                            words(optics ? "fit alike transceivers" : "choose ports that speak alike")};
            });
        return !optics && !phys;
    }

    void noSpeed() {
        const int end = isSet(0) == isSet(1) ? -1 : isSet(0) ? 0 : 1;
        say_("speed", end, [&] {
            Said said{
                fmt::format("{}: {} and {} have no speed in common", both(), describe(a_), describe(b_)),
                words("choose other ports")};
            if (end >= 0) { // as if it were not fixed
                PortView free = channel_.port(end);
                free.record = nullptr;
                if (commonRate(free.rates(), channel_.port(1 - end).rates()) > 0)
                    said.remedy = atPort(Remedy::Kind::negotiate, "let it negotiate", ref(end));
            } else if (isSet(0) && isSet(1)) {
                said.remedy = words("set both alike, or let both negotiate");
            }
            return said;
        });
    }
};

bool carriesData(const ChannelEnd& end) {
    return end.isKnown() && end.port->isData();
}

} // namespace

void judge(const Network& network, const Channel& channel, Say say) {
    for (const ChannelEnd& end : channel.ends)
        if (!carriesData(end))
            return;
    const CableType* type = channel.parts.empty() ? nullptr : channel.parts.front().type;
    for (const ChannelEnd& end : channel.ends)
        if (isEmptyCage(*end.port) && !(type && isAssembly(*type)))
            return; // it is told of the link
    Judging(network, channel, say).all();
}

bool Objection::isOfPorts() const {
    for (const char* code :
         {"power-missing", "power-passive", "power-podl", "power-type", "power-budget", "duplex", "clock"})
        if (rule->code == code)
            return true;
    return false;
}

namespace {

/// What a mixing segment would have to say of a link that is not there yet.
std::optional<Objection> objectionOfSegment(const Network& network, const Planned& planned) {
    std::optional<DeviceId> piece;
    for (const PortRef* end : {&planned.a, &planned.b})
        if (const Device* device = network.device(end->device); device && isOfMixingSegment(network, *device))
            piece = device->id;
    if (!piece)
        return std::nullopt;
    Network with = network;
    Link link;
    link.id = planned.instead ? planned.instead : LinkId{~std::uint64_t{0}};
    link.a = planned.a;
    link.b = planned.b;
    Cable cable;
    cable.id = CableId{~std::uint64_t{0}};
    cable.lengthMm = planned.lengthMm;
    link.cable = cable.id;
    with.put(std::move(cable));
    with.put(std::move(link));
    const auto told = [&](const Network& in) {
        std::set<std::string> out;
        const auto pieces = mixingSegmentOf(in, *piece);
        for (const Finding& finding : checkMixingSegment(in, *in.device(*pieces.begin())))
            out.insert(finding.message);
        return out;
    };
    const auto before = told(network);
    for (const std::string& message : told(with))
        if (!before.contains(message))
            return Objection{ruleOf("mixing-segment"), message};
    return std::nullopt;
}

} // namespace

std::optional<Objection> objectionTo(const Network& network, const Planned& planned) {
    std::optional<Objection> first;
    const auto take = [&](std::string_view code, int, FunctionRef<Said()> words) {
        if (!first)
            first = Objection{ruleOf(code), words().message};
    };
    const Chain chain = plannedChain(network, planned);
    const Channel channel = channelOf(network, chain, &planned);
    if (chain.endA == ChainEnd::loop || chain.endB == ChainEnd::loop)
        return Objection{ruleOf("chain-loop"), fmt::format("{}: the cables would come round to it again",
                                                           portText(network, planned.a))};
    judgeJoins(network, channel, take);
    if (chain.whole())
        judge(network, channel, take);
    if (!first)
        first = objectionOfSegment(network, planned);
    for (const int end : {0, 1}) {
        const ChannelEnd& load = channel.ends[static_cast<std::size_t>(end)];
        const PowerWay way = powerAt(channel, end);
        if (first || !load.isKnown() || (!chain.whole() && !way.source))
            continue;
        const bool wants = load.port->like->power == PowerSide::load;
        const Device* device = network.device(load.at.device);
        if (wants && device && isPowered(network, *device, load.at))
            continue; // by another of its ports
        judgePower(network, channel, end, take);
        if (first || !wants || !way.source)
            continue;
        // Of a link that is replaced the power is set aside already.
        const double watts =
            planned.instead ? 0 : allocatedW(*load.port->like, *way.source->like, channel.pairs);
        if (const auto budget = budgetOf(network, way.at.device); budget && watts > budget->leftW)
            first = Objection{ruleOf("power-budget"), fmt::format("{} has {:g} W left, {:g} W are asked for",
                                                                  network.device(way.at.device)->name,
                                                                  std::max(0.0, budget->leftW), watts)};
    }
    return first;
}

} // namespace underridge::linking

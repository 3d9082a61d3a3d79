// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/judging.h"

#include "core/linking/light.h"
#include "core/linking/poe.h"

#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

std::string metres(std::int64_t mm) {
    return fmt::format("{:g} m", static_cast<double>(mm) / 1000);
}

Remedy words(std::string text) {
    return {Remedy::Kind::none, std::move(text), {}, {}, {}, {}};
}

Remedy atPort(Remedy::Kind kind, std::string text, const PortRef& port) {
    return {kind, std::move(text), {}, port, {}, {}};
}

/// Judges one channel between two ends that are known.
class Judging {
public:
    Judging(const Network& network, const Channel& channel, Say say)
        : network_(network), channel_(channel), a_(channel.port(0)), b_(channel.port(1)), say_(say) {}

    void all() {
        if (!modulesFit() || !understandEachOther())
            return;
        const int common = commonRate(a_.rates(), b_.rates());
        if (common == 0 && !a_.rates().empty() && !b_.rates().empty()) {
            noSpeed();
            return;
        }
        speed_ = commonRate(a_.rates(), b_.rates(), channel_.maxRate > 0 ? channel_.maxRate : INT_MAX);
        if (common > 0 && speed_ < common)
            say_("category", -1, [&] {
                return Said{fmt::format("{}: {} carries no more than {}, the ports run at {}", both(),
                                        channel_.slowest, speedText(channel_.maxRate), speedText(common)),
                            words("use a better one")};
            });
        duplex();
        clock();
        if (!firstType())
            return;
        const bool tooLong = assemblyLengths();
        switch (firstType()->medium) {
        case Medium::twistedPair:
            pinout();
            copper();
            break;
        case Medium::singlePair:
            if (!tooLong)
                singlePair();
            break;
        case Medium::serial:
            serial();
            break;
        case Medium::directAttach:
        case Medium::activeOptical:
            break;
        case Medium::singleMode:
        case Medium::multimode:
            judgeLight(network_, channel_, speed_, say_);
            break;
        default:
            break;
        }
        fec();
    }

private:
    std::string at(int end) const {
        return portText(network_, channel_.ends[static_cast<std::size_t>(end)].at);
    }
    std::string both() const { return fmt::format("{} to {}", at(0), at(1)); }
    const PortRef& ref(int end) const { return channel_.ends[static_cast<std::size_t>(end)].at; }
    const CableType* firstType() const {
        return channel_.parts.empty() ? nullptr : channel_.parts.front().type;
    }
    bool isTwistedPair() const {
        return mediumOf(a_) == Medium::twistedPair && mediumOf(b_) == Medium::twistedPair;
    }

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

    bool isSet(int end) const {
        const PortView& port = channel_.port(end);
        return port.record && port.record->speed > 0;
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

    /// Clause 28: what does not negotiate is taken for half duplex by what does. From 1000
    /// Mbit/s on twisted pair both must (clause 40.5.1), so a fixed speed only limits what is
    /// offered.
    void duplex() {
        const auto setting = [&](int end) {
            const PortView& port = channel_.port(end);
            return port.record ? port.record->duplex : Duplex::automatic;
        };
        const auto isHub = [&](int end) {
            return channel_.ends[static_cast<std::size_t>(end)].role == Role::hub;
        };
        const auto isHalf = [&](int end) { return isHub(end) || setting(end) == Duplex::half; };
        const auto say = [&](int end, auto message, const char* remedy) {
            say_("duplex", end, [&] {
                return Said{message(), end >= 0
                                           ? atPort(Remedy::Kind::negotiate, "let it negotiate", ref(end))
                                           : words(remedy)};
            });
        };
        if (speed_ == 0)
            return;
        constexpr int fast = 1000;
        for (const int end : {0, 1})
            if (setting(end) == Duplex::half && speed_ > fast) {
                say(
                    end,
                    [&] {
                        return fmt::format("{}: half duplex does not exist at {}", at(end),
                                           speedText(speed_));
                    },
                    "");
                return;
            }
        const auto isFixed = [&](int end) {
            return isHub(end) || isSet(end) || setting(end) != Duplex::automatic;
        };
        const auto differ = [&] { return fmt::format("{}: one end is half duplex, the other full", both()); };
        constexpr const char* alike = "set both alike, or let both negotiate";
        if (!isTwistedPair() || speed_ >= fast) {
            if ((isHalf(0) && setting(1) == Duplex::full) || (isHalf(1) && setting(0) == Duplex::full))
                say(-1, differ, alike);
            return;
        }
        if (isFixed(0) && isFixed(1)) {
            if (isHalf(0) == isHalf(1))
                return;
            const int hub = isHub(0) ? 0 : isHub(1) ? 1 : -1; // then the other end is to blame
            say(hub < 0 ? -1 : 1 - hub, differ, alike);
            return;
        }
        for (const int end : {0, 1})
            if (isFixed(end) && !isFixed(1 - end) && !isHalf(end))
                say(
                    end,
                    [&] {
                        return fmt::format(
                            "{}: {} is fixed and does not negotiate, so {} takes it for half duplex", both(),
                            at(end), at(1 - end));
                    },
                    "");
    }

    static bool isSynchronous(const PortView& port) {
        constexpr int synchronousMbps = 2; // below, a line is asynchronous (TIA-232) and has no clock
        return port.isData() && mediumOf(port) == Medium::serial && !port.like->rates.empty() &&
               port.like->rates.back() >= synchronousMbps;
    }

    void clock() {
        if (!isSynchronous(a_) || !isSynchronous(b_))
            return;
        const auto gives = [](const PortView& port) { return port.record && port.record->givesClock; };
        if (gives(a_) != gives(b_))
            return;
        const bool twice = gives(a_);
        say_("clock", -1, [&] {
            return Said{fmt::format("{}: {} gives the clock", both(), twice ? "each end" : "neither end"),
                        twice ? atPort(Remedy::Kind::takeClock, "take it from " + at(1), ref(1))
                              : atPort(Remedy::Kind::giveClock, "give it at " + at(0), ref(0))};
        });
    }

    /// Of cables that are not judged by a PHY over their class: assemblies, serial and
    /// coaxial cables.
    bool assemblyLengths() {
        for (const ChannelPart& part : channel_.parts) {
            if (part.kind != ChannelPart::Kind::cable || !part.type || part.type->maxLengthMm <= 0 ||
                part.lengthMm <= part.type->maxLengthMm || part.type->medium == Medium::twistedPair ||
                isFibre(part.type->medium))
                continue;
            say_("reach", -1, [&] {
                return Said{fmt::format("{}: {} works up to {}, this one is {}", both(), part.type->name,
                                        metres(part.type->maxLengthMm), metres(part.lengthMm)),
                            words("use a shorter one, or transceivers and fibre")};
            });
            return true;
        }
        return false;
    }

    void pinout() {
        const Mdi x = a_.transceiver ? Mdi::automatic : a_.like->mdi,
                  y = b_.transceiver ? Mdi::automatic : b_.like->mdi;
        const bool fixedBoth = x != Mdi::automatic && y != Mdi::automatic;
        const bool isCrossed = channel_.crossed % 2 == 1;
        if (channel_.rolled)
            say_("pinout", -1, [&] {
                return Said{fmt::format("{}: a rolled cord carries no Ethernet", both()),
                            words("use a straight cord")};
            });
        else if (fixedBoth && isCrossed != (x == y))
            say_("pinout", -1, [&] {
                return Said{fmt::format("{}: {} between {} and {}", both(),
                                        isCrossed ? "it is crossed" : "it is straight", titleOf(x),
                                        titleOf(y)),
                            words(isCrossed ? "use a straight cord" : "use one crossed cord")};
            });
    }

    /// The PHY that runs at the channel's speed over twisted pair. A cord is stranded and
    /// loses a fifth more: fixed cable and 1.2 times the cords together 102 m in a channel
    /// of 100 (TIA-568.2, 24 AWG).
    void copper() {
        constexpr std::int64_t cordsAllowed = 2'000;
        const std::int64_t counted = channel_.lengthMm + channel_.cordsMm / 5;
        const std::string_view phy = copperPhy(speed_);
        const auto tooLong = [&](std::string_view grade, std::int64_t reach) {
            say_("reach", -1, [&] {
                const bool byCords = channel_.lengthMm <= reach;
                return Said{fmt::format("{}: {} over {} reaches {}, the channel is {}{}{}", both(), phy,
                                        grade, metres(reach), channel_.unmeasured > 0 ? "at least " : "",
                                        metres(channel_.lengthMm),
                                        byCords ? fmt::format(", {} of it cords, which count 1.2 times",
                                                              metres(channel_.cordsMm))
                                                : std::string()),
                            words(byCords ? "use installed cable in place of the cords, or shorten them"
                                          : "shorten it, or go by fibre")};
            });
        };
        for (const std::string& grade : channel_.grades)
            if (const auto reach = reachOf(phy, grade); reach && counted > reach->mm + cordsAllowed) {
                tooLong(grade, reach->mm);
                return;
            } else if (reach && channel_.lengthMm > reach->mm) {
                tooLong(grade, reach->mm);
                return;
            }
        for (const int end : {0, 1})
            if (const TransceiverModel* optics = channel_.port(end).transceiver;
                optics && optics->reachMm > 0 && channel_.lengthMm > optics->reachMm) {
                say_("reach", end, [&] {
                    return Said{fmt::format("{}: {} reaches {}, the channel is {}", both(), optics->name,
                                            metres(optics->reachMm), metres(channel_.lengthMm)),
                                words("shorten it, or go by fibre")};
                });
                return;
            }
        if (channel_.permanentMm > permanentLinkMm)
            say_("permanent-link", -1, [&] {
                return Said{fmt::format("{}: {} of fixed cable, at most {}", both(),
                                        metres(channel_.permanentMm), metres(permanentLinkMm)),
                            words("end it nearer, or go by fibre")};
            });
    }

    void singlePair() {
        const std::string& phy = !a_.like->phy.empty() ? a_.like->phy : b_.like->phy;
        for (const std::string& grade : channel_.grades)
            if (const auto reach = reachOf(phy, grade); reach && channel_.lengthMm > reach->mm) {
                say_("reach", -1, [&] {
                    return Said{fmt::format("{}: {} reaches {}, the cable is {}", both(), phy,
                                            metres(reach->mm), metres(channel_.lengthMm)),
                                words("shorten it, or use 10BASE-T1L at both ends")};
                });
                return;
            }
    }

    /// TIA-574 and TIA-232: DTE to DCE goes straight, like to like by a null modem; a slow
    /// line reaches farther than a fast one.
    void serial() {
        if (firstType()->console && a_.isData() && b_.isData())
            return; // told of the link
        const SerialSide x = a_.like->serialSide, y = b_.like->serialSide;
        int crossed = 0;
        bool isTia232 = true;
        for (const ChannelPart& part : channel_.parts)
            if (part.type) {
                crossed += part.type->pinout == Pinout::crossed;
                const Grade* grade = gradeOf(part.type->grade);
                isTia232 &= grade && grade->medium == Medium::serial;
            }
        if (x != SerialSide::unknown && y != SerialSide::unknown && (crossed % 2 == 1) != (x == y))
            say_("pinout", -1, [&] {
                return Said{fmt::format("{}: {} to {} by a {} cable", both(), titleOf(x), titleOf(y),
                                        crossed % 2 == 1 ? "null modem" : "straight"),
                            words(x == y ? "use a null modem cable" : "use a straight cable")};
            });
        const int rate = a_.like->bitRate > 0 && b_.like->bitRate > 0
                             ? std::min(a_.like->bitRate, b_.like->bitRate)
                             : std::max(a_.like->bitRate, b_.like->bitRate);
        // TIA-232 allows 2,500 pF, some 15 m, up to 20 kbit/s; faster lines are shortened in
        // proportion, by rule of thumb.
        constexpr std::int64_t longest = 15'000, slow = 20'000;
        const std::int64_t reach = rate <= slow ? longest : longest * slow / rate;
        if (isTia232 && rate > 0 && channel_.lengthMm > reach && channel_.lengthMm <= longest)
            say_("reach", -1, [&] {
                return Said{fmt::format("{}: at {} kbit/s TIA-232 reaches {}, the cable is {}", both(),
                                        static_cast<double>(rate) / 1000, metres(reach),
                                        metres(channel_.lengthMm)),
                            words("run it slower, or shorten it")};
            });
    }

    /// What both ends must do is by the PHY (clauses 91, 95, 108, 112, 114); over 25G
    /// direct-attach they negotiate (clause 73), and need RS beyond 3 m (clause 110).
    void fec() {
        const auto setting = [&](int end) {
            const PortView& port = channel_.port(end);
            return port.record ? port.record->fec : Fec::automatic;
        };
        const Phy* phy = nullptr;
        for (const PortView* port : {&a_, &b_})
            if (port->transceiver && !phy)
                phy = phyOf(phyAt(*port->transceiver, speed_, port->lanes));
        const bool copper = firstType() && firstType()->medium == Medium::directAttach;
        if (copper)
            phy = twinaxialPhy(speed_);
        Fec wanted = phy ? phy->fec : Fec::automatic;
        if (phy && phy->rsBeyondM > 0 && channel_.lengthMm > phy->rsBeyondM * 1000LL)
            wanted = Fec::rs;
        const auto told = [&](int end, const std::string& what) {
            say_("fec", end, [&] {
                return Said{what, {Remedy::Kind::freeFec, "leave it to both ends", {}, {}, {}, {}}};
            });
        };
        for (const int end : {0, 1})
            if (wanted != Fec::automatic && setting(end) != Fec::automatic && setting(end) != wanted) {
                told(end,
                     fmt::format("{}: {} asks for {}, set is {}", at(end), phy->name,
                                 wanted == Fec::none ? std::string("no error correction")
                                                     : fmt::format("{} error correction", titleOf(wanted)),
                                 titleOf(setting(end))));
                return;
            }
        if (setting(0) != Fec::automatic && setting(1) != Fec::automatic && setting(0) != setting(1))
            told(-1, fmt::format("{}: forward error correction is {} at one end, {} at the other", both(),
                                 titleOf(setting(0)), titleOf(setting(1))));
    }

    const Network& network_;
    const Channel& channel_;
    const PortView &a_, &b_;
    Say say_;
    int speed_ = 0; ///< it comes up at, Mbit/s; 0: nothing is known
};

bool carriesData(const ChannelEnd& end) {
    return end.isKnown() && end.port->isData();
}

/// The view of a cable's end at the passage it comes to, or leaves from.
struct CableEndView {
    bool angled = false, pinned = false;
};
CableEndView endOf(const ChannelPart& part, bool far) {
    const bool isB = part.turned != far;
    return {isB ? part.type->angledB : part.type->angledA, isB ? part.type->pinnedB : part.type->pinnedA};
}

} // namespace

void judge(const Network& network, const Channel& channel, Say say) {
    for (const ChannelEnd& end : channel.ends)
        if (!carriesData(end))
            return;
    const CableType* type = channel.parts.empty() ? nullptr : channel.parts.front().type;
    const bool assembly =
        type && (type->medium == Medium::directAttach || type->medium == Medium::activeOptical);
    for (const ChannelEnd& end : channel.ends)
        if (end.port->like->cage != Cage::none && !end.port->transceiver && !assembly)
            return; // an empty cage is told of the link
    Judging(network, channel, say).all();
}

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
        if (port->connector() == Connector::mpo && in.pinned == out.pinned)
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
    const double full = classPowerW(classOf(wants)), given = allocatedW(wants, gives, channel.pairs);
    if (given < full)
        say("power-type", end, [&] {
            const bool pairs = given < allocatedW(wants, gives, 0);
            return Said{fmt::format("{} is of class {} ({:g} W); {} gives {:g} W{}", name(), classOf(wants),
                                    full, from, given,
                                    pairs ? std::string(" over two pairs")
                                          : fmt::format(" as Type {}", gives.powerType)),
                        words(pairs ? "use a cable of four pairs" : "use a port of a higher Type")};
        });
}

bool Objection::isOfPorts() const {
    for (const char* code :
         {"power-missing", "power-passive", "power-podl", "power-type", "power-budget", "duplex", "clock"})
        if (rule->code == code)
            return true;
    return false;
}

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

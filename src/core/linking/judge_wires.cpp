// SPDX-License-Identifier: GPL-3.0-or-later
// Twisted pairs, single pairs, serial lines and assemblies: how long, and how wired.
#include "core/linking/judged.h"

namespace underridge::linking {
using namespace model;
namespace {

class Wires : Judged {
public:
    using Judged::Judged;

    void all() {
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
        default:
            break;
        }
    }

private:
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
};

} // namespace

void judgeWires(const Network& network, const Channel& channel, int speed, Say say) {
    Wires(network, channel, say, speed).all();
}

} // namespace underridge::linking

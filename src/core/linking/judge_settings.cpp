// SPDX-License-Identifier: GPL-3.0-or-later
// What somebody set at the ends of a channel.
#include "core/linking/fit.h"
#include "core/linking/judged.h"

namespace underridge::linking {
using namespace model;
namespace {

class Settings : Judged {
public:
    using Judged::Judged;

    void all() {
        duplex();
        clock();
        if (firstType())
            fec();
    }

private:
    bool isTwistedPair() const {
        return mediumOf(a_) == Medium::twistedPair && mediumOf(b_) == Medium::twistedPair;
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
};

} // namespace

void judgeSettings(const Network& network, const Channel& channel, int speed, Say say) {
    Settings(network, channel, say, speed).all();
}

} // namespace underridge::linking

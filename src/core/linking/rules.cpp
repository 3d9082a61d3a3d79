// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/rules.h"

#include <array>

namespace underridge::linking {
namespace {

constexpr std::array<Rule, 44> table{{
    {"port-taken", Severity::error, "Two links end in one port", "one connector, one plug", false},
    {"connector", Severity::error, "The plug does not go into the port", "IEC 60603-7, 61754, 61076-2",
     false},
    {"end-face", Severity::error, "An angled end face meets a flat one", "IEC 61755, TIA-568.3", false},
    {"pins", Severity::error, "The guide pins do not match", "IEC 61754-7", false},
    {"transceiver", Severity::error, "The cage is empty", "SFF-8432, SFF-8665", false},
    {"transceiver-fit", Severity::error, "The transceiver does not work in its cage",
     "SFF-8432, SFF-8665; the rates of both", false},
    {"optics", Severity::error, "The ends do not understand each other", "IEEE 802.3 PHY clauses", false},
    {"fibre-class", Severity::error, "The cable is not for this PHY", "IEEE 802.3 PHY clauses", false},
    {"pinout", Severity::error, "The cable is wired wrongly for these ports",
     "IEEE 802.3 clauses 14.5, 40.4.4; TIA-568.2", false},
    {"speed", Severity::error, "The ports have no speed in common", "IEEE 802.3 clause 28", false},
    {"duplex", Severity::error, "One end is fixed, the other negotiates", "IEEE 802.3 clause 28.2.3.1", true},
    {"fec", Severity::error, "The ends correct errors differently", "IEEE 802.3 clauses 74, 91, 108", false},
    {"clock", Severity::error, "Not exactly one end clocks the line", "ITU-T V.24, X.21", false},
    {"console", Severity::error, "A console port meets no terminal", "TIA-574, TIA-232", false},
    {"polarity", Severity::error, "Tx does not meet Rx", "TIA-568.3", false},
    {"reach", Severity::error, "The channel is longer than the PHY reaches",
     "IEEE 802.3 PHY clauses, TIA-568.2", true},
    {"permanent-link", Severity::warning, "The fixed cable is over 90 m", "TIA-568.2, ISO/IEC 11801-1", true},
    {"loss", Severity::error, "The channel loses more light than the PHY allows",
     "IEEE 802.3 PHY clauses, TIA-568.3", true},
    {"overload", Severity::error, "The receiver gets more light than it stands", "IEEE 802.3 PHY clauses",
     true},
    {"engineered", Severity::advice, "It reaches this far only with its loss known",
     "IEEE 802.3 clauses 52, 88: engineered links", true},
    {"fibre-mixed", Severity::error, "The chain mixes fibre of different cores", "ISO/IEC 11801-1", true},
    {"chain-loop", Severity::error, "The cables come round to where they began", "one path for each position",
     true},
    {"chain-open", Severity::warning, "The chain ends in a panel", "one path for each position", false},
    {"wiring", Severity::warning, "One end is wired T568A, the other T568B", "TIA-568.2", true},
    {"category", Severity::warning, "The cable keeps the link slower than its ports", "TIA-568.2", true},
    {"power-budget", Severity::error, "More power is asked for than the device gives",
     "IEEE 802.3 clause 145", true},
    {"power-type", Severity::warning, "The port gives less power than the device wants",
     "IEEE 802.3 clauses 33, 145", true},
    {"power-missing", Severity::warning, "The device gets no power over its cable",
     "IEEE 802.3 clauses 33, 145", true},
    {"power-passive", Severity::warning, "Power is fed all the time", "outside IEEE 802.3", true},
    {"power-podl", Severity::warning, "The classes of power over one pair differ", "IEEE 802.3 clause 104",
     true},
    {"feed-overload", Severity::error, "More hangs on a source than it can carry", "its rating", true},
    {"feed-outlet", Severity::error, "An outlet is not there, or feeds two", "one outlet, one supply", true},
    {"feed-cord", Severity::error, "A mains cord does not fit, or carries too little", "IEC 60320", true},
    {"feed-circle", Severity::error, "A device is fed by itself", "", true},
    {"feed-single", Severity::warning, "Both supplies hang on one source",
     "supplies are there to be fed apart", true},
    {"not-approved", Severity::advice, "The cable type is not approved", "the project's cable stock", true},
    {"mixing-segment", Severity::error, "A mixing segment is too long, or has too many nodes",
     "IEEE 802.3 clause 147", true},
    {"lag-members", Severity::warning, "The members of a LAG do not belong together", "IEEE 802.1AX", true},
    {"strand-taken", Severity::error, "Two links use the same strand", "one strand, one link", false},
    {"measured", Severity::error, "A tester's result is beyond its limit", "TIA-1152, ISO/IEC 14763-3", true},
    {"route-full", Severity::error, "A cable route holds more than it should",
     "TIA-569; NFPA 70 chapter 9, table 1", true},
    {"label-twice", Severity::warning, "Two cables carry one label", "TIA-606", true},
    {"port-disabled", Severity::advice, "A link ends in a disabled port", "", true},
    {"port-unknown", Severity::advice, "The port of a link is not known", "", true},
}};

} // namespace

std::span<const Rule> rules() {
    return table;
}

const Rule* ruleOf(std::string_view code) {
    for (const Rule& rule : table)
        if (rule.code == code)
            return &rule;
    return nullptr;
}

} // namespace underridge::linking

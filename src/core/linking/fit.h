// SPDX-License-Identifier: GPL-3.0-or-later
// Does this port fit that one, with what cable and at what speed; and if not, why not.
#pragma once
#include "core/model/ports.h"

namespace underridge::linking {

/// One way to join two ports.
struct Joint {
    std::string cable; ///< cable type id
    model::Medium medium = model::Medium::unknown;
    int speed = 0;            ///< Mbit/s; 0 for console use
    std::string transceiverA; ///< model id of one that must be fitted at that end; empty: none needed
    std::string transceiverB;
    bool console = false;

    bool operator==(const Joint&) const = default;
    int transceivers() const { return !transceiverA.empty() + !transceiverB.empty(); }
};

/// All ways to join two ports, the one that goes fastest and needs least first; when
/// there is none, `why` says so in one clause.
struct Fit {
    std::vector<Joint> joints;
    std::string why;
    bool isNear = false; ///< there is none, though both are of one medium

    explicit operator bool() const { return !joints.empty(); }
};

/// Regards connectors, cages (an SFP goes into an SFP+ cage, an SFP+ into an SFP28 cage,
/// a QSFP+ into a QSFP28 cage: SFF-8432, SFF-8402, SFF-8665), media and rates. Whether
/// the ports are free is not asked, nor how far apart they are: objectionTo() says.
Fit fit(const model::PortView& a, const model::PortView& b, const model::Catalogue& catalogue);

/// Whether what one transceiver sends the other receives: the same PHY, or the two ends
/// of one that uses a strand for both directions (IEEE 802.3 clause 59), each receiving
/// what the other sends. `lanes`: of how many lanes a port in breakout mode has one.
bool understand(const model::TransceiverModel& a, const model::TransceiverModel& b, int lanesA = 1,
                int lanesB = 1);

using model::isTrunk;
using model::strandsOf;

/// Whether a panel's port joins two plugs as they are, rather than holding a contact of
/// its own.
bool isAdapter(const model::PortBlock& port);

/// The PHY a transceiver speaks at a rate, Mbit/s: its own at its highest; at a lower one
/// the PHY of that rate and its wavelength. `lanes` above 1: the PHY of one lane, which is
/// empty when it cannot be split. `rate` is of the whole.
std::string phyAt(const model::TransceiverModel& model, int rate, int lanes = 1);

/// Whether a transceiver goes into a port's cage, and they have a rate in common.
bool fitsCage(const model::PortBlock& port, const model::TransceiverModel& model);
/// "an SFP+ cage of 1G and 10G".
std::string cageText(const model::PortBlock& port);

/// The lanes of a cage: 4 of the QSFP forms, 8 of QSFP-DD and OSFP, else 1.
int lanesOf(model::Cage cage);
/// Into how many ports it may be split: 2, 4 or 8, each of as many lanes; none of one lane.
std::vector<int> splitsOf(model::Cage cage);

/// Whether a transceiver or plug of form `plug` goes into `cage`.
bool accepts(model::Cage cage, model::Cage plug);

/// "RJ45 1G", "SFP+ 10G", "LC 10G (SFP+ 10G multimode)", "console RJ45": a port in a few
/// words.
std::string describe(const model::PortView& port);

} // namespace underridge::linking

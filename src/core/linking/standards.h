// SPDX-License-Identifier: GPL-3.0-or-later
// What the standards say of PHYs and of classes of cable: the figures of
// model/catalogue/phys.json and grades.json, each with its clause.
#pragma once
#include "core/model/words.h"

#include <map>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace underridge::linking {

/// A class of cable by its name: "Cat 6A", "OM4", "OS2", "SP1-1000".
struct Grade {
    std::string name;
    model::Medium medium = model::Medium::unknown;
    int rank = 0;      ///< of copper: what runs over one runs over those of a higher rank
    double coreUm = 0; ///< of fibre, rounded: 9, 50 or 62.5
    std::vector<std::pair<int, double>> dbPerKm; ///< of fibre by wavelength in nm, ascending
    std::string source;
};
/// Null for a name no standard knows: nothing is judged of it.
const Grade* gradeOf(std::string_view name);

/// Largest loss of a class at a wavelength, dB/km: the figure of the nearest wavelength. 0
/// when not known.
double attenuationDbPerKm(std::string_view grade, int wavelengthNm);

/// How far a PHY reaches over a class of cable, and how much light it may lose on the
/// way.
struct Reach {
    std::int64_t mm = 0;
    std::int64_t engineeredMm = 0; ///< farther, if the loss is measured and within; 0: no farther
    double lossDb = 0;             ///< channel insertion loss allowed; 0: not limited
    std::string_view source;
};

struct Phy {
    struct Over {
        std::string grade; ///< of one class; of a whole medium its name: "single-mode"
        Reach reach;
    };

    std::string name;
    int rate = 0;        ///< Mbit/s
    bool copper = false; ///< over twisted pairs
    int wavelengthNm = 0;
    double minLossDb = 0; ///< less overloads the receiver
    int lanes = 1;
    /// What each part is by itself when it is split into so many; empty: it cannot be.
    std::map<int, std::string> parts;
    int nodes = 0; ///< of one shared by many, a mixing segment: how many it may have; 0: it joins two
    std::int64_t stubMm = 0;                ///< and how far they may stand off its trunk
    model::Fec fec = model::Fec::automatic; ///< that it asks for; automatic: it is negotiated
    int rsBeyondM = 0;                      ///< RS error correction is needed from here; 0: no such length
    std::vector<std::string> speaksWith;    ///< other PHYs it understands
    std::string faces; ///< of one strand for both directions: the PHY of the other end, and no other
    std::vector<Over> over;
    std::string source;
};
std::span<const Phy> phys();
/// Null when the table has none of that name.
const Phy* phyOf(std::string_view name);

/// Nothing when the PHY does not run over that class, or either is not known.
std::optional<Reach> reachOf(std::string_view phy, std::string_view grade);

/// The twisted-pair PHY of a speed in Mbit/s: 1000BASE-T for 1,000. Empty when there is
/// none.
std::string_view copperPhy(int mbps);
/// The assembly PHY of a speed over twinaxial cable, where a rule regards it; else null.
const Phy* twinaxialPhy(int mbps);

/// Whether two PHYs understand each other: alike, or said so in the table; of one strand
/// for both directions the two that face each other.
bool speakAlike(std::string_view a, std::string_view b);

/// Largest loss of one mated pair of connectors and of one splice, dB: TIA-568.3.
inline constexpr double connectorLossDb = 0.75, spliceLossDb = 0.3;
/// Permanent link: TIA-568.2, ISO/IEC 11801-1.
inline constexpr std::int64_t permanentLinkMm = 90'000;

} // namespace underridge::linking

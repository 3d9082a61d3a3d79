// SPDX-License-Identifier: GPL-3.0-or-later
// What a chain is worth as a channel: its length, its loss, whether Tx meets Rx, and what
// a PHY may ask of it.
#pragma once
#include "core/linking/chain.h"

namespace underridge::linking {

/// How far a PHY reaches over a class of cable, and how much light it may lose on the
/// way.
struct Reach {
    std::int64_t mm = 0;
    double lossDb = 0; ///< channel insertion loss allowed; 0: not limited
    const char* source = "";
};

/// By IEEE 802.3 clause, for fibre classes OM1–OM5, OS1, OS1a, OS2 (ISO/IEC 11801-1,
/// TIA-568.3) and copper categories (TIA-568.2). Nothing when the PHY does not run over
/// that class, or is not in the table.
std::optional<Reach> reachOf(std::string_view phy, std::string_view grade);

/// The copper PHY of a speed in Mbit/s: 1000BASE-T for 1,000. Empty when there is none.
std::string_view copperPhy(int mbps);

/// Largest attenuation of a class at a wavelength, dB/km: TIA-568.3, table of cabled
/// fibre. 0 when not known.
double attenuationDbPerKm(std::string_view grade, int wavelengthNm);

/// Largest loss of one mated pair of connectors and of one splice, dB: TIA-568.3.
inline constexpr double connectorLossDb = 0.75, spliceLossDb = 0.3;
/// Permanent link, and all cords together, of a copper channel: TIA-568.2, ISO/IEC
/// 11801-1.
inline constexpr std::int64_t permanentLinkMm = 90'000, copperChannelMm = 100'000;

struct Channel {
    std::int64_t lengthMm = 0;       ///< of the cables whose length is known
    int unmeasured = 0;              ///< cables whose length is not known
    std::int64_t permanentMm = 0;    ///< of the cables between panels
    int connections = 0;             ///< mated pairs between the ends: panels passed
    int splices = 0;                 ///< fibres joined without a plug
    double lossDb = 0;               ///< of a fibre channel at `wavelengthNm`: fibre and panels
    bool txMeetsRx = true;           ///< each transmit position comes out at a receive position
    std::vector<std::string> grades; ///< of its cables, each once, in order
};

/// `wavelengthNm` 0: loss is not worked out. `transmits`: the positions one end sends on,
/// `receives` where they must come out.
Channel channelOf(const model::Network& network, const Chain& chain, int wavelengthNm,
                  const std::vector<int>& transmits, const std::vector<int>& receives);

/// Loss of one stretch at a wavelength: fibre only, without connectors. 0 when the length
/// is not known.
double lossOf(const model::Network& network, const Stretch& stretch, int wavelengthNm);

} // namespace underridge::linking

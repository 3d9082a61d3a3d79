// SPDX-License-Identifier: GPL-3.0-or-later
// The light of a fibre channel: how much it may lose, how much it does, and where.
#pragma once
#include "core/linking/judging.h"

namespace underridge::linking {

/// How far, over what, and with what loss an optical end allows the channel.
struct LightLimit {
    std::string phy;               ///< as it is called
    std::int64_t mm = 0;           ///< 0: not limited
    std::int64_t engineeredMm = 0; ///< farther with the loss measured; 0: no farther
    double lossDb = 0;             ///< 0: not limited
    double minLossDb = 0;
    bool runs = true; ///< over this class of fibre at all
};
/// `rate`: Mbit/s it runs at. The least of what its PHY's clause allows and its model
/// states.
LightLimit limitOf(const model::PortView& port, int rate, std::string_view grade);

/// Two classes in one channel whose cores differ, which do not go together: single-mode,
/// 50 and 62.5 µm (ISO/IEC 11801-1).
std::optional<std::pair<const Grade*, const Grade*>> mixedCores(const Channel& channel);

/// A share of the loss: "four connections", "60 m of OM4".
struct LightShare {
    std::string what;
    double db = 0;
};
struct LightBudget {
    int wavelengthNm = 0;
    double lossDb = 0;
    LightLimit limit; ///< the tighter end's
    std::vector<LightShare> shares;
};
/// In the direction that is worse. Nothing for a channel without optics, or without fibre.
std::optional<LightBudget> lightBudgetOf(const Channel& channel);

/// "four connections 3.0, 60 m of OM4 0.2".
std::string partsOf(const LightBudget& budget);
/// "3.2 dB of 2.9 dB: four connections 3.0, 60 m of OM4 0.2".
std::string textOf(const LightBudget& budget);

void judgeLight(const model::Network& network, const Channel& channel, int rate, Say say);

} // namespace underridge::linking

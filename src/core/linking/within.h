// SPDX-License-Identifier: GPL-3.0-or-later
// Linking to a group: which of the devices in it a link would end in.
#pragma once
#include "core/linking/best.h"

namespace underridge::linking {

struct Candidate {
    model::DeviceId device;
    Proposal proposal; ///< its reason names the device and says why it
};

/// The devices a link from `from` could end in, best first: the nearest tier up, the same
/// tier, the nearest tier down, as links go from endpoints to access to distribution; then
/// the faster pair, the one that needs fewer transceivers, the one with more ports free,
/// the name. Of devices further away in tiers than the nearest that fit none
/// is tried once there are `enough`.
std::vector<Candidate> candidatesIn(const model::Network& network, const model::Catalogue& catalogue,
                                    const End& from, const std::vector<model::DeviceId>& devices,
                                    const Habits& habits = {}, std::size_t enough = 12);

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
// How pairs of ports are ranked: what best.h and assign.h stand on.
#pragma once
#include "core/linking/best.h"

#include <array>
#include <map>
#include <set>

namespace underridge::linking {

/// How far from the endpoints a device stands, in halves: a phone carries a workstation,
/// so it stands half a step up.
int tierOf(const model::Network& network, const model::Device& device);
bool hasBlock(const model::Network& network, const model::Device& device, model::Block block);

/// A device's ports that a link could take, with what ranking needs of them.
struct Side {
    const model::Device* device = nullptr;
    model::Block right = model::Block::access;
    std::vector<model::PortView> ports;
    std::set<std::string> taken;
    bool fromHighEnd = false;
    bool sparesUplinks = false; ///< an endpoint gets none of its uplink block
    std::int64_t wayMm = 0;     ///< to the peer, when both have a place
    std::map<std::string, int> standsBy =
        {}; ///< links a new one would stand by for, by module or stack member

    bool isFree(const model::PortView& port) const;
};
/// `spare`: a link whose ports and transceivers count as free.
Side sideOf(const model::Network& network, const model::Device& device, const model::Device& peer,
            model::LinkId spare, const Habits& habits = {});

/// The module or stack member a port is on: "2" of 2/17, "1/3" of 1/3/4; empty: the
/// chassis itself.
std::string unitOf(const model::PortView& port);

/// Compared from the first figure: console use or a cable too short for the way,
/// transceivers to add, ports in the wrong block, speed (less is faster), links of the
/// same kind on the module, power, waste of speed, reserved or disabled.
using Rank = std::array<int, 8>;
Rank rankOf(const model::PortView& a, const model::PortView& b, const Joint& joint, const Side& sideA,
            const Side& sideB, const model::Catalogue& catalogue);

/// Whether two ports are alike in everything the ranking regards.
bool areAlike(const Side& side, const model::PortView& x, const model::PortView& y);
/// Of ports that are alike only the first free one need be tried.
std::vector<const model::PortView*> firstsOf(const Side& side, const std::string& wanted);

struct Best {
    const model::PortView* a = nullptr;
    const model::PortView* b = nullptr;
    Joint joint;
    Rank rank{};
    std::string why; ///< when there is none
};
/// The best pair of the ports wanted, or of all free ones.
Best search(const Side& sideA, const Side& sideB, const std::string& wantedA, const std::string& wantedB,
            const model::Catalogue& catalogue);

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
// A mixing segment: one pair many share, such as 10BASE-T1S multidrop (IEEE 802.3 clause
// 147). Its trunk is drawn as taps in a row, or as one piece with many taps: hubs whose
// ports speak a PHY for many nodes.
#pragma once
#include "core/linking/rules.h"

#include <set>

namespace underridge::linking {

/// Whether a device is a piece of such a trunk.
bool isOfMixingSegment(const model::Network& network, const model::Device& device);

/// All pieces of the segment a piece is of, itself included.
std::set<model::DeviceId> mixingSegmentOf(const model::Network& network, model::DeviceId piece);

/// What is wrong with the segment whose first piece, by id, this is; nothing for the others,
/// and for what is no piece. More nodes than its PHY may have; longer from one end to the
/// other, by the cables whose length is known, than it reaches; a node farther from its tap
/// than it may stand; a trunk that closes to a ring.
std::vector<Finding> checkMixingSegment(const model::Network& network, const model::Device& piece);

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
// What a filter says of a packet, and what translation makes of its addresses.
#pragma once
#include "core/analysis/prefix.h"
#include "core/model/forwarding.h"

#include <string>

namespace underridge::analysis {

struct Packet {
    Ip source, target;
    model::Protocol protocol = model::Protocol::any;
    int port = 0; ///< 0: any
};

struct Verdict {
    bool allowed = true;
    int rule = -1; ///< the one that decided; -1: none fits
    /// A rule would decide otherwise for some packets of what was asked: a protocol or port
    /// that was not stated.
    bool depends = false;
};

/// The first rule that fits decides; without rules all passes, with some the rest is
/// refused.
Verdict judge(const model::PacketFilter& filter, const Packet& packet, const std::string& fromZone,
              const std::string& toZone);

} // namespace underridge::analysis

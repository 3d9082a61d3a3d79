// SPDX-License-Identifier: GPL-3.0-or-later
// Why nobody answers where a packet should be handed on, and the smallest change that
// would let somebody.
#pragma once
#include "core/analysis/forwarding.h"

namespace underridge::analysis {

struct Cause {
    std::string reason;            ///< a sentence without a full stop
    std::string remedy;            ///< as the start of a sentence; may be empty
    std::vector<std::string> acts; ///< lines of a script; may be empty
};

/// `asking`: the interface that asks for an address on its subnet and hears nothing.
Cause whySilent(const Forwarding& forwarding, int asking, const Ip& ip);

/// Where a VLAN breaks between what an interface sends to and what another hears: the port
/// at which its frames are not let through, and why; nothing when both are joined.
struct Break {
    enum class Kind { vlan, untagged, tree, down } kind = Kind::vlan;
    int port = -1; ///< logical port that does not let it through
    int vlan = 0;
};
std::optional<Break> breakBetween(const Forwarding& forwarding, int from, int to);

/// "acc-1 17".
std::string portText(const Forwarding& forwarding, int port);

} // namespace underridge::analysis

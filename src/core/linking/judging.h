// SPDX-License-Identifier: GPL-3.0-or-later
// The one place that says what is wrong with a channel. Findings are its words about what
// is drawn; proposals and remedies ask it about what is only planned, so that nothing is
// proposed that would be found at fault.
#pragma once
#include "core/base/function_ref.h"
#include "core/linking/channel.h"
#include "core/linking/rules.h"

namespace underridge::linking {

/// What is said of a broken rule, made only when somebody wants to read it.
struct Said {
    std::string message;
    Remedy remedy;
};
using Say = FunctionRef<void(std::string_view code, int end, FunctionRef<Said()> words)>;

/// Everything between two active ends: whether they understand each other, at what speed,
/// how far and at what loss. Says nothing of a channel with an end that is not known.
void judge(const model::Network& network, const Channel& channel, Say say);

/// What meets in the adapters and contacts on the way, whether the ends are known or not.
void judgeJoins(const model::Network& network, const Channel& channel, Say say);

/// What the device at an end of a channel gets over it: the power it wants, and none that
/// is not made for it.
void judgePower(const model::Network& network, const Channel& channel, int end, Say say);

/// Why a planned link would be found at fault.
struct Objection {
    const Rule* rule = nullptr;
    std::string message;

    /// Whether another cable or transceiver on the same ports would not help.
    bool isOfPorts() const;
};
/// The first fault a planned link would bring about that is not there yet; nothing when
/// there is none. That a chain is not finished yet is no fault of the link.
std::optional<Objection> objectionTo(const model::Network& network, const Planned& planned);

} // namespace underridge::linking

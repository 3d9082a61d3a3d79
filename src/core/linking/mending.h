// SPDX-License-Identifier: GPL-3.0-or-later
// Remedies by another cable or transceivers: looked for among all that fit, and taken only
// when the link would then be found in order.
#pragma once
#include "core/linking/fits.h"
#include "core/linking/rules.h"

namespace underridge::linking {

/// The way to join a link's ports that changes least of what is there and leaves nothing
/// to be found; words only when there is none.
Remedy otherJoint(const model::Network& network, Fits& fits, const model::Link& link);

/// Whether a rule that is broken keeps a link down.
bool comesUp(std::string_view code);

/// Whether the plugs of a link's cable go into both its ports.
bool plugsFit(const model::Network& network, const model::Link& link);

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
// Acts that come late: made from a network that has changed since, by a worker or in a
// dialog that stood open.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// The act as it is on the network of now: itself when that is what it was made from,
/// else its difference applied anew. Refuses, with the object, when what it would change
/// was changed otherwise meanwhile, when what it refers to is gone, or when a port it
/// takes is taken. Its cost follows what the act differs in.
ActResult broughtUpTo(Act act, const model::Network& now);

/// Refuses an act whose file could not be read back: a text that is not UTF-8, a record
/// longer than exchange::maxLineBytes, a position off the sheet. Its cost follows what
/// the act differs in.
Result<Done> canBeKept(const model::Network& before, const model::Network& after);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// What follows of itself from any act: plates and places on plans and in racks, the
// lengths of cables, the ways of arranged links, and what is on sheets of upper layers.
#pragma once
#include "core/model/network.h"

namespace underridge::edit {

/// Completes an act, however it was made: by hand, from a script or a register.
void followAct(const model::Network& before, model::Network& after);

/// Cables that were as long as the places of their ends said are so again where places,
/// floors, risers or cable routes changed. Measured and typed lengths stay.
void followLengths(const model::Network& before, model::Network& after);

} // namespace underridge::edit

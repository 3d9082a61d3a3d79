// SPDX-License-Identifier: GPL-3.0-or-later
// Keeping what somebody wants to be true of the network.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// The side a text means: a device or group by its name or id, an address, else a filter.
model::Party partyOf(const model::Network& network, const std::string& text);

/// Keeps a statement, in the place of one of the same name. Refuses one without a name or a
/// side.
ActResult keepStatement(const model::Network& network, model::Statement statement, model::IdSource& ids);
/// Refuses a name that no statement has.
ActResult removeStatement(const model::Network& network, const std::string& name);

} // namespace underridge::edit

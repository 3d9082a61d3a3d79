// SPDX-License-Identifier: GPL-3.0-or-later
// Putting a network that was read from elsewhere into the one that is open.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

enum class ImportOnto { ownSheets, presentSheet };

/// Takes in everything of `piece` as one act. Objects keep their ids unless one is taken;
/// equal models and VLANs become one; models that differ under the same id get an id of
/// their own. On sheets of their own the sheets come after those that are there; on the
/// present sheet, what the first sheet of `piece` shows stands to the right of what is
/// drawn. Refuses an empty piece.
ActResult importNetwork(const model::Network& network, const model::Network& piece, ImportOnto onto,
                        model::SheetId present, model::IdSource& ids);

} // namespace underridge::edit

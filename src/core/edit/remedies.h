// SPDX-License-Identifier: GPL-3.0-or-later
// Putting right what the linking rules find.
#pragma once
#include "core/edit/act.h"
#include "core/linking/rules.h"

namespace underridge::edit {

/// What a finding's remedy does, as one act. Refuses one that is words only, or whose
/// objects are gone.
ActResult applyRemedy(const model::Network& network, const model::Catalogue& catalogue,
                      const linking::Finding& finding, model::IdSource& ids);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// Where findings are.
#pragma once
#include "core/linking/rules.h"

#include <set>

namespace underridge::analysis {

/// The groups something a finding is about lies in, at any depth; a group is in itself.
std::set<model::GroupId> placesOf(const model::Network& network, const linking::Finding& finding);
/// The same, added to those of others: of many findings the quicker way.
void addPlacesOf(const model::Network& network, const linking::Finding& finding,
                 std::set<model::GroupId>& places);

} // namespace underridge::analysis

// SPDX-License-Identifier: GPL-3.0-or-later
// What differs between two states of one network, for people: one line an object.
#pragma once
#include "core/model/network.h"

namespace underridge::edit {

enum class Change { added, removed, changed };

struct Difference {
    Change change = Change::changed;
    model::Kind kind = model::Kind::unknown;
    std::string what; ///< "acc-1", "acc-1 X1 to core-1 2/3", "position of acc-1 on Whole port"

    bool operator==(const Difference&) const = default;
};

/// From `before` to `after`, kind by kind. Changes of the same object in several records
/// are one line each.
std::vector<Difference> differences(const model::Network& before, const model::Network& after);

/// "3 added, 1 removed, 12 changed".
std::string countsText(const std::vector<Difference>& differences);

} // namespace underridge::edit

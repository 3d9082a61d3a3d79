// SPDX-License-Identifier: GPL-3.0-or-later
// Linking many devices to few at once.
#pragma once
#include "core/edit/act.h"
#include "core/linking/assign.h"

namespace underridge::edit {

struct ManyOptions {
    bool toEvery = false; ///< each device to every target, for redundancy; else to the best one for all
    int links = 1;        ///< between each device and its target, 1 to 8
    bool lag = false;     ///< those make a LAG

    bool operator==(const ManyOptions&) const = default;
};

struct ManyLinks {
    std::vector<linking::Assigned> rows; ///< one for each link, or for a device that gets none
    Act act;                             ///< with all of them made

    int linked() const;
};

/// What linking them would be: nothing is refused, what cannot be is told in its row.
ManyLinks linkMany(const model::Network& network, const model::Catalogue& catalogue,
                   const std::vector<model::DeviceId>& devices, const std::vector<model::DeviceId>& targets,
                   model::SheetId sheet, const ManyOptions& options, const linking::Habits& habits,
                   model::IdSource& ids);

} // namespace underridge::edit

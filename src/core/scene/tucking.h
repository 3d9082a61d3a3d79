// SPDX-License-Identifier: GPL-3.0-or-later
// Endpoints tucked in: instead of plates of their own they are a badge on the plate of the
// device they are on, where its position on the sheet says so. Nothing moves for it: they
// keep their places, and come out where they were.
#pragma once
#include "core/model/network.h"
#include "core/scene/folding.h"
#include "core/scene/items.h"

#include <set>

namespace underridge::scene {

/// The device on whose plate another one is a badge; none: it has a plate of its own. So
/// it is for an endpoint all of whose links drawn on the sheet lead to that one device, or to
/// endpoints that hang on it as well, where all of them would be seen as plates. `folding`: of the
/// sheet; null where it shows no groups.
model::DeviceId tuckedInto(const model::Network& network, model::SheetId sheet, const Folding* folding,
                           model::DeviceId device);

/// What is tucked into a device, by id.
std::vector<model::DeviceId> tuckedAt(const model::Network& network, model::SheetId sheet,
                                      const Folding* folding, model::DeviceId device);

/// The endpoints that would be, whether the device tucks or not.
std::vector<model::DeviceId> tuckableAt(const model::Network& network, model::SheetId sheet,
                                        model::DeviceId device);

/// Adds the devices whose being tucked in may follow from a device: those linked to it,
/// and on through endpoints.
void takeAround(const model::Network& network, model::DeviceId device, std::set<model::DeviceId>& into);

/// The plate with its badge; as it is where nothing is tucked in.
Plate withTucked(const model::Network& network, model::SheetId sheet, const Folding* folding, Plate plate);

/// Whether anything on a sheet tucks.
bool anyTucks(const model::Network& network, model::SheetId sheet);

} // namespace underridge::scene

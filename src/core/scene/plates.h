// SPDX-License-Identifier: GPL-3.0-or-later
// Plates and notes: what has a place of its own on a sheet.
#pragma once
#include "core/model/network.h"
#include "core/scene/folding.h"
#include "core/scene/items.h"

#include <optional>

namespace underridge::scene {

/// The plate of a device; nothing when it has no position on the sheet.
std::optional<Plate> plateOf(const model::Network& network, model::SheetId sheet,
                             const model::Device& device);
/// A plate as its device's position says, of one that is shown anywhere; with nothing tucked in yet.
/// Nothing when it has no position on the sheet.
std::optional<Plate> standing(const model::Network& network, model::SheetId sheet, const Plate& shown);
/// A plate as it would be for a device of this model: for the catalogue and while
/// placing.
Plate plateFor(const model::DeviceModel& model, std::string_view name, PointF corner);

/// A note or zone; nothing when it has no position on the sheet. A zone is as large as
/// its position says.
std::optional<NoteCard> cardOf(const model::Network& network, model::SheetId sheet, const model::Note& note);

/// The same where it is shown as groups are folded; nothing while the group it belongs to is not
/// seen unfolded. `folding`: null: no groups are drawn.
std::optional<NoteCard> cardShown(const model::Network& network, model::SheetId sheet,
                                  const model::Note& note, const Folding* folding);

/// The plan of the group a sheet to scale shows; nothing on other sheets.
std::optional<PlanPicture> planOf(const model::Network& network, const model::Sheet& sheet);

} // namespace underridge::scene

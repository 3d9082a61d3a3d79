// SPDX-License-Identifier: GPL-3.0-or-later
// From where things are shown back to what is stored: positions are of the unfolded
// sheet, people point at the folded one.
#pragma once
#include "core/edit/act.h"
#include "core/scene/folding.h"

namespace underridge::edit {

/// How the groups of a sheet are shown; no groups in it when the sheet shows none.
/// `entered`: only what is in that group is shown; none: what the sheet shows.
scene::Folding foldingOf(const model::Network& network, model::SheetId sheet, model::GroupId entered = {});

/// Where an object's upper left corner is shown: of a device, a group or a note. Nothing
/// when it is not.
std::optional<model::Point> shownCorner(const model::Network& network, model::SheetId sheet,
                                        const scene::Folding& folding, model::ObjectRef object);

struct Target {
    model::ObjectRef object;
    model::Point at; ///< where its upper left corner is to be shown
};

/// Stores positions so that each object is shown at its target as the groups are folded
/// now; with a group goes all that is in it. What has no room there, because siblings
/// hold it, comes as near as they leave room. Refuses to leave the sheet.
ActResult shownAt(Act act, model::SheetId sheet, model::GroupId entered, const std::vector<Target>& targets);

/// Moves what is stored: devices and notes, a group with all that is in it, and the bends
/// of links among what moves. Refuses to leave the sheet.
Result<Done> moveStored(model::Network& network, model::SheetId sheet,
                        const std::vector<std::pair<model::ObjectRef, model::Point>>& moves);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// From where things are shown back to what is stored: positions are of the unfolded
// sheet, people point at the folded one.
#pragma once
#include "core/edit/act.h"
#include "core/scene/folding.h"

namespace underridge::edit {

/// How a person looks at a sheet.
struct Look {
    Look(model::SheetId shown, model::GroupId into = {}, scene::Standings known = {})
        : sheet(shown), entered(into), standing(std::move(known)) {}

    model::SheetId sheet;
    model::GroupId entered; ///< only what is in it is shown; none: what the sheet shows
    /// The devices of the sheet as the network has them, where somebody knows them already
    /// (scene::Scene::standing()); null: they are worked out.
    scene::Standings standing;
};

/// How the groups of a sheet are shown; no groups in it when the sheet shows none.
scene::Folding foldingOf(const model::Network& network, const Look& look);

/// How an object is drawn on a sheet, or a record to be filled in where it is not yet.
model::Position positionOr(const model::Network& network, model::SheetId sheet, model::ObjectRef object);

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
/// `look.standing` is of the network before the act, which may have changed the targets and
/// what they hold.
ActResult shownAt(Act act, const Look& look, const std::vector<Target>& targets);

/// Moves what is stored: devices and notes, a group with all that is in it, and the bends
/// of links among what moves. Refuses to leave the sheet.
Result<Done> moveStored(model::Network& network, model::SheetId sheet,
                        const std::vector<std::pair<model::ObjectRef, model::Point>>& moves);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// From where things are shown back to what is stored: positions are of the unfolded
// sheet, people point at the folded one.
#pragma once
#include "core/edit/act.h"
#include "core/scene/folding.h"

namespace underridge::edit {

/// How a person looks at a sheet.
struct Look {
    Look(model::SheetId shown, model::GroupId into = {}, scene::Standings known = {},
         std::shared_ptr<const scene::Folding> folded = {})
        : sheet(shown), entered(into), standing(std::move(known)), folding(std::move(folded)) {}

    model::SheetId sheet;
    model::GroupId entered; ///< only what is in it is shown; none: what the sheet shows
    /// The devices of the sheet as the network has them, where somebody knows them already
    /// (scene::Scene::standing()); null: they are worked out.
    scene::Standings standing;
    /// How its groups are shown, where that is known (scene::Scene::sharedFolding()); null: it
    /// is worked out.
    std::shared_ptr<const scene::Folding> folding;
};

/// How the groups of a sheet are shown; no groups in it when the sheet shows none.
scene::Folding foldingOf(const model::Network& network, const Look& look);
/// The same, which is not worked out again where the look knows it.
std::shared_ptr<const scene::Folding> sharedFoldingOf(const model::Network& network, const Look& look);

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
/// `before`: how the groups of the act's network are shown, where that is known.
ActResult shownAt(Act act, const Look& look, const std::vector<Target>& targets,
                  const scene::Folding* before = nullptr);

/// Moves what is stored: devices and notes, a group with all that is in it, and the bends
/// of links among what moves. Refuses to leave the sheet.
Result<Done> moveStored(model::Network& network, model::SheetId sheet,
                        const std::vector<std::pair<model::ObjectRef, model::Point>>& moves);

} // namespace underridge::edit

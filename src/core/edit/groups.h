// SPDX-License-Identifier: GPL-3.0-or-later
// Groups: making them, moving in and out, folding, dissolving.
#pragma once
#include "core/edit/devices.h"
#include "core/edit/shown_places.h"

namespace underridge::edit {

/// Makes a group of devices and groups, in the innermost group they all are in. Without
/// members it stands empty at a point of the sheet. Refuses an empty name.
ActResult makeGroup(const model::Network& network, model::SheetId sheet, const std::string& name,
                    model::GroupKind type, const Refs& members, model::Point emptyAt, model::IdSource& ids);

/// Makes devices and groups members of a group; none: of no group. Where a member is
/// drawn it comes to stand inside the frame, below what is there, all of them as they
/// stood to one another. A place that is not in the new group is forgotten, one that is
/// stays. Refuses a group into itself.
ActResult moveInto(const model::Network& network, const Refs& members, model::GroupId into);

/// The same in the tree only: what is drawn stays where it is.
ActResult putInto(const model::Network& network, const Refs& members, model::GroupId into);

/// The same by hand: they are shown on the sheet `by` further than they were.
ActResult moveIntoAt(const model::Network& network, const Look& look, const Refs& members,
                     model::GroupId into, model::Point by);

/// placeDevices() into a group, where they are shown at those points.
ActResult placeShown(const model::Network& network, const Look& look, const model::DeviceModel& model,
                     const std::vector<Placed>& placed, model::GroupId group, model::IdSource& ids);

/// Removes groups with all that is in them.
ActResult removeWithMembers(const model::Network& network, const Refs& objects);

/// Folds or unfolds groups on a sheet.
ActResult setFolded(const model::Network& network, model::SheetId sheet,
                    const std::vector<model::GroupId>& groups, bool folded);

/// Draws a group at least as large as a rectangle of the unfolded sheet; a size of 0: as
/// large as its members need.
ActResult drawGroup(const model::Network& network, model::SheetId sheet, model::GroupId group,
                    model::Point at, int width, int height);

/// Dissolves groups; their members go to the group around and stay where they are shown.
ActResult ungroup(const model::Network& network, const Look& look, const std::vector<model::GroupId>& groups);

ActResult setGroupKind(const model::Network& network, model::GroupId group, model::GroupKind type);
ActResult setGroupLevel(const model::Network& network, model::GroupId group, int level);

/// Whether groups are drawn on a sheet.
ActResult setSheetGroups(const model::Network& network, model::SheetId sheet, bool groups);

} // namespace underridge::edit

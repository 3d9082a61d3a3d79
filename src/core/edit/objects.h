// SPDX-License-Identifier: GPL-3.0-or-later
// Removing, copying and duplicating objects of a sheet.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Removes objects with everything that cannot stand without them: a device's links,
/// cables, ports and interfaces; a link's cable when nothing else uses it; positions. A
/// group's members move to its parent.
ActResult removeObjects(const model::Network& network, const Refs& objects);

/// A piece of a network that was copied: devices, the links among them, notes, and where
/// they were.
struct Clip {
    model::Network piece; ///< one sheet
    bool empty() const { return piece.all<model::Position>().empty(); }
};

/// The objects with all that is in the groups among them, each once, by kind and id.
Refs withMembers(const model::Network& network, const Refs& objects);

/// Devices and notes among the objects and in groups among them, with the links between
/// those devices.
Clip copyObjects(const model::Network& network, model::SheetId sheet, const Refs& objects);

/// Puts a clip on a sheet, `by` away from where it was copied, with new ids and names
/// that are not yet taken. Refuses an empty clip.
ActResult pasteClip(const model::Network& network, model::SheetId sheet, const Clip& clip, model::Point by,
                    model::IdSource& ids);

ActResult duplicateObjects(const model::Network& network, model::SheetId sheet, const Refs& objects,
                           model::Point by, model::IdSource& ids);

} // namespace underridge::edit

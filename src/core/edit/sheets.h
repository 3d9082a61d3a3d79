// SPDX-License-Identifier: GPL-3.0-or-later
// Where things are drawn: moving, bending links, notes.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Moves devices, folded groups and notes by a distance; bends of links whose both ends move go along.
/// Refuses to leave the sheet.
ActResult moveObjects(const model::Network& network, model::SheetId sheet, const Refs& objects,
                      model::Point by);

/// Replaces the bends of a link, from end a to end b; none: straight.
ActResult setBends(const model::Network& network, model::SheetId sheet, model::LinkId link,
                   std::vector<model::Point> bends);

/// Puts a note on a sheet. Refuses an empty text.
ActResult addNote(const model::Network& network, model::SheetId sheet, model::Point at,
                  const std::string& text, model::IdSource& ids);
ActResult setNoteText(const model::Network& network, model::NoteId note, const std::string& text);

ActResult renameSheet(const model::Network& network, model::SheetId sheet, const std::string& name);
ActResult renameNetwork(const model::Network& network, const std::string& name);

} // namespace underridge::edit

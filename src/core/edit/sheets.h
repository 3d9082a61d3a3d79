// SPDX-License-Identifier: GPL-3.0-or-later
// Where things are drawn: moving, bending links, notes.
#pragma once
#include "core/edit/shown_places.h"

namespace underridge::edit {

/// Moves devices, groups with all in them, and notes by a distance of the sheet as it is
/// shown, groups folded as they are; bends of links whose both ends move go along.
/// Refuses to leave the sheet.
ActResult moveObjects(const model::Network& network, const Look& look, const Refs& objects, model::Point by);

/// Replaces the bends of a link, from end a to end b, where they are shown; none:
/// straight.
ActResult setBends(const model::Network& network, const Look& look, model::LinkId link,
                   std::vector<model::Point> bends);
/// Takes the bends of several links, those they were given as they were arranged, too.
ActResult straighten(const model::Network& network, model::SheetId sheet,
                     const std::vector<model::LinkId>& links);

/// Puts a note on a sheet, where it is shown; inside a frame it is that group's. Refuses an empty
/// text.
ActResult addNote(const model::Network& network, const Look& look, model::Point at, const std::string& text,
                  model::IdSource& ids);
/// Whether a note lies below links and plates, and whether only the border of a zone is
/// drawn.
ActResult setNoteLook(const model::Network& network, model::NoteId note, bool behind, bool outline);
/// Whose a note or zone is: it goes where the group goes. None: the sheet's. It stays where it is
/// shown.
ActResult setNoteGroup(const model::Network& network, const Look& look, model::NoteId note,
                       model::GroupId group);
ActResult setNoteText(const model::Network& network, model::NoteId note, const std::string& text);

/// Adds a sheet after the others. Refuses an empty name.
ActResult addSheet(const model::Network& network, const std::string& name, model::IdSource& ids);
/// Adds a sheet with what another draws, as it is drawn there, or with nothing. `group`:
/// only what is in it. `groups`: whether groups are drawn. Refuses an empty name, and one
/// a sheet has.
ActResult newSheet(const model::Network& network, const std::string& name, std::optional<model::SheetId> from,
                   model::GroupId group, bool groups, model::IdSource& ids);
/// Takes a sheet out with what is drawn on it alone: positions, notes. What is in the
/// network stays. Refuses the last one.
ActResult removeSheet(const model::Network& network, model::SheetId sheet);
/// Puts the sheets in an order; those not named come after.
ActResult orderSheets(const model::Network& network, const std::vector<model::SheetId>& order);
/// Takes objects off a sheet; they stay in the network and on other sheets.
ActResult takeOffSheet(const model::Network& network, model::SheetId sheet, const Refs& objects);
/// Marks an area of a sheet, where it is shown.
ActResult addZone(const model::Network& network, const Look& look, model::Point at, int width, int height,
                  const std::string& title, model::IdSource& ids);
/// Where a zone is shown and how large; its least size is 20 by 20.
ActResult setZoneFrame(const model::Network& network, const Look& look, model::NoteId zone, model::Point at,
                       int width, int height);
/// Draws devices on a further sheet, one point each.
ActResult showOnSheet(const model::Network& network, model::SheetId sheet,
                      const std::vector<std::pair<model::DeviceId, model::Point>>& devices);
/// Adds a group. Refuses an empty name and a parent that is gone.
ActResult addGroup(const model::Network& network, const std::string& name, model::GroupKind type,
                   model::GroupId parent, model::IdSource& ids);

/// Whether the links of a sheet say their ports, and their rate, LAG and cable. The
/// sheet's own: saved with it.
ActResult setSheetLabels(const model::Network& network, model::SheetId sheet, bool ports, bool links);

/// How the links of a sheet run that nobody bent; along the axes, ways of arranging go.
ActResult setLineStyle(const model::Network& network, model::SheetId sheet, model::LineStyle lines);
/// Whether links are drawn only while what they end at is selected.
ActResult setLinksOnDemand(const model::Network& network, model::SheetId sheet, bool on);

/// What a sheet shows only, or brings out: a filter in the language of core/find; empty:
/// everything. `hides`: what it leaves out is not drawn at all. Refuses what cannot be
/// read, with its column.
ActResult setSheetFilter(const model::Network& network, model::SheetId sheet, const std::string& filter,
                         bool hides);

/// What is laid over a sheet, by keys as core/scene/overlay_keys.h writes them; none: nothing.
/// Refuses what is no overlay,
/// unless the sheet keeps it already. A key that is there twice counts once.
ActResult setSheetOverlays(const model::Network& network, model::SheetId sheet,
                           const std::vector<std::string>& keys);

ActResult renameSheet(const model::Network& network, model::SheetId sheet, const std::string& name);
ActResult renameNetwork(const model::Network& network, const std::string& name);

} // namespace underridge::edit

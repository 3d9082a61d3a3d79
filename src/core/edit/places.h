// SPDX-License-Identifier: GPL-3.0-or-later
// Where floors, racks and risers are: what lengths are worked out from.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Where a group is, in millimetres: a floor above the ground; a rack or cabinet on its
/// floor, from its upper left corner, and its foot above the floor. Refuses what is
/// further than 100 km.
ActResult placeGroup(const model::Network& network, model::GroupId group, std::int64_t xMm, std::int64_t yMm,
                     std::int64_t heightMm);

/// Where devices stand; their group follows by the rule of core/model/standing.h. Refuses
/// what is no floor, room, rack or cabinet, and units that a rack has not.
ActResult setPlace(const model::Network& network, const std::vector<model::DeviceId>& devices,
                   const model::Place& place, std::string name = "Set place");

/// Mounts a device in a rack, its lowest unit at `unit`; it comes into the rack's group.
/// Refuses a unit the rack has not, and one where something is in the way, and says where
/// there is room.
ActResult mountInRack(const model::Network& network, model::DeviceId device, model::GroupId rack, int unit,
                      model::Side side, model::Half half = model::Half::left);
/// Adds a device of a model and mounts it so. It is drawn on no sheet yet.
ActResult newInRack(const model::Network& network, const model::DeviceModel& model, const std::string& name,
                    model::GroupId rack, int unit, model::Side side, model::IdSource& ids,
                    model::Half half = model::Half::left);
/// How many units a rack has: 0 to 100. Refuses fewer than what is mounted needs.
ActResult setRackUnits(const model::Network& network, model::GroupId rack, int units);
/// How deep a rack is, in millimetres: what is mounted at its front and at its rear must go into
/// it together. 0: not known. Refuses less than 0 and more than 3 m.
ActResult setRackDepth(const model::Network& network, model::GroupId rack, int mm);

/// Sets the risers of a building. Refuses another kind of group, and names that are empty
/// or there twice.
ActResult setRisers(const model::Network& network, model::GroupId building, std::vector<model::Riser> risers);

} // namespace underridge::edit

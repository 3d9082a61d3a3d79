// SPDX-License-Identifier: GPL-3.0-or-later
// Feeding devices: by hand, supply by supply, or all of a rack at once.
#pragma once
#include "core/edit/act.h"
#include "core/model/power.h"

namespace underridge::edit {

/// Feeds one supply of a device from an outlet ("O3") of another, or from a mains feed by
/// its name; from nothing: it is fed no longer. A cord to another outlet goes. Refuses an outlet that is not
/// there or feeds another supply, a device that would feed itself, and a supply it does not have.
ActResult feedSupply(const model::Network& network, model::DeviceId device, const std::string& supply,
                     const model::PowerSource& source, const std::string& outlet);

/// Lays a mains cord to each supply of an act's devices that hangs on another outlet than
/// before, and has none: the first approved type whose plugs go into both (IEC 60320), as long
/// as their places ask for. Where none fits there is none, and nothing is said.
ActResult withCords(ActResult act, const model::Network& before, const model::Catalogue& catalogue,
                    model::IdSource& ids);
/// Another cord for a supply that hangs on an outlet, by its type's id; empty: none is
/// said. Refuses a supply that hangs on none, and a type that is no mains cord. What does
/// not fit is taken, and told by the checks.
ActResult setCord(const model::Network& network, const model::Catalogue& catalogue, model::DeviceId device,
                  const std::string& supply, const std::string& type, model::IdSource& ids);

/// What a device draws at most, in watts; 0: what its model says. Refuses less than 0 and
/// more than 100 kW.
ActResult setDraw(const model::Network& network, model::DeviceId device, int watts);

/// The outlets that are free for a device, those of its own rack first, then by name.
struct FreeOutlet {
    model::DeviceId device;
    std::string outlet;

    bool operator==(const FreeOutlet&) const = default;
};
std::vector<FreeOutlet> freeOutlets(const model::Network& network, model::DeviceId forDevice);

/// Feeds all supplies of these devices that are not fed yet from free outlets, so that the
/// supplies of one device hang on different sources where there are such; of equal ones the
/// least loaded of the rack is taken. Refuses when none can be fed.
ActResult feedAll(const model::Network& network, const std::vector<model::DeviceId>& devices);

} // namespace underridge::edit

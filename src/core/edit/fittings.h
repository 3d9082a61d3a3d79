// SPDX-License-Identifier: GPL-3.0-or-later
// What is fitted in a device: modules in slots, transceivers in cages, additional ports,
// breakout mode.
#pragma once
#include "core/edit/act.h"
#include "core/linking/supply.h"

namespace underridge::edit {

/// What becomes of links whose ports go away.
enum class WithLinks { refuse, unlink };

/// Fits a module in a slot; one that is there is replaced. Refuses what does not go in,
/// and, unless told otherwise, to take out ports that are linked.
ActResult fitModule(const model::Network& network, const model::Catalogue& catalogue, model::DeviceId device,
                    const std::string& slot, const std::string& module, WithLinks links);
ActResult removeModule(const model::Network& network, model::DeviceId device, const std::string& slot,
                       WithLinks links);

/// Fits a transceiver in a cage; one that is there is replaced, its link stays. Refuses
/// one whose form or rate the cage does not take.
ActResult fitTransceiver(const model::Network& network, const model::Catalogue& catalogue,
                         const model::PortRef& port, const std::string& transceiver);
ActResult removeTransceiver(const model::Network& network, const model::PortRef& port, WithLinks links);

/// Why a transceiver cannot go into a port; nothing when it can.
std::optional<Remark> misfit(const model::Network& network, const model::PortRef& port,
                             const model::TransceiverModel& transceiver);

/// Adds a port the model allows: linking::addable() names them.
ActResult addPort(const model::Network& network, const model::Catalogue& catalogue, model::DeviceId device,
                  const std::string& port);
/// Takes an added port away.
ActResult removePort(const model::Network& network, const model::PortRef& port, WithLinks links);

/// Splits a port into `lanes` ports of their own, X1/1 …; 0 or 1 makes it one again.
/// Refuses counts its rates cannot be divided by, and links that would lose their port.
ActResult setBreakout(const model::Network& network, const model::PortRef& port, int lanes, WithLinks links);

/// Links that end in the ports of a module.
std::vector<model::LinkId> linksOfModule(const model::Network& network, const model::Device& device,
                                         const std::string& slot);

// Used by the linking of ports.
void putTransceiver(model::Network& network, const model::Catalogue& catalogue, const model::PortRef& cage,
                    const std::string& transceiver);

} // namespace underridge::edit

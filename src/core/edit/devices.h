// SPDX-License-Identifier: GPL-3.0-or-later
// Putting devices down and changing what they are.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

struct Placed {
    std::string name;
    model::Point at; ///< upper left corner of the plate
};

/// Adds devices of one model to the network and to one sheet, with a copy of the model
/// when the network has none. Refuses names that are empty or not UTF-8, and positions
/// off the sheet.
ActResult placeDevices(const model::Network& network, model::SheetId sheet, const model::DeviceModel& model,
                       const std::vector<Placed>& placed, model::GroupId group, model::IdSource& ids);

/// Gives devices and groups new names, one each. Refuses empty names.
ActResult rename(const model::Network& network, const Refs& objects, const std::vector<std::string>& names);

/// Changes what a port has that its model does not say; a record that says nothing is
/// dropped. Refuses when there is no such port.
template <class Change>
ActResult changePort(const model::Network& network, const model::PortRef& port, std::string name,
                     Change&& change);

/// Sets the first address of a device's interface on a port; an empty text removes it.
/// With no port named the device's first interface is meant. Refuses what is not an IPv4
/// or IPv6 address with prefix length.
ActResult setAddress(const model::Network& network, model::DeviceId device, const std::string& port,
                     const std::string& address, model::IdSource& ids);

// Used by changePort.
ActResult putPort(const model::Network& network, model::Port port, std::string name);
Result<model::Port> portRecord(const model::Network& network, const model::PortRef& port);

template <class Change>
ActResult changePort(const model::Network& network, const model::PortRef& port, std::string name,
                     Change&& change) {
    auto record = portRecord(network, port);
    if (!record)
        return record.refusal();
    change(*record);
    return putPort(network, *std::move(record), std::move(name));
}

} // namespace underridge::edit

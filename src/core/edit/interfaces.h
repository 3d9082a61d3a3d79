// SPDX-License-Identifier: GPL-3.0-or-later
// What is set of interfaces, routes and the forwarding of devices.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// The interface a name means at a device: its name, else the port it stands on; null when
/// there is none.
const model::Interface* interfaceNamed(const model::Network& network, model::DeviceId device,
                                       const std::string& name);

/// Adds an interface, or puts it in the place of the one with its id. Refuses a device that
/// is gone, addresses that are none, a name another has, a VLAN interface without a VLAN, a
/// subinterface without a parent.
ActResult putInterface(const model::Network& network, model::Interface interface, model::IdSource& ids);
/// Takes one away, and subinterfaces on it.
ActResult removeInterface(const model::Network& network, model::DeviceId device,
                          model::InterfaceId interface);

/// The addresses a text says, parted by commas; an empty one: none.
std::vector<model::Address> addressesFrom(const std::string& text);

/// The next hop of a device's default route of version 4, else 6; none when it has none.
const model::Route* gatewayOf(const model::Network& network, model::DeviceId device);
/// Sets it, or with an empty text takes it away. Refuses what is no address.
ActResult setGateway(const model::Network& network, model::DeviceId device, const std::string& address,
                     model::IdSource& ids);

/// Adds a static route, or puts it in the place of the one with its id. Refuses prefixes and
/// next hops that are none, or of different versions.
ActResult putRoute(const model::Network& network, model::Route route, model::IdSource& ids);
ActResult removeRoute(const model::Network& network, model::DeviceId device, model::RouteId route);

/// The next address of a subnet that nothing has, the first after `after`, the subnet's own
/// and its broadcast address left out (of IPv4), with the subnet's length; an empty one when
/// all are taken. Of a subnet with more than 65,536 addresses only that many are tried.
model::Address nextFree(const model::Network& network, const model::Address& subnet,
                        const model::Address& after = {});

} // namespace underridge::edit

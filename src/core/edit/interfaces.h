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

/// Whether the addresses and gateway of a device come by DHCP, on all of its interfaces
/// that have addresses. Refuses a device without any, and one that is gone.
ActResult setByDhcp(const model::Network& network, model::DeviceId device, bool asks);

/// Adds a static route, or puts it in the place of the one with its id. Refuses prefixes and
/// next hops that are none, or of different versions.
ActResult putRoute(const model::Network& network, model::Route route, model::IdSource& ids);
ActResult removeRoute(const model::Network& network, model::DeviceId device, model::RouteId route);

/// So many addresses of a subnet that nothing has, ascending, the first after `after`, with
/// the subnet's length; its own and its broadcast address left out (of IPv4, RFC 3021).
/// Fewer when there are no more, or none among 65,536. What is of another VRF takes none.
std::vector<model::Address> freeIn(const model::Network& network, const model::Address& subnet,
                                   std::size_t count, const model::Address& after = {},
                                   const std::string& vrf = {});
/// Gives each device the next free address of a subnet, in natural order of their names: to
/// the interface that has its address, else to the port of its only link. Refuses a text
/// that is no subnet, and a subnet with too few left.
ActResult addressInSeries(const model::Network& network, std::vector<model::DeviceId> devices,
                          const model::Address& subnet, model::IdSource& ids);

} // namespace underridge::edit

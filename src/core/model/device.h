// SPDX-License-Identifier: GPL-3.0-or-later
// Devices, the ports that differ from their model, and the interfaces that stand on them.
#pragma once
#include "core/base/text.h"
#include "core/model/address.h"
#include "core/model/forwarding.h"
#include "core/model/object_ref.h"
#include "core/model/port_names.h"
#include "core/model/shared_text.h"

#include <map>
#include <string>
#include <vector>

namespace underridge::model {

/// Free attributes, by name.
using Attributes = std::map<std::string, std::string>;

/// Where something is known from, and when its source had seen it as it was taken in
/// (seconds since 1970, 0: not said). What is seen later is an observation beside the
/// network: a poll is no edit.
struct Provenance {
    Origin origin = Origin::drawn;
    std::string source; ///< a protocol or a file
    std::int64_t lastSeen = 0;

    bool operator==(const Provenance&) const = default;
};

struct FittedModule {
    std::string slot;
    std::string model;
    std::string serial;

    bool operator==(const FittedModule&) const = default;
};

struct FittedTransceiver {
    std::string port;
    std::string model;
    std::string serial;

    bool operator==(const FittedTransceiver&) const = default;
};

/// Where a device stands: on a floor in millimetres, or in a rack by unit. Lengths use
/// this alone. How it goes together with the device's group: core/model/standing.h.
struct Place {
    GroupId in; ///< a floor, room, rack or cabinet
    std::int64_t xMm = 0, yMm = 0, heightMm = 0;
    int unit = 0; ///< the lowest rack unit, from 1
    Side side = Side::front;
    Half half = Half::left; ///< of what is half as wide as the rack

    bool operator==(const Place&) const = default;
};

/// One chassis of a stack. The keys of its ports begin with its number: 2/17.
struct Chassis {
    int number = 1;
    std::string model;
    std::string serial;
    Place place; ///< where it stands, when not with the device

    bool operator==(const Chassis&) const = default;
};

/// What one power supply hangs on: an outlet of another device, or a mains feed by its
/// name.
struct PowerFeed {
    std::string supply; ///< as core/model/power.h names it
    DeviceId from;
    std::string outlet;
    std::string mains; ///< "A", when it is no device
    CableId cable;     ///< the mains cord it hangs by, with an end at either; none: not said

    bool operator==(const PowerFeed&) const = default;
};

struct Device {
    static constexpr Kind kind = Kind::device;
    DeviceId id;
    std::string name;
    std::string model;
    GroupId group; ///< none: the network itself
    bool outside = false;
    std::vector<FittedModule> modules;
    std::vector<FittedTransceiver> transceivers;
    std::vector<Chassis> stack;     ///< empty: a single chassis, whose ports have no prefix
    std::vector<std::string> added; ///< keys of additional ports
    PortNames learned;              ///< ports that no model gives: a source named them, no more is known
    Place place;
    std::vector<PowerFeed> feeds; ///< of supplies that are fed
    DeviceId pairedWith;          ///< the other of a multi-chassis pair: a LAG may end in both
    int watts = 0;                ///< drawn at most; 0: as its model says
    bool vlanAware = true;        ///< of a switch: false: it passes frames as they are
    bool routing = false;         ///< of what is neither router nor firewall: it forwards all the same
    Shared<SpanningTree> spanningTree;
    Shared<Ospf> ospf;
    Shared<Bgp> bgp;
    Shared<PacketFilter> filter;
    std::vector<Translation> translations;
    std::string serial;
    SharedText note;
    SharedText startUp; ///< start-up configuration
    Attributes attributes;
    Provenance provenance;
    SharedText extra;

    bool operator==(const Device&) const = default;
    Key key() const { return {id.value, 0}; }
};

/// A port; an empty key says that the port is not known.
struct PortRef {
    DeviceId device;
    std::string port;

    auto operator<=>(const PortRef&) const = default;
    bool known() const { return !port.empty(); }
};

/// What a port has that its model does not say. Ports without such a record are as their
/// model has them.
struct Port {
    static constexpr Kind kind = Kind::port;
    DeviceId device;
    std::string port;
    std::string label;
    std::string note;
    bool disabled = false;
    bool reserved = false;
    int speed = 0; ///< Mbit/s; 0: negotiated
    Duplex duplex = Duplex::automatic;
    int breakout = 0; ///< lanes split into ports of their own, X1/1 …; 0: none
    bool powerOff = false;
    Fec fec = Fec::automatic;
    bool givesClock = false; ///< of a serial line: this end clocks it (DCE, ITU-T V.24)
    Attributes attributes;
    SharedText extra;

    bool operator==(const Port&) const = default;
    Key key() const { return {device.value, fnv1a(port)}; }
};

/// RFC 8343: where addresses and VLANs live.
struct Interface {
    static constexpr Kind kind = Kind::interface;
    InterfaceId id;
    DeviceId device;
    InterfaceKind type = InterfaceKind::physical;
    std::string name;
    std::string port;                 ///< of a physical one
    InterfaceId parent;               ///< of a subinterface or tunnel
    std::vector<std::string> members; ///< ports of a LAG
    std::vector<Address> addresses;   ///< with prefix length: 10.84.1.1/24
    std::string mac;
    std::string vrf;
    VlanId untagged; ///< IEEE 802.1Q PVID
    std::vector<VlanId> tagged;
    std::vector<VlanRange>
        taggedRanges;                ///< numbers tagged beside those, whether the network names them or not
    std::vector<VlanId> untaggedToo; ///< leave untagged beside the PVID's
    VlanId voice;                    ///< tagged, told to phones (LLDP-MED network policy)
    Frames frames = Frames::all;     ///< what a bridge port takes in
    std::string zone;                ///< of a firewall: what filter rules call what lies behind it
    int mtu = 0;                     ///< octets of an IP packet; 0: 1,500
    bool lacp = false;               ///< of a LAG: its members are agreed on (IEEE 802.1AX)
    bool disabled = false;
    bool dhcp = false;              ///< its addresses and default gateway are those a DHCP server gives it
    std::vector<Address> dhcpRelay; ///< servers a router passes the requests heard here on to (RFC 1542)
    Shared<PortTree> spanningTree;
    Shared<OspfInterface> ospf;
    std::vector<Vrrp> vrrp;
    SharedText extra;

    bool operator==(const Interface&) const = default;
    Key key() const { return {device.value, id.value}; }
};

} // namespace underridge::model

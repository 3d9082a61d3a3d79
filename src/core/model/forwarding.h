// SPDX-License-Identifier: GPL-3.0-or-later
// What is meant of switching and routing beside addresses and VLANs: spanning tree, OSPF,
// BGP, VRRP, filters and translation. All of it is as somebody set it; what follows from it
// is worked out in core/analysis.
#pragma once
#include "core/model/address.h"
#include "core/model/object_ref.h"
#include "core/model/shared.h"
#include "core/model/shared_text.h"

#include <optional>
#include <string>
#include <vector>

namespace underridge::model {

/// VLANs by number, first to last, both included (1–4094): what a trunk that carries many
/// is set to.
struct VlanRange {
    int first = 1;
    int last = 1;

    bool operator==(const VlanRange&) const = default;
    bool valid() const { return first >= 1 && first <= last && last <= 4094; }
    bool contains(int number) const { return first <= number && number <= last; }
};

/// An instance of MSTP (IEEE 802.1Q clause 13.3) and the VLANs that go by it.
struct TreeInstance {
    int number = 1;
    std::vector<VlanRange> vlans;
    int priority = 32768;

    bool operator==(const TreeInstance&) const = default;
};

/// The spanning tree of a switch: IEEE 802.1Q-2022 clause 13.
struct SpanningTree {
    TreeMode mode = TreeMode::automatic;
    int priority = 32768; ///< 0–61440 in steps of 4096
    std::string address;  ///< of the bridge; empty: the lowest of its interfaces, if any is known
    std::string region;   ///< MSTP configuration name
    int revision = 0;     ///< MSTP revision level
    std::vector<TreeInstance> instances; ///< beside instance 0, which has all other VLANs

    bool operator==(const SpanningTree&) const = default;
};

/// What one port has of it.
struct PortTree {
    int cost = 0;           ///< 0: by its speed, IEEE 802.1Q-2022 table 13-4
    int priority = 128;     ///< 0–240 in steps of 16
    int number = 0;         ///< 1–4095; 0: in the order of the ports
    bool edge = false;      ///< forwards at once
    bool rootGuard = false; ///< never becomes a root port
    bool bpduGuard = false; ///< goes down when a bridge is heard there

    bool operator==(const PortTree&) const = default;
};

/// OSPF of a device (RFC 2328, RFC 5340).
struct Ospf {
    std::string routerId; ///< dotted decimal; empty: the highest address of its loopbacks, else of all
    std::vector<RouteOrigin> redistribute; ///< as external routes of type 2, metric 20
    bool tellsDefault = false;             ///< so too its default route, while it has one

    bool operator==(const Ospf&) const = default;
};

/// "0", "0.0.0.0": an area as it is written. Two writings of one number are equal areas.
class OspfArea {
public:
    OspfArea() = default;
    OspfArea(std::string text) : text_(std::move(text)) {} // NOLINT: a text is an area as written

    const std::string& text() const { return text_; }
    bool empty() const { return text_.empty(); }
    /// The 32 bits of it; nothing when the text is no area.
    std::optional<std::uint32_t> number() const;
    bool operator==(const OspfArea& other) const { return text_ == other.text_; }

private:
    std::string text_;
};

/// OSPF of an interface; without an area it does not take part.
struct OspfInterface {
    OspfArea area;
    int cost = 0;         ///< 1–65535; 0: 100 Mbit/s divided by its speed, at least 1 (RFC 4750)
    bool passive = false; ///< its subnet is told, no neighbour is sought
    OspfNetwork network = OspfNetwork::automatic;

    bool operator==(const OspfInterface&) const = default;
};

struct BgpNeighbour {
    Address address;
    std::int64_t as = 0;

    bool operator==(const BgpNeighbour&) const = default;
};

/// BGP between autonomous systems (RFC 4271), without policies.
struct Bgp {
    std::int64_t as = 0; ///< 0: it speaks none
    std::string routerId;
    std::vector<BgpNeighbour> neighbours;
    std::vector<Address> networks; ///< told when a route to them is there
    std::vector<RouteOrigin> redistribute;

    bool operator==(const Bgp&) const = default;
};

/// One address that several routers stand for (RFC 9568).
struct Vrrp {
    int group = 1; ///< 1–255
    Address address;
    int priority = 100; ///< 1–254; who has the address itself: 255

    bool operator==(const Vrrp&) const = default;
};

/// Ports of TCP or UDP, first to last, both included (1–65535).
struct PortRange {
    int first = 1;
    int last = 1;

    bool operator==(const PortRange&) const = default;
    bool contains(int number) const { return first <= number && number <= last; }
};

/// One rule of a filter: the first that fits a packet decides.
struct FilterRule {
    std::string name;
    std::vector<Address> from, to; ///< prefixes; none: any
    std::string fromZone, toZone;  ///< empty: any
    Protocol protocol = Protocol::any;
    std::vector<PortRange> ports; ///< of the destination; none: any
    FilterAction action = FilterAction::allow;

    bool operator==(const FilterRule&) const = default;
};

/// The rules a router or firewall looks at what it forwards by. Without rules all passes;
/// with some, what none fits is refused.
struct PacketFilter {
    std::vector<FilterRule> rules;
    bool stateless = false; ///< answers are not let through by themselves

    bool operator==(const PacketFilter&) const = default;
};

/// An address put in the place of another as a packet is forwarded (RFC 3022).
struct Translation {
    TranslationKind type = TranslationKind::source;
    Address from;    ///< what the source or destination is before; a prefix or one address
    Address to;      ///< what it becomes; empty, of a source: the address of where it goes out
    std::string out; ///< the interface it goes out by, by name; empty: any

    bool operator==(const Translation&) const = default;
};

/// A static route (a host's gateway is one to 0.0.0.0/0 or ::/0).
struct Route {
    static constexpr Kind kind = Kind::route;
    RouteId id;
    DeviceId device;
    Address to;
    Address via;
    std::string vrf;
    int metric = 0;
    bool discards = false; ///< what would go by it is dropped
    SharedText extra;

    bool operator==(const Route&) const = default;
    Key key() const { return {device.value, id.value}; }
};

/// One side of a statement: a device, what is in a group, an address, or what a filter
/// finds (in the language of find).
struct Party {
    DeviceId device;
    GroupId group;
    Address address;
    std::string filter;

    bool operator==(const Party&) const = default;
};

/// What somebody wants to be true of the network, checked after each edit: that every
/// device of one side reaches, or does not reach, every one of the other.
struct Statement {
    static constexpr Kind kind = Kind::statement;
    StatementId id;
    std::string name;
    Party from, to;
    Protocol protocol = Protocol::any;
    int port = 0; ///< 0: any
    bool never = false;
    SharedText extra;

    bool operator==(const Statement&) const = default;
    Key key() const { return {id.value, 0}; }
};

/// A ring of links that a protocol keeps from becoming a loop. Its ports are in no spanning
/// tree.
struct Ring {
    static constexpr Kind kind = Kind::ring;
    RingId id;
    std::string name;
    RingProtocol protocol = RingProtocol::erps;
    std::vector<LinkId> links;    ///< in no order; together they go round once
    DeviceId owner;               ///< which blocks (RPL owner, redundancy manager)
    LinkId blocked;               ///< one of `links`, while all are up (ring protection link); of HSR none
    std::vector<VlanRange> vlans; ///< whose frames it is about; none: all
    SharedText extra;

    bool operator==(const Ring&) const = default;
    Key key() const { return {id.value, 0}; }
};

/// A finding somebody has looked at and leaves as it is: of one rule, about these objects
/// and no others.
struct SetAside {
    static constexpr Kind kind = Kind::setAside;
    SetAsideId id;
    std::string rule; ///< its code
    std::vector<ObjectRef> subjects;
    std::string reason;
    std::string date;  ///< when it was set aside, ISO 8601: 2026-11-29
    std::string until; ///< the last day it is; empty: no end
    SharedText extra;

    bool operator==(const SetAside&) const = default;
    Key key() const { return {id.value, 0}; }
};

} // namespace underridge::model

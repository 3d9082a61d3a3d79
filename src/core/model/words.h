// SPDX-License-Identifier: GPL-3.0-or-later
// The closed word lists of the model, each with the text it has in files and on the
// command line, and the title it has on the screen.
#pragma once
#include <array>
#include <optional>
#include <span>
#include <string_view>

namespace underridge::model {

enum class Kind {
    network,
    deviceModel,
    moduleModel,
    transceiverModel,
    cableType,
    sheet,
    group,
    vlan,
    subnet,
    service,
    device,
    port,
    interface,
    route,
    panelMap,
    cable,
    link,
    position,
    note,
    cableRoute,
    statement,
    ring,
    setAside,
    asset,
    unknown
};

enum class Role {
    router,
    switch_,
    hub,
    firewall,
    accessPoint,
    radioBridge,
    server,
    workstation,
    portable,
    phone,
    printer,
    camera,
    terminal,
    controller,
    sensor,
    serialServer,
    patchPanel,
    outlet,
    splitter,
    mediaConverter,
    power,
    provider,
    unknown
};

/// The families that share a spine colour on the sheet.
enum class RoleFamily { router, switch_, firewall, accessPoint, server, endpoint, patchPanel, provider };

enum class Medium {
    unknown,
    twistedPair,
    singlePair,
    singleMode,
    multimode,
    coax,
    directAttach,
    activeOptical,
    serial,
    radio,
    circuit,
    mains ///< of cords that feed devices, no link
};

/// IEC 60603-7, 61754, 61076-2, 60320, 60807 and their common names; IDC: insulation
/// displacement contacts.
enum class Connector {
    none,
    rj45,
    lc,
    sc,
    mpo,
    m12d,
    m12x,
    f,
    bnc,
    usbC,
    idc,
    de9,
    n,
    c13,
    c14,
    splice,
    iec63171,
    c19,
    c20,
    mpo16
};

/// Form factors: SFF-8432, SFF-8402, SFF-8436, SFF-8665, and the QSFP-DD and OSFP
/// multi-source agreements.
enum class Cage { none, sfp, sfpPlus, sfp28, qsfpPlus, qsfp28, sfp56, qsfp56, qsfpDd, osfp };

enum class Block { access, uplink, stack, management, power, front, rear };

/// Which half of a rack's width, seen from the front, something takes that is half as wide.
enum class Half { left, right };

enum class PortUse { data, console, power };

/// Power over twisted pair, IEEE 802.3 clauses 33 and 145.
enum class PowerSide { none, source, load };

/// The pairs a source gives power on: IEEE 802.3 clause 33.2.3, alternative A those of data
/// at 10 and 100 Mbit/s, B the spare ones; clause 145.2.4, all four.
enum class PowerPairs { notStated, alternativeA, alternativeB, four };

/// Which pairs a twisted-pair port sends on: IEEE 802.3 clauses 14.5 and 40.4.4.
enum class Mdi { automatic, mdi, mdix };

enum class Duplex { automatic, half, full };

/// Of copper: IEC 60603-7 pairs; of duplex fibre: TIA-568.3 A-to-A (straight) and A-to-B
/// (crossed); of fibre arrays: Types A (straight), B (reversed) and C (pairs).
enum class Pinout { straight, crossed, rolled, reversed, pairs };

/// The two sides of a serial line: TIA-574 gives the DTE a plug and the DCE a socket.
enum class SerialSide { unknown, dte, dce };

/// How contacts are terminated: TIA-568.2.
enum class Wiring { unknown, t568a, t568b };

/// Forward error correction of a port: IEEE 802.3 clauses 74 (BASE-R), 91 and 108 (RS).
enum class Fec { automatic, none, baseR, rs };

enum class CableStatus { installed, planned, toRemove, spare };

enum class GroupKind { site, building, floor, room, row, rack, cabinet, cluster };

/// What cables run in: an open tray, or a closed pipe that is entered at its ends.
enum class CableRouteKind { tray, conduit };

enum class InterfaceKind { physical, vlan, loopback, lag, subinterface, tunnel, radio };

/// Spanning tree: none, the first (802.1D-1998), rapid, or of several instances (IEEE
/// 802.1Q). Automatic: what a device comes with, rapid for switches that know VLANs.
enum class TreeMode { automatic, off, stp, rstp, mstp };

/// How a ring keeps frames from going round: Ethernet ring protection (ITU-T G.8032) and the
/// media redundancy protocol (IEC 62439-2) block one link until another fails; with high-availability
/// seamless redundancy (IEC 62439-3) frames go both ways and each device drops what it has had.
enum class RingProtocol { erps, mrp, hsr };

/// Acceptable frame types, IEEE 802.1Q clause 6.9.
enum class Frames { all, tagged, untagged };

/// How OSPF regards the subnet of an interface, RFC 2328 section 9.
enum class OspfNetwork { automatic, broadcast, pointToPoint };

/// Where a route is known from, and what a protocol may pass on.
enum class RouteOrigin { connected, fixed, dhcp, ospf, bgp };

enum class Protocol { any, icmp, tcp, udp };

enum class FilterAction { allow, refuse };

enum class TranslationKind { source, destination };

enum class Origin { drawn, imported, discovered, inferred };

enum class Side { front, rear };

/// Which layer of the network a sheet draws: cables and ports as somebody placed them; or,
/// made from that, who hands frames to whom, or routers and the subnets between them; or a layer
/// above as a file brought it, of which it draws the links that are its own.
enum class SheetLayer { physical, dataLink, network, upper };

/// How the links of a sheet run where nobody bent them: straight from plate to plate, or along
/// the axes, round plates where there is room.
enum class LineStyle { straight, axes, bundled };

template <class E>
struct Word {
    E value;
    std::string_view text;  ///< as written in files
    std::string_view title; ///< as shown, lower case unless it is a name
};

std::span<const Word<Kind>> wordsOf(Kind);
std::span<const Word<Role>> wordsOf(Role);
std::span<const Word<Medium>> wordsOf(Medium);
std::span<const Word<Connector>> wordsOf(Connector);
std::span<const Word<Cage>> wordsOf(Cage);
std::span<const Word<Block>> wordsOf(Block);
std::span<const Word<PortUse>> wordsOf(PortUse);
std::span<const Word<Half>> wordsOf(Half);
std::span<const Word<PowerSide>> wordsOf(PowerSide);
std::span<const Word<PowerPairs>> wordsOf(PowerPairs);
std::span<const Word<Mdi>> wordsOf(Mdi);
std::span<const Word<Duplex>> wordsOf(Duplex);
std::span<const Word<Pinout>> wordsOf(Pinout);
std::span<const Word<SerialSide>> wordsOf(SerialSide);
std::span<const Word<Wiring>> wordsOf(Wiring);
std::span<const Word<Fec>> wordsOf(Fec);
std::span<const Word<CableStatus>> wordsOf(CableStatus);
std::span<const Word<GroupKind>> wordsOf(GroupKind);
std::span<const Word<CableRouteKind>> wordsOf(CableRouteKind);
std::span<const Word<InterfaceKind>> wordsOf(InterfaceKind);
std::span<const Word<TreeMode>> wordsOf(TreeMode);
std::span<const Word<RingProtocol>> wordsOf(RingProtocol);
std::span<const Word<Frames>> wordsOf(Frames);
std::span<const Word<OspfNetwork>> wordsOf(OspfNetwork);
std::span<const Word<Protocol>> wordsOf(Protocol);
std::span<const Word<FilterAction>> wordsOf(FilterAction);
std::span<const Word<TranslationKind>> wordsOf(TranslationKind);
std::span<const Word<RouteOrigin>> wordsOf(RouteOrigin);
std::span<const Word<Origin>> wordsOf(Origin);
std::span<const Word<Side>> wordsOf(Side);
std::span<const Word<SheetLayer>> wordsOf(SheetLayer);
std::span<const Word<LineStyle>> wordsOf(LineStyle);

template <class E>
concept HasWords = requires(E e) {
    wordsOf(e);
};

template <HasWords E>
std::string_view textOf(E value) {
    return wordsOf(value)[static_cast<std::size_t>(value)].text;
}

template <HasWords E>
std::string_view titleOf(E value) {
    return wordsOf(value)[static_cast<std::size_t>(value)].title;
}

template <HasWords E>
std::optional<E> fromText(std::string_view text) {
    for (const auto& word : wordsOf(E{}))
        if (word.text == text)
            return word.value;
    return std::nullopt;
}

RoleFamily familyOf(Role role);
/// Whether the role ends traffic rather than carrying it.
bool isEndpoint(Role role);
/// "Switches" for switch_, "Floors" for floor: the heading of several.
std::string_view pluralOf(Role role);
std::string_view pluralOf(GroupKind kind);

} // namespace underridge::model

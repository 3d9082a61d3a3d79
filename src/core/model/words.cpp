// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/words.h"

namespace underridge::model {

std::span<const Word<Kind>> wordsOf(Kind) {
    static constexpr std::array<Word<Kind>, 25> words{{
        {Kind::network, "network", "network"},
        {Kind::deviceModel, "device-model", "device model"},
        {Kind::moduleModel, "module-model", "module model"},
        {Kind::transceiverModel, "transceiver-model", "transceiver model"},
        {Kind::cableType, "cable-type", "cable type"},
        {Kind::sheet, "sheet", "sheet"},
        {Kind::group, "group", "group"},
        {Kind::vlan, "vlan", "VLAN"},
        {Kind::subnet, "subnet", "subnet"},
        {Kind::service, "service", "service"},
        {Kind::device, "device", "device"},
        {Kind::port, "port", "port"},
        {Kind::interface, "interface", "interface"},
        {Kind::route, "route", "route"},
        {Kind::panelMap, "panel-map", "panel map"},
        {Kind::cable, "cable", "cable"},
        {Kind::link, "link", "link"},
        {Kind::position, "position", "position"},
        {Kind::note, "note", "note"},
        {Kind::cableRoute, "cable-route", "cable route"},
        {Kind::statement, "statement", "statement"},
        {Kind::ring, "ring", "ring"},
        {Kind::setAside, "set-aside", "finding set aside"},
        {Kind::asset, "asset", "asset"},
        {Kind::unknown, "unknown", "unknown"},
    }};
    return words;
}

std::span<const Word<Role>> wordsOf(Role) {
    static constexpr std::array<Word<Role>, 23> words{{
        {Role::router, "router", "router"},
        {Role::switch_, "switch", "switch"},
        {Role::hub, "hub", "hub"},
        {Role::firewall, "firewall", "firewall"},
        {Role::accessPoint, "access-point", "access point"},
        {Role::radioBridge, "radio-bridge", "radio bridge"},
        {Role::server, "server", "server"},
        {Role::workstation, "workstation", "workstation"},
        {Role::portable, "portable", "portable"},
        {Role::phone, "phone", "phone"},
        {Role::printer, "printer", "printer"},
        {Role::camera, "camera", "camera"},
        {Role::terminal, "terminal", "terminal"},
        {Role::controller, "controller", "controller"},
        {Role::sensor, "sensor", "sensor"},
        {Role::serialServer, "serial-server", "serial server"},
        {Role::patchPanel, "patch-panel", "patch panel"},
        {Role::outlet, "outlet", "outlet"},
        {Role::splitter, "splitter", "splitter"},
        {Role::mediaConverter, "media-converter", "media converter"},
        {Role::power, "power", "power"},
        {Role::provider, "provider", "provider"},
        {Role::unknown, "unknown", "role not known"},
    }};
    return words;
}

std::string_view pluralOf(Role role) {
    static constexpr std::array<std::string_view, 23> words{
        "Routers",   "Switches",         "Hubs",      "Firewalls",      "Access points", "Radio bridges",
        "Servers",   "Workstations",     "Portables", "Phones",         "Printers",      "Cameras",
        "Terminals", "Controllers",      "Sensors",   "Serial servers", "Patch panels",  "Outlets",
        "Splitters", "Media converters", "Power",     "Providers",      "Role not known"};
    return words[static_cast<std::size_t>(role)];
}

std::string_view pluralOf(GroupKind kind) {
    static constexpr std::array<std::string_view, 8> words{"Sites", "Buildings", "Floors",   "Rooms",
                                                           "Rows",  "Racks",     "Cabinets", "Clusters"};
    return words[static_cast<std::size_t>(kind)];
}

std::span<const Word<Medium>> wordsOf(Medium) {
    static constexpr std::array<Word<Medium>, 12> words{{
        {Medium::unknown, "unknown", "medium not known"},
        {Medium::twistedPair, "twisted-pair", "twisted pair"},
        {Medium::singlePair, "single-pair", "single pair"},
        {Medium::singleMode, "single-mode", "single-mode fibre"},
        {Medium::multimode, "multimode", "multimode fibre"},
        {Medium::coax, "coax", "coax"},
        {Medium::directAttach, "direct-attach", "direct-attach"},
        {Medium::activeOptical, "active-optical", "active optical"},
        {Medium::serial, "serial", "serial"},
        {Medium::radio, "radio", "radio"},
        {Medium::circuit, "circuit", "circuit"},
        {Medium::mains, "mains", "mains"},
    }};
    return words;
}

std::span<const Word<Connector>> wordsOf(Connector) {
    static constexpr std::array<Word<Connector>, 20> words{{
        {Connector::none, "none", "no connector"},
        {Connector::rj45, "rj45", "RJ45"},
        {Connector::lc, "lc", "LC"},
        {Connector::sc, "sc", "SC"},
        {Connector::mpo, "mpo", "MPO"},
        {Connector::m12d, "m12-d", "M12 D"},
        {Connector::m12x, "m12-x", "M12 X"},
        {Connector::f, "f", "F"},
        {Connector::bnc, "bnc", "BNC"},
        {Connector::usbC, "usb-c", "USB-C"},
        {Connector::idc, "idc", "IDC"},
        {Connector::de9, "de-9", "DE-9"},
        {Connector::n, "n", "N"},
        {Connector::c13, "c13", "C13"},
        {Connector::c14, "c14", "C14"},
        {Connector::splice, "splice", "splice"},
        {Connector::iec63171, "iec-63171", "IEC 63171"},
        {Connector::c19, "c19", "C19"},
        {Connector::c20, "c20", "C20"},
        {Connector::mpo16, "mpo-16", "MPO-16"},
    }};
    return words;
}

std::span<const Word<Cage>> wordsOf(Cage) {
    static constexpr std::array<Word<Cage>, 10> words{{
        {Cage::none, "none", "no cage"},
        {Cage::sfp, "sfp", "SFP"},
        {Cage::sfpPlus, "sfp+", "SFP+"},
        {Cage::sfp28, "sfp28", "SFP28"},
        {Cage::qsfpPlus, "qsfp+", "QSFP+"},
        {Cage::qsfp28, "qsfp28", "QSFP28"},
        {Cage::sfp56, "sfp56", "SFP56"},
        {Cage::qsfp56, "qsfp56", "QSFP56"},
        {Cage::qsfpDd, "qsfp-dd", "QSFP-DD"},
        {Cage::osfp, "osfp", "OSFP"},
    }};
    return words;
}

std::span<const Word<Block>> wordsOf(Block) {
    static constexpr std::array<Word<Block>, 7> words{{
        {Block::access, "access", "access block"},
        {Block::uplink, "uplink", "uplink block"},
        {Block::stack, "stack", "stack block"},
        {Block::management, "management", "management block"},
        {Block::power, "power", "power block"},
        {Block::front, "front", "panel front"},
        {Block::rear, "rear", "panel rear"},
    }};
    return words;
}

std::span<const Word<Half>> wordsOf(Half) {
    static constexpr std::array<Word<Half>, 2> words{{
        {Half::left, "left", "left half"},
        {Half::right, "right", "right half"},
    }};
    return words;
}

std::span<const Word<PortUse>> wordsOf(PortUse) {
    static constexpr std::array<Word<PortUse>, 3> words{{
        {PortUse::data, "data", "data"},
        {PortUse::console, "console", "console"},
        {PortUse::power, "power", "power"},
    }};
    return words;
}

std::span<const Word<PowerSide>> wordsOf(PowerSide) {
    static constexpr std::array<Word<PowerSide>, 3> words{{
        {PowerSide::none, "none", "no power"},
        {PowerSide::source, "source", "gives power"},
        {PowerSide::load, "load", "takes power"},
    }};
    return words;
}

std::span<const Word<PowerPairs>> wordsOf(PowerPairs) {
    static constexpr std::array<Word<PowerPairs>, 4> words{{
        {PowerPairs::notStated, "not-stated", "not stated"},
        {PowerPairs::alternativeA, "a", "alternative A"},
        {PowerPairs::alternativeB, "b", "alternative B"},
        {PowerPairs::four, "four", "four pairs"},
    }};
    return words;
}

std::span<const Word<Duplex>> wordsOf(Duplex) {
    static constexpr std::array<Word<Duplex>, 3> words{{
        {Duplex::automatic, "auto", "auto"},
        {Duplex::half, "half", "half duplex"},
        {Duplex::full, "full", "full duplex"},
    }};
    return words;
}

std::span<const Word<Mdi>> wordsOf(Mdi) {
    static constexpr std::array<Word<Mdi>, 3> words{{
        {Mdi::automatic, "auto", "automatic MDI-X"},
        {Mdi::mdi, "mdi", "fixed MDI"},
        {Mdi::mdix, "mdi-x", "fixed MDI-X"},
    }};
    return words;
}

std::span<const Word<Pinout>> wordsOf(Pinout) {
    static constexpr std::array<Word<Pinout>, 5> words{{
        {Pinout::straight, "straight", "straight"},
        {Pinout::crossed, "crossed", "crossed"},
        {Pinout::rolled, "rolled", "rolled"},
        {Pinout::reversed, "reversed", "reversed, Type B"},
        {Pinout::pairs, "pairs", "pairs crossed, Type C"},
    }};
    return words;
}

std::span<const Word<SerialSide>> wordsOf(SerialSide) {
    static constexpr std::array<Word<SerialSide>, 3> words{{
        {SerialSide::unknown, "unknown", "side not known"},
        {SerialSide::dte, "dte", "DTE"},
        {SerialSide::dce, "dce", "DCE"},
    }};
    return words;
}

std::span<const Word<Wiring>> wordsOf(Wiring) {
    static constexpr std::array<Word<Wiring>, 3> words{{
        {Wiring::unknown, "unknown", "wiring not known"},
        {Wiring::t568a, "t568a", "T568A"},
        {Wiring::t568b, "t568b", "T568B"},
    }};
    return words;
}

std::span<const Word<Fec>> wordsOf(Fec) {
    static constexpr std::array<Word<Fec>, 4> words{{
        {Fec::automatic, "auto", "auto"},
        {Fec::none, "none", "off"},
        {Fec::baseR, "base-r", "BASE-R"},
        {Fec::rs, "rs", "RS"},
    }};
    return words;
}

std::span<const Word<CableStatus>> wordsOf(CableStatus) {
    static constexpr std::array<Word<CableStatus>, 4> words{{
        {CableStatus::installed, "installed", "installed"},
        {CableStatus::planned, "planned", "planned"},
        {CableStatus::toRemove, "to-remove", "to be removed"},
        {CableStatus::spare, "spare", "spare"},
    }};
    return words;
}

std::span<const Word<GroupKind>> wordsOf(GroupKind) {
    static constexpr std::array<Word<GroupKind>, 8> words{{
        {GroupKind::site, "site", "site"},
        {GroupKind::building, "building", "building"},
        {GroupKind::floor, "floor", "floor"},
        {GroupKind::room, "room", "room"},
        {GroupKind::row, "row", "row"},
        {GroupKind::rack, "rack", "rack"},
        {GroupKind::cabinet, "cabinet", "cabinet"},
        {GroupKind::cluster, "cluster", "cluster"},
    }};
    return words;
}

std::span<const Word<CableRouteKind>> wordsOf(CableRouteKind) {
    static constexpr std::array<Word<CableRouteKind>, 2> words{{
        {CableRouteKind::tray, "tray", "tray"},
        {CableRouteKind::conduit, "conduit", "conduit"},
    }};
    return words;
}

std::span<const Word<InterfaceKind>> wordsOf(InterfaceKind) {
    static constexpr std::array<Word<InterfaceKind>, 7> words{{
        {InterfaceKind::physical, "physical", "physical"},
        {InterfaceKind::vlan, "vlan", "VLAN"},
        {InterfaceKind::loopback, "loopback", "loopback"},
        {InterfaceKind::lag, "lag", "LAG"},
        {InterfaceKind::subinterface, "subinterface", "subinterface"},
        {InterfaceKind::tunnel, "tunnel", "tunnel"},
        {InterfaceKind::radio, "radio", "radio"},
    }};
    return words;
}

std::span<const Word<TreeMode>> wordsOf(TreeMode) {
    static constexpr std::array<Word<TreeMode>, 5> words{{
        {TreeMode::automatic, "automatic", "as the device comes"},
        {TreeMode::off, "off", "off"},
        {TreeMode::stp, "stp", "STP"},
        {TreeMode::rstp, "rstp", "RSTP"},
        {TreeMode::mstp, "mstp", "MSTP"},
    }};
    return words;
}

std::span<const Word<Frames>> wordsOf(Frames) {
    static constexpr std::array<Word<Frames>, 3> words{{
        {Frames::all, "all", "all frames"},
        {Frames::tagged, "tagged", "tagged only"},
        {Frames::untagged, "untagged", "untagged only"},
    }};
    return words;
}

std::span<const Word<OspfNetwork>> wordsOf(OspfNetwork) {
    static constexpr std::array<Word<OspfNetwork>, 3> words{{
        {OspfNetwork::automatic, "automatic", "as it is"},
        {OspfNetwork::broadcast, "broadcast", "broadcast"},
        {OspfNetwork::pointToPoint, "point-to-point", "point to point"},
    }};
    return words;
}

std::span<const Word<Protocol>> wordsOf(Protocol) {
    static constexpr std::array<Word<Protocol>, 4> words{{
        {Protocol::any, "any", "any"},
        {Protocol::icmp, "icmp", "ICMP"},
        {Protocol::tcp, "tcp", "TCP"},
        {Protocol::udp, "udp", "UDP"},
    }};
    return words;
}

std::span<const Word<FilterAction>> wordsOf(FilterAction) {
    static constexpr std::array<Word<FilterAction>, 2> words{{
        {FilterAction::allow, "allow", "allow"},
        {FilterAction::refuse, "refuse", "refuse"},
    }};
    return words;
}

std::span<const Word<TranslationKind>> wordsOf(TranslationKind) {
    static constexpr std::array<Word<TranslationKind>, 2> words{{
        {TranslationKind::source, "source", "source"},
        {TranslationKind::destination, "destination", "destination"},
    }};
    return words;
}

std::span<const Word<RingProtocol>> wordsOf(RingProtocol) {
    static constexpr std::array<Word<RingProtocol>, 3> words{{
        {RingProtocol::erps, "erps", "ERPS (ITU-T G.8032)"},
        {RingProtocol::mrp, "mrp", "MRP (IEC 62439-2)"},
        {RingProtocol::hsr, "hsr", "HSR (IEC 62439-3)"},
    }};
    return words;
}

std::span<const Word<RouteOrigin>> wordsOf(RouteOrigin) {
    static constexpr std::array<Word<RouteOrigin>, 5> words{{
        {RouteOrigin::connected, "connected", "connected"},
        {RouteOrigin::fixed, "static", "static"},
        {RouteOrigin::dhcp, "dhcp", "DHCP"},
        {RouteOrigin::ospf, "ospf", "OSPF"},
        {RouteOrigin::bgp, "bgp", "BGP"},
    }};
    return words;
}

std::span<const Word<Origin>> wordsOf(Origin) {
    static constexpr std::array<Word<Origin>, 4> words{{
        {Origin::drawn, "drawn", "drawn"},
        {Origin::imported, "imported", "imported"},
        {Origin::discovered, "discovered", "discovered"},
        {Origin::inferred, "inferred", "inferred"},
    }};
    return words;
}

std::span<const Word<Side>> wordsOf(Side) {
    static constexpr std::array<Word<Side>, 2> words{{
        {Side::front, "front", "front"},
        {Side::rear, "rear", "rear"},
    }};
    return words;
}
std::span<const Word<LineStyle>> wordsOf(LineStyle) {
    static constexpr std::array<Word<LineStyle>, 3> words{{{LineStyle::straight, "straight", "straight"},
                                                           {LineStyle::axes, "axes", "along the axes"},
                                                           {LineStyle::bundled, "bundled", "bundled"}}};
    return words;
}

std::span<const Word<SheetLayer>> wordsOf(SheetLayer) {
    static constexpr std::array<Word<SheetLayer>, 4> words{{
        {SheetLayer::physical, "physical", "physical"},
        {SheetLayer::dataLink, "data-link", "data link"},
        {SheetLayer::network, "network", "network"},
        {SheetLayer::upper, "upper", "upper"},
    }};
    return words;
}

RoleFamily familyOf(Role role) {
    switch (role) {
    case Role::router:
        return RoleFamily::router;
    case Role::switch_:
    case Role::hub:
    case Role::mediaConverter:
    case Role::serialServer:
        return RoleFamily::switch_;
    case Role::firewall:
        return RoleFamily::firewall;
    case Role::accessPoint:
    case Role::radioBridge:
        return RoleFamily::accessPoint;
    case Role::server:
        return RoleFamily::server;
    case Role::patchPanel:
    case Role::outlet:
    case Role::splitter:
        return RoleFamily::patchPanel;
    case Role::provider:
    case Role::power:
        return RoleFamily::provider;
    case Role::workstation:
    case Role::portable:
    case Role::phone:
    case Role::printer:
    case Role::camera:
    case Role::terminal:
    case Role::controller:
    case Role::sensor:
    case Role::unknown:
        return RoleFamily::endpoint;
    }
    return RoleFamily::endpoint;
}

bool isEndpoint(Role role) {
    return role != Role::unknown && (familyOf(role) == RoleFamily::endpoint || role == Role::server);
}

} // namespace underridge::model

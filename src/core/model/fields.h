// SPDX-License-Identifier: GPL-3.0-or-later
// The fields of every record by the names they have in files. Reading, writing, the
// journal and the schema test all go by these lists. `extra` is not listed: it holds what
// these lists do not know.
#pragma once
#include "core/model/network.h"

namespace underridge::model {

template <class Owner, class Value>
struct Field {
    const char* name;
    Value Owner::*member;
};

template <class Record>
struct Fields; ///< `static constexpr auto all`: a tuple of Field

template <class Record>
concept HasFields = requires {
    Fields<Record>::all;
};

/// Calls `each(name, member pointer)` for every field.
template <HasFields Record, class Each>
constexpr void forEachField(Each&& each) {
    std::apply([&](const auto&... field) { (each(field.name, field.member), ...); }, Fields<Record>::all);
}

template <>
struct Fields<Point> {
    static constexpr auto all = std::tuple{Field{"x", &Point::x}, Field{"y", &Point::y}};
};
template <>
struct Fields<NetworkInfo> {
    static constexpr auto all = std::tuple{Field{"id", &NetworkInfo::id},
                                           Field{"name", &NetworkInfo::name},
                                           Field{"note", &NetworkInfo::note},
                                           Field{"slackMm", &NetworkInfo::slackMm},
                                           Field{"marginPercent", &NetworkInfo::marginPercent},
                                           Field{"labels", &NetworkInfo::labels}};
};
template <>
struct Fields<PortBlock> {
    static constexpr auto all = std::tuple{Field{"keys", &PortBlock::keys},
                                           Field{"block", &PortBlock::block},
                                           Field{"use", &PortBlock::use},
                                           Field{"connector", &PortBlock::connector},
                                           Field{"cage", &PortBlock::cage},
                                           Field{"rates", &PortBlock::rates},
                                           Field{"power", &PortBlock::power},
                                           Field{"powerType", &PortBlock::powerType},
                                           Field{"powerClass", &PortBlock::powerClass},
                                           Field{"powerPairs", &PortBlock::powerPairs},
                                           Field{"media", &PortBlock::media},
                                           Field{"side", &PortBlock::side},
                                           Field{"mdi", &PortBlock::mdi},
                                           Field{"passivePower", &PortBlock::passivePower},
                                           Field{"angled", &PortBlock::angled},
                                           Field{"pinned", &PortBlock::pinned},
                                           Field{"wiring", &PortBlock::wiring},
                                           Field{"serialSide", &PortBlock::serialSide},
                                           Field{"bitRate", &PortBlock::bitRate},
                                           Field{"phy", &PortBlock::phy},
                                           Field{"lossDb", &PortBlock::lossDb},
                                           Field{"flipped", &PortBlock::flipped}};
};
template <>
struct Fields<Slot> {
    static constexpr auto all =
        std::tuple{Field{"key", &Slot::key}, Field{"fits", &Slot::fits}, Field{"hotSwap", &Slot::hotSwap}};
};
template <>
struct Fields<DeviceModel> {
    static constexpr auto all = std::tuple{Field{"id", &DeviceModel::id},
                                           Field{"name", &DeviceModel::name},
                                           Field{"role", &DeviceModel::role},
                                           Field{"rackUnits", &DeviceModel::rackUnits},
                                           Field{"ports", &DeviceModel::ports},
                                           Field{"slots", &DeviceModel::slots},
                                           Field{"additional", &DeviceModel::additional},
                                           Field{"additionalMax", &DeviceModel::additionalMax},
                                           Field{"watts", &DeviceModel::watts},
                                           Field{"ratingWatts", &DeviceModel::ratingWatts},
                                           Field{"weightKg", &DeviceModel::weightKg},
                                           Field{"depthMm", &DeviceModel::depthMm},
                                           Field{"halfWidth", &DeviceModel::halfWidth},
                                           Field{"powerBudgetW", &DeviceModel::powerBudgetW},
                                           Field{"midspan", &DeviceModel::midspan}};
};
template <>
struct Fields<ModuleModel> {
    static constexpr auto all = std::tuple{Field{"id", &ModuleModel::id}, Field{"name", &ModuleModel::name},
                                           Field{"ports", &ModuleModel::ports}};
};
template <>
struct Fields<TransceiverModel> {
    static constexpr auto all = std::tuple{Field{"id", &TransceiverModel::id},
                                           Field{"name", &TransceiverModel::name},
                                           Field{"cage", &TransceiverModel::cage},
                                           Field{"connector", &TransceiverModel::connector},
                                           Field{"medium", &TransceiverModel::medium},
                                           Field{"rate", &TransceiverModel::rate},
                                           Field{"phy", &TransceiverModel::phy},
                                           Field{"wavelengthNm", &TransceiverModel::wavelengthNm},
                                           Field{"receiveNm", &TransceiverModel::receiveNm},
                                           Field{"reachMm", &TransceiverModel::reachMm},
                                           Field{"lowerRates", &TransceiverModel::lowerRates},
                                           Field{"lossDb", &TransceiverModel::lossDb},
                                           Field{"minLossDb", &TransceiverModel::minLossDb},
                                           Field{"angled", &TransceiverModel::angled},
                                           Field{"grid", &TransceiverModel::grid}};
};
template <>
struct Fields<CableType> {
    static constexpr auto all = std::tuple{Field{"id", &CableType::id},
                                           Field{"name", &CableType::name},
                                           Field{"medium", &CableType::medium},
                                           Field{"connectorA", &CableType::connectorA},
                                           Field{"connectorB", &CableType::connectorB},
                                           Field{"cage", &CableType::cage},
                                           Field{"cageB", &CableType::cageB},
                                           Field{"farEnds", &CableType::farEnds},
                                           Field{"amperes", &CableType::amperes},
                                           Field{"pinout", &CableType::pinout},
                                           Field{"grade", &CableType::grade},
                                           Field{"positions", &CableType::positions},
                                           Field{"maxRate", &CableType::maxRate},
                                           Field{"maxLengthMm", &CableType::maxLengthMm},
                                           Field{"jacket", &CableType::jacket},
                                           Field{"console", &CableType::console},
                                           Field{"angledA", &CableType::angledA},
                                           Field{"angledB", &CableType::angledB},
                                           Field{"pinnedA", &CableType::pinnedA},
                                           Field{"pinnedB", &CableType::pinnedB},
                                           Field{"lengthsMm", &CableType::lengthsMm},
                                           Field{"diameterMm", &CableType::diameterMm},
                                           Field{"approved", &CableType::approved},
                                           Field{"installed", &CableType::installed},
                                           Field{"socketA", &CableType::socketA},
                                           Field{"socketB", &CableType::socketB}};
};
template <>
struct Fields<Sheet> {
    static constexpr auto all = std::tuple{Field{"id", &Sheet::id},
                                           Field{"name", &Sheet::name},
                                           Field{"order", &Sheet::order},
                                           Field{"layer", &Sheet::layer},
                                           Field{"shows", &Sheet::shows},
                                           Field{"filter", &Sheet::filter},
                                           Field{"filterHides", &Sheet::filterHides},
                                           Field{"lines", &Sheet::lines},
                                           Field{"overlay", &Sheet::overlay},
                                           Field{"portLabels", &Sheet::portLabels},
                                           Field{"linkLabels", &Sheet::linkLabels},
                                           Field{"linksOnDemand", &Sheet::linksOnDemand},
                                           Field{"groups", &Sheet::groups},
                                           Field{"closing", &Sheet::closing},
                                           Field{"racks", &Sheet::racks},
                                           Field{"mmPerUnit", &Sheet::mmPerUnit}};
};
template <>
struct Fields<Provenance> {
    static constexpr auto all =
        std::tuple{Field{"origin", &Provenance::origin}, Field{"source", &Provenance::source},
                   Field{"lastSeen", &Provenance::lastSeen}};
};
template <>
struct Fields<Riser> {
    static constexpr auto all =
        std::tuple{Field{"name", &Riser::name}, Field{"xMm", &Riser::xMm}, Field{"yMm", &Riser::yMm}};
};
template <>
struct Fields<Group> {
    static constexpr auto all = std::tuple{Field{"id", &Group::id},
                                           Field{"name", &Group::name},
                                           Field{"type", &Group::type},
                                           Field{"parent", &Group::parent},
                                           Field{"level", &Group::level},
                                           Field{"plan", &Group::plan},
                                           Field{"planMmPerPixel", &Group::planMmPerPixel},
                                           Field{"planXMm", &Group::planXMm},
                                           Field{"planYMm", &Group::planYMm},
                                           Field{"planTurn", &Group::planTurn},
                                           Field{"planDim", &Group::planDim},
                                           Field{"planInk", &Group::planInk},
                                           Field{"rackUnits", &Group::rackUnits},
                                           Field{"depthMm", &Group::depthMm},
                                           Field{"xMm", &Group::xMm},
                                           Field{"yMm", &Group::yMm},
                                           Field{"heightMm", &Group::heightMm},
                                           Field{"risers", &Group::risers},
                                           Field{"note", &Group::note},
                                           Field{"attributes", &Group::attributes},
                                           Field{"provenance", &Group::provenance}};
};
template <>
struct Fields<FloorPoint> {
    static constexpr auto all = std::tuple{Field{"xMm", &FloorPoint::xMm}, Field{"yMm", &FloorPoint::yMm}};
};
template <>
struct Fields<CableRoute> {
    static constexpr auto all = std::tuple{Field{"id", &CableRoute::id},
                                           Field{"name", &CableRoute::name},
                                           Field{"type", &CableRoute::type},
                                           Field{"floor", &CableRoute::floor},
                                           Field{"points", &CableRoute::points},
                                           Field{"heightMm", &CableRoute::heightMm},
                                           Field{"widthMm", &CableRoute::widthMm},
                                           Field{"depthMm", &CableRoute::depthMm},
                                           Field{"limitPercent", &CableRoute::limitPercent},
                                           Field{"note", &CableRoute::note}};
};
template <>
struct Fields<Vlan> {
    static constexpr auto all = std::tuple{Field{"id", &Vlan::id}, Field{"number", &Vlan::number},
                                           Field{"name", &Vlan::name}, Field{"scope", &Vlan::scope}};
};
template <>
struct Fields<Subnet> {
    static constexpr auto all = std::tuple{Field{"id", &Subnet::id},
                                           Field{"prefix", &Subnet::prefix},
                                           Field{"name", &Subnet::name},
                                           Field{"vlan", &Subnet::vlan},
                                           Field{"vrf", &Subnet::vrf},
                                           Field{"gateway", &Subnet::gateway},
                                           Field{"dhcpServers", &Subnet::dhcpServers}};
};
template <>
struct Fields<Service> {
    static constexpr auto all =
        std::tuple{Field{"id", &Service::id}, Field{"name", &Service::name}, Field{"users", &Service::users},
                   Field{"providers", &Service::providers}, Field{"note", &Service::note}};
};
template <>
struct Fields<FittedModule> {
    static constexpr auto all =
        std::tuple{Field{"slot", &FittedModule::slot}, Field{"model", &FittedModule::model},
                   Field{"serial", &FittedModule::serial}};
};
template <>
struct Fields<FittedTransceiver> {
    static constexpr auto all =
        std::tuple{Field{"port", &FittedTransceiver::port}, Field{"model", &FittedTransceiver::model},
                   Field{"serial", &FittedTransceiver::serial}};
};
template <>
struct Fields<Place> {
    static constexpr auto all = std::tuple{Field{"in", &Place::in},     Field{"xMm", &Place::xMm},
                                           Field{"yMm", &Place::yMm},   Field{"heightMm", &Place::heightMm},
                                           Field{"unit", &Place::unit}, Field{"side", &Place::side},
                                           Field{"half", &Place::half}};
};
template <>
struct Fields<Chassis> {
    static constexpr auto all =
        std::tuple{Field{"number", &Chassis::number}, Field{"model", &Chassis::model},
                   Field{"serial", &Chassis::serial}, Field{"place", &Chassis::place}};
};
template <>
struct Fields<VlanRange> {
    static constexpr auto all =
        std::tuple{Field{"first", &VlanRange::first}, Field{"last", &VlanRange::last}};
};
template <>
struct Fields<TreeInstance> {
    static constexpr auto all =
        std::tuple{Field{"number", &TreeInstance::number}, Field{"vlans", &TreeInstance::vlans},
                   Field{"priority", &TreeInstance::priority}};
};
template <>
struct Fields<SpanningTree> {
    static constexpr auto all =
        std::tuple{Field{"mode", &SpanningTree::mode},         Field{"priority", &SpanningTree::priority},
                   Field{"address", &SpanningTree::address},   Field{"region", &SpanningTree::region},
                   Field{"revision", &SpanningTree::revision}, Field{"instances", &SpanningTree::instances}};
};
template <>
struct Fields<PortTree> {
    static constexpr auto all =
        std::tuple{Field{"cost", &PortTree::cost},           Field{"priority", &PortTree::priority},
                   Field{"number", &PortTree::number},       Field{"edge", &PortTree::edge},
                   Field{"rootGuard", &PortTree::rootGuard}, Field{"bpduGuard", &PortTree::bpduGuard}};
};
template <>
struct Fields<Ospf> {
    static constexpr auto all =
        std::tuple{Field{"routerId", &Ospf::routerId}, Field{"redistribute", &Ospf::redistribute},
                   Field{"tellsDefault", &Ospf::tellsDefault}};
};
template <>
struct Fields<OspfInterface> {
    static constexpr auto all =
        std::tuple{Field{"area", &OspfInterface::area}, Field{"cost", &OspfInterface::cost},
                   Field{"passive", &OspfInterface::passive}, Field{"network", &OspfInterface::network}};
};
template <>
struct Fields<BgpNeighbour> {
    static constexpr auto all =
        std::tuple{Field{"address", &BgpNeighbour::address}, Field{"as", &BgpNeighbour::as}};
};
template <>
struct Fields<Bgp> {
    static constexpr auto all = std::tuple{
        Field{"as", &Bgp::as}, Field{"routerId", &Bgp::routerId}, Field{"neighbours", &Bgp::neighbours},
        Field{"networks", &Bgp::networks}, Field{"redistribute", &Bgp::redistribute}};
};
template <>
struct Fields<Vrrp> {
    static constexpr auto all = std::tuple{Field{"group", &Vrrp::group}, Field{"address", &Vrrp::address},
                                           Field{"priority", &Vrrp::priority}};
};
template <>
struct Fields<PortRange> {
    static constexpr auto all =
        std::tuple{Field{"first", &PortRange::first}, Field{"last", &PortRange::last}};
};
template <>
struct Fields<FilterRule> {
    static constexpr auto all =
        std::tuple{Field{"name", &FilterRule::name},     Field{"from", &FilterRule::from},
                   Field{"to", &FilterRule::to},         Field{"fromZone", &FilterRule::fromZone},
                   Field{"toZone", &FilterRule::toZone}, Field{"protocol", &FilterRule::protocol},
                   Field{"ports", &FilterRule::ports},   Field{"action", &FilterRule::action}};
};
template <>
struct Fields<PacketFilter> {
    static constexpr auto all =
        std::tuple{Field{"rules", &PacketFilter::rules}, Field{"stateless", &PacketFilter::stateless}};
};
template <>
struct Fields<Translation> {
    static constexpr auto all =
        std::tuple{Field{"type", &Translation::type}, Field{"from", &Translation::from},
                   Field{"to", &Translation::to}, Field{"out", &Translation::out}};
};
template <>
struct Fields<PowerFeed> {
    static constexpr auto all =
        std::tuple{Field{"supply", &PowerFeed::supply}, Field{"from", &PowerFeed::from},
                   Field{"outlet", &PowerFeed::outlet}, Field{"mains", &PowerFeed::mains},
                   Field{"cable", &PowerFeed::cable}};
};
template <>
struct Fields<Device> {
    static constexpr auto all = std::tuple{Field{"id", &Device::id},
                                           Field{"name", &Device::name},
                                           Field{"model", &Device::model},
                                           Field{"group", &Device::group},
                                           Field{"outside", &Device::outside},
                                           Field{"modules", &Device::modules},
                                           Field{"transceivers", &Device::transceivers},
                                           Field{"stack", &Device::stack},
                                           Field{"added", &Device::added},
                                           Field{"learned", &Device::learned},
                                           Field{"place", &Device::place},
                                           Field{"feeds", &Device::feeds},
                                           Field{"pairedWith", &Device::pairedWith},
                                           Field{"watts", &Device::watts},
                                           Field{"vlanAware", &Device::vlanAware},
                                           Field{"routing", &Device::routing},
                                           Field{"spanningTree", &Device::spanningTree},
                                           Field{"ospf", &Device::ospf},
                                           Field{"bgp", &Device::bgp},
                                           Field{"filter", &Device::filter},
                                           Field{"translations", &Device::translations},
                                           Field{"serial", &Device::serial},
                                           Field{"note", &Device::note},
                                           Field{"startUp", &Device::startUp},
                                           Field{"attributes", &Device::attributes},
                                           Field{"provenance", &Device::provenance}};
};
template <>
struct Fields<PortRef> {
    static constexpr auto all = std::tuple{Field{"device", &PortRef::device}, Field{"port", &PortRef::port}};
};
template <>
struct Fields<Port> {
    static constexpr auto all = std::tuple{Field{"device", &Port::device},
                                           Field{"port", &Port::port},
                                           Field{"label", &Port::label},
                                           Field{"note", &Port::note},
                                           Field{"disabled", &Port::disabled},
                                           Field{"reserved", &Port::reserved},
                                           Field{"speed", &Port::speed},
                                           Field{"duplex", &Port::duplex},
                                           Field{"breakout", &Port::breakout},
                                           Field{"powerOff", &Port::powerOff},
                                           Field{"fec", &Port::fec},
                                           Field{"givesClock", &Port::givesClock},
                                           Field{"attributes", &Port::attributes}};
};
template <>
struct Fields<Interface> {
    static constexpr auto all = std::tuple{Field{"id", &Interface::id},
                                           Field{"device", &Interface::device},
                                           Field{"type", &Interface::type},
                                           Field{"name", &Interface::name},
                                           Field{"port", &Interface::port},
                                           Field{"parent", &Interface::parent},
                                           Field{"members", &Interface::members},
                                           Field{"addresses", &Interface::addresses},
                                           Field{"mac", &Interface::mac},
                                           Field{"vrf", &Interface::vrf},
                                           Field{"untagged", &Interface::untagged},
                                           Field{"tagged", &Interface::tagged},
                                           Field{"taggedRanges", &Interface::taggedRanges},
                                           Field{"untaggedToo", &Interface::untaggedToo},
                                           Field{"voice", &Interface::voice},
                                           Field{"frames", &Interface::frames},
                                           Field{"zone", &Interface::zone},
                                           Field{"mtu", &Interface::mtu},
                                           Field{"lacp", &Interface::lacp},
                                           Field{"disabled", &Interface::disabled},
                                           Field{"dhcp", &Interface::dhcp},
                                           Field{"dhcpRelay", &Interface::dhcpRelay},
                                           Field{"spanningTree", &Interface::spanningTree},
                                           Field{"ospf", &Interface::ospf},
                                           Field{"vrrp", &Interface::vrrp}};
};
template <>
struct Fields<Route> {
    static constexpr auto all = std::tuple{Field{"id", &Route::id},
                                           Field{"device", &Route::device},
                                           Field{"to", &Route::to},
                                           Field{"via", &Route::via},
                                           Field{"vrf", &Route::vrf},
                                           Field{"metric", &Route::metric},
                                           Field{"discards", &Route::discards}};
};
template <>
struct Fields<Party> {
    static constexpr auto all =
        std::tuple{Field{"device", &Party::device}, Field{"group", &Party::group},
                   Field{"address", &Party::address}, Field{"filter", &Party::filter}};
};
template <>
struct Fields<ObjectRef> {
    static constexpr auto all = std::tuple{Field{"object", &ObjectRef::id}, Field{"of", &ObjectRef::kind}};
};
template <>
struct Fields<SetAside> {
    static constexpr auto all = std::tuple{Field{"id", &SetAside::id},
                                           Field{"rule", &SetAside::rule},
                                           Field{"subjects", &SetAside::subjects},
                                           Field{"reason", &SetAside::reason},
                                           Field{"date", &SetAside::date},
                                           Field{"until", &SetAside::until}};
};
template <>
struct Fields<Statement> {
    static constexpr auto all = std::tuple{Field{"id", &Statement::id},
                                           Field{"name", &Statement::name},
                                           Field{"from", &Statement::from},
                                           Field{"to", &Statement::to},
                                           Field{"protocol", &Statement::protocol},
                                           Field{"port", &Statement::port},
                                           Field{"never", &Statement::never}};
};
template <>
struct Fields<Ring> {
    static constexpr auto all = std::tuple{
        Field{"id", &Ring::id},       Field{"name", &Ring::name},   Field{"protocol", &Ring::protocol},
        Field{"links", &Ring::links}, Field{"owner", &Ring::owner}, Field{"blocked", &Ring::blocked},
        Field{"vlans", &Ring::vlans}};
};
template <>
struct Fields<PanelMap> {
    static constexpr auto all =
        std::tuple{Field{"device", &PanelMap::device}, Field{"front", &PanelMap::front},
                   Field{"frontPosition", &PanelMap::frontPosition}, Field{"rear", &PanelMap::rear},
                   Field{"rearPosition", &PanelMap::rearPosition}};
};
template <>
struct Fields<CableEnd> {
    static constexpr auto all =
        std::tuple{Field{"at", &CableEnd::at}, Field{"positions", &CableEnd::positions}};
};
template <>
struct Fields<Measured> {
    static constexpr auto all = std::tuple{Field{"what", &Measured::what}, Field{"value", &Measured::value},
                                           Field{"limit", &Measured::limit}, Field{"unit", &Measured::unit}};
};
template <>
struct Fields<Cable> {
    static constexpr auto all = std::tuple{Field{"id", &Cable::id},
                                           Field{"type", &Cable::type},
                                           Field{"jacket", &Cable::jacket},
                                           Field{"lengthMm", &Cable::lengthMm},
                                           Field{"lengthMeasured", &Cable::lengthMeasured},
                                           Field{"label", &Cable::label},
                                           Field{"status", &Cable::status},
                                           Field{"ends", &Cable::ends},
                                           Field{"measured", &Cable::measured},
                                           Field{"note", &Cable::note}};
};
template <>
struct Fields<Link> {
    static constexpr auto all = std::tuple{Field{"id", &Link::id},
                                           Field{"a", &Link::a},
                                           Field{"b", &Link::b},
                                           Field{"cable", &Link::cable},
                                           Field{"positions", &Link::positions},
                                           Field{"medium", &Link::medium},
                                           Field{"console", &Link::console},
                                           Field{"onlyOn", &Link::onlyOn},
                                           Field{"over", &Link::over},
                                           Field{"note", &Link::note},
                                           Field{"attributes", &Link::attributes},
                                           Field{"provenance", &Link::provenance}};
};
template <>
struct Fields<Position> {
    static constexpr auto all =
        std::tuple{Field{"sheet", &Position::sheet},   Field{"object", &Position::object},
                   Field{"of", &Position::of},         Field{"at", &Position::at},
                   Field{"width", &Position::width},   Field{"height", &Position::height},
                   Field{"folded", &Position::folded}, Field{"pinned", &Position::pinned},
                   Field{"tucks", &Position::tucks},   Field{"bends", &Position::bends}};
};
template <>
struct Fields<Note> {
    static constexpr auto all = std::tuple{Field{"id", &Note::id},         Field{"sheet", &Note::sheet},
                                           Field{"text", &Note::text},     Field{"zone", &Note::zone},
                                           Field{"behind", &Note::behind}, Field{"outline", &Note::outline},
                                           Field{"group", &Note::group}};
};
template <>
struct Fields<Asset> {
    static constexpr auto all = std::tuple{Field{"id", &Asset::id},         Field{"part", &Asset::part},
                                           Field{"media", &Asset::media},   Field{"width", &Asset::width},
                                           Field{"height", &Asset::height}, Field{"data", &Asset::data}};
};

} // namespace underridge::model

// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/wiring.h"

#include "core/linking/chain.h"
#include "core/linking/channel.h"
#include "core/model/vlans.h"

#include <algorithm>
#include <numeric>

namespace underridge::analysis {
using namespace model;
namespace {

std::uint64_t mixed(const PortRef& port) {
    return port.device.value * 0x9e3779b97f4a7c15ULL ^ fnv1a(port.port);
}

/// Roles whose devices pass frames on by their nature.
bool bridgesByRole(Role role) {
    return role == Role::switch_ || role == Role::hub || role == Role::accessPoint ||
           role == Role::radioBridge || role == Role::mediaConverter;
}
bool routesByRole(Role role) {
    return role == Role::router || role == Role::firewall || role == Role::provider;
}

TreeMode modeOf(const Station& station, TreeMode said) {
    if (station.role == Role::hub || !station.bridges)
        return TreeMode::off;
    if (said != TreeMode::automatic)
        return said;
    return station.vlanAware && station.role == Role::switch_ ? TreeMode::rstp : TreeMode::off;
}

bool stands(const Interface& interface) {
    return interface.type == InterfaceKind::physical || interface.type == InterfaceKind::radio;
}

/// What may be another without anything being joined otherwise.
Interface withSettingsOf(Interface to, const Interface& from) {
    to.spanningTree = from.spanningTree;
    to.untagged = from.untagged;
    to.tagged = from.tagged;
    to.taggedRanges = from.taggedRanges;
    to.untaggedToo = from.untaggedToo;
    to.voice = from.voice;
    to.frames = from.frames;
    return to;
}

} // namespace

bool routes(const Network& network, const Device& device) {
    return device.routing || routesByRole(roleOf(network, device));
}

Plant::Plant(Network network, const Without& without) : network_(std::move(network)) {
    addStations(without);
    pairUp();
    addPorts();
    join(without);
    sortPorts();
    decideBridging();
}

int Plant::stationOf(DeviceId device) const {
    const auto at = stationOf_.find(device.value);
    return at == stationOf_.end() ? -1 : at->second;
}

int Plant::portAt(const PortRef& port) const {
    const auto at = portAt_.find(mixed(port));
    return at == portAt_.end() ? -1 : at->second;
}

int Plant::portOf(const Interface& interface) const {
    if (interface.type == InterfaceKind::lag)
        return interface.members.empty() ? -1 : portAt({interface.device, interface.members.front()});
    if (!interface.port.empty())
        return portAt({interface.device, interface.port});
    const Interface* parent = interface.parent
                                  ? network_.find<Interface>({interface.device.value, interface.parent.value})
                                  : nullptr;
    return parent && parent != &interface && !parent->parent ? portOf(*parent) : -1;
}

void Plant::addStations(const Without& without) {
    stationOf_.reserve(network_.all<Device>().size());
    stations_.reserve(network_.all<Device>().size());
    network_.all<Device>().forEach([&](const Device& device) {
        if (without.contains(refTo(device.id)) || linking::isPassive(network_, device))
            return;
        Station station;
        station.device = &device;
        station.role = roleOf(network_, device);
        station.routes = routes(network_, device);
        stationOf_[device.id.value] = static_cast<int>(stations_.size());
        stations_.push_back(std::move(station));
    });
}

/// The logical port of a port, made when it is not there yet.
int Plant::portFor(int station, const PortRef& ref) {
    const auto [at, fresh] = portAt_.try_emplace(mixed(ref), static_cast<int>(ports_.size()));
    if (fresh) {
        LogicalPort port;
        port.station = station;
        port.name = ref.port;
        port.members = {ref};
        ports_.push_back(std::move(port));
        settings_.push_back(nullptr);
    }
    return at->second;
}

void Plant::addPorts() {
    const std::size_t most = network_.all<Interface>().size() + 2 * network_.all<Link>().size();
    portAt_.reserve(most);
    ports_.reserve(most);
    network_.all<Interface>().forEach([&](const Interface& interface) {
        const int at = stationOf(interface.device);
        if (at < 0)
            return;
        if (interface.type == InterfaceKind::lag && !interface.members.empty()) {
            const int index = static_cast<int>(ports_.size());
            LogicalPort port;
            port.station = at;
            port.name = interface.name.empty() ? interface.members.front() : interface.name;
            for (const std::string& member : interface.members) {
                const PortRef ref{interface.device, member};
                if (portAt_.try_emplace(mixed(ref), index).second)
                    port.members.push_back(ref);
            }
            if (port.members.empty())
                return;
            ports_.push_back(std::move(port));
            settings_.push_back(&interface);
        }
    });
    // A port that is a member of a LAG has nothing of its own.
    network_.all<Interface>().forEach([&](const Interface& interface) {
        const int at = stationOf(interface.device);
        if (at < 0 || !stands(interface) || interface.port.empty())
            return;
        const Interface*& settings =
            settings_[static_cast<std::size_t>(portFor(at, {interface.device, interface.port}))];
        if (!settings)
            settings = &interface;
    });
}

bool Plant::isDown(const PortRef& ref) const {
    const Port* record = network_.port(ref);
    if (record && record->disabled)
        return true;
    const int at = portAt(ref);
    const Interface* settings = at < 0 ? nullptr : settings_[static_cast<std::size_t>(at)];
    return settings && settings->disabled;
}

/// A cable's way between two ports, panels passed.
struct Plant::Join {
    PortRef a, b;
    LinkId atA, atB;
    int portA = -1, portB = -1;
    bool up = false;
};

void Plant::join(const Without& without) {
    std::vector<Join> joins;
    std::set<std::pair<PortRef, PortRef>> walked;
    network_.all<Link>().forEach([&](const Link& link) {
        if (link.console || link.isUpper() || without.contains(refTo(link.id)) || !link.a.known() ||
            !link.b.known() || link.a == link.b)
            return;
        const int a = stationOf(link.a.device), b = stationOf(link.b.device);
        if (a >= 0 && b >= 0) {
            joins.push_back({link.a, link.b, link.id, link.id, -1, -1, false});
            return;
        }
        for (const auto& [from, station] : {std::pair(link.a, a), std::pair(link.b, b)}) {
            if (station < 0)
                continue;
            const auto way = linking::outward(network_, from);
            if (way.empty() || stationOf(way.back().to.device) < 0 || way.back().to == from ||
                std::any_of(way.begin(), way.end(), [&](const linking::Stretch& stretch) {
                    return without.contains(refTo(stretch.link)) ||
                           without.contains(refTo(stretch.to.device));
                }))
                continue;
            const PortRef far = way.back().to;
            if (walked.insert(std::minmax(from, far)).second)
                joins.push_back({from, far, way.front().link, way.back().link, -1, -1, false});
        }
    });
    // Which peers each logical port has, with how many of its members.
    for (Join& each : joins) {
        each.portA = portFor(stationOf(each.a.device), each.a);
        each.portB = portFor(stationOf(each.b.device), each.b);
        each.up = !isDown(each.a) && !isDown(each.b);
    }
    std::vector<std::vector<std::pair<int, bool>>> candidates(ports_.size()); // peer, whether up
    for (const Join& each : joins) {
        candidates[static_cast<std::size_t>(each.portA)].push_back({each.portB, each.up});
        candidates[static_cast<std::size_t>(each.portB)].push_back({each.portA, each.up});
    }
    // One peer each; of a LAG that goes to several, the one most of its members go to. A
    // shared port is there once more for each further one that is joined to it.
    std::vector<int> choice(ports_.size(), -1);
    for (std::size_t at = 0; at < candidates.size(); ++at) {
        const auto& ends = candidates[at];
        if (ends.empty())
            continue;
        const auto count = [&](int peer) {
            return std::count(ends.begin(), ends.end(), std::pair(peer, true));
        };
        int best = ends.front().first;
        for (const auto& [peer, up] : ends)
            if (ends.size() > 1 && count(peer) > count(best))
                best = peer;
        choice[at] = best;
    }
    const auto chosen = [&](int at) {
        return static_cast<std::size_t>(at) < choice.size() ? choice[static_cast<std::size_t>(at)] : -1;
    };
    const auto meet = [&](int a, int b, const Join& each, bool turned) {
        LogicalPort& port = ports_[static_cast<std::size_t>(a)];
        if (port.peer < 0 || chosen(a) == b) // of a pair the one most lead to
            port.peer = b;
        port.up |= each.up;
        if (each.up)
            port.links.push_back(turned ? each.atB : each.atA);
    };
    for (const Join& each : joins) {
        const int a = each.portA, b = each.portB;
        const auto separate = [&](int at, int peer, const PortRef& ref) {
            const int best = chosen(at);
            if (best == peer || station(port(best).station).pair == port(peer).station)
                return at;
            const auto view = model::portAt(network_, ref);
            const bool splits = port(at).members.size() == 1 && (!view || view->isShared() || view->learned ||
                                                                 mediumOf(*view) == Medium::singleMode);
            if (!splits)
                return -1;
            LogicalPort copy = port(at);
            copy.peer = -1;
            copy.up = false;
            copy.links.clear();
            ports_.push_back(std::move(copy));
            settings_.push_back(settings_[static_cast<std::size_t>(at)]);
            return static_cast<int>(ports_.size()) - 1;
        };
        const int mine = separate(a, b, each.a), theirs = separate(b, a, each.b);
        if (mine < 0 || theirs < 0)
            continue;
        meet(mine, theirs, each, false);
        meet(theirs, mine, each, true);
    }
}

/// An order that does not follow from which of them are set, or joined, first.
void Plant::sortPorts() {
    std::vector<int> order(ports_.size());
    std::iota(order.begin(), order.end(), 0);
    std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
        const LogicalPort &x = port(a), &y = port(b);
        return x.station != y.station ? x.station < y.station : x.name < y.name;
    });
    std::vector<int> now(ports_.size());
    for (std::size_t i = 0; i < order.size(); ++i)
        now[at(order[i])] = static_cast<int>(i);
    std::vector<LogicalPort> ports;
    std::vector<const Interface*> settings;
    ports.reserve(ports_.size());
    settings.reserve(ports_.size());
    for (const int was : order) {
        ports.push_back(std::move(ports_[at(was)]));
        settings.push_back(settings_[at(was)]);
        if (ports.back().peer >= 0)
            ports.back().peer = now[at(ports.back().peer)];
    }
    ports_ = std::move(ports);
    settings_ = std::move(settings);
    for (auto& [key, index] : portAt_)
        index = now[at(index)];
}

void Plant::rank(std::vector<int> ports) {
    std::stable_sort(ports.begin(), ports.end(),
                     [&](int a, int b) { return naturalLess(port(a).name, port(b).name); });
    for (std::size_t i = 0; i < ports.size(); ++i)
        ports_[at(ports[i])].rank = static_cast<int>(i);
}

/// What each device does with frames: by its role, and by what is set on its ports.
void Plant::decideBridging() {
    std::set<std::pair<std::uint64_t, std::uint64_t>> parents; // of subinterfaces
    std::vector<bool> sets(stations_.size(), false);           // VLANs on a port
    network_.all<Interface>().forEach([&](const Interface& each) {
        if (each.type == InterfaceKind::subinterface && each.parent)
            parents.insert({each.device.value, each.parent.value});
        const int at = stationOf(each.device);
        if (at >= 0 && (stands(each) || each.type == InterfaceKind::lag) && saysVlans(each))
            sets[static_cast<std::size_t>(at)] = true;
    });
    const std::set<int> ringPorts = portsOfRings();
    std::vector<int> upPorts(stations_.size(), 0);
    std::vector<int> ofRings(stations_.size(), 0);
    for (const int port : ringPorts)
        ++ofRings[static_cast<std::size_t>(ports_[static_cast<std::size_t>(port)].station)];
    for (std::size_t i = 0; i < ports_.size(); ++i) {
        const auto at = static_cast<std::size_t>(ports_[i].station);
        stations_[at].ports.push_back(static_cast<int>(i));
        upPorts[at] += ports_[i].up;
    }
    for (std::size_t i = 0; i < stations_.size(); ++i) {
        Station& station = stations_[i];
        const bool hasSwitch = station.role == Role::phone && upPorts[i] > 1;
        // A controller, say, with two ports in a ring passes on what goes round.
        const bool isNode = ofRings[i] > 1 && !bridgesByRole(station.role) && !station.routes;
        station.bridges = bridgesByRole(station.role) || hasSwitch || isNode;
        station.plain = station.bridges && !sets[i];
        // Others than switches look at tags only where somebody has set VLANs on them.
        station.vlanAware = station.device->vlanAware && station.role != Role::hub && !hasSwitch && !isNode &&
                            (!station.bridges || station.role == Role::switch_ || sets[i]);
        rank(station.ports);
        for (const int index : station.ports) {
            LogicalPort& port = ports_[static_cast<std::size_t>(index)];
            const Interface* settings = settings_[static_cast<std::size_t>(index)];
            const bool routed = settings && !settings->addresses.empty() && !saysVlans(*settings);
            // Of a router those with VLANs that no subinterface stands on.
            port.bridged = isNode ? ringPorts.contains(index)
                           : station.bridges
                               ? !(station.vlanAware && routed)
                               : settings && saysVlans(*settings) && !isEndpoint(station.role) &&
                                     !parents.contains({settings->device.value, settings->id.value});
        }
        station.bridges =
            station.bridges || std::any_of(station.ports.begin(), station.ports.end(), [&](int port) {
                return ports_[static_cast<std::size_t>(port)].bridged;
            });
    }
}

std::pair<int, int> Plant::portsJoinedBy(LinkId id) const {
    const Link* link = network_.link(id);
    if (!link || !link->a.known() || !link->b.known())
        return {-1, -1};
    const auto chain = linking::chainThrough(network_, link->a);
    const int a = chain.whole() ? portAt(chain.a) : -1, b = chain.whole() ? portAt(chain.b) : -1;
    return a < 0 || b < 0 ? std::pair(-1, -1) : std::pair(a, b);
}

std::set<int> Plant::portsOfRings() const {
    std::set<int> out;
    network_.all<Ring>().forEach([&](const Ring& ring) {
        for (const LinkId id : ring.links)
            if (const auto [a, b] = portsJoinedBy(id); a >= 0)
                out.insert({a, b});
    });
    return out;
}

void Plant::pairUp() {
    for (Station& station : stations_) {
        const DeviceId other = station.device->pairedWith;
        const int at = other ? stationOf(other) : -1;
        if (at >= 0 && this->station(at).device->pairedWith == station.device->id)
            station.pair = at;
    }
}

Wiring::Wiring(Network network, const Without& without)
    : plant_(std::make_shared<const Plant>(std::move(network), without)),
      network_(plant_->network()),
      settings_(plant_->settings()) {
    trees_.reserve(stations().size());
    for (const Station& station : stations())
        trees_.push_back(modeOf(station, station.device->spanningTree->mode));
}

Wiring::Wiring(const Wiring& before, Network network, const std::vector<Key>& interfaces,
               const std::vector<DeviceId>& trees)
    : plant_(before.plant_),
      network_(std::move(network)),
      settings_(plant_->settings()),
      trees_(before.trees_),
      changed_(before.changed_) {
    for (const DeviceId id : trees)
        if (const int station = stationOf(id); station >= 0)
            trees_[at(station)] = modeOf(this->station(station), treeSettingsOf(station).mode);
    changed_.insert(interfaces.begin(), interfaces.end());
    for (const Key& key : changed_) { // those changed earlier too: they point to what is no more
        const Interface* was = plant_->network().find<Interface>(key);
        const Interface* now = network_.find<Interface>(key);
        if (!was && !now)
            continue;
        const int port = portOf(was ? *was : *now);
        if (port < 0 || plant_->settings()[at(port)] != was)
            continue; // a member of a LAG has nothing of its own
        for (const int each : station(this->port(port).station).ports)
            if (plant_->settings()[at(each)] == was && this->port(each).members == this->port(port).members)
                settings_[at(each)] = now;
    }
}

const SpanningTree& Wiring::treeSettingsOf(int index) const {
    return *network_.device(station(index).device->id)->spanningTree;
}

bool Wiring::bearsOther(const Interface* before, const Interface* now, const Network& after) const {
    const Interface& any = now ? *now : *before;
    if (!(stands(any) || any.type == InterfaceKind::lag) || !any.addresses.empty() || !any.vrrp.empty())
        return false;
    if (before && now) {
        if (!(withSettingsOf(*now, *before) == *before))
            return false;
    } else { // it says nothing else
        Interface plain;
        plain.id = any.id;
        plain.device = any.device;
        plain.type = any.type;
        plain.name = any.name;
        plain.port = any.port;
        if (any.type == InterfaceKind::lag || !(withSettingsOf(std::move(plain), any) == any))
            return false;
    }
    const int port = portOf(any);
    const bool said = before && saysVlans(*before), says = now && saysVlans(*now);
    if (port < 0) // neither joined nor set
        return !says && !said;
    if (said == says && before && now)
        return true;
    // A switch that has VLANs on some port looks at tags on all; of two on one port the first counts.
    const bool ofVlans = said || says;
    const auto staysSo = [&](const Network& network) {
        bool hasVlans = !ofVlans;
        int onPort = 0;
        network.all<Interface>().forEachIn(any.device.value, [&](const Interface& each) {
            hasVlans |= (stands(each) || each.type == InterfaceKind::lag) && saysVlans(each);
            onPort += stands(each) && each.port == any.port;
        });
        return hasVlans && onPort <= 1;
    };
    const LogicalPort& held = this->port(port);
    return (!ofVlans || bridgesByRole(station(held.station).role)) && held.members.size() == 1 &&
           !held.links.empty() && staysSo(network_) && staysSo(after);
}

int Wiring::speedOf(int index) const {
    int speed = 0;
    for (const LinkId id : port(index).links) {
        const Link* link = network_.link(id);
        const bool direct = stationOf(link->a.device) >= 0 && stationOf(link->b.device) >= 0;
        int own = 0;
        if (direct) {
            own = model::speedOf(network_, *link);
        } else {
            const PortRef& near = stationOf(link->a.device) == port(index).station ? link->a : link->b;
            const auto channel = linking::channelOf(network_, linking::chainThrough(network_, near));
            own = channel.ends[0].port && channel.ends[1].port ? linking::rateOf(channel) : 0;
        }
        speed += own;
    }
    return speed;
}

bool Membership::isTagged(int vlan) const {
    return std::any_of(tagged.begin(), tagged.end(), [&](VlanRange range) { return range.contains(vlan); });
}
bool Membership::carries(int vlan) const {
    return vlan == pvid || isTagged(vlan) ||
           std::find(untaggedToo.begin(), untaggedToo.end(), vlan) != untaggedToo.end();
}
int Membership::leavesAs(int vlan) const {
    if (vlan == pvid || std::find(untaggedToo.begin(), untaggedToo.end(), vlan) != untaggedToo.end())
        return 0;
    return isTagged(vlan) ? vlan : -1;
}
int Membership::takenAs(int tag) const {
    if (tag == 0)
        return frames == Frames::tagged ? 0 : pvid;
    return frames != Frames::untagged && carries(tag) ? tag : 0;
}

Membership membershipOf(const Wiring& wiring, int port) {
    Membership out;
    if (wiring.station(wiring.port(port).station).plain) {
        out.pvid = 1;
        return out;
    }
    const Interface* settings = wiring.settingsOf(port);
    if (!settings)
        return out;
    const Network& network = wiring.network();
    out.pvid = numberOf(network, settings->untagged);
    out.frames = settings->frames;
    for (const VlanId vlan : settings->untaggedToo)
        if (const int number = numberOf(network, vlan))
            out.untaggedToo.push_back(number);
    const auto tag = [&](VlanId vlan) {
        if (const int number = numberOf(network, vlan))
            out.tagged.push_back({number, number});
    };
    for (const VlanId vlan : settings->tagged)
        tag(vlan);
    tag(settings->voice);
    out.tagged.insert(out.tagged.end(), settings->taggedRanges.begin(), settings->taggedRanges.end());
    std::sort(out.tagged.begin(), out.tagged.end(), [](VlanRange a, VlanRange b) {
        return std::pair(a.first, a.last) < std::pair(b.first, b.last);
    });
    return out;
}

} // namespace underridge::analysis

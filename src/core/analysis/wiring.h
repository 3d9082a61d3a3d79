// SPDX-License-Identifier: GPL-3.0-or-later
// Which port really meets which: panels and midspans passed, links of a LAG as one, and
// what each device does with a frame. What everything else of analysis stands on.
#pragma once
#include "core/model/network.h"
#include "core/model/ports.h"

#include <memory>
#include <set>
#include <span>
#include <unordered_map>

namespace underridge::analysis {

/// Of a station, a port or an interface, to look it up with; it must not be -1.
inline std::size_t at(int index) {
    return static_cast<std::size_t>(index);
}

/// A port as a frame meets it: one of the device, or a LAG with its members. A shared port
/// (the radio of an access point) is there once for each that is joined to it.
struct LogicalPort {
    int station = 0;                     ///< index in Wiring::stations()
    std::string name;                    ///< the LAG's, else the port's
    std::vector<model::PortRef> members; ///< those in use first; one when it is no LAG
    int peer = -1;                       ///< index of the port at the other end; -1: none
    std::vector<model::LinkId> links;    ///< in use, of each the one at this end
    int rank = 0;                        ///< among those of its station, by name as people count
    bool bridged = false;                ///< frames are passed on between it and others
    bool up = false;                     ///< has a peer, and nothing is disabled at either end
};

/// A device as it treats frames and packets.
struct Station {
    const model::Device* device = nullptr;
    model::Role role = model::Role::unknown;
    bool bridges = false;   ///< it has bridged ports
    bool vlanAware = false; ///< it looks at tags (IEEE 802.1Q); else frames go on as they came
    bool routes = false;    ///< it forwards packets
    bool plain = false;     ///< a switch nobody has set a VLAN on: every port is in VLAN 1
    std::vector<int> ports; ///< indices of its logical ports, in the order of their names
    int pair = -1;          ///< the other station of a multi-chassis pair
};

/// Whether a device forwards packets: by its role, or because somebody says so.
bool routes(const model::Network& network, const model::Device& device);

/// What is taken away before looking: devices and links that have failed.
using Without = std::set<model::ObjectRef>;

/// Devices, and which of their ports meet. Pointers in it are into the network it keeps.
class Plant {
public:
    Plant(model::Network network, const Without& without);

    const model::Network& network() const { return network_; }
    const std::vector<Station>& stations() const { return stations_; }
    /// In the order of stations, then of their names.
    const std::vector<LogicalPort>& ports() const { return ports_; }
    /// By port; see Wiring::settingsOf().
    const std::vector<const model::Interface*>& settings() const { return settings_; }
    int stationOf(model::DeviceId device) const;
    int portAt(const model::PortRef& port) const;
    int portOf(const model::Interface& interface) const;
    std::pair<int, int> portsJoinedBy(model::LinkId link) const;

private:
    struct Join;
    void addStations(const Without& without);
    void addPorts();
    void join(const Without& without);
    void sortPorts();
    void decideBridging();
    void rank(std::vector<int> ports);
    void pairUp();
    std::set<int> portsOfRings() const;
    bool isDown(const model::PortRef& port) const;
    int portFor(int station, const model::PortRef& port);
    const Station& station(int index) const { return stations_[at(index)]; }
    const LogicalPort& port(int index) const { return ports_[at(index)]; }

    model::Network network_;
    std::vector<Station> stations_;
    std::vector<LogicalPort> ports_;
    std::vector<const model::Interface*> settings_;
    std::unordered_map<std::uint64_t, int> stationOf_;
    std::unordered_map<std::uint64_t, int> portAt_; ///< by device and port name, mixed
};

/// A plant, and what is set on its ports.
class Wiring {
public:
    /// Links of unknown ports, and chains that are open or split, join nothing. Whether
    /// cabling would let a link come up is not asked: that is linking's to say.
    explicit Wiring(model::Network network, const Without& without = {});
    /// After some interfaces have come to say other things of VLANs or trees, `bearsOther` of each, and
    /// some devices of their trees.
    Wiring(const Wiring& before, model::Network network, const std::vector<model::Key>& interfaces,
           const std::vector<model::DeviceId>& trees);
    /// Whether what joins whom is the same when an interface says other things of VLANs or of its
    /// part in trees, or is there first or no more; `after` is the network with what it is then.
    bool bearsOther(const model::Interface* before, const model::Interface* now,
                    const model::Network& after) const;

    /// As it is now; what stations and ports point to is of the one the plant was made from.
    const model::Network& network() const { return network_; }
    const std::vector<Station>& stations() const { return plant_->stations(); }
    const Station& station(int index) const { return stations()[static_cast<std::size_t>(index)]; }
    const std::vector<LogicalPort>& ports() const { return plant_->ports(); }
    const LogicalPort& port(int index) const { return ports()[static_cast<std::size_t>(index)]; }
    /// The interface of the LAG or the port; may be null.
    const model::Interface* settingsOf(int port) const { return settings_[at(port)]; }
    /// How it takes part in spanning trees.
    model::TreeMode treeOf(int station) const { return trees_[at(station)]; }
    const model::SpanningTree& treeSettingsOf(int station) const;
    bool hasPlantOf(const Wiring& other) const { return plant_ == other.plant_; }
    /// Interfaces that do not say what they said when the plant was made.
    std::size_t changed() const { return changed_.size(); }
    /// -1: no such device, or it was taken away.
    int stationOf(model::DeviceId device) const { return plant_->stationOf(device); }
    /// -1: nothing ends there and nothing is set of it.
    int portAt(const model::PortRef& port) const { return plant_->portAt(port); }
    /// By the interface that stands on it: a LAG, a port, the parent of a subinterface.
    int portOf(const model::Interface& interface) const { return plant_->portOf(interface); }

    /// The ports of devices that a link leads to, panels passed; -1, -1: it does not.
    std::pair<int, int> portsJoinedBy(model::LinkId link) const { return plant_->portsJoinedBy(link); }

    /// "acc-1".
    const std::string& nameOf(int station) const { return this->station(station).device->name; }
    /// Mbit/s of all members in use; 0: not known.
    int speedOf(int port) const;

private:
    std::shared_ptr<const Plant> plant_;
    model::Network network_;
    std::vector<const model::Interface*> settings_; ///< by port
    std::vector<model::TreeMode> trees_;            ///< by station
    std::set<model::Key> changed_;
};

/// The VLANs of a port, by number (IEEE 802.1Q clause 8.6).
struct Membership {
    int pvid = 0; ///< what untagged frames belong to; 0: they are dropped
    std::vector<int> untaggedToo;
    std::vector<model::VlanRange> tagged; ///< ascending, apart from one another
    model::Frames frames = model::Frames::all;

    bool isTagged(int vlan) const;
    bool carries(int vlan) const;
    /// The tag a frame of a VLAN leaves with, 0 untagged; -1: it does not leave.
    int leavesAs(int vlan) const;
    /// The VLAN a frame is taken into by its tag, 0 untagged; 0: it is dropped.
    int takenAs(int tag) const;
};

/// Of a bridged port. A switch without any VLAN set has all its ports in VLAN 1.
Membership membershipOf(const Wiring& wiring, int port);

} // namespace underridge::analysis

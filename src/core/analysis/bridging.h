// SPDX-License-Identifier: GPL-3.0-or-later
// Where frames go: VLANs over bridged ports as the trees leave them (IEEE 802.1Q clause
// 8.6), and which interfaces hear each other. A frame's way can be one way only, so all of
// it is directed.
#pragma once
#include "core/analysis/spanning_tree.h"

#include <optional>

namespace underridge::analysis {

/// A VLAN inside a switch; in what does not look at tags, frames with one tag.
struct Domain {
    int station = -1; ///< of a multi-chassis pair the first of the two
    int vlan = 0;     ///< or the tag, 0 untagged
    bool tags = false;
    /// A port whose own frames, passed on by what does not know tags, must not come back to
    /// it as others'; -1: of no matter.
    int notBackTo = -1;
};

/// A frame crosses from one port to its peer.
struct Crossing {
    int to = -1;  ///< domain
    int out = -1; ///< ports
    int in = -1;
    int tag = 0;
};

/// An address-bearing interface where it joins a domain.
struct Joined {
    int domain = -1;
    int out = -1, in = -1; ///< ports a frame crosses; -1: the interface is in the switch itself
    int tag = 0;
};

struct NetInterface {
    const model::Interface* record = nullptr;
    int station = -1;
    std::string name;
    bool up = false;
    int port = -1;             ///< logical port it stands on; -1: a VLAN's, a loopback
    int vlan = 0;              ///< of a VLAN interface or subinterface
    std::vector<Joined> sends; ///< where its frames come into a domain
    std::vector<Joined> hears; ///< out of which domains frames come to it
};

/// Frames of the same broadcast go round without end.
struct Storm {
    std::vector<int> stations;
    std::vector<int> vlans;
};

/// Interfaces and switches that are one broadcast domain.
struct Island {
    std::vector<int> vlans; ///< ascending; several where VLANs are joined
    std::vector<int> domains;
    std::vector<int> interfaces; ///< indices of those that both send to and hear it
};

class Bridging {
public:
    Bridging(const Wiring& wiring, const SpanningTrees& trees);

    const std::vector<Domain>& domains() const { return domains_; }
    const std::vector<Crossing>& from(int domain) const {
        return crossings_[static_cast<std::size_t>(domain)];
    }
    const std::vector<NetInterface>& interfaces() const { return interfaces_; }
    const NetInterface& interface(int index) const { return interfaces_[static_cast<std::size_t>(index)]; }
    const std::vector<int>& interfacesOf(int station) const {
        return interfacesOf_[static_cast<std::size_t>(station)];
    }

    /// Whether a frame of one interface can come to another.
    bool carries(int from, int to) const;
    /// Whether two can ask for and answer addresses: both directions carry.
    bool meet(int a, int b) const { return carries(a, b) && carries(b, a); }
    /// The ports a frame crosses from one to the other, in order; nothing when it does not
    /// get there. The first crossing leaves the sender.
    std::optional<std::vector<Crossing>> way(int from, int to) const;
    /// A number that those which surely meet share; -1: it must be asked pair by pair.
    int islandOf(int interface) const { return islandOf_[static_cast<std::size_t>(interface)]; }

    std::vector<Island> islands() const;
    std::vector<Storm> storms() const;

private:
    struct Work;

    const Wiring& wiring_;
    const Rings& rings_;
    std::vector<Domain> domains_;
    std::vector<std::vector<Crossing>> crossings_;
    std::vector<int> component_; ///< strongly connected, by domain
    std::vector<NetInterface> interfaces_;
    std::vector<std::vector<int>> interfacesOf_;
    std::vector<int> islandOf_;
    std::unordered_map<std::uint64_t, int> domainAt_;
    std::vector<std::set<int>> onward_; ///< components a component leads to, itself not included
};

} // namespace underridge::analysis

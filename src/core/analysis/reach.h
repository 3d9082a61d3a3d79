// SPDX-License-Identifier: GPL-3.0-or-later
// One stretch of layer 2: what frames could come to if no VLAN and no tree held them up, and
// where they do go (IEEE 802.1Q clause 8.6). A frame's way can be one way only, so all of it
// is directed.
#pragma once
#include "core/analysis/spanning_tree.h"

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
    int domain = -1;       ///< of its reach
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

/// Which stretches there are, and what is in which. It follows from what is wired and which
/// ports pass frames on, not from VLANs.
struct Reaches {
    struct Extent {
        std::vector<int> stations;   ///< those with bridged ports, ascending
        std::vector<int> interfaces; ///< ascending
        std::vector<int> residents;  ///< stations that have interfaces in it and nowhere else
        int ports = 0;               ///< of its stations
    };
    explicit Reaches(const Wiring& wiring);

    std::vector<NetInterface> standing;         ///< every interface with an address, joined to nothing yet
    std::vector<std::vector<int>> interfacesOf; ///< by station
    std::vector<Extent> all;
    std::vector<int> ofInterface, slotOf;   ///< by interface: its reach, and which of it there
    std::vector<int> ofStation, slotOfPort; ///< of what bridges; else -1
    std::vector<int> travellers;            ///< stations that are residents of none
};

/// Where frames go within one. Domains are numbered by themselves in each.
class Reach {
public:
    Reach(const Wiring& wiring, const SpanningTrees& trees, const Reaches& reaches, int index);

    const std::vector<Domain>& domains() const { return domains_; }
    const std::vector<Crossing>& from(int domain) const { return crossings_[at(domain)]; }
    /// In the order of Reaches::Extent::interfaces.
    const std::vector<NetInterface>& interfaces() const { return interfaces_; }
    /// Domains with one number lead to each other.
    int componentOf(int domain) const { return component_[at(domain)]; }
    int components() const { return static_cast<int>(onward_.size()); }
    /// The component an interface of it both sends to and hears, and no other; -1: there is
    /// no such one.
    int islandOf(int interface) const { return islandOf_[at(interface)]; }
    /// Whether frames come from one interface of it to another.
    bool carries(int from, int to) const;
    std::vector<Storm> storms(const Wiring& wiring, const Rings& rings) const;

private:
    struct Work;

    std::vector<Domain> domains_;
    std::vector<std::vector<Crossing>> crossings_;
    std::vector<int> component_;        ///< strongly connected, by domain
    std::vector<std::set<int>> onward_; ///< components a component leads to, itself not included
    std::vector<NetInterface> interfaces_;
    std::vector<int> islandOf_;
};

} // namespace underridge::analysis

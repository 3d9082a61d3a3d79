// SPDX-License-Identifier: GPL-3.0-or-later
// Where frames go in all of a network: over VLANs as the trees leave them, stretch by stretch
// (reach.h), and which interfaces hear each other.
#pragma once
#include "core/analysis/reach.h"

#include <memory>
#include <optional>

namespace underridge::analysis {

/// Interfaces and switches that are one broadcast domain.
struct Island {
    std::vector<int> vlans; ///< ascending; several where VLANs are joined
    std::vector<int> domains;
    std::vector<int> interfaces; ///< indices of those that both send to and hear it
};

class Bridging {
public:
    Bridging(const Wiring& wiring, const SpanningTrees& trees);
    /// After VLANs of some ports have become others, in a wiring that is the same else:
    /// only the reaches these ports are in are worked out anew.
    Bridging(const Bridging& before, const Wiring& wiring, const SpanningTrees& trees,
             const std::vector<int>& ports);
    Bridging(const Bridging&) = delete;
    Bridging& operator=(const Bridging&) = delete;

    /// A cable between two ends is a domain too; its station is none.
    bool isCable(const Domain& domain) const {
        return domain.station >= static_cast<int>(wiring_.stations().size());
    }
    int indexOf(int reach, int domain) const { return domainBase_[at(reach)] + domain; }
    int domainCount() const { return domainBase_.back(); }
    const Domain& domain(int index) const;
    /// What leads out of a domain, to others by their index here.
    std::vector<Crossing> from(int domain) const;
    int interfaceCount() const { return static_cast<int>(reaches_->standing.size()); }
    /// Its domains are numbered as in its reach.
    const NetInterface& interface(int index) const {
        return reach_[at(reaches_->ofInterface[at(index)])]->interfaces()[at(reaches_->slotOf[at(index)])];
    }
    const std::vector<int>& interfacesOf(int station) const {
        return reaches_->interfacesOf[static_cast<std::size_t>(station)];
    }
    const Reaches& reaches() const { return *reaches_; }
    /// As many as there are Reaches::all. One that nothing has happened to is the same.
    const std::vector<std::shared_ptr<const Reach>>& all() const { return reach_; }

    /// Whether a frame of one interface can come to another.
    bool carries(int from, int to) const;
    /// Whether two can ask for and answer addresses: both directions carry.
    bool meet(int a, int b) const { return carries(a, b) && carries(b, a); }
    /// The ports a frame crosses from one to the other, in order; nothing when it does not
    /// get there. The first crossing leaves the sender.
    std::optional<std::vector<Crossing>> way(int from, int to) const;
    /// Domains that frames of an interface come to.
    std::set<int> domainsFrom(int interface) const;
    /// A number that those which surely meet share; -1: it must be asked pair by pair.
    int islandOf(int interface) const;

    std::vector<Island> islands() const;

private:
    void number();
    /// The reach a domain is in.
    std::size_t reachOf(int domain) const;

    const Wiring& wiring_;
    std::shared_ptr<const Reaches> reaches_;
    std::vector<std::shared_ptr<const Reach>> reach_;
    std::vector<int> domainBase_, componentBase_; ///< by reach, and the count at the end
};

/// The islands of one reach; domains and interfaces are numbered as in Bridging.
std::vector<Island> islandsIn(const Bridging& bridging, int reach);

} // namespace underridge::analysis

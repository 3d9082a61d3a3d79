// SPDX-License-Identifier: GPL-3.0-or-later
// The spanning trees of a network as they stand when nothing changes any more: IEEE
// 802.1Q-2022 clause 13 (RSTP and MSTP), and the steady state of STP, which is the same.
#pragma once
#include "core/analysis/rings.h"

#include <cstdint>

namespace underridge::analysis {

/// Clause 13.12.
enum class PortRole { root, designated, alternate, backup, master, disabled };
std::string_view textOf(PortRole role);

struct TreePort {
    int port = -1; ///< index in Wiring::ports()
    PortRole role = PortRole::disabled;
    bool forwards = false;
    /// "forwarding"; else "blocking" of STP, "discarding" of the others.
    std::string_view state(const Wiring& wiring) const;
};

/// One instance, over the bridges that agree on its root.
struct Tree {
    int instance = 0;
    int root = -1;                       ///< station
    bool guessed = false;                ///< the address of the root is not stated: ids stood in for it
    std::vector<model::VlanRange> vlans; ///< of an MSTP instance; none: all others
    std::vector<int> bridges;            ///< stations, in their order
    std::vector<TreePort> ports;         ///< of them, in the order of bridges and names
    std::vector<std::int64_t> costs;     ///< of each of `bridges` to the root
};

class SpanningTrees {
public:
    /// Ports of rings are in no tree: their rings say what passes there.
    /// `before`: of the same plant; what follows from it alone is taken from there.
    SpanningTrees(const Wiring& wiring, const Rings& rings, const SpanningTrees* before = nullptr);

    const std::vector<Tree>& trees() const { return trees_; }
    const Rings& rings() const { return rings_; }
    /// Whether a port that is up lets frames of a VLAN through as far as trees and rings go.
    bool forwards(int port, int vlan) const;
    /// The tree that VLAN goes by at a station; null when it runs none.
    const Tree* treeOf(int station, int vlan) const;
    const TreePort* portIn(const Tree& tree, int port) const;
    /// What a way over a port adds: as set, else by its speed (IEEE 802.1Q-2022 table 13-4),
    /// 1 Gbit/s where that is not known.
    std::int64_t costOf(int port) const;
    /// Ports that let other VLANs through than they did. `before`: of the same plant.
    std::vector<int> otherThan(const SpanningTrees& before) const;
    /// Ports that went down because a bridge was heard behind them.
    bool isGuardedOff(int port) const { return guardedOff_[static_cast<std::size_t>(port)]; }

private:
    struct Work;
    int instanceOf(int station, int vlan) const;

    const Wiring& wiring_;
    const Rings& rings_;
    std::vector<Tree> trees_;
    std::vector<bool> blocks_;          ///< by port, of instance 0
    std::vector<bool> guardedOff_;      ///< by port
    std::vector<std::int64_t> bySpeed_; ///< costs by port, as far as they were asked for; 0: not yet
    std::unordered_map<std::uint64_t, int> treeOf_; ///< by station and instance
    std::set<std::pair<int, int>> blocked_;         ///< port and instance, beside 0
};

} // namespace underridge::analysis

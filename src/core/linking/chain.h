// SPDX-License-Identifier: GPL-3.0-or-later
// The chain of a connection: the cables and panels it runs through, from one device to
// the other, position by position (pairs, strands, lanes).
#pragma once
#include "core/model/network.h"

#include <optional>
#include <set>

namespace underridge::linking {

/// One cable of a chain, walked from one port to the next. Positions count from 1.
struct Stretch {
    model::LinkId link;
    model::PortRef from, to;
    std::vector<int> leaves;  ///< positions of `from` the connection uses
    std::vector<int> arrives; ///< positions of `to` they come out at, in the same order

    bool operator==(const Stretch&) const = default;
};

enum class ChainEnd {
    device,  ///< a port of something that is no panel
    open,    ///< a panel whose other side carries no cable
    unknown, ///< a device whose port is not known
    loop,    ///< the cables come round to where the walk began
    split    ///< its positions go to different ports: a breakout
};

struct Chain {
    std::vector<Stretch> stretches; ///< each goes on where the one before ended, or behind that panel
    model::PortRef a, b;            ///< the outermost ports
    ChainEnd endA = ChainEnd::open, endB = ChainEnd::open;
    bool joins = false; ///< it comes to end B through a splitter, from where many come

    bool empty() const { return stretches.empty(); }
    /// Whether both ends are ports of devices.
    bool whole() const { return endA == ChainEnd::device && endB == ChainEnd::device; }
};

/// The chain a port is part of, which may be anywhere in it; empty when no cable ends
/// there. End A is the one the port itself is nearer to, or is.
Chain chainThrough(const model::Network& network, const model::PortRef& port);

/// The chain of one link by itself, nothing followed at its ends.
Chain chainOfLink(const model::Network& network, const model::Link& link);

/// The same from its other end.
Chain turned(const Chain& chain);

/// The port really at the other end, panels skipped; nothing when no cable ends at
/// `port`, or when the chain is open, a loop or splits.
std::optional<model::PortRef> farEnd(const model::Network& network, const model::PortRef& port);

/// The way from a port outwards by its cable, panels passed; not what lies behind the
/// port itself.
std::vector<Stretch> outward(const model::Network& network, const model::PortRef& port);

/// All links that panels join to one, itself included, whatever strands they share.
std::set<model::LinkId> wiredWith(const model::Network& network, model::LinkId link);

/// Whether a device passes positions through from front to rear: a panel, outlet,
/// cassette, splice or optical splitter; or data through a midspan (IEEE 802.3 clause
/// 33.4.9).
bool isPassive(const model::Network& network, const model::Device& device);

struct PanelPosition {
    std::string port;
    int position = 1;

    bool operator==(const PanelPosition&) const = default;
};
/// Where a position of a panel's port continues on its other side: as its map says, else
/// at the same count among the positions of that side. Nothing when it leads nowhere.
std::optional<PanelPosition> through(const model::Network& network, const model::Device& panel,
                                     const PanelPosition& at);

/// Where a position of one end of a cable comes out at the other. Two-strand fibre:
/// TIA-568.3 A-to-B (crossed) or A-to-A (straight); arrays: Types A (straight), B
/// (reversed) and C (pairs crossed).
int across(const model::CableType& type, int position);

/// Positions of a cable type that one link over it has: of a breakout assembly, a lane's.
int positionsOf(const model::CableType& type);

/// "device", "open", … for output.
std::string_view textOf(ChainEnd end);

} // namespace underridge::linking

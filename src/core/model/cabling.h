// SPDX-License-Identifier: GPL-3.0-or-later
// Cables are physical; links are joins between two ports that use positions of a cable.
#pragma once
#include "core/model/device.h"

namespace underridge::model {

/// One end of a cable: a port, and which of the cable's positions (pairs, strands, lanes)
/// arrive there. A breakout assembly has one near end and several far ones.
struct CableEnd {
    PortRef at;
    std::vector<int> positions; ///< from 1; empty: all

    bool operator==(const CableEnd&) const = default;
};

/// A result read from a tester: what was measured, its value in the unit's name, and its
/// limit.
struct Measured {
    std::string what;
    double value = 0;
    double limit = 0;
    std::string unit;

    bool operator==(const Measured&) const = default;
};

struct Cable {
    static constexpr Kind kind = Kind::cable;
    CableId id;
    std::string type;
    std::string jacket;        ///< #RRGGBB; empty: as its type
    std::int64_t lengthMm = 0; ///< 0: not known
    bool lengthMeasured = false;
    std::string label;
    CableStatus status = CableStatus::installed;
    std::vector<CableEnd> ends;
    std::vector<Measured> measured;
    std::string note;
    SharedText extra;

    bool operator==(const Cable&) const = default;
    Key key() const { return {id.value, 0}; }
};

struct Link {
    static constexpr Kind kind = Kind::link;
    LinkId id;
    PortRef a;
    PortRef b;
    CableId cable;                   ///< none: radio, circuit, or not known
    std::vector<int> positions;      ///< of the cable; empty: all
    Medium medium = Medium::unknown; ///< when there is no cable to tell it
    bool console = false;
    SheetId onlyOn; ///< of an upper layer: the one sheet it is drawn on; none: all that show both its devices
    std::vector<LinkId> over; ///< of an upper layer: those below it rests on, from a to b (RFC 8345 4.4)
    std::string note;
    Attributes attributes;
    Provenance provenance;
    SharedText extra;

    bool operator==(const Link&) const = default;
    Key key() const { return {id.value, 0}; }
    const PortRef& end(int which) const { return which == 0 ? a : b; }
    PortRef& end(int which) { return which == 0 ? a : b; }
    /// Of a layer above the cables, as a file brought it: nothing is plugged in.
    bool isUpper() const { return static_cast<bool>(onlyOn); }
};

/// Where one position of a panel's port continues inside it, when it is not "straight
/// through".
struct PanelMap {
    static constexpr Kind kind = Kind::panelMap;
    DeviceId device;
    std::string front;
    int frontPosition = 1;
    std::string rear; ///< empty: leads nowhere
    int rearPosition = 1;
    SharedText extra;

    bool operator==(const PanelMap&) const = default;
    Key key() const { return {device.value, fnv1a(front + "\n" + std::to_string(frontPosition))}; }
};

} // namespace underridge::model

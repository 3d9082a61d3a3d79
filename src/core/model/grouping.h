// SPDX-License-Identifier: GPL-3.0-or-later
// Groups, and what belongs to the network as a whole rather than to one device.
#pragma once
#include "core/model/device.h"

namespace underridge::model {

struct NetworkInfo {
    static constexpr Kind kind = Kind::network;
    NetworkId id;
    std::string name;
    std::string note;
    std::int64_t slackMm = 1000; ///< at each end of a cable whose length follows from places
    int marginPercent = 10;      ///< added to its route
    std::string labels;          ///< the scheme of cable labels: "FQ-{0001..}"
    SharedText extra;

    bool operator==(const NetworkInfo&) const = default;
    Key key() const { return {}; }
};

/// A shaft by which cables go from floor to floor of a building.
struct Riser {
    std::string name;
    std::int64_t xMm = 0, yMm = 0;

    bool operator==(const Riser&) const = default;
};

struct Group {
    static constexpr Kind kind = Kind::group;
    GroupId id;
    std::string name;
    GroupKind type = GroupKind::cluster;
    GroupId parent;
    int level = 0; ///< of a floor: 0 is the ground
    AssetId plan;  ///< the picture under a floor
    double planMmPerPixel = 0;
    std::int64_t planXMm = 0, planYMm = 0; ///< where the plan's upper left corner lies on the floor
    double planTurn = 0;                   ///< degrees clockwise about that corner
    int planDim = 0;                       ///< per cent the plan is faded, 0 to 90
    bool planInk = false;                  ///< an ink drawing: drawn in the ink of the theme
    int rackUnits = 0;                     ///< of a rack
    int depthMm = 0;               ///< of a rack: from its front rails to what is behind; 0: not known
    std::int64_t xMm = 0, yMm = 0; ///< of a rack or cabinet: its place on its floor
    std::int64_t heightMm = 0;     ///< of a floor: above the ground; of a rack: of its foot above the floor
    std::vector<Riser> risers;     ///< of a building
    std::string note;
    Attributes attributes;
    Provenance provenance;
    SharedText extra;

    bool operator==(const Group&) const = default;
    Key key() const { return {id.value, 0}; }
};

/// The same number in two scopes need not be one broadcast domain.
struct Vlan {
    static constexpr Kind kind = Kind::vlan;
    VlanId id;
    int number = 1; ///< 1–4094
    std::string name;
    GroupId scope; ///< none: the whole network
    SharedText extra;

    bool operator==(const Vlan&) const = default;
    Key key() const { return {id.value, 0}; }
};

struct Subnet {
    static constexpr Kind kind = Kind::subnet;
    SubnetId id;
    Address prefix; ///< 10.84.10.0/24
    std::string name;
    VlanId vlan;
    std::string vrf;
    Address gateway;                   ///< that DHCP tells hosts (RFC 2132, router option); empty: none
    std::vector<DeviceId> dhcpServers; ///< that hand out its addresses (RFC 2131, RFC 8415)
    SharedText extra;

    bool operator==(const Subnet&) const = default;
    Key key() const { return {id.value, 0}; }
};

/// Something the business needs, and the devices it rests on.
struct Service {
    static constexpr Kind kind = Kind::service;
    ServiceId id;
    std::string name;
    std::vector<DeviceId> users;
    std::vector<DeviceId> providers;
    std::string note;
    SharedText extra;

    bool operator==(const Service&) const = default;
    Key key() const { return {id.value, 0}; }
};

} // namespace underridge::model

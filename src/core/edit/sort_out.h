// SPDX-License-Identifier: GPL-3.0-or-later
// Roles and groups from what is known: names, addresses, VLANs, attributes, how things
// hang together. Everything is a proposal, row by row; nothing is done until it is taken.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// What groups can be made from.
enum class By {
    prefix,    ///< the first part of names: "q1-acc-3" → "q1"
    subnet,    ///< the subnet of the first address, or its /24 (/64)
    vlan,      ///< the VLAN of the endpoint's port or address
    role,      ///< what the devices are
    attribute, ///< the value of an attribute that an import brought
    uplink     ///< the switch an endpoint hangs on
};
inline constexpr int byCount = 6;

/// One group that could be made.
struct ProposedGroup {
    std::string name;
    model::GroupKind kind = model::GroupKind::cluster;
    std::vector<model::DeviceId> members;
    std::string why; ///< "names begin with q1-"
};

/// Groups for devices, by one property; those that would hold fewer than two are left out.
/// `attribute`: its name, for By::attribute. In natural order of their names.
std::vector<ProposedGroup> proposeGroups(const model::Network& network,
                                         const std::vector<model::DeviceId>& devices, By by,
                                         const std::string& attribute = {});
/// Names of the attributes any of the devices has, with how many have each, most first.
std::vector<std::pair<std::string, int>> attributesOf(const model::Network& network,
                                                      const std::vector<model::DeviceId>& devices);

/// Makes groups, inside `parent` or beside one another, as one act. Devices come out of the
/// groups they are in; where they are drawn is not changed. Groups of that name and parent
/// that are there take the members. Refuses when nothing is chosen.
ActResult makeGroups(const model::Network& network, const std::vector<ProposedGroup>& groups,
                     model::GroupId parent, model::IdSource& ids);

/// A role that a device without one could have.
struct ProposedRole {
    model::DeviceId device;
    model::Role role = model::Role::unknown;
    std::string why; ///< "its name says cam"
};
/// For devices whose role is not known: from attributes (capabilities, type), their name,
/// and how many links end there (IEEE 802.1AB capability names are known). Only what
/// something speaks for.
std::vector<ProposedRole> proposeRoles(const model::Network& network,
                                       const std::vector<model::DeviceId>& devices);
/// Gives devices these roles, as one act: a model that says no more than the role. The
/// ports a source has named stay. Refuses when nothing is chosen.
ActResult giveRoles(const model::Network& network, const std::vector<ProposedRole>& roles);

} // namespace underridge::edit

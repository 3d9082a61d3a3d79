// SPDX-License-Identifier: GPL-3.0-or-later
// What is on a sheet, counted by what an engineer asks for: each count knows what it
// counts.
#pragma once
#include "core/scene/scene.h"

#include <map>

namespace underridge::scene {

struct Counts {
    std::map<model::Role, std::vector<model::DeviceId>> roles;
    std::vector<model::DeviceId> endpoints, infrastructure;
    /// By how they are drawn and what they run over.
    std::map<std::pair<LinkForm, model::Medium>, std::vector<model::LinkId>> media;
    std::map<int, std::vector<model::LinkId>>
        speeds; ///< Mbit/s; 0: not known; as `free`
                /// Of a sheet of an upper layer, in the place of media and speeds.
    std::vector<model::ObjectRef> lines, subnets;
    std::map<model::GroupKind, std::vector<model::GroupId>> groups;
    std::size_t devices = 0, links = 0;
    std::vector<model::DeviceId> missing; ///< as missingOn() says

    /// Free data ports by their highest rate, and the devices that have them; left out of
    /// sheets with more than mostForPorts devices, where counting would be felt.
    struct FreePorts {
        int ports = 0;
        std::vector<model::DeviceId> at;
    };
    std::map<int, FreePorts> free;
    static constexpr std::size_t mostForPorts = 2'000;
};

/// The devices that belong on a sheet (of a group: those in it) but are not drawn there;
/// none on a sheet of an upper layer, which follows from the network.
std::vector<model::DeviceId> missingOn(const model::Network& network, const Scene& scene);

/// Devices in folded groups count: they are on the sheet.
Counts countsOf(const model::Network& network, const Scene& scene);

} // namespace underridge::scene

// SPDX-License-Identifier: GPL-3.0-or-later
// What the checks report, gathered by where it is: for tiles, which hide it, and for the
// locator.
#pragma once
#include "core/scene/scene.h"

#include <map>

namespace underridge::scene {

/// How many objects something worse than advice is said of; an object with an error counts
/// as that alone.
struct Trouble {
    int errors = 0, warnings = 0;

    bool operator==(const Trouble&) const = default;
};

/// The devices an object is at: itself, the ends of a link or cable.
std::vector<model::DeviceId> devicesAt(const model::Network& network, std::uint64_t id);

/// For every group with trouble in it, at any depth. A link is in the groups of both its
/// ends, and counts once in each.
std::map<model::GroupId, Trouble> troubleByGroup(const model::Network& network,
                                                 const find::Findings& findings);

/// What the checks report, as the window has it.
struct Reported {
    find::Findings byObject;
    std::map<model::GroupId, Trouble> byGroup;

    bool operator==(const Reported&) const = default;
};

/// Where on the sheet objects with errors are drawn, or what stands for them.
std::vector<PointF> errorsOn(const model::Network& network, const Scene& scene,
                             const find::Findings& findings);

} // namespace underridge::scene

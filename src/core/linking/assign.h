// SPDX-License-Identifier: GPL-3.0-or-later
// Many devices to few: which goes to which, and over which ports, so that the set as a
// whole is served best.
#pragma once
#include "core/linking/best.h"

namespace underridge::linking {

/// How good one link is, or the sum of several: compared from the first figure to the
/// last.
struct Cost {
    std::int64_t misfit = 0;   ///< console use, ports in the wrong block
    std::int64_t slower = 0;   ///< steps of speed lost
    std::int64_t lacking = 0;  ///< transceivers to add, power, waste of speed, reserved ports
    std::int64_t distance = 0; ///< millimetres between places, or units on the sheet

    auto operator<=>(const Cost&) const = default;
    Cost operator+(const Cost& o) const {
        return {misfit + o.misfit, slower + o.slower, lacking + o.lacking, distance + o.distance};
    }
    Cost operator-(const Cost& o) const {
        return {misfit - o.misfit, slower - o.slower, lacking - o.lacking, distance - o.distance};
    }
};

struct Assigned {
    model::DeviceId device;
    std::optional<Proposal> proposal; ///< end A is the device
    std::string why;                  ///< it gets none, as a clause
};

struct Assignment {
    std::vector<Assigned> rows; ///< in the order the devices were given
    Cost cost;                  ///< of the links made

    int linked() const;
};

/// Links each device to one of the targets: as many as possible, then at the least cost
/// in all, which is the true least (minimum-cost flow by successive shortest paths:
/// Ahuja, Magnanti, Orlin, "Network Flows", section 9.7) as long as no target's power
/// budget is passed. Where one would be, the devices that lose least by it are moved on.
/// Distances are between places where all have one, else between plates on the sheet.
Assignment assign(const model::Network& network, const model::Catalogue& catalogue,
                  const std::vector<model::DeviceId>& devices, const std::vector<model::DeviceId>& targets,
                  model::SheetId sheet, const Habits& habits = {});

/// The devices of a selection that others are linked to: those that stand highest.
std::vector<model::DeviceId> targetsAmong(const model::Network& network,
                                          const std::vector<model::DeviceId>& devices);

} // namespace underridge::linking

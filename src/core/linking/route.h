// SPDX-License-Identifier: GPL-3.0-or-later
// How long a cable must be to go from one place to another.
#pragma once
#include "core/base/result.h"
#include "core/model/network.h"

namespace underridge::linking {

/// One rack unit: IEC 60297-3-100.
inline constexpr double rackUnitMm = 44.45;
/// From the middle of a rack to its side, where cables run up and down.
inline constexpr std::int64_t rackSideMm = 300;

/// The way along the axes between the places of the devices of two ports (of a stack: of
/// the chassis; the port may be left out), in millimetres: on one floor straight along x,
/// y and height; between floors of one building by the riser that makes it shortest, or
/// straight up when the building names none; within one rack by its side. Refuses with a
/// clause when an end has no place, when they are in different buildings, or when two
/// floors are not told apart by their heights.
Result<std::int64_t> wayBetween(const model::Network& network, const model::PortRef& a,
                                const model::PortRef& b);

/// The length of cable for that way: with the project's margin, and its slack at each
/// end, rounded up to whole decimetres, and from there to the next length the type can be
/// had in.
Result<std::int64_t> lengthFor(const model::Network& network, const model::CableType& type,
                               const model::PortRef& a, const model::PortRef& b);

} // namespace underridge::linking

// SPDX-License-Identifier: GPL-3.0-or-later
// Arranging: everything on a sheet, what is in one group, or some devices, in one of the
// styles of core/layout.
#pragma once
#include "core/edit/shown_places.h"
#include "core/layout/styles.h"

namespace underridge::edit {

/// In which order things come where a style puts them in rows and nothing else decides.
enum class OrderBy : std::uint8_t { name, role, address, floor };
inline constexpr OrderBy allOrders[] = {OrderBy::name, OrderBy::role, OrderBy::address, OrderBy::floor};
std::string_view textOf(OrderBy order);
std::optional<OrderBy> orderFromText(std::string_view text);

struct ArrangeWish {
    layout::Style style = layout::Style::suggest;
    layout::Flow flow = layout::Flow::down;
    model::DeviceId anchor; ///< none: by tier and structure
    double spacing = 1;     ///< 0.5 to 3, times the usual distances
    std::uint64_t seed = 1;
    /// What stands left or right of, above or below another keeps to that where the style allows.
    bool keepOrder = false;
    OrderBy by = OrderBy::name; ///< where no order is kept
    /// Devices that are arranged among themselves, about where they stand; empty: everything.
    std::vector<model::DeviceId> only;

    bool operator==(const ArrangeWish&) const = default;
};

/// What an arrangement did, to be told.
struct ArrangeReport {
    std::string why;         ///< what it found and did with it: "3 rings and 4 trees"
    std::size_t devices = 0; ///< arranged
    double moved = 0;        ///< mean way of a device, in sheet units
};

/// Arranges what a look shows: the sheet, or what is in the entered group. Groups stay
/// together: each is arranged for itself, then stands as one among its siblings. Folded
/// groups and racks drawn by unit keep what is in them as it is; pinned devices stay where
/// they are. Links get the ways the style has for them; bends made before go, but where
/// both ends stay. `wanted`: once it says no, what is drawn so far is taken; the arrangement is
/// whole, but not as good as it might be. Notes that would lie under what is drawn go below it.
/// Refuses sheets drawn to scale, but in the style `plan`, and those without devices.
ActResult arrange(const model::Network& network, const Look& look, const ArrangeWish& wish,
                  ArrangeReport* report = nullptr, const std::atomic<bool>* wanted = nullptr);

/// Gives devices that have no position on a sheet one below whatever is drawn there, in the
/// suggested style.
void putDown(model::Network& network, model::SheetId sheet, const std::vector<model::DeviceId>& devices);

/// Whether a link has a way it was given as things were arranged: from the border of one plate to
/// that of the other, as they stand on the sheet of the position. `drawn`: what that sheet draws
/// (scene::networkOn()).
bool isArrangedWay(const model::Network& drawn, const model::Link& link, const model::Position& position);

/// After an act: ways of links that were arranged go when one of the plates went elsewhere.
void followArranged(const model::Network& before, model::Network& after);

} // namespace underridge::edit

// SPDX-License-Identifier: GPL-3.0-or-later
// Hand work on what is selected: edges in line, equal gaps, mirrored, turned, changed over.
#pragma once
#include "core/edit/shown_places.h"

namespace underridge::edit {

/// Something on the sheet as it is shown.
struct Shown {
    model::ObjectRef object; ///< a device, group or note
    scene::Rect frame;
};

enum class Align { left, centre, right, top, middle, bottom };
enum class Along { across, down };
enum class Evenly {
    gaps,    ///< the same gap from each to the next
    middles, ///< the same way from middle to middle
    asFirst  ///< every gap as wide as that between the first two
};

/// Puts edges or middles in line: of all with the outermost one, of middles with the mean.
/// Refuses fewer than two.
ActResult align(const model::Network& network, const Look& look, const std::vector<Shown>& what, Align how);
/// Spaces all evenly between the first and the last, which stay; `asFirst` from the first two on,
/// which stay. Refuses fewer than three.
ActResult distribute(const model::Network& network, const Look& look, const std::vector<Shown>& what,
                     Along along, Evenly how = Evenly::gaps);
/// Draws frames of groups and zones as wide as the widest and as high as the highest of them, from
/// where their upper left corners are. Refuses fewer than two.
ActResult sameSize(const model::Network& network, const Look& look,
                   const std::vector<model::ObjectRef>& what);
/// Changes over left and right, or above and below, about the middle of all.
ActResult mirror(const model::Network& network, const Look& look, const std::vector<Shown>& what,
                 Along along);
/// Turns places a quarter clockwise about the middle of all; plates stay upright.
ActResult turnQuarter(const model::Network& network, const Look& look, const std::vector<Shown>& what);
/// Puts each of two where the other is, by their middles. Refuses other than two.
ActResult swapTwo(const model::Network& network, const Look& look, const std::vector<Shown>& what);
/// Spreads all from their middle, or draws them together, by a factor, until none overlap.
ActResult spread(const model::Network& network, const Look& look, const std::vector<Shown>& what,
                 double factor);

} // namespace underridge::edit

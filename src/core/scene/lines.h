// SPDX-License-Identifier: GPL-3.0-or-later
// Lines: links as they are drawn.
#pragma once
#include "core/model/length.h"
#include "core/model/network.h"
#include "core/scene/folding.h"
#include "core/scene/grid.h"

#include <map>

namespace underridge::scene {

/// Between the paths of parallel links.
inline constexpr double parallelGap = 9;
/// A label is cut off at this width; its whole text is in the details.
inline constexpr double maxLabelWidth = 120;

/// Whether a link is drawn on a sheet that shows both its devices.
bool isDrawnOn(const model::Link& link, const model::Sheet& sheet);

/// The links drawn on a sheet, by id. `plates`: only those at one of these; null: all of them.
std::vector<const model::Link*> linksDrawn(const model::Network& network, const model::Sheet& sheet,
                                           const std::vector<ItemPtr>* plates);

/// The links between the same two devices on a sheet, worked out once for each pair.
class Parallels {
public:
    Parallels(const model::Network& network, model::SheetId sheet)
        : network_(network), sheet_(network.sheet(sheet)) {}

    /// Works out the pairs of these links in one pass, of which none is left out; several threads may
    /// ask the constant afterwards.
    void prepare(const std::vector<const model::Link*>& links);
    /// Which of the links between its devices a link is, by id, and how many there are.
    std::pair<int, int> placeOf(const model::Link& link);
    /// The same once prepared.
    std::pair<int, int> placeOf(const model::Link& link) const;

private:
    using Pair = std::pair<model::DeviceId, model::DeviceId>;
    static Pair pairOf(const model::Link& link) { return std::minmax(link.a.device, link.b.device); }
    static std::pair<int, int> placeIn(const std::vector<model::LinkId>& all, model::LinkId id);

    const model::Network& network_;
    const model::Sheet* sheet_;                        ///< null: none of that id
    std::map<Pair, std::vector<model::LinkId>> pairs_; ///< sorted; when prepared, only of two and more
};

/// The line between two plates. `parallels`: what `Parallels` says of it. Lengths on labels are in `unit`.
/// `folding`: says where its bends are shown; null: where they are stored. `plates`: what lines go round that
/// run along the axes, lead to what is no plate, or are shown otherwise by folding than they were drawn.
LinkLine lineOf(const model::Network& network, const model::Sheet& sheet, const model::Link& link,
                const Anchor& a, const Anchor& b, std::pair<int, int> parallels, model::LengthUnit unit,
                const Folding* folding, const Grid& plates);

/// The line of links between the same two anchors of which one is not a plate: straight, or
/// where that would go through plates round them; with what is beyond named where it stands for one link,
/// else their number. `links`: not empty, sorted by id; the line has the id of the first.
LinkLine lineOfAll(const model::Network& network, const model::Sheet& sheet,
                   const std::vector<const model::Link*>& links, const Anchor& a, const Anchor& b,
                   model::LengthUnit unit, const Grid& plates);

/// The place on an anchor's border where a link to `towards` leaves from a port (its
/// index in the rail, -1: not known).
PointF leavingFrom(const Anchor& anchor, int port, PointF towards);

/// The innermost group both ends of a link are in: its bends are of that level.
model::GroupId levelOf(const model::Network& network, const model::Link& link);

/// The path of a link without bends, which tick of each rail it ends in (-1: not known), and what
/// Parallels says of it.
std::vector<PointF> straightPath(const Anchor& a, const Anchor& b, int portA, int portB,
                                 std::pair<int, int> parallels);

/// Which tick of its device's rail a port is; -1: not known.
int railIndexOf(const model::Network& network, const model::PortRef& port);

LinkForm formOf(const model::Network& network, const model::Link& link);
/// How a link's line looks, without its path, labels and marks at the ends: form, colour,
/// fibres and status.
LinkLine dressOf(const model::Network& network, const model::Link& link);

} // namespace underridge::scene

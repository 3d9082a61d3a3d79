// SPDX-License-Identifier: GPL-3.0-or-later
// Where everything of a sheet is shown, given which of its groups are folded. Positions
// are stored once a sheet, as things stand when everything is unfolded; what folding does
// to others is worked out from them alone, so that the same folds show the same picture
// however they came about. The rules, level by level (a level is a group, or the sheet):
//
// - a group stands where its members are, with room for its border and title, or as large
//   as it was drawn;
// - siblings that would overlap a group as it is shown are pushed apart: right or down,
//   whichever is less, and everything beyond goes along;
// - of columns and rows in which only folded groups stand, as much is cut out as their
//   tiles do not need. Everything else keeps its distance, so nobody changes order.
//
// A value made once and only read.
#pragma once
#include "core/model/network.h"
#include "core/scene/geometry.h"

#include <memory>
#include <optional>
#include <set>
#include <unordered_map>

namespace underridge::scene {

/// The group a sheet is looked at from within: the entered one, else the one the sheet
/// shows; none: everything.
model::GroupId shownGroup(const model::Network& network, const model::Sheet& sheet, model::GroupId entered);

/// One axis of a level: what is cut out of it. Places and lengths in sheet units.
class Cuts {
public:
    /// Something that stands from one place to another, and how much of that it needs.
    struct Span {
        double from = 0, to = 0, needs = 0;
    };
    static Cuts of(std::vector<Span> spans);

    bool none() const { return cuts_.empty(); }
    /// Where a place is shown.
    double shown(double place) const;
    /// The place that is shown there; where something is cut out, the one after it.
    double place(double shown) const;

    bool operator==(const Cuts&) const = default;

private:
    struct Cut {
        double from = 0, to = 0;
        double before = 0; ///< cut out further left

        bool operator==(const Cut&) const = default;
    };
    std::vector<Cut> cuts_; ///< in order, none touches another
};

/// How far each of several siblings has to be pushed so that no group among them overlaps
/// another sibling. Whatever was left of or above something stays so.
struct Sibling {
    Rect frame;
    bool group = false;
    std::uint64_t id = 0;
};
std::vector<PointF> pushedApart(const std::vector<Sibling>& siblings);

/// A device as its position says, all unfolded.
struct Standing {
    model::DeviceId device;
    model::GroupId in; ///< the group it is a member of
    Rect plate;
};

/// All devices of a sheet, by id; shared by who looks at it.
using Standings = std::shared_ptr<const std::vector<Standing>>;

/// A group that is seen on the sheet: as a frame, or folded as a tile.
struct ShownGroup {
    model::GroupId id;
    Rect frame;
    int depth = 0;     ///< 0: in no other group that is shown
    model::GroupId in; ///< the group shown it is in; none
    bool folded = false;
    /// Of a folded one: all within, by id; null: of an unfolded one.
    std::shared_ptr<const std::vector<model::DeviceId>> within;

    bool operator==(const ShownGroup& o) const {
        return id == o.id && frame == o.frame && depth == o.depth && in == o.in && folded == o.folded &&
               (within == o.within || (within && o.within && *within == *o.within));
    }
};

/// Where a device is shown.
struct ShownDevice {
    model::DeviceId id;
    model::GroupId in; ///< the group it is a member of
    Rect plate;
    model::ObjectRef by; ///< what stands for it; Kind::unknown: not in the entered group

    bool operator==(const ShownDevice&) const = default;
};

class Folding {
public:
    /// `entered`: only that group is shown, unfolded; none: the whole sheet. `devices`: by
    /// id.
    static Folding of(const model::Network& network, model::SheetId sheet, model::GroupId entered,
                      const std::vector<Standing>& devices);

    /// A device that came, changed or (nothing now) went.
    struct Change {
        model::DeviceId device;
        std::optional<Standing> now;
    };
    /// The same after an edit; its cost follows the groups around what changed. `devices`: by
    /// id, each once. `groups`: those whose records or positions on the sheet came, changed or
    /// went.
    Folding updated(const model::Network& network, const std::vector<Change>& devices,
                    const std::set<model::GroupId>& groups) const;

    /// The groups seen, outer ones before inner ones. The entered one is the first.
    const std::vector<ShownGroup>& groups() const { return groups_; }
    /// All devices of the sheet, by id.
    const std::vector<ShownDevice>& devices() const { return devices_; }
    /// Where the plate of a device is shown; nothing when it is not.
    std::optional<Rect> plateOf(model::DeviceId device) const;
    /// What stands for a device: itself, or the folded group it is in. Kind::unknown when
    /// it is not on this sheet, or not in the entered group.
    model::ObjectRef standsFor(model::DeviceId device) const;
    const ShownGroup* group(model::GroupId id) const;
    /// Where a member of `in` (none: of nobody) has to stand to be shown at a point.
    /// Nothing where that group is not seen unfolded.
    std::optional<PointF> placeFor(model::GroupId in, PointF shown) const;
    /// Where something of the sheet itself is shown: its corner moves along, and an area
    /// with what lies in it.
    Rect shownOnSheet(const Rect& standing, bool area) const;
    /// Where a member of `in` that stands at a point is shown.
    std::optional<PointF> shownFrom(model::GroupId in, PointF place) const;
    /// Whether nothing is cut out anywhere, as where no group is folded.
    bool cutsNothing() const;
    /// Whether every level leads from the same places to the same points.
    bool leadsAs(const Folding& other) const { return levels_ == other.levels_; }
    /// Where a group stands all unfolded, in its own level before anything is pushed.
    std::optional<Rect> standing(model::GroupId id) const;
    /// Where the plate of a device stands all unfolded.
    std::optional<Rect> standingPlate(model::DeviceId id) const;

private:
    friend class FoldingMaker;
    /// A level as its own members have it, wherever it comes to be shown: shared by all
    /// foldings in which nothing within has changed.
    struct Node {
        model::GroupId id, parent;
        bool folded = false;
        std::optional<Rect> drawn;          ///< as large as it was drawn
        std::vector<Standing> devices;      ///< by id
        std::vector<model::GroupId> groups; ///< by id
        std::vector<PointF> pushes;         ///< of devices, then of groups; empty: nobody is pushed
        Rect standing;                      ///< as its members stand
        PointF size;                        ///< shown
        Cuts x, y;
    };
    using NodePtr = std::shared_ptr<const Node>;
    struct Level {
        NodePtr node;
        PointF shown;              ///< upper left corner; for the sheet itself the origin
        model::GroupId foldedInto; ///< the folded group around it; none
        bool seen = false;         ///< unfolded, and in nothing folded

        bool operator==(const Level& o) const {
            return shown == o.shown && seen == o.seen &&
                   (node == o.node ||
                    (node->standing == o.node->standing && node->x == o.node->x && node->y == o.node->y));
        }
    };
    const ShownDevice* find(model::DeviceId id) const;
    const Level* level(model::GroupId id) const;

    model::SheetId sheet_;
    model::GroupId entered_;
    std::vector<std::pair<std::uint64_t, Level>> levels_; ///< by group; 0: the sheet
    std::vector<ShownDevice> devices_;
    std::vector<std::pair<std::uint64_t, std::size_t>> at_; ///< by group: where it is in groups_
    std::vector<ShownGroup> groups_;
};

/// The size of a folded group.
inline constexpr double tileWidth = 176, tileHeight = 68;
/// Between a frame and its members, and the height of its title.
inline constexpr double framePadding = 16, frameTitle = 24;

} // namespace underridge::scene

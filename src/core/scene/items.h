// SPDX-License-Identifier: GPL-3.0-or-later
// What is drawn on a sheet, as immutable items. Geometry does not depend on zoom.
#pragma once
#include "core/model/object_ref.h"
#include "core/model/shared_text.h"
#include "core/scene/geometry.h"
#include "core/scene/note_text.h"

#include <string>
#include <variant>
#include <vector>

namespace underridge::scene {

/// How a tick of the port rail is drawn.
enum class Tick : std::uint8_t { free, used, reserved, disabled };

inline constexpr double spineWidth = 22, plateHeight = 44, nameSize = 11.5, sublineSize = 9.5, labelSize = 9;
/// Of the ticks of a rail.
inline constexpr double tickHeight = 5.5, rowPitch = 7;
/// The sign of a role on a badge is so wide.
inline constexpr double badgeGlyph = 10;

/// The ticks of a plate: one for each port, in rows along the bottom edge.
struct Rail {
    Rect area;
    int columns = 0;
    int rows = 0;

    Rect tick(int index) const;
    /// The tick at or nearest to a point inside the area; -1 when there are none.
    int nearest(PointF p) const;
};

/// What stands for a device on a sheet where its links end: its plate, or whatever it is
/// folded into.
struct Anchor {
    model::ObjectRef shown; ///< the item the line goes to
    Rect frame;
    Rail rail;
    int ports = 0; ///< how many the rail has ticks for
};

struct Plate {
    model::DeviceId id;
    bool subnet = false; ///< it stands for a subnet of this number, on a sheet of the network layer
    Rect frame;
    model::Role role = model::Role::workstation;
    std::string name;    ///< elided
    std::string subline; ///< address or model, elided
    bool outside = false;
    int links = 0; ///< ends of links at it: of two alike the better connected is named first
    Rail rail;
    std::vector<Tick> ticks;
    /// Endpoints drawn as a badge on it instead of plates of their own, most first.
    std::vector<std::pair<model::Role, int>> tucked;

    bool operator==(const Plate&) const;
    /// The same at another place.
    Plate movedTo(const Rect& place) const;
    /// Where the grip is: a point below the middle of the lower edge.
    PointF grip() const { return {frame.x + frame.w / 2, frame.bottom()}; }
    /// The badge of what is tucked in, hanging on the lower edge; empty: nothing is.
    Rect badge() const;
    /// The roles that have room in the badge; none: the badge has the whole number alone.
    std::size_t rolesOnBadge() const;
    Anchor anchor() const;
    model::ObjectRef object() const {
        return subnet ? model::ObjectRef{model::Kind::subnet, id.value} : refTo(id);
    }
};

enum class LinkForm {
    unknown,
    frames,     ///< of the data link layer
    attachment, ///< of the network layer: an interface in its subnet
    twistedPair,
    singlePair,
    duplexFibre,
    parallelFibre,
    thick,
    coax,
    serial,
    console,
    radio,
    circuit
};

enum class LabelKind { portA, portB, middle };

struct Label {
    LabelKind kind = LabelKind::middle;
    std::string text; ///< elided to maxLabelWidth
    Rect area;

    bool operator==(const Label&) const = default;
};

struct LinkLine {
    model::LinkId id;
    model::ObjectRef a, b;    ///< the items it goes between
    std::vector<PointF> path; ///< from a to b, at least two points
    /// Of a line along the axes, to a tile or doorway, or shown otherwise by folding than it was drawn, what
    /// its way was looked for in: a plate that comes there may lead it another way. Empty: of others.
    Rect reach;
    /// Something stands in the way it would take otherwise, so that all within `reach` is of matter to it;
    /// else only what comes onto its path.
    bool obstructed = false;
    bool alongAxes = false; ///< all of it is upright or level, with rounded corners
    LinkForm form = LinkForm::unknown;
    std::uint32_t jacket = 0; ///< 0xRRGGBB
    int fibres = 0;           ///< of parallel fibre
    bool planned = false;
    bool toRemove = false;
    bool inLag = false; ///< tied to the other members beside it
    bool disabledA = false, disabledB = false;
    bool openA = false, openB = false;   ///< end not known
    bool failsA = false, failsB = false; ///< will not come up, at this end
    bool onDemand = false;               ///< drawn only while it, or what it ends at, is selected
    std::vector<Label> labels;
    /// Links drawn as this one line, where it goes into a folded group or through a
    /// doorway; sorted. Empty: only its own.
    std::vector<model::LinkId> merged;

    bool operator==(const LinkLine&) const = default;
    /// What it is: a link, or of the network layer an interface.
    model::ObjectRef object() const {
        return form == LinkForm::attachment ? model::ObjectRef{model::Kind::interface, id.value} : refTo(id);
    }
};

struct NoteCard {
    model::NoteId id;
    Rect frame;
    bool zone = false;    ///< an area marked on the sheet, below everything else
    bool behind = false;  ///< below links and plates
    bool outline = false; ///< of a zone: only its border
    std::vector<NoteLine> lines;

    bool operator==(const NoteCard&) const = default;
};

/// A group unfolded: a frame round its members, with its title on a tab.
struct Frame {
    model::GroupId id;
    Rect frame;
    model::GroupKind kind = model::GroupKind::cluster;
    std::string title;    ///< elided to the frame
    int level = 0;        ///< of a floor
    int depth = 0;        ///< frames it lies in
    bool entered = false; ///< nothing beyond it is shown
    int units = 0;        ///< of a rack drawn by unit, front and rear; else 0

    bool operator==(const Frame&) const = default;
    /// What it is taken by: its title.
    Rect tab() const;
};

/// A group folded: a tile that stands for all within.
struct Tile {
    model::GroupId id;
    Rect frame;
    model::GroupKind kind = model::GroupKind::cluster;
    std::string name; ///< elided
    int level = 0;
    int devices = 0;
    std::vector<std::pair<model::Role, int>> roles; ///< how many of each, most first
    int failing = 0;                                ///< links within that will not come up
    bool closed = false; ///< by the zoom, as large as its frame; else folded by hand

    bool operator==(const Tile&) const = default;
    Anchor anchor() const { return {refTo(id), frame, {}, 0}; }
};

/// Where links leave the entered group: it stands for a device or group outside.
struct Doorway {
    model::ObjectRef beyond;
    Rect frame;
    std::string name; ///< elided
    int links = 0;

    bool operator==(const Doorway&) const = default;
    Anchor anchor() const { return {beyond, frame, {}, 0}; }
};

/// The plan under all that stands on it, as its group says, in the units of the sheet.
struct PlanPicture {
    model::AssetId asset;
    std::string media;
    std::vector<model::SharedText> parts; ///< base64
    Rect frame;                           ///< before it is turned about its upper left corner
    double turn = 0;                      ///< degrees clockwise
    int dim = 0;                          ///< per cent
    bool ink = false;

    bool operator==(const PlanPicture&) const = default;
    /// Of what it covers once it is turned.
    Rect covered() const;
};

/// A cable route on the plan it is drawn on.
struct RouteLine {
    model::CableRouteId id;
    model::CableRouteKind type = model::CableRouteKind::tray;
    std::vector<PointF> path; ///< at least two points
    double width = 0;
    std::string label; ///< its name and how full it is
    Rect labelArea;
    bool over = false; ///< it holds more than it should

    bool operator==(const RouteLine&) const = default;
};

/// What lies over what, lowest first. On the ground lie zones, plans and frames.
enum class Layer : std::uint8_t { ground, links, plates, notes };

/// Anything drawn: the grid, hit testing, damage and comparison know no more of it than
/// this.
struct Item {
    model::ObjectRef object;
    Rect bounds; ///< of all that may be drawn of it
    Layer layer = Layer::plates;
    std::variant<Plate, LinkLine, NoteCard, Frame, Tile, Doorway, PlanPicture, RouteLine> shape;
    int depth = 0;      ///< within its layer, lower first
    bool faint = false; ///< left out by the filter of the sheet

    bool operator==(const Item&) const = default;
    template <class Shape>
    const Shape* as() const {
        return std::get_if<Shape>(&shape);
    }
};

Item itemOf(Plate plate);
Item itemOf(LinkLine line);
Item itemOf(NoteCard note);
Item itemOf(Frame frame);
Item itemOf(Tile tile);
Item itemOf(Doorway doorway);
Item itemOf(PlanPicture plan);
Item itemOf(RouteLine route);

/// What an item takes up: its frame, or the box round its path.
Rect frameOf(const Item& item);

/// Whether it is a line with a reach, which may have to be led anew when something comes there or goes.
bool isLed(const Item& item);

/// Whether something of an item is drawn inside a rectangle.
bool meets(const Item& item, const Rect& area);
/// How far a point is from an item, in sheet units; 0 inside its frame.
double distanceTo(const Item& item, PointF point);

/// What a point means.
struct Hit {
    model::ObjectRef object; ///< Kind::unknown: nothing
    int port = -1;           ///< index in the plate's rail when the point is on it
    bool badge = false;      ///< on the badge of what is tucked into the plate

    bool operator==(const Hit&) const = default;
    explicit operator bool() const { return object.kind != model::Kind::unknown; }
};

/// What a point on or near an item means.
Hit hitOn(const Item& item, PointF point);

} // namespace underridge::scene

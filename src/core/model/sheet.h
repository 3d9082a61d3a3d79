// SPDX-License-Identifier: GPL-3.0-or-later
// Drawings of the network: what is drawn where. Sheet units are whole; one unit is one
// pixel at 100 %.
#pragma once
#include "core/model/device.h"

#include <algorithm>

namespace underridge::model {

struct Point {
    int x = 0;
    int y = 0;

    auto operator<=>(const Point&) const = default;
    Point operator+(Point o) const { return {x + o.x, y + o.y}; }
    Point operator-(Point o) const { return {x - o.x, y - o.y}; }
};

/// How far from the origin anything may be drawn.
inline constexpr int sheetLimit = 1'000'000;

inline bool isOnSheet(Point p) {
    return p.x >= -sheetLimit && p.x <= sheetLimit && p.y >= -sheetLimit && p.y <= sheetLimit;
}
/// How far something between two corners can move of what it should: all the way, or as
/// far as it stays on the sheet.
inline Point moveOnSheet(Point least, Point most, Point by) {
    const auto within = [](int low, int high, int distance) {
        return std::clamp(distance, std::min(0, -sheetLimit - low), std::max(0, sheetLimit - high));
    };
    return {within(least.x, most.x, by.x), within(least.y, most.y, by.y)};
}
/// The point itself, or the nearest one that is on the sheet.
inline Point ontoSheet(Point p) {
    return {std::clamp(p.x, -sheetLimit, sheetLimit), std::clamp(p.y, -sheetLimit, sheetLimit)};
}

struct Sheet {
    static constexpr Kind kind = Kind::sheet;
    SheetId id;
    std::string name;
    int order = 0;
    SheetLayer layer = SheetLayer::physical;
    GroupId shows;            ///< none: the whole network
    std::string filter;       ///< in the language of core/find; empty: everything
    bool filterHides = false; ///< what the filter leaves out is not drawn; else drawn faintly
    bool racks = false;       ///< whether what is in a rack is drawn by its unit
    int mmPerUnit = 0; ///< of a sheet drawn to scale on the plan of the group it shows; 0: not to scale
    LineStyle lines = LineStyle::straight;
    std::string overlay;        ///< keys of core/scene/overlay_keys.h, one a line; empty: none
    bool portLabels = true;     ///< whether links say their ports
    bool linkLabels = true;     ///< whether links say their rate, LAG and cable
    bool linksOnDemand = false; ///< whether links are drawn only while what they end at is selected
    bool groups = true;         ///< whether groups are drawn: frames, and tiles of folded ones
    bool closing =
        true; ///< whether groups close to tiles where one looks from too far to name what is in them
    SharedText extra;

    bool operator==(const Sheet&) const = default;
    Key key() const { return {id.value, 0}; }
    /// Subnets are in no group: routers and subnets are drawn without any.
    bool drawsGroups() const { return groups && layer != SheetLayer::network; }
    /// Whether what it draws follows from the network, and is kept up.
    bool follows() const { return layer == SheetLayer::dataLink || layer == SheetLayer::network; }
    /// Whether links are made there: of the other layers they are what is set, or was brought.
    bool takesLinks() const { return layer == SheetLayer::physical || layer == SheetLayer::dataLink; }
    /// Lines are upright and level and go round plates by themselves.
    bool runsAlongAxes() const { return lines != LineStyle::straight; }
};

/// How one object is drawn on one sheet, as it stands with every group unfolded. A device
/// or note has a position; a group that was drawn larger than its members need, or empty, a
/// position and a size; a link, bends.
struct Position {
    static constexpr Kind kind = Kind::position;
    SheetId sheet;
    std::uint64_t object = 0;
    Kind of = Kind::unknown; ///< what the object is: device, group, link or note
    Point at;                ///< upper left corner
    int width = 0;
    int height = 0;
    bool folded = false;
    bool pinned = false;
    bool tucks = false;       ///< of a device: the endpoints on it alone are a badge on its plate
    std::vector<Point> bends; ///< of a link, from end a to end b
    SharedText extra;

    bool operator==(const Position&) const = default;
    Key key() const { return {sheet.value, object}; }
    ObjectRef drawn() const { return {of, object}; }
};

/// A text on a sheet, or an area marked on it.
struct Note {
    static constexpr Kind kind = Kind::note;
    NoteId id;
    SheetId sheet;
    SharedText text; ///< a few marks of Markdown are drawn: see scene/note_text.h
    bool zone = false;
    bool behind = false;  ///< of a note: below plates and links
    bool outline = false; ///< of a zone: only its border is drawn
    GroupId group;        ///< it goes where that group goes, and is hidden as it is folded; none: the sheet's
    SharedText extra;

    bool operator==(const Note&) const = default;
    Key key() const { return {id.value, 0}; }
};

/// A part of a picture or plan, base64 in pieces of bounded length, untouched by edits.
struct Asset {
    static constexpr Kind kind = Kind::asset;
    AssetId id; ///< from the hash of the whole
    int part = 0;
    std::string media; ///< image/svg+xml, …
    int width = 0;     ///< of the first part: of the whole picture, in pixels
    int height = 0;
    SharedText data;
    SharedText extra;

    bool operator==(const Asset&) const = default;
    Key key() const { return {id.value, static_cast<std::uint64_t>(part)}; }
};

/// A line of a newer version's file, kept as it is.
struct UnknownRecord {
    static constexpr Kind kind = Kind::unknown;
    SharedText json;

    bool operator==(const UnknownRecord&) const = default;
    Key key() const { return {fnv1a(json.view()), 0}; }
};

} // namespace underridge::model

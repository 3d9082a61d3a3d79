// SPDX-License-Identifier: GPL-3.0-or-later
// What is drawn on a sheet, as immutable items. Geometry does not depend on zoom.
#pragma once
#include "core/model/length.h"
#include "core/model/ports.h"
#include "core/scene/geometry.h"

#include <memory>

namespace underridge::scene {

/// How much is drawn, by zoom. Thresholds in detailFor().
enum class Detail { far, middle, near, close };

Detail detailFor(double zoom);

/// How a tick of the port rail is drawn.
enum class Tick : std::uint8_t { free, used, reserved, disabled };

/// Between the paths of parallel links.
inline constexpr double parallelGap = 9;

inline constexpr double spineWidth = 22, plateHeight = 44, nameSize = 11.5, sublineSize = 9.5, labelSize = 9;

/// The ticks of a plate: one for each port, in rows along the bottom edge.
struct Rail {
    Rect area;
    int columns = 0;
    int rows = 0;

    Rect tick(int index) const;
    /// The tick at or nearest to a point inside the area; -1 when there are none.
    int nearest(PointF p) const;
};

struct Plate {
    model::DeviceId id;
    Rect frame;
    model::Role role = model::Role::workstation;
    std::string name;    ///< elided
    std::string subline; ///< address or model, elided
    bool outside = false;
    Rail rail;
    std::vector<Tick> ticks;

    bool operator==(const Plate&) const;
    /// Where the grip is: a point below the middle of the lower edge.
    PointF grip() const { return {frame.x + frame.w / 2, frame.bottom()}; }
};

enum class LinkForm {
    unknown,
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
    std::string text;
    Rect area;

    bool operator==(const Label&) const = default;
};

struct LinkLine {
    model::LinkId id;
    model::DeviceId a, b;
    std::vector<PointF> path; ///< from the plate of a to the plate of b, at least two points
    LinkForm form = LinkForm::unknown;
    std::uint32_t jacket = 0; ///< 0xRRGGBB
    int fibres = 0;           ///< of parallel fibre
    bool planned = false;
    bool toRemove = false;
    bool inLag = false; ///< tied to the other members beside it
    bool disabledA = false, disabledB = false;
    bool openA = false, openB = false;   ///< end not known
    bool failsA = false, failsB = false; ///< will not come up, at this end
    std::vector<Label> labels;
    Rect bounds; ///< of all that may be drawn of it

    bool operator==(const LinkLine&) const = default;
};

struct NoteCard {
    model::NoteId id;
    Rect frame;
    std::vector<std::string> lines;

    bool operator==(const NoteCard&) const = default;
};

/// Builds the item of one object; nothing when it is not on the sheet.
std::shared_ptr<const Plate> plateOf(const model::Network& network, model::SheetId sheet,
                                     const model::Device& device);
/// A plate as it would be for a device of this model: for the catalogue and while placing.
Plate plateFor(const model::DeviceModel& model, std::string_view name, PointF corner);
std::shared_ptr<const LinkLine> lineOf(const model::Network& network, model::SheetId sheet,
                                       const model::Link& link, const Plate& a, const Plate& b,
                                       model::LengthUnit unit = model::LengthUnit::metres);
std::shared_ptr<const NoteCard> cardOf(const model::Network& network, model::SheetId sheet,
                                       const model::Note& note);

/// The place on a plate's border where a link to `towards` leaves from a port (its index in the rail, -1:
/// not known).
PointF anchorOn(const Plate& plate, int port, PointF towards);

LinkForm formOf(const model::Network& network, const model::Link& link);
/// How a link's line looks, without its path, labels and marks at the ends: form, colour, fibres and status.
LinkLine dressOf(const model::Network& network, const model::Link& link);

} // namespace underridge::scene

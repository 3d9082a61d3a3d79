// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/items.h"

#include "core/linking/rules.h"
#include "core/scene/text_width.h"

#include <charconv>
#include <fmt/format.h>

namespace underridge::scene {
using namespace model;
namespace {

constexpr double padding = 6, minWidth = 104, maxWidth = 240, tickPitch = 4.4, maxPitch = 11,
                 tickHeight = 5.5, rowPitch = 7;
constexpr int maxColumns = 48;
constexpr double noteWidth = 200, noteSize = 11, noteLine = 15;
/// A port's name at the end of its link: how far along, by turns so that neighbours do not collide.
constexpr double labelStart = 15, labelStep = 13;
/// On links shorter than this the labels keep to their ends.
constexpr double shortLink = 120;
constexpr int labelTurns = 3;

Rail railFor(const Rect& frame, int ports) {
    Rail rail;
    if (ports == 0)
        return rail;
    rail.columns = std::min(ports, maxColumns);
    rail.rows = (ports + maxColumns - 1) / maxColumns;
    const double height = (rail.rows - 1) * rowPitch + tickHeight;
    const double width = std::min(frame.w - spineWidth - 2 * padding, rail.columns * maxPitch);
    rail.area = {frame.x + spineWidth + padding, frame.bottom() - 3.5 - height, width, height};
    return rail;
}

Plate shaped(std::string_view name, std::string_view subline, Role role, int ports, PointF corner) {
    Plate plate;
    plate.role = role;
    const double text = std::max(textWidth(name, nameSize, Weight::semiBold),
                                 std::min(textWidth(subline, sublineSize, Weight::regular), 120.0));
    const double rail = std::min(ports, maxColumns) * tickPitch;
    const double width = std::clamp(std::max(text, rail) + spineWidth + 2 * padding, minWidth, maxWidth);
    const int rows = std::max(1, (ports + maxColumns - 1) / maxColumns);
    // Whole multiples of eight keep plates of like kind equally wide.
    plate.frame = {corner.x, corner.y, std::ceil(width / 8) * 8, plateHeight + (rows - 1) * rowPitch};
    const double room = plate.frame.w - spineWidth - 2 * padding;
    plate.name = elided(name, nameSize, Weight::semiBold, room);
    plate.subline = elided(subline, sublineSize, Weight::regular, room);
    plate.rail = railFor(plate.frame, ports);
    return plate;
}

std::uint32_t colour(std::string_view text) {
    std::uint32_t value = 0x51606E;
    if (text.size() == 7 && text[0] == '#')
        std::from_chars(text.data() + 1, text.data() + 7, value, 16);
    return value;
}

int indexOf(const Network& network, const PortRef& port) {
    const Device* device = network.device(port.device);
    if (!device || !port.known())
        return -1;
    // A plain device, the usual case, needs no list of its ports.
    const bool plain = device->modules.empty() && device->stack.empty() && device->added.empty();
    if (const DeviceModel* model = network.modelOf(*device); model && plain) {
        const PortSpec* spec = model->ports.find(port.port);
        bool split = false;
        network.all<Port>().forEachIn(device->id.value, [&](const Port& p) { split |= p.breakout > 1; });
        if (!split)
            return spec ? static_cast<int>(spec - model->ports.specs().data()) : -1;
    }
    const auto ports = portsOf(network, *device);
    const auto at =
        std::find_if(ports.begin(), ports.end(), [&](const PortView& p) { return p.key == port.port; });
    return at == ports.end() ? -1 : static_cast<int>(at - ports.begin());
}

Label labelAt(LabelKind kind, std::string text, PointF centre) {
    const double width = textWidth(text, labelSize, Weight::regular) + 6;
    return {kind, std::move(text), {centre.x - width / 2, centre.y - 6.5, width, 13}};
}

std::string middleText(const Network& network, const Link& link, LengthUnit unit) {
    const Cable* cable = network.cable(link.cable);
    if (!cable)
        return {};
    const CableType* type = network.typeOf(*cable);
    std::string text = !cable->label.empty()         ? cable->label
                       : type && cable->lengthMm > 0 ? type->grade
                                                     : std::string();
    if (cable->lengthMm > 0)
        text += (text.empty() ? "" : " ") + lengthText(cable->lengthMm, unit);
    return text;
}

void addLabels(const Network& network, const Link& link, const Plate& a, const Plate& b, int portA, int portB,
               LengthUnit unit, LinkLine& line) {
    const double whole = pathLength(line.path);
    const auto place = [&](LabelKind kind, const PortRef& port, int index, double sign) {
        if (!port.known())
            return;
        // Far enough out to be clear of the plate, however flat the link leaves it.
        const PointF end = sign > 0 ? line.path.front() : line.path.back();
        const PointF direction = alongPath(line.path, sign > 0 ? 0 : whole).direction;
        const Rect& frame = (sign > 0 ? a : b).frame;
        const bool upright = end.y <= frame.y || end.y >= frame.bottom();
        const double half = labelAt(kind, port.port, end).area.w / 2;
        const double clear = upright ? 8.5 / std::max(0.05, std::abs(direction.y))
                                     : (half + 3) / std::max(0.05, std::abs(direction.x));
        const double turn = whole < shortLink ? 0 : labelStep * (std::max(index, 0) % labelTurns);
        const double reach = std::min(std::max(labelStart, clear) + turn, whole * 0.44);
        line.labels.push_back(
            labelAt(kind, port.port, alongPath(line.path, sign > 0 ? reach : whole - reach).at));
    };
    place(LabelKind::portA, link.a, portA, 1);
    place(LabelKind::portB, link.b, portB, -1);
    if (std::string text = middleText(network, link, unit); !text.empty())
        line.labels.push_back(
            labelAt(LabelKind::middle, std::move(text), alongPath(line.path, whole / 2).at));
}

/// Which of the links between the same two devices this is, and how many there are.
/// Looks through the links of the smaller device, so that a hub's cost does not grow with its square.
std::pair<int, int> amongParallels(const Network& network, const Link& link, const Plate& a, const Plate& b) {
    int place = 0, all = 0;
    network.forEachLinkOf(a.ticks.size() <= b.ticks.size() ? a.id : b.id, [&](const Link& other) {
        const bool same = (other.a.device == link.a.device && other.b.device == link.b.device) ||
                          (other.a.device == link.b.device && other.b.device == link.a.device);
        if (!same)
            return;
        ++all;
        place += other.id < link.id;
    });
    return {place, all};
}

PointF shifted(const Rect& frame, PointF anchor, double by) {
    const bool upright = anchor.y <= frame.y || anchor.y >= frame.bottom();
    if (upright)
        return {std::clamp(anchor.x + by, frame.x + 4, frame.right() - 4), anchor.y};
    return {anchor.x, std::clamp(anchor.y + by, frame.y + 4, frame.bottom() - 4)};
}

} // namespace

bool Plate::operator==(const Plate& o) const {
    return id == o.id && frame == o.frame && role == o.role && name == o.name && subline == o.subline &&
           outside == o.outside && ticks == o.ticks;
}

Detail detailFor(double zoom) {
    if (zoom < 0.3)
        return Detail::far;
    if (zoom < 0.7)
        return Detail::middle;
    return zoom < 2.4 ? Detail::near : Detail::close;
}

Rect Rail::tick(int index) const {
    const double pitch = area.w / columns;
    const double width = std::clamp(pitch - 1.6, 1.2, 9.0);
    return {area.x + (index % columns) * pitch, area.y + (index / columns) * rowPitch, width, tickHeight};
}

int Rail::nearest(PointF p) const {
    if (columns == 0)
        return -1;
    const int column = std::clamp(static_cast<int>((p.x - area.x) / (area.w / columns)), 0, columns - 1);
    const int row = std::clamp(static_cast<int>((p.y - area.y) / rowPitch), 0, rows - 1);
    return row * columns + column;
}

Plate plateFor(const DeviceModel& model, std::string_view name, PointF corner) {
    const int ports = static_cast<int>(model.ports.specs().size());
    Plate plate = shaped(name, model.name, model.role, ports, corner);
    plate.ticks.assign(static_cast<std::size_t>(ports), Tick::free);
    return plate;
}

std::shared_ptr<const Plate> plateOf(const Network& network, SheetId sheet, const Device& device) {
    const Position* position = network.position(sheet, device.id.value);
    if (!position)
        return nullptr;
    const auto ports = portsOf(network, device);
    std::string subline = firstAddress(network, device.id);
    if (subline.empty())
        subline = modelName(network, device);
    auto plate = std::make_shared<Plate>(shaped(device.name, subline, roleOf(network, device),
                                                static_cast<int>(ports.size()), toF(position->at)));
    plate->id = device.id;
    plate->outside = device.outside;
    std::vector<std::string_view> used;
    network.forEachLinkOf(device.id, [&](const Link& link) {
        for (const PortRef* end : {&link.a, &link.b})
            if (end->device == device.id)
                used.push_back(end->port);
    });
    std::sort(used.begin(), used.end());
    for (const PortView& port : ports)
        plate->ticks.push_back(std::binary_search(used.begin(), used.end(), std::string_view(port.key))
                                   ? Tick::used
                               : port.disabled() ? Tick::disabled
                               : port.reserved() ? Tick::reserved
                                                 : Tick::free);
    return plate;
}

PointF anchorOn(const Plate& plate, int port, PointF towards) {
    const Rect& f = plate.frame;
    const PointF d = towards - f.centre();
    const bool upright = std::abs(d.y) * f.w >= std::abs(d.x) * f.h * 1.15;
    const bool known = port >= 0 && port < static_cast<int>(plate.ticks.size());
    if (upright) {
        double x = f.centre().x;
        if (known) {
            const Rect tick = plate.rail.tick(port);
            x = tick.x + tick.w / 2;
        }
        return {x, d.y >= 0 ? f.bottom() : f.y};
    }
    const double share = known ? (port + 0.5) / static_cast<double>(plate.ticks.size()) : 0.5;
    return {d.x >= 0 ? f.right() : f.x, f.y + 8 + (f.h - 16) * share};
}

LinkForm formOf(const Network& network, const Link& link) {
    if (link.console)
        return LinkForm::console;
    switch (mediumOf(network, link)) {
    case Medium::unknown:
        return LinkForm::unknown;
    case Medium::twistedPair:
        return LinkForm::twistedPair;
    case Medium::singlePair:
        return LinkForm::singlePair;
    case Medium::singleMode:
    case Medium::multimode: {
        const Cable* cable = network.cable(link.cable);
        const CableType* type = cable ? network.typeOf(*cable) : nullptr;
        return type && type->positions > 2 && link.positions.empty() ? LinkForm::parallelFibre
                                                                     : LinkForm::duplexFibre;
    }
    case Medium::coax:
        return LinkForm::coax;
    case Medium::directAttach:
    case Medium::activeOptical:
        return LinkForm::thick;
    case Medium::serial:
        return LinkForm::serial;
    case Medium::radio:
        return LinkForm::radio;
    case Medium::circuit:
        return LinkForm::circuit;
    }
    return LinkForm::unknown;
}

LinkLine dressOf(const Network& network, const Link& link) {
    LinkLine line;
    line.id = link.id;
    line.form = formOf(network, link);
    if (const Cable* cable = network.cable(link.cable)) {
        const CableType* type = network.typeOf(*cable);
        line.jacket = colour(!cable->jacket.empty() ? cable->jacket : type ? type->jacket : std::string());
        line.fibres = type ? type->positions : 0;
        line.planned = cable->status == CableStatus::planned;
        line.toRemove = cable->status == CableStatus::toRemove;
    } else {
        line.jacket = colour({});
    }
    return line;
}

std::shared_ptr<const LinkLine> lineOf(const Network& network, SheetId sheet, const Link& link,
                                       const Plate& a, const Plate& b, LengthUnit unit) {
    auto line = std::make_shared<LinkLine>(dressOf(network, link));
    line->a = a.id;
    line->b = b.id;
    line->openA = !link.a.known();
    line->openB = !link.b.known();
    const auto isDisabled = [&](const PortRef& port) {
        const Port* record = port.known() ? network.port(port) : nullptr;
        return record && record->disabled;
    };
    line->disabledA = isDisabled(link.a);
    line->disabledB = isDisabled(link.b);
    line->inLag = isInLag(network, link);
    const auto fails = linking::failsOf(network, link);
    line->failsA = fails.a;
    line->failsB = fails.b;
    const Position* position = network.position(sheet, link.id.value);
    const std::vector<Point> bends = position ? position->bends : std::vector<Point>();
    const int portA = indexOf(network, link.a), portB = indexOf(network, link.b);
    PointF start = anchorOn(a, portA, bends.empty() ? b.frame.centre() : toF(bends.front()));
    PointF end = anchorOn(b, portB, bends.empty() ? a.frame.centre() : toF(bends.back()));
    if (const auto [place, all] = amongParallels(network, link, a, b); all > 1 && bends.empty()) {
        const double by = (place - (all - 1) / 2.0) * parallelGap;
        start = shifted(a.frame, anchorOn(a, -1, b.frame.centre()), by);
        end = shifted(b.frame, anchorOn(b, -1, a.frame.centre()), by);
    }
    line->path.push_back(start);
    for (const Point bend : bends)
        line->path.push_back(toF(bend));
    line->path.push_back(end);
    addLabels(network, link, a, b, portA, portB, unit, *line);
    line->bounds = boundsOf(line->path).grown(8);
    for (const Label& label : line->labels)
        line->bounds = line->bounds.united(label.area);
    return line;
}

std::shared_ptr<const NoteCard> cardOf(const Network& network, SheetId sheet, const Note& note) {
    const Position* position = network.position(sheet, note.id.value);
    if (!position)
        return nullptr;
    auto card = std::make_shared<NoteCard>();
    card->id = note.id;
    card->lines = wrapped(note.text.view(), noteSize, Weight::regular, noteWidth - 16);
    double width = 40;
    for (const std::string& text : card->lines)
        width = std::max(width, textWidth(text, noteSize, Weight::regular));
    card->frame = {static_cast<double>(position->at.x), static_cast<double>(position->at.y), width + 16,
                   static_cast<double>(card->lines.size()) * noteLine + 10};
    return card;
}

} // namespace underridge::scene

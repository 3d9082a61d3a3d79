// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/lines.h"

#include "core/linking/rules.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/scene/axes.h"
#include "core/scene/bends.h"
#include "core/scene/text_width.h"

#include <charconv>
#include <fmt/format.h>

namespace underridge::scene {
using namespace model;
namespace {

/// A port's name at the end of its link: how far along, by turns so that neighbours do
/// not collide.
constexpr double labelStart = 15, labelStep = 13;
/// On links shorter than this the labels keep to their ends.
constexpr double shortLink = 120;
constexpr int labelTurns = 3;

std::uint32_t colour(std::string_view text) {
    std::uint32_t value = 0x51606E;
    if (text.size() == 7 && text[0] == '#')
        std::from_chars(text.data() + 1, text.data() + 7, value, 16);
    return value;
}

Label labelAt(LabelKind kind, std::string_view text, PointF centre) {
    std::string shown = elided(text, labelSize, Weight::regular, maxLabelWidth - 6);
    const double width = textWidth(shown, labelSize, Weight::regular) + 6;
    return {kind, std::move(shown), {centre.x - width / 2, centre.y - 6.5, width, 13}};
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

/// How far from a plate's edge a label along a path is clear of it, however flat the path
/// leaves.
double clearOf(const Rect& frame, PointF end, PointF direction, double halfWidth) {
    const bool upright = end.y <= frame.y || end.y >= frame.bottom();
    return upright ? 8.5 / std::max(0.05, std::abs(direction.y))
                   : (halfWidth + 3) / std::max(0.05, std::abs(direction.x));
}

struct End {
    LabelKind kind;
    const PortRef& port;
    int index; ///< in the rail; -1: not known
    const Rect& frame;
    bool first; ///< of the path
    std::string text;
};

void addPortLabel(const End& end, double whole, LinkLine& line) {
    if (end.text.empty())
        return;
    const PointF at = end.first ? line.path.front() : line.path.back();
    const PointF direction = alongPath(line.path, end.first ? 0 : whole).direction;
    const double half = labelAt(end.kind, end.text, at).area.w / 2;
    const double clear = clearOf(end.frame, at, direction, half);
    const double turn = whole < shortLink ? 0 : labelStep * (std::max(end.index, 0) % labelTurns);
    const double reach = std::min(std::max(labelStart, clear) + turn, whole * 0.44);
    const auto put = [&](double away) {
        return labelAt(end.kind, end.text, alongPath(line.path, end.first ? away : whole - away).at);
    };
    Label label = put(reach);
    constexpr double step = 4;
    for (double away = reach + step; label.area.intersects(end.frame.grown(1)) && away < whole * 0.44;
         away += step)
        label = put(away); // past the corner of the plate
    line.labels.push_back(std::move(label));
}

PointF shifted(const Rect& frame, PointF anchor, double by) {
    const bool upright = anchor.y <= frame.y || anchor.y >= frame.bottom();
    if (upright)
        return {std::clamp(anchor.x + by, frame.x + 4, frame.right() - 4), anchor.y};
    return {anchor.x, std::clamp(anchor.y + by, frame.y + 4, frame.bottom() - 4)};
}

/// How a line of an upper layer looks: cables are of no matter there.
LinkLine upperLine(const Network& network, const Sheet& sheet, const Link& link) {
    LinkLine line;
    line.id = link.id;
    line.form = sheet.layer == SheetLayer::network ? LinkForm::attachment : LinkForm::frames;
    line.jacket = colour({});
    line.inLag = sheet.layer == SheetLayer::dataLink && isInLag(network, link);
    return line;
}

bool isDisabled(const Network& network, const PortRef& port) {
    const Port* record = port.known() ? network.port(port) : nullptr;
    return record && record->disabled;
}

/// From anchor to anchor by its bends.
std::vector<PointF> pathOf(const Anchor& a, const Anchor& b, int portA, int portB,
                           const std::vector<PointF>& bends, std::pair<int, int> parallels) {
    if (bends.empty())
        return straightPath(a, b, portA, portB, parallels);
    std::vector<PointF> path;
    // A first or last bend at the border of a plate is where the line ends.
    const bool endA = bends.size() > 1 && a.frame.grown(2).contains(bends.front()),
               endB = bends.size() > 1 && b.frame.grown(2).contains(bends.back());
    if (!endA)
        path.push_back(leavingFrom(a, portA, bends.front()));
    path.insert(path.end(), bends.begin(), bends.end());
    if (!endB)
        path.push_back(leavingFrom(b, portB, bends.back()));
    return path;
}

} // namespace

std::vector<const Link*> linksDrawn(const Network& network, const Sheet& sheet,
                                    const std::vector<ItemPtr>* plates) {
    std::vector<const Link*> out;
    const auto take = [&](const Link& link) {
        if (isDrawnOn(link, sheet))
            out.push_back(&link);
    };
    if (!plates) {
        out.reserve(network.all<Link>().size());
        network.all<Link>().forEach(take);
        return out;
    }
    for (const ItemPtr& plate : *plates)
        network.forEachLinkOf({plate->object.id}, take);
    std::sort(out.begin(), out.end(), [](const Link* a, const Link* b) { return a->id < b->id; });
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

void Parallels::prepare(const std::vector<const Link*>& links) {
    std::vector<std::pair<Pair, LinkId>> all;
    all.reserve(links.size());
    for (const Link* link : links)
        all.emplace_back(pairOf(*link), link->id);
    std::sort(all.begin(), all.end());
    for (std::size_t from = 0, to = 0; from < all.size(); from = to) {
        while (to < all.size() && all[to].first == all[from].first)
            ++to;
        if (to - from > 1)
            for (std::size_t i = from; i < to; ++i)
                pairs_[all[i].first].push_back(all[i].second);
    }
}

std::pair<int, int> Parallels::placeIn(const std::vector<LinkId>& all, LinkId id) {
    const auto at = std::lower_bound(all.begin(), all.end(), id);
    return {static_cast<int>(at - all.begin()), static_cast<int>(all.size())};
}

std::pair<int, int> Parallels::placeOf(const Link& link) const {
    const auto at = pairs_.find(pairOf(link));
    return at == pairs_.end() ? std::pair{0, 1} : placeIn(at->second, link.id);
}

std::pair<int, int> Parallels::placeOf(const Link& link) {
    auto [at, fresh] = pairs_.try_emplace(pairOf(link));
    if (fresh) { // looked for at the device with fewer links
        const DeviceId a = link.a.device, b = link.b.device;
        network_.forEachLinkOf(network_.degree(a) <= network_.degree(b) ? a : b, [&](const Link& other) {
            if (pairOf(other) == pairOf(link) && sheet_ && isDrawnOn(other, *sheet_))
                at->second.push_back(other.id);
        });
        std::sort(at->second.begin(), at->second.end());
    }
    return placeIn(at->second, link.id);
}

int railIndexOf(const Network& network, const PortRef& port) {
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

bool isDrawnOn(const Link& link, const Sheet& sheet) {
    return link.onlyOn ? link.onlyOn == sheet.id : sheet.layer == SheetLayer::physical;
}

PointF leavingFrom(const Anchor& anchor, int port, PointF towards) {
    const Rect& f = anchor.frame;
    const PointF c = f.centre(), d = towards - c;
    const bool upright = std::abs(d.y) * f.w >= std::abs(d.x) * f.h * 1.15;
    const bool known = port >= 0 && port < anchor.ports;
    if (upright && d.y >= 0 && known) { // the rail is there: from the tick
        const Rect tick = anchor.rail.tick(port);
        return {tick.x + tick.w / 2, f.bottom()};
    }
    // Elsewhere there are no ticks to end at: straight from the middle, so that lines leave in
    // the order of where they go and none crosses another at the plate.
    constexpr double corner = 4;
    if (upright) {
        const double x = d.y == 0 ? c.x : c.x + d.x * (f.h / 2) / std::abs(d.y);
        return {std::clamp(x, f.x + corner, f.right() - corner), d.y >= 0 ? f.bottom() : f.y};
    }
    const double y = c.y + d.y * (f.w / 2) / std::abs(d.x);
    return {d.x >= 0 ? f.right() : f.x, std::clamp(y, f.y + corner, f.bottom() - corner)};
}

std::vector<PointF> straightPath(const Anchor& a, const Anchor& b, int portA, int portB,
                                 std::pair<int, int> parallels) {
    const auto [place, all] = parallels;
    if (all < 2)
        return {leavingFrom(a, portA, b.frame.centre()), leavingFrom(b, portB, a.frame.centre())};
    const double by = (place - (all - 1) / 2.0) * parallelGap; // side by side
    return {shifted(a.frame, leavingFrom(a, -1, b.frame.centre()), by),
            shifted(b.frame, leavingFrom(b, -1, a.frame.centre()), by)};
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
    case Medium::mains: // no link goes over one
        return LinkForm::unknown;
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

namespace {

/// Whether folding shows one of two plates further aside than the other.
bool isPulled(const Folding& folding, const Anchor& a, const Anchor& b) {
    const auto standsA = folding.standingPlate({a.shown.id}), standsB = folding.standingPlate({b.shown.id});
    const auto pushed = [](const Rect& stands, const Rect& shown) {
        return PointF{shown.x - stands.x, shown.y - stands.y};
    };
    return standsA && standsB && !(pushed(*standsA, a.frame) == pushed(*standsB, b.frame));
}

/// Where the way of a link is shown.
struct Way {
    std::vector<PointF> bends;
    bool displaced = false; ///< folding shows it otherwise than it was drawn
};

Way wayOf(const Network& network, SheetId sheet, const Link& link, const Anchor& a, const Anchor& b,
          const Folding* folding) {
    const Position* position = network.position(sheet, link.id.value);
    if (!position || position->bends.empty())
        return {{}, folding && isPulled(*folding, a, b)};
    Way way;
    if (!folding) {
        for (const Point bend : position->bends)
            way.bends.push_back(toF(bend));
        return way;
    }
    const Bends bends(*folding, levelOf(network, link), link.a.device, link.b.device);
    for (const Point bend : position->bends) {
        way.bends.push_back(bends.shown(toF(bend)));
        way.displaced |= !bends.keeps(toF(bend));
    }
    return way;
}

/// What a label says at the end of a link: the port, and where something else stands for
/// its device that as well.
std::string endText(const Network& network, const Sheet& sheet, const PortRef& port, const Anchor& anchor) {
    if (sheet.layer == SheetLayer::dataLink)
        if (const Interface* lag = lagAt(network, port); lag && !lag->name.empty())
            return lag->name;
    if (anchor.shown.id == port.device.value)
        return port.port;
    return portText(network, port);
}

/// Where a medium runs in a trunk, from its middle.
double laneOf(LinkForm form) {
    constexpr int lanes = 5, apart = 6;
    return (2 * static_cast<int>(form) % lanes - lanes / 2) * apart;
}

/// Where a line drawn for how things stand unfolded, or for nobody, goes through what is shown between its
/// ends: straight where that is better, else round it in a trunk.
void leadRound(LinkLine& line, const Anchor& a, const Anchor& b, int portA, int portB,
               std::pair<int, int> parallels, const Grid& plates, bool roundFrames) {
    line.reach = reachBetween(a, b).united(boundsOf(line.path).grown(1));
    const auto met = [&](const std::vector<PointF>& path) {
        Met out = metBy(path, a, b, plates);
        if (!roundFrames)
            out.frames = 0;
        return out;
    };
    Met through = met(line.path);
    line.obstructed = through > Met{};
    const auto offer = [&](std::vector<PointF> path) {
        const Met now = met(path);
        const bool better = now < through;
        if (better) {
            through = now;
            line.path = std::move(path);
        }
        return better;
    };
    if (line.obstructed && line.path.size() > 2)
        offer(straightPath(a, b, portA, portB, parallels));
    if (through > Met{})
        line.alongAxes =
            offer(axisPath(a, b, -1, -1, parallels, plates, {true, laneOf(line.form), true, roundFrames}));
}

/// By its bends, else as the sheet has its lines.
void lead(LinkLine& line, const Sheet& sheet, const Anchor& a, const Anchor& b, int portA, int portB,
          const Way& way, std::pair<int, int> parallels, const Grid& plates) {
    if (sheet.runsAlongAxes() && way.bends.empty()) {
        line.path = axisPath(a, b, portA, portB, parallels, plates,
                             {sheet.lines == LineStyle::bundled, laneOf(line.form)});
        line.reach = reachBetween(a, b);
        line.alongAxes = true;
        return;
    }
    line.path = pathOf(a, b, portA, portB, way.bends, parallels);
    if (way.displaced)
        leadRound(line, a, b, portA, portB, parallels, plates, !sheet.runsAlongAxes());
    else
        line.alongAxes = sheet.runsAlongAxes() && isAligned(line.path); // nobody leads it, but it looks alike
}

/// A line with the marks of its ends, from anchor to anchor.
LinkLine joined(const Network& network, const Sheet& sheet, const Link& link, const Anchor& a,
                const Anchor& b) {
    const bool upper = sheet.follows() || link.isUpper();
    LinkLine line = upper ? upperLine(network, sheet, link) : dressOf(network, link);
    line.a = a.shown;
    line.b = b.shown;
    line.onDemand = sheet.linksOnDemand;
    if (upper)
        return line;
    line.openA = !link.a.known();
    line.openB = !link.b.known();
    line.disabledA = isDisabled(network, link.a);
    line.disabledB = isDisabled(network, link.b);
    line.inLag = isInLag(network, link);
    const auto fails = linking::failsOf(network, link);
    line.failsA = fails.a;
    line.failsB = fails.b;
    return line;
}

} // namespace

GroupId levelOf(const Network& network, const Link& link) {
    const Device *a = network.device(link.a.device), *b = network.device(link.b.device);
    return a && b ? commonGroup(network, a->group, b->group) : GroupId{};
}

namespace {

LinkLine labelled(const Network& network, const Sheet& sheet, const Link& link, const Anchor& a,
                  const Anchor& b, const Way& way, std::pair<int, int> parallels, LengthUnit unit,
                  const Grid& plates) {
    LinkLine line = joined(network, sheet, link, a, b);
    const int portA = railIndexOf(network, link.a), portB = railIndexOf(network, link.b);
    lead(line, sheet, a, b, portA, portB, way, parallels, plates);
    const double whole = pathLength(line.path);
    if (sheet.portLabels && line.form == LinkForm::attachment) {
        // At the subnet, where fewer lines come together than at a router.
        addPortLabel({LabelKind::portA, link.a, -1, b.frame, false, endText(network, sheet, link.a, a)},
                     whole, line);
    } else if (sheet.portLabels) {
        addPortLabel({LabelKind::portA, link.a, portA, a.frame, true, endText(network, sheet, link.a, a)},
                     whole, line);
        addPortLabel({LabelKind::portB, link.b, portB, b.frame, false, endText(network, sheet, link.b, b)},
                     whole, line);
    }
    if (const std::string text = sheet.linkLabels ? middleText(network, link, unit) : std::string();
        !text.empty())
        line.labels.push_back(labelAt(LabelKind::middle, text, alongPath(line.path, whole / 2).at));
    return line;
}

} // namespace

LinkLine lineOf(const Network& network, const Sheet& sheet, const Link& link, const Anchor& a,
                const Anchor& b, std::pair<int, int> parallels, LengthUnit unit, const Folding* folding,
                const Grid& plates) {
    const Way way = wayOf(network, sheet.id, link, a, b, folding);
    return labelled(network, sheet, link, a, b, way, parallels, unit, plates);
}

LinkLine lineOfAll(const Network& network, const Sheet& sheet, const std::vector<const Link*>& links,
                   const Anchor& a, const Anchor& b, LengthUnit unit, const Grid& plates) {
    const Link& first = *links.front();
    const Way none{{}, true}; // nobody has drawn one
    if (links.size() == 1)
        return labelled(network, sheet, first, a, b, none, {0, 1}, unit, plates);
    const bool upper = sheet.follows() || first.isUpper();
    LinkLine line = upper ? upperLine(network, sheet, first) : dressOf(network, first);
    line.a = a.shown;
    line.b = b.shown;
    line.planned = line.toRemove = false;
    line.onDemand = sheet.linksOnDemand;
    for (const Link* link : links) {
        line.merged.push_back(link->id);
        if (upper)
            continue;
        const LinkLine dress = dressOf(network, *link);
        if (dress.form != line.form || dress.jacket != line.jacket)
            line.form = LinkForm::unknown; // of several kinds
        const auto fails = linking::failsOf(network, *link);
        const bool turned = link->a.device != first.a.device && link->b.device != first.b.device;
        line.failsA |= turned ? fails.b : fails.a;
        line.failsB |= turned ? fails.a : fails.b;
    }
    lead(line, sheet, a, b, -1, -1, none, {0, 1}, plates);
    line.labels.push_back(labelAt(LabelKind::middle, fmt::format("×{}", links.size()),
                                  alongPath(line.path, pathLength(line.path) / 2).at));
    return line;
}

} // namespace underridge::scene

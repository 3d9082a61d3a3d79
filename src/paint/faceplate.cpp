// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/faceplate.h"

#include "core/linking/supply.h"
#include "paint/sheet_painter.h"

#include <map>

namespace underridge::paint {
using namespace model;
namespace {

constexpr double socket = 17, gap = 4, blockGap = 14, margin = 12, keyHeight = 10, sideGap = 10;
constexpr double bayMargin = 6, captionHeight = 10, captionSize = 7, emptyBay = 34, bayRow = 620;

/// Like ports beside each other: two rows where there are many.
struct Run {
    std::vector<FacePort> ports;
    int rows() const { return ports.size() > 4 ? 2 : 1; }
    int columns() const { return (static_cast<int>(ports.size()) + rows() - 1) / rows(); }
    double socketWidth() const { return ports.front().like.cage == Cage::none ? socket : socket * 1.15; }
    double width() const { return columns() * (socketWidth() + gap) - gap; }
};

using Runs = std::vector<Run>;

Runs runsOn(const std::vector<FacePort>& ports, Side side) {
    Runs runs;
    for (const FacePort& port : ports) {
        if (port.like.side != side)
            continue;
        if (runs.empty() || !(runs.back().ports.back().like == port.like))
            runs.emplace_back();
        runs.back().ports.push_back(port);
    }
    return runs;
}

double heightOf(const Runs& runs) {
    int rows = 1;
    for (const Run& run : runs)
        rows = std::max(rows, run.rows());
    return rows * (socket + keyHeight) + 2 * margin;
}

double widthOf(const Runs& runs) {
    double width = 2 * margin - blockGap;
    for (const Run& run : runs)
        width += run.width() + blockGap;
    return std::max(width, 120.0);
}

/// A slot before it has a place.
struct Bay {
    FaceSlot slot;
    Runs runs;

    QSizeF size() const {
        const double ports = runs.empty() ? 0 : widthOf(runs) - 2 * (margin - bayMargin);
        const double words =
            scene::textWidth(slot.caption, captionSize, scene::Weight::regular) + 2 * bayMargin;
        return {std::max({ports, words, 90.0}),
                runs.empty() ? emptyBay : heightOf(runs) - 2 * margin + 2 * bayMargin + captionHeight};
    }
};

/// One chassis before it has a place.
struct Body {
    std::string name; ///< its number in a stack
    std::vector<FacePort> ports;
    std::vector<Bay> bays;
};

class Layout {
public:
    Face run(const std::vector<Body>& bodies) {
        for (const Body& body : bodies)
            for (const Side side : {Side::front, Side::rear})
                add(body, side);
        for (FaceSide& side : face_.sides)
            side.area.setWidth(width_);
        face_.size = {width_, top_ - sideGap};
        return std::move(face_);
    }

private:
    void add(const Body& body, Side side) {
        const Runs runs = runsOn(body.ports, side);
        const bool front = side == Side::front;
        if (runs.empty() && !front)
            return;
        double bottom = top_ + heightOf(runs);
        place(runs, {margin, top_ + margin});
        double end = margin - blockGap;
        for (const Run& run : runs) {
            end += run.width() + blockGap;
            const auto& rates = run.ports.front().like.rates;
            if (!rates.empty() && run.ports.front().like.use == PortUse::data)
                face_.speeds.push_back({rateText(rates.back()), {end, top_ + margin - 3}});
        }
        double right = widthOf(runs);
        if (front && !body.bays.empty()) {
            // Bays stand in rows below the chassis' own ports.
            double x = margin, y = runs.empty() ? top_ + margin : bottom - margin / 2, row = 0;
            for (const Bay& bay : body.bays) {
                const QSizeF size = bay.size();
                if (x > margin && x + size.width() > bayRow) {
                    x = margin;
                    y += row + gap;
                    row = 0;
                }
                FaceSlot slot = bay.slot;
                slot.area = {QPointF(x, y), size};
                face_.slots.push_back(std::move(slot));
                place(bay.runs, {x + bayMargin, y + bayMargin + captionHeight});
                x += size.width() + gap;
                row = std::max(row, size.height());
                right = std::max(right, x - gap + margin);
            }
            bottom = y + row + margin;
        }
        face_.sides.push_back(
            {std::string(front ? "front" : "rear") + (body.name.empty() ? "" : " " + body.name),
             {0, top_, right, bottom - top_}});
        width_ = std::max(width_, right);
        top_ = bottom + sideGap;
    }

    void place(const Runs& runs, QPointF at) {
        for (const Run& run : runs) {
            for (std::size_t i = 0; i < run.ports.size(); ++i) {
                const int row = run.rows() == 2 ? static_cast<int>(i % 2) : 0;
                const int column = static_cast<int>(i) / run.rows();
                FacePort port = run.ports[i];
                port.area = {at.x() + column * (run.socketWidth() + gap), at.y() + row * (socket + keyHeight),
                             run.socketWidth(), socket};
                face_.ports.push_back(std::move(port));
            }
            at.rx() += run.width() + blockGap;
        }
    }

    Face face_;
    double top_ = 0, width_ = 0;
};

/// Each form of socket has a shape of its own.
void drawSocket(QPainter& painter, const FacePort& port, QRectF r) {
    painter.drawRoundedRect(r, 2, 2);
    const Cage cage = port.like.cage;
    if (port.fitted != Connector::none) { // the cage is the outer line
        r.adjust(2, 2, -2, -2);
        painter.drawRoundedRect(r, 1.5, 1.5);
    }
    switch (port.fitted != Connector::none ? port.fitted : port.like.connector) {
    case Connector::rj45:
        painter.drawLine(QPointF(r.left() + r.width() * 0.3, r.top() + 3),
                         QPointF(r.right() - r.width() * 0.3, r.top() + 3));
        painter.drawRect(QRectF(r.center().x() - 3, r.bottom() - 4, 6, 4));
        break;
    case Connector::lc:
    case Connector::sc:
    case Connector::mpo: {
        const double w = r.width() / 2 - 3;
        painter.drawRect(QRectF(r.left() + 2, r.top() + 4, w, r.height() - 8));
        painter.drawRect(QRectF(r.center().x() + 1, r.top() + 4, w, r.height() - 8));
        break;
    }
    case Connector::m12d:
    case Connector::m12x:
    case Connector::n:
    case Connector::f:
    case Connector::bnc:
        painter.drawEllipse(r.center(), r.width() / 2 - 2, r.height() / 2 - 2);
        painter.drawEllipse(r.center(), 1.2, 1.2);
        break;
    case Connector::usbC:
    case Connector::de9:
        painter.drawRoundedRect(r.adjusted(2, 5, -2, -5), 3, 3);
        break;
    case Connector::c13:
    case Connector::c14:
        for (const double x : {-4.0, 0.0, 4.0})
            painter.drawLine(QPointF(r.center().x() + x, r.center().y() - 2),
                             QPointF(r.center().x() + x, r.center().y() + 3));
        break;
    case Connector::idc:
        for (double x = r.left() + 3; x < r.right() - 1; x += 4)
            painter.drawLine(QPointF(x, r.top() + 3), QPointF(x, r.bottom() - 3));
        break;
    case Connector::splice:
        painter.drawLine(QPointF(r.left() + 3, r.center().y()), QPointF(r.right() - 3, r.center().y()));
        painter.drawRect(QRectF(r.center().x() - 3, r.center().y() - 2, 6, 4));
        break;
    case Connector::iec63171:
        for (const double x : {-2.5, 2.5})
            painter.drawEllipse(r.center() + QPointF(x, 0), 1.6, 1.6);
        break;
    case Connector::none:
        if (cage != Cage::none)
            painter.drawLine(QPointF(r.left() + 3, r.bottom() - 4), QPointF(r.right() - 3, r.bottom() - 4));
        else
            painter.drawArc(r.adjusted(3, 4, -3, 0), 30 * 16, 120 * 16);
        break;
    }
}

/// What tells a port's state, over its socket.
void drawState(QPainter& painter, const Theme& theme, QRectF r, const PortLook& look) {
    const QColor ink = look.state == PortState::fails ? theme.error : theme.ink;
    switch (look.state) {
    case PortState::free:
        break;
    case PortState::used:
    case PortState::fails:
        painter.fillRect(r.adjusted(4, 6, -4, -4), ink);
        if (look.state == PortState::fails) {
            painter.setPen(QPen(theme.error, 1.6));
            painter.drawPolyline(QPolygonF{r.topLeft() + QPointF(1, 6), r.topLeft() + QPointF(6, 1),
                                           r.topLeft() + QPointF(8, 5)});
        }
        break;
    case PortState::reserved:
        painter.setPen(QPen(theme.ink, 1.4));
        painter.drawLine(r.topRight() + QPointF(-8, 1), r.topRight() + QPointF(-1, 8));
        break;
    case PortState::disabled:
        painter.setPen(QPen(theme.ink, 1.4));
        painter.drawLine(r.topLeft() + QPointF(3, 3), r.bottomRight() - QPointF(3, 3));
        painter.drawLine(r.topRight() + QPointF(-3, 3), r.bottomLeft() + QPointF(3, -3));
        break;
    }
    if (look.givesPower) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme.ink);
        painter.drawEllipse(r.bottomRight() - QPointF(2.5, 2.5), 1.6, 1.6);
    }
}

} // namespace

int Face::at(QPointF point) const {
    for (std::size_t i = 0; i < ports.size(); ++i)
        if (ports[i].area.adjusted(-gap / 2, -gap / 2, gap / 2, keyHeight).contains(point))
            return static_cast<int>(i);
    return -1;
}

int Face::slotAt(QPointF point) const {
    for (std::size_t i = 0; i < slots.size(); ++i)
        if (slots[i].area.contains(point))
            return static_cast<int>(i);
    return -1;
}

Face faceOf(const DeviceModel& model) {
    Body body;
    for (const PortSpec& spec : model.ports.specs())
        body.ports.push_back({spec.key, spec.like, {}});
    for (const Slot& slot : model.slots)
        body.bays.push_back({{slot.key, "slot " + slot.key, false, {}}, {}});
    return Layout().run({body});
}

Face faceOf(const Network& network, const Device& device) {
    std::vector<Body> bodies;
    for (const Chassis& member : device.stack)
        bodies.push_back({std::to_string(member.number), {}, {}});
    if (bodies.empty())
        bodies.emplace_back();
    const auto bodyOf = [&](const std::string& key) -> Body& {
        for (Body& body : bodies)
            if (!body.name.empty() && key.starts_with(body.name + "/"))
                return body;
        return bodies.front();
    };
    std::map<std::string, std::vector<FacePort>> inSlots;
    const auto slots = linking::slotsOf(network, device);
    for (const PortView& port : portsOf(network, device)) {
        FacePort each{
            port.key, *port.like, {}, port.transceiver ? port.transceiver->connector : Connector::none};
        const auto slot = std::find_if(slots.begin(), slots.end(), [&](const linking::SlotView& view) {
            return view.fitted && port.key.starts_with(view.key + "/");
        });
        (slot == slots.end() ? bodyOf(port.key).ports : inSlots[slot->key]).push_back(std::move(each));
    }
    for (const linking::SlotView& view : slots) {
        const auto* module =
            view.fitted ? network.find<ModuleModel>({fnv1a(view.fitted->model), 0}) : nullptr;
        bodyOf(view.key).bays.push_back({{view.key,
                                          "slot " + view.key + " · " +
                                              (module        ? module->name
                                               : view.fitted ? view.fitted->model
                                                             : std::string("empty")),
                                          view.fitted != nullptr,
                                          {}},
                                         runsOn(inSlots[view.key], Side::front)});
    }
    return Layout().run(bodies);
}

void paintFace(QPainter& painter, const Face& face, const Theme& theme,
               const std::function<PortLook(const FacePort&)>& look, int chosenSlot) {
    painter.setRenderHint(QPainter::Antialiasing);
    SheetPainter words(theme);
    for (const FaceSide& side : face.sides) {
        painter.setPen(QPen(theme.edge, 1));
        painter.setBrush(theme.plate);
        painter.drawRoundedRect(side.area.adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
        words.text(painter, {margin, side.area.top() + 9}, side.caption, captionSize, scene::Weight::regular,
                   theme.muted);
    }
    for (const FaceSpeed& speed : face.speeds)
        words.text(painter,
                   speed.right -
                       QPointF(scene::textWidth(speed.text, captionSize, scene::Weight::regular), 0),
                   speed.text, captionSize, scene::Weight::regular, theme.muted);
    for (std::size_t i = 0; i < face.slots.size(); ++i) {
        const FaceSlot& slot = face.slots[i];
        const bool chosen = static_cast<int>(i) == chosenSlot;
        QColor ground = theme.accent;
        ground.setAlphaF(0.15F);
        painter.setPen(QPen(chosen ? theme.accent : theme.edge, chosen ? 1.6 : 1));
        painter.setBrush(chosen ? QBrush(ground) : slot.fitted ? QBrush(Qt::NoBrush) : QBrush(theme.sheet));
        painter.drawRoundedRect(slot.area.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
        words.text(painter, {slot.area.left() + bayMargin, slot.area.top() + 10}, slot.caption, captionSize,
                   scene::Weight::regular, theme.muted);
    }
    for (const FacePort& port : face.ports) {
        const PortLook how = look(port);
        if (how.chosen || how.hovered) {
            QColor ground = theme.accent;
            ground.setAlphaF(how.chosen ? 0.35F : 0.15F);
            painter.setPen(how.chosen ? QPen(theme.accent, 1.5) : QPen(Qt::NoPen));
            painter.setBrush(ground);
            painter.drawRoundedRect(port.area.adjusted(-2, -2, 2, keyHeight), 3, 3);
        }
        painter.setPen(QPen(theme.socket, 1));
        painter.setBrush(Qt::NoBrush);
        drawSocket(painter, port, port.area);
        drawState(painter, theme, port.area, how);
        const std::string key =
            scene::elided(port.key, 6.5, scene::Weight::regular, port.area.width() + gap - 1);
        const double room = scene::textWidth(key, 6.5, scene::Weight::regular);
        words.text(painter, {port.area.center().x() - room / 2, port.area.bottom() + 7.5}, key, 6.5,
                   scene::Weight::regular, theme.ink);
    }
}

void paintFaceplate(QPainter& painter, const DeviceModel& model, const Theme& theme) {
    paintFace(painter, faceOf(model), theme, [](const FacePort&) { return PortLook{}; });
}

} // namespace underridge::paint

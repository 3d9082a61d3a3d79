// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/faceplate.h"

#include "paint/sheet_painter.h"

namespace underridge::paint {
using namespace model;
namespace {

constexpr double socket = 17, gap = 4, blockGap = 14, margin = 12, keyHeight = 10, sideGap = 10;

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

Face layOut(const std::vector<FacePort>& ports) {
    const Runs front = runsOn(ports, Side::front), rear = runsOn(ports, Side::rear);
    Face face;
    const double width = std::max(widthOf(front), rear.empty() ? 0 : widthOf(rear));
    double top = 0;
    for (const Runs* runs : {&front, &rear}) {
        if (runs == &rear && rear.empty())
            continue;
        face.sides.push_back({0, top, width, heightOf(*runs)});
        double x = margin;
        for (const Run& run : *runs) {
            for (std::size_t i = 0; i < run.ports.size(); ++i) {
                const int row = run.rows() == 2 ? static_cast<int>(i % 2) : 0;
                const int column = static_cast<int>(i) / run.rows();
                FacePort port = run.ports[i];
                port.area = {x + column * (run.socketWidth() + gap),
                             top + margin + row * (socket + keyHeight), run.socketWidth(), socket};
                face.ports.push_back(std::move(port));
            }
            x += run.width() + blockGap;
        }
        top += heightOf(*runs) + sideGap;
    }
    face.size = {width, top - sideGap};
    return face;
}

/// Each form of socket has a shape of its own.
void drawSocket(QPainter& painter, const PortBlock& like, QRectF r) {
    painter.drawRoundedRect(r, 2, 2);
    switch (like.connector) {
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
    case Connector::none:
        if (like.cage != Cage::none)
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

Face faceOf(const DeviceModel& model) {
    std::vector<FacePort> ports;
    for (const PortSpec& spec : model.ports.specs())
        ports.push_back({spec.key, spec.like, {}});
    return layOut(ports);
}

Face faceOf(const Network& network, const Device& device) {
    std::vector<FacePort> ports;
    for (const PortView& port : portsOf(network, device))
        ports.push_back({port.key, *port.like, {}});
    return layOut(ports);
}

void paintFace(QPainter& painter, const Face& face, const Theme& theme,
               const std::function<PortLook(const FacePort&)>& look) {
    painter.setRenderHint(QPainter::Antialiasing);
    SheetPainter words(theme);
    for (std::size_t i = 0; i < face.sides.size(); ++i) {
        const QRectF& side = face.sides[i];
        painter.setPen(QPen(theme.edge, 1));
        painter.setBrush(theme.plate);
        painter.drawRoundedRect(side.adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
        words.text(painter, {margin, side.top() + 9}, i == 0 ? "front" : "rear", 7, scene::Weight::regular,
                   theme.muted);
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
        drawSocket(painter, port.like, port.area);
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

// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/faceplate.h"

#include "paint/sheet_painter.h"

namespace underridge::paint {
using namespace model;
using scene::Face;
using scene::FacePort;
using scene::FaceSide;
using scene::FaceSlot;
using scene::FaceSpeed;
namespace {

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
    case Connector::mpo:
    case Connector::mpo16: {
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
    case Connector::c19:
    case Connector::c20:
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

void paintFace(QPainter& painter, const Face& face, const Theme& theme,
               const std::function<PortLook(const FacePort&)>& look, int chosenSlot) {
    painter.setRenderHint(QPainter::Antialiasing);
    SheetPainter words(theme);
    for (const FaceSide& side : face.sides) {
        painter.setPen(QPen(theme.edge, 1));
        painter.setBrush(theme.plate);
        painter.drawRoundedRect(toQt(side.area).adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
        words.text(painter, {scene::faceMargin, side.area.y + 9}, side.caption, scene::faceCaptionSize,
                   scene::Weight::regular, theme.muted);
    }
    for (const FaceSpeed& speed : face.speeds)
        words.text(
            painter,
            toQt(speed.right) -
                QPointF(scene::textWidth(speed.text, scene::faceCaptionSize, scene::Weight::regular), 0),
            speed.text, scene::faceCaptionSize, scene::Weight::regular, theme.muted);
    for (std::size_t i = 0; i < face.slots.size(); ++i) {
        const FaceSlot& slot = face.slots[i];
        const bool chosen = static_cast<int>(i) == chosenSlot;
        QColor ground = theme.accent;
        ground.setAlphaF(0.15F);
        painter.setPen(QPen(chosen ? theme.accent : theme.edge, chosen ? 1.6 : 1));
        painter.setBrush(chosen ? QBrush(ground) : slot.fitted ? QBrush(Qt::NoBrush) : QBrush(theme.sheet));
        painter.drawRoundedRect(toQt(slot.area).adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
        words.text(painter, {slot.area.x + scene::faceBayMargin, slot.area.y + 10}, slot.caption,
                   scene::faceCaptionSize, scene::Weight::regular, theme.muted);
    }
    for (const FacePort& port : face.ports) {
        const PortLook how = look(port);
        const QRectF area = toQt(port.area);
        if (how.chosen || how.hovered) {
            QColor ground = theme.accent;
            ground.setAlphaF(how.chosen ? 0.35F : 0.15F);
            painter.setPen(how.chosen ? QPen(theme.accent, 1.5) : QPen(Qt::NoPen));
            painter.setBrush(ground);
            painter.drawRoundedRect(area.adjusted(-2, -2, 2, scene::faceKeyHeight), 3, 3);
        }
        painter.setPen(QPen(theme.socket, 1));
        painter.setBrush(Qt::NoBrush);
        drawSocket(painter, port, area);
        drawState(painter, theme, area, how);
        const std::string key =
            scene::elided(port.key, 6.5, scene::Weight::regular, area.width() + scene::faceGap - 1);
        const double room = scene::textWidth(key, 6.5, scene::Weight::regular);
        words.text(painter, {area.center().x() - room / 2, area.bottom() + 7.5}, key, 6.5,
                   scene::Weight::regular, theme.ink);
    }
}

void paintFaceplate(QPainter& painter, const DeviceModel& model, const Theme& theme) {
    paintFace(painter, scene::faceOf(model), theme, [](const FacePort&) { return PortLook{}; });
}

} // namespace underridge::paint

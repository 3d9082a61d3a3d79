// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/rack_drawing.h"

#include "core/model/ports.h"
#include "paint/glyphs.h"
#include "paint/sheet_painter.h"

#include <algorithm>

namespace underridge::paint {
using namespace model;
namespace {

constexpr double spine = 20, nameWidth = 116, inset = 1;

QString shown(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

void paintFrame(QPainter& painter, const scene::Rect& all, int units, const QString& caption,
                const Theme& theme) {
    painter.setPen(QPen(theme.muted, 2));
    painter.setBrush(theme.panel);
    painter.drawRect(toQt(all));
    QFont font = painter.font();
    font.setPixelSize(11);
    painter.setFont(font);
    painter.setPen(theme.muted);
    painter.drawText(QRectF(all.x, all.y - 20, all.w, 16), Qt::AlignLeft | Qt::AlignVCenter, caption);
    for (int unit = 1; unit <= units; ++unit) {
        const double top = all.bottom() - unit * scene::rackUnitHeight;
        painter.setPen(QPen(theme.dots, 1));
        if (unit < units)
            painter.drawLine(QPointF(all.x + 1, top), QPointF(all.right() - 1, top));
        painter.setPen(theme.muted);
        painter.drawText(QRectF(all.x - 28, top, 22, scene::rackUnitHeight),
                         Qt::AlignRight | Qt::AlignVCenter, QString::number(unit));
    }
}

/// The ports on this side in two rows, block by block; what links end in is filled.
void paintPorts(QPainter& painter, const Network& network, const Device& device, const QRectF& room,
                Side side, const Theme& theme) {
    constexpr double pitch = 9, socket = 7, blockGap = 5;
    double x = room.x();
    int inBlock = 0;
    std::optional<Block> block;
    for (const PortView& port : portsOf(network, device)) {
        if (port.like->side != side)
            continue;
        if (block && *block != port.like->block) {
            x += pitch * ((inBlock + 1) / 2) + blockGap;
            inBlock = 0;
        }
        block = port.like->block;
        const double left = x + pitch * (inBlock / 2);
        if (left + socket > room.right())
            return; // as many as there is room for
        const QRectF place(left, room.center().y() + (inBlock % 2 == 0 ? -pitch + 1 : 1), socket, socket);
        painter.setPen(QPen(theme.muted, 1));
        painter.setBrush(network.linkAt({device.id, port.key}) ? QBrush(theme.ink) : QBrush(Qt::NoBrush));
        port.like->cage == Cage::none ? painter.drawRect(place) : painter.drawRoundedRect(place, 2.5, 2.5);
        ++inBlock;
    }
}

void paintSlot(QPainter& painter, const Network& network, const scene::RackSlot& slot, Side side,
               const Theme& theme, bool chosen) {
    const Device& device = *network.device(slot.mounted.device);
    const QRectF area = toQt(slot.area.grown(-inset));
    painter.setPen(QPen(slot.clash ? theme.error : theme.edge, slot.clash ? 2 : 1));
    painter.setBrush(slot.behind ? theme.sheet : theme.plate);
    painter.drawRoundedRect(area, 3, 3);
    const QColor colour = theme.spine(roleOf(network, device));
    if (!slot.behind) {
        painter.fillRect(QRectF(area.x() + 1, area.y() + 1, spine, area.height() - 2), colour);
        painter.save();
        painter.translate(area.x() + 4, area.center().y() - glyphBox / 2);
        painter.setPen(QPen(theme.glyph(), 1.5));
        painter.setBrush(Qt::NoBrush);
        painter.drawPath(glyphOf(roleOf(network, device)));
        painter.restore();
    }
    QFont font = painter.font();
    font.setPixelSize(11);
    font.setWeight(slot.behind ? QFont::Normal : QFont::DemiBold);
    painter.setFont(font);
    painter.setPen(slot.behind ? theme.muted : theme.ink);
    const QRectF name(area.x() + spine + 6, area.y(), nameWidth, area.height());
    painter.drawText(
        name, Qt::AlignLeft | Qt::AlignVCenter,
        QFontMetrics(font).elidedText(shown(device.name), Qt::ElideRight, static_cast<int>(nameWidth)));
    paintPorts(painter, network, device,
               QRectF(name.right() + 4, area.y() + 2, area.right() - name.right() - 8, area.height() - 4),
               side, theme);
    if (chosen) {
        painter.setPen(QPen(theme.accent, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(area, 3, 3);
    }
}

} // namespace

void paintRack(QPainter& painter, const Network& network, const scene::RackPicture& rack, const Theme& theme,
               const std::vector<DeviceId>& chosen) {
    painter.setRenderHint(QPainter::Antialiasing);
    const Group* group = network.group(rack.rack);
    const QString name = group ? shown(group->name) : QString();
    paintFrame(painter, rack.front, rack.units,
               QStringLiteral("%1, %2").arg(name, shown(titleOf(Side::front))), theme);
    paintFrame(painter, rack.rear, rack.units, QStringLiteral("%1, %2").arg(name, shown(titleOf(Side::rear))),
               theme);
    for (const bool behind : {true, false})
        for (const scene::RackSlot& slot : rack.slots) {
            if (slot.behind != behind)
                continue;
            const Side side = slot.area.x < rack.rear.x ? Side::front : Side::rear;
            paintSlot(painter, network, slot, side, theme,
                      std::find(chosen.begin(), chosen.end(), slot.mounted.device) != chosen.end());
        }
}

} // namespace underridge::paint

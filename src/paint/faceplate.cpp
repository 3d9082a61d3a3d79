// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/faceplate.h"

#include "paint/sheet_painter.h"

namespace underridge::paint {
using namespace model;
namespace {

constexpr double socket = 17, gap = 4, blockGap = 14, margin = 12, keyHeight = 10, sideGap = 10;

/// One block's sockets: two rows where there are many.
struct Block {
    const PortBlock* like = nullptr;
    std::vector<std::string> keys;
    int rows() const { return keys.size() > 4 ? 2 : 1; }
    int columns() const { return (static_cast<int>(keys.size()) + rows() - 1) / rows(); }
    double width() const { return columns() * (socketWidth() + gap) - gap; }
    double socketWidth() const { return like->cage == Cage::none ? socket : socket * 1.15; }
};

std::vector<Block> blocksOn(const DeviceModel& model, Side side) {
    std::vector<Block> blocks;
    for (const PortBlock& block : model.ports.blocks()) {
        const auto keys = expandKeys(block.keys);
        if (block.side == side && keys)
            blocks.push_back({&block, *keys});
    }
    return blocks;
}

double heightOf(const std::vector<Block>& blocks) {
    int rows = 1;
    for (const Block& block : blocks)
        rows = std::max(rows, block.rows());
    return rows * (socket + keyHeight) + 2 * margin;
}

double widthOf(const std::vector<Block>& blocks) {
    double width = 2 * margin - blockGap;
    for (const Block& block : blocks)
        width += block.width() + blockGap;
    return std::max(width, 120.0);
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

void drawSide(QPainter& painter, SheetPainter& words, const std::vector<Block>& blocks, const Theme& theme,
              double width, double top, const char* title) {
    const double height = heightOf(blocks);
    painter.setPen(QPen(theme.edge, 1));
    painter.setBrush(theme.plate);
    painter.drawRoundedRect(QRectF(0.5, top + 0.5, width - 1, height - 1), 5, 5);
    words.text(painter, {margin, top + 9}, title, 7, scene::Weight::regular, theme.muted);
    double x = margin;
    for (const Block& block : blocks) {
        for (std::size_t i = 0; i < block.keys.size(); ++i) {
            const int row = block.rows() == 2 ? static_cast<int>(i % 2) : 0;
            const int column = static_cast<int>(i) / block.rows();
            const QRectF r(x + column * (block.socketWidth() + gap),
                           top + margin + row * (socket + keyHeight), block.socketWidth(), socket);
            painter.setPen(QPen(theme.socket, 1));
            painter.setBrush(Qt::NoBrush);
            drawSocket(painter, *block.like, r);
            const std::string key =
                scene::elided(block.keys[i], 6.5, scene::Weight::regular, r.width() + gap - 1);
            const double room = scene::textWidth(key, 6.5, scene::Weight::regular);
            words.text(painter, {r.center().x() - room / 2, r.bottom() + 7.5}, key, 6.5,
                       scene::Weight::regular, theme.ink);
        }
        x += block.width() + blockGap;
    }
}

} // namespace

QSizeF faceplateSize(const DeviceModel& model) {
    const auto front = blocksOn(model, Side::front), rear = blocksOn(model, Side::rear);
    QSizeF size(widthOf(front), heightOf(front));
    if (!rear.empty())
        size = {std::max(size.width(), widthOf(rear)), size.height() + sideGap + heightOf(rear)};
    return size;
}

void paintFaceplate(QPainter& painter, const DeviceModel& model, const Theme& theme) {
    painter.setRenderHint(QPainter::Antialiasing);
    SheetPainter words(theme);
    const auto front = blocksOn(model, Side::front), rear = blocksOn(model, Side::rear);
    const double width = faceplateSize(model).width();
    drawSide(painter, words, front, theme, width, 0, "front");
    if (!rear.empty())
        drawSide(painter, words, rear, theme, width, heightOf(front) + sideGap, "rear");
}

} // namespace underridge::paint

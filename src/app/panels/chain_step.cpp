// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/chain_step.h"

#include "paint/glyphs.h"
#include "paint/sheet_painter.h"

#include <QPainter>

namespace underridge::app {
namespace {

constexpr int plateHeight = 46, spineWidth = 24, inset = 8, portGap = 4;
constexpr int cableLeast = 96; ///< so that the form of a line can be told

QFont bold(QFont font) {
    font.setBold(true);
    return font;
}

} // namespace

ChainStep::ChainStep(const paint::Theme& theme) : theme_(&theme) {
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setAttribute(Qt::WA_Hover);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

void ChainStep::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    update();
}

int ChainStep::middle() const {
    return std::max(plateHeight / 2 + 3, fontMetrics().height() + 9);
}

int ChainStep::tall() const {
    return 2 * middle() + fontMetrics().height() + 2;
}

void ChainStep::paintFocus(QPainter& painter, const QRectF& around) {
    if (!hasFocus())
        return;
    painter.setPen(QPen(theme_->accent, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawRoundedRect(around, 4, 4);
}

ChainPlate::ChainPlate(const paint::Theme& theme, model::Role role, const QString& name,
                       const QStringList& ports, const QString& loss)
    : ChainStep(theme), role_(role), name_(name), ports_(ports), loss_(loss) {}

int ChainPlate::portWidth(const QString& port) const {
    return std::max(fontMetrics().horizontalAdvance(port) + 10, 22);
}

QSize ChainPlate::sizeHint() const {
    int ports = -portGap;
    for (const QString& port : ports_)
        ports += portWidth(port) + portGap;
    const int name = QFontMetrics(bold(font())).horizontalAdvance(name_);
    return {spineWidth + 2 * inset + std::max({name, ports, fontMetrics().horizontalAdvance(loss_)}), tall()};
}

void ChainPlate::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF plate(0.5, middle() - plateHeight / 2 + 0.5, width() - 1, plateHeight - 1);
    QPainterPath outline;
    outline.addRoundedRect(plate, 4, 4);
    painter.fillPath(outline, theme_->plate);
    painter.save();
    painter.setClipPath(outline);
    painter.fillRect(QRectF(plate.left(), plate.top(), spineWidth, plate.height()), theme_->spine(role_));
    painter.restore();
    painter.setPen(QPen(theme_->glyph(), 1.4));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(paint::glyphOf(role_).translated(plate.left() + (spineWidth - paint::glyphBox) / 2,
                                                      plate.center().y() - paint::glyphBox / 2));
    painter.setPen(QPen(underMouse() ? theme_->accent : theme_->edge, 1));
    painter.drawPath(outline);
    const QRectF words = plate.adjusted(spineWidth + inset, 3, -2, -3);
    painter.setPen(theme_->ink);
    painter.setFont(bold(font()));
    painter.drawText(words.adjusted(0, 0, 0, -words.height() / 2), Qt::AlignLeft | Qt::AlignVCenter, name_);
    painter.setFont(font());
    double x = words.left();
    for (const QString& port : ports_) {
        const QRectF socket(x + 0.5, words.center().y() + 1.5, portWidth(port) - 1, words.height() / 2 - 3);
        painter.setPen(QPen(theme_->socket, 1));
        painter.drawRect(socket);
        painter.setPen(theme_->ink);
        painter.drawText(socket, Qt::AlignCenter, port);
        x += portWidth(port) + portGap;
    }
    painter.setPen(theme_->ink);
    painter.drawText(QRectF(0, plate.bottom() + 2, width(), fontMetrics().height()), Qt::AlignCenter, loss_);
    paintFocus(painter, plate.adjusted(1, 1, -1, -1));
}

ChainCable::ChainCable(const paint::Theme& theme, scene::LinkLine dress, const QString& above,
                       const QString& below)
    : ChainStep(theme), dress_(std::move(dress)), above_(above), below_(below) {}

QSize ChainCable::sizeHint() const {
    const QFontMetrics metrics = fontMetrics();
    const int words = std::max(metrics.horizontalAdvance(above_), metrics.horizontalAdvance(below_));
    return {std::max(words + 2 * inset, cableLeast), tall()};
}

void ChainCable::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double y = middle();
    scene::LinkLine line = dress_;
    line.path = {{0, y}, {static_cast<double>(width()), y}};
    paint::SheetPainter(*theme_).line(painter, line, scene::Detail::middle, 1);
    const QRectF all(0, 0, width(), 2 * y);
    painter.setPen(underMouse() ? theme_->accent : theme_->ink);
    painter.setFont(font());
    painter.drawText(all.adjusted(0, 0, 0, -y - 6), Qt::AlignHCenter | Qt::AlignBottom, above_);
    painter.drawText(all.adjusted(0, y + 6, 0, 0), Qt::AlignHCenter | Qt::AlignTop, below_);
    paintFocus(painter, all.adjusted(1, 1, -1, -1));
}

} // namespace underridge::app

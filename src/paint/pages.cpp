// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/pages.h"

#include "core/base/text.h"
#include "core/exchange/own_format.h"
#include "core/model/ports.h"
#include "paint/overlays/overlay_painter.h"
#include "paint/sheet_painter.h"

#include <QBuffer>
#include <QPdfWriter>
#include <QSvgGenerator>
#include <fmt/format.h>
#include <map>

namespace underridge::paint {
using scene::Rect;
namespace {

constexpr double titleHeightMm = 13, minTitleHeightMm = 9, markMm = 4,
                 paperMargin = 16; // the last in sheet units

/// White paper: the ground is the paper's own.
const Theme& paperTheme() {
    static const Theme theme = [] {
        Theme paper = lightTheme();
        paper.sheet = QColor(0xFF, 0xFF, 0xFF);
        paper.dots = QColor(0xFF, 0xFF, 0xFF);
        return paper;
    }();
    return theme;
}

/// Small crosses at the corners of the drawing, and which page joins on each side.
void drawMarks(QPainter& painter, SheetPainter& words, const PageLayout& layout, int page) {
    const int column = page % layout.across, row = page / layout.across;
    const QRectF r = layout.drawingMm;
    painter.setPen(QPen(paperTheme().ink, 0.2));
    for (const QPointF corner : {r.topLeft(), r.topRight(), r.bottomLeft(), r.bottomRight()}) {
        painter.drawLine(corner - QPointF(markMm / 2, 0), corner + QPointF(markMm / 2, 0));
        painter.drawLine(corner - QPointF(0, markMm / 2), corner + QPointF(0, markMm / 2));
    }
    const auto tell = [&](bool joins, QPointF at, int other) {
        if (joins)
            words.text(painter, at, fmt::format("page {}", other + 1), 2.6, scene::Weight::regular,
                       paperTheme().muted);
    };
    tell(column > 0, {r.left() + 1, r.center().y()}, page - 1);
    tell(column + 1 < layout.across, {r.right() - 12, r.center().y()}, page + 1);
    tell(row > 0, {r.center().x(), r.top() + 3.5}, page - layout.across);
    tell(row + 1 < layout.down, {r.center().x(), r.bottom() - 1.5}, page + layout.across);
}

/// Media that the sheet shows, by name, each with a line of it and a count.
std::map<std::string, std::pair<const scene::LinkLine*, int>> mediaOf(const scene::Scene& scene,
                                                                      const model::Network& network) {
    std::map<std::string, std::pair<const scene::LinkLine*, int>> media;
    scene.forEachLink([&](const scene::LinkLine& line) {
        const model::Link* link = network.link(line.id);
        if (!link)
            return;
        auto& [sample, count] =
            media[link->console ? "console" : std::string(model::titleOf(model::mediumOf(network, *link)))];
        sample = &line;
        ++count;
    });
    return media;
}

void drawLegend(QPainter& painter, SheetPainter& lines, const scene::Scene& scene,
                const model::Network& network, QRectF area) {
    double x = area.left();
    const double step = area.height() / 2;
    int row = 0;
    constexpr double sampleMm = 9, entryMm = 44;
    for (const auto& [name, found] : mediaOf(scene, network)) {
        if (x + entryMm > area.right())
            return;
        const double y = area.top() + step * (row + 0.5);
        scene::LinkLine sample;
        sample.form = found.first->form;
        sample.jacket = found.first->jacket;
        sample.fibres = found.first->fibres;
        constexpr double unit = 0.26; // mm a sheet unit of the sample
        sample.path = {{0, 0}, {sampleMm / unit, 0}};
        painter.save();
        painter.translate(x, y);
        painter.scale(unit, unit);
        lines.line(painter, sample, scene::Detail::middle, 1);
        painter.restore();
        lines.text(painter, {x + sampleMm + 1.5, y + 0.9}, fmt::format("{} ({})", name, found.second), 2.5,
                   scene::Weight::regular, paperTheme().ink);
        if (++row == 2) {
            row = 0;
            x += entryMm;
        }
    }
}

void drawTitle(QPainter& painter, SheetPainter& words, const scene::Scene& scene,
               const model::Network& network, const PageLayout& layout, int page, const TitleBlock& title) {
    const double height = layout.titleMm;
    const QRectF block(layout.drawingMm.left(), layout.drawingMm.bottom() + 1.5, layout.drawingMm.width(),
                       height);
    painter.setPen(QPen(paperTheme().ink, 0.3));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(block);
    const auto write = [&](double x, double line, const std::string& text, double size, scene::Weight weight,
                           double room) {
        words.text(painter, {block.left() + x, block.top() + line}, scene::elided(text, size, weight, room),
                   size, weight, paperTheme().ink);
    };
    const double names = std::min(80.0, block.width() * 0.32);
    write(2, height * 0.42, title.network, 4, scene::Weight::semiBold, names - 4);
    write(2, height * 0.82, title.sheet, 3, scene::Weight::regular, names - 4);
    const double facts = 46;
    painter.drawLine(QPointF(block.left() + names, block.top()),
                     QPointF(block.left() + names, block.bottom()));
    write(names + 2, height * 0.42, fmt::format("{} · {} %", title.date, layout.scalePercent()), 2.8,
          scene::Weight::regular, facts - 4);
    write(names + 2, height * 0.82,
          fmt::format("revision {}{}", title.revision.empty() ? "–" : title.revision,
                      layout.count() > 1 ? fmt::format(" · page {} of {}", page + 1, layout.count()) : ""),
          2.8, scene::Weight::regular, facts - 4);
    painter.drawLine(QPointF(block.left() + names + facts, block.top()),
                     QPointF(block.left() + names + facts, block.bottom()));
    drawLegend(painter, words, scene, network, block.adjusted(names + facts + 3, 0.6, -2, -0.6));
}

} // namespace

Rect PageLayout::areaOf(int page) const {
    const double w = drawingMm.width() / mmEachUnit, h = drawingMm.height() / mmEachUnit;
    return {area.x + (page % across) * w, area.y + (page / across) * h, w, h};
}

int PageLayout::scalePercent() const {
    return static_cast<int>(std::lround(mmEachUnit / mmPerUnit * 100));
}

std::optional<QPageSize::PageSizeId> paperFromText(const std::string& text) {
    const std::pair<const char*, QPageSize::PageSizeId> sizes[] = {{"a4", QPageSize::A4},
                                                                   {"a3", QPageSize::A3},
                                                                   {"a2", QPageSize::A2},
                                                                   {"a1", QPageSize::A1},
                                                                   {"a0", QPageSize::A0}};
    for (const auto& [name, id] : sizes)
        if (lowered(text) == name)
            return id;
    return std::nullopt;
}

Result<PageLayout> layOut(const scene::Scene& scene, const PageSetup& setup) {
    PageLayout out;
    out.paperMm = QPageSize(setup.paper).size(QPageSize::Millimeter);
    if (setup.landscape)
        out.paperMm.transpose();
    out.titleMm = setup.titleBlock ? std::max(minTitleHeightMm, titleHeightMm) : 0;
    out.drawingMm =
        QRectF(setup.marginMm, setup.marginMm, out.paperMm.width() - 2 * setup.marginMm,
               out.paperMm.height() - 2 * setup.marginMm - (setup.titleBlock ? out.titleMm + 1.5 : 0));
    Rect area = scene.bounds();
    if (area.empty())
        area = {0, 0, 400, 240};
    area = area.grown(paperMargin);
    if (setup.scalePercent) {
        out.mmEachUnit = *setup.scalePercent / 100 * mmPerUnit;
        const double across = std::ceil(area.w * out.mmEachUnit / out.drawingMm.width() - 1e-9);
        const double down = std::ceil(area.h * out.mmEachUnit / out.drawingMm.height() - 1e-9);
        if (across * down > maxPages)
            return error(
                fmt::format("at {} % the sheet would take {:.0f} pages", *setup.scalePercent, across * down),
                fmt::format("choose a smaller scale or larger paper; the most is {}", maxPages));
        out.across = std::max(1, static_cast<int>(across));
        out.down = std::max(1, static_cast<int>(down));
    } else {
        out.across = std::clamp(setup.across, 1, 14);
        out.down = std::clamp(setup.down, 1, 14);
        out.mmEachUnit =
            std::min(out.across * out.drawingMm.width() / area.w, out.down * out.drawingMm.height() / area.h);
        out.mmEachUnit = std::min(out.mmEachUnit, 2 * mmPerUnit); // a small sheet is not blown up
    }
    const double w = out.across * out.drawingMm.width() / out.mmEachUnit;
    const double h = out.down * out.drawingMm.height() / out.mmEachUnit;
    out.area = {area.centre().x - w / 2, area.centre().y - h / 2, w, h};
    return out;
}

namespace {

/// In sheet units, as large as the plates.
void drawOverlays(QPainter& painter, SheetPainter& sheet, const scene::Scene& scene, const Rect& area,
                  const LaidOver& laid) {
    const ShownMarks marks(laid.network, scene, laid.overlays);
    marks.paintHalos(painter, sheet, scene, area, 1);
    marks.paintBadges(painter, paperTheme(), area, 1);
}

/// In the lower left corner of the drawing.
void drawLegends(QPainter& painter, const PageLayout& layout, const LaidOver& laid) {
    constexpr double dotMm = 0.25;
    painter.save();
    painter.translate(layout.drawingMm.topLeft());
    painter.scale(dotMm, dotMm);
    paintLegends(painter, paperTheme(), laid.overlays, (layout.drawingMm.size() / dotMm).toSize());
    painter.restore();
}

} // namespace

void drawPage(QPainter& painter, const scene::Scene& scene, const model::Network& network,
              const PageLayout& layout, int page, const TitleBlock& title, const LaidOver& laid) {
    SheetPainter sheet(paperTheme());
    sheet.outlineText(painter.device()->devType() != QInternal::Printer &&
                      dynamic_cast<QSvgGenerator*>(painter.device()));
    const Rect area = layout.areaOf(page);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.save();
    painter.setClipRect(layout.drawingMm);
    painter.translate(layout.drawingMm.topLeft());
    painter.scale(layout.mmEachUnit, layout.mmEachUnit);
    painter.translate(-area.x, -area.y);
    // Paper has more dots than a screen: everything that can be read is drawn.
    const double scale = layout.mmEachUnit / mmPerUnit;
    const auto detail = scale >= 0.55   ? scene::Detail::near
                        : scale >= 0.15 ? scene::Detail::middle
                                        : scene::Detail::far;
    sheet.paint(painter, scene, area, 0.4, detail); // below the zoom at which the ground has dots
    if (!laid.overlays.empty())
        drawOverlays(painter, sheet, scene, area, laid);
    painter.restore();
    if (!laid.overlays.empty() && page == 0)
        drawLegends(painter, layout, laid);
    if (layout.count() > 1)
        drawMarks(painter, sheet, layout, page);
    if (layout.titleMm > 0)
        drawTitle(painter, sheet, scene, network, layout, page, title);
}

std::string revisionOf(const model::Network& network) {
    return fmt::format("{:06x}", fnv1a(exchange::writeOwn(network)) & 0xFFFFFF);
}

Result<QByteArray> pagesPdf(const scene::Scene& scene, const model::Network& network, const PageSetup& setup,
                            const TitleBlock& title, const LaidOver& laid) {
    const auto layout = layOut(scene, setup);
    if (!layout)
        return layout.refusal();
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    constexpr int resolution = 600;
    {
        QPdfWriter pdf(&buffer);
        pdf.setTitle(QString::fromStdString(title.network));
        pdf.setCreator(QStringLiteral("Underridge"));
        pdf.setResolution(resolution);
        pdf.setPageSize(QPageSize(setup.paper));
        pdf.setPageOrientation(setup.landscape ? QPageLayout::Landscape : QPageLayout::Portrait);
        pdf.setPageMargins(QMarginsF(0, 0, 0, 0));
        QPainter painter(&pdf);
        for (int page = 0; page < layout->count(); ++page) {
            if (page > 0)
                pdf.newPage();
            painter.save();
            painter.scale(resolution / 25.4, resolution / 25.4);
            drawPage(painter, scene, network, *layout, page, title, laid);
            painter.restore();
        }
    }
    return bytes;
}

Result<QByteArray> pageSvg(const scene::Scene& scene, const model::Network& network, const PageSetup& setup,
                           int page, const TitleBlock& title, const LaidOver& laid) {
    const auto layout = layOut(scene, setup);
    if (!layout)
        return layout.refusal();
    if (page < 0 || page >= layout->count())
        return error(fmt::format("there is no page {}", page + 1),
                     fmt::format("choose one from 1 to {}", layout->count()));
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    constexpr int dotsPerMm = 10;
    {
        QSvgGenerator svg;
        svg.setOutputDevice(&buffer);
        svg.setResolution(static_cast<int>(dotsPerMm * 25.4));
        const QSize size = (layout->paperMm * dotsPerMm).toSize();
        svg.setSize(size);
        svg.setViewBox(QRect(QPoint(0, 0), size));
        svg.setTitle(QString::fromStdString(title.network).toHtmlEscaped());
        QPainter painter(&svg);
        painter.scale(dotsPerMm, dotsPerMm);
        drawPage(painter, scene, network, *layout, page, title, laid);
    }
    return bytes;
}

} // namespace underridge::paint

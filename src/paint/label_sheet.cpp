// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/label_sheet.h"

#include "core/model/length.h"
#include "core/model/ports.h"
#include "paint/sheet_painter.h"

#include <QBuffer>
#include <QPainter>
#include <QPdfWriter>

namespace underridge::paint {
using namespace model;
namespace {

struct LabelText {
    std::string label, here, there, type;
};

std::vector<LabelText> textsOf(const Network& network, const std::vector<CableId>& cables) {
    std::vector<LabelText> out;
    for (const CableId id : cables) {
        const Cable* cable = network.cable(id);
        if (!cable || cable->label.empty())
            continue;
        const CableType* type = network.typeOf(*cable);
        std::string words = type ? type->name : cable->type;
        if (cable->lengthMm > 0)
            words += ", " + lengthText(cable->lengthMm, LengthUnit::metres);
        const std::size_t ends = cable->ends.size();
        for (std::size_t i = 0; i < ends; ++i) {
            const PortRef& here = cable->ends[i].at;
            // Ends of a trunk cable lie in pairs; an assembly's far ends face its near
            // one.
            const bool pairs = type && type->farEnds == 1;
            const PortRef& there = cable->ends[pairs ? (i ^ 1) % ends : i == 0 ? ends - 1 : 0].at;
            out.push_back({cable->label, portText(network, here), "to " + portText(network, there), words});
        }
    }
    return out;
}

} // namespace

QRectF labelPlace(const LabelGrid& grid, int number) {
    const QSizeF paper = QPageSize::size(grid.paper, QPageSize::Millimeter);
    const double width = (paper.width() - 2 * grid.marginMm - (grid.across - 1) * grid.gapMm) / grid.across;
    const double height = (paper.height() - 2 * grid.marginMm - (grid.down - 1) * grid.gapMm) / grid.down;
    const int place = number % (grid.across * grid.down);
    return {grid.marginMm + (place % grid.across) * (width + grid.gapMm),
            grid.marginMm + (place / grid.across) * (height + grid.gapMm), width, height};
}

Result<QByteArray> labelSheet(const Network& network, const std::vector<CableId>& cables,
                              const LabelGrid& grid) {
    const auto texts = textsOf(network, cables);
    if (texts.empty())
        return error("none of these cables has a label", "label them first");
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setPageSize(QPageSize(grid.paper));
    writer.setPageMargins(QMarginsF(0, 0, 0, 0));
    writer.setTitle(QStringLiteral("Cable labels"));
    QPainter painter(&writer);
    SheetPainter words(lightTheme());
    const double perMm = writer.resolution() / 25.4;
    const int each = grid.across * grid.down;
    for (std::size_t i = 0; i < texts.size(); ++i) {
        const auto number = static_cast<int>(i);
        if (i > 0 && number % each == 0)
            writer.newPage();
        const QRectF place = labelPlace(grid, number);
        painter.save();
        painter.scale(perMm, perMm);
        painter.translate(place.topLeft());
        painter.setPen(QPen(lightTheme().edge, 0.1));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF({0, 0}, place.size()), 1, 1);
        double y = 1.2;
        const auto line = [&](const std::string& text, double size, scene::Weight weight) {
            y += size;
            words.text(painter, {1.5, y}, scene::elided(text, size, weight, place.width() - 3), size, weight,
                       lightTheme().ink);
            y += size * 0.25;
        };
        line(texts[i].label, 3.8, scene::Weight::semiBold);
        line(texts[i].here, 2.4, scene::Weight::regular);
        line(texts[i].there, 2.4, scene::Weight::regular);
        line(texts[i].type, 2.2, scene::Weight::regular);
        painter.restore();
    }
    painter.end();
    return bytes;
}

} // namespace underridge::paint

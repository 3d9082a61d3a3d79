// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/door_sheets.h"

#include "paint/rack_drawing.h"
#include "paint/sheet_painter.h"

#include <QBuffer>
#include <QPainter>
#include <QPdfWriter>
#include <fmt/format.h>

namespace underridge::paint {
using namespace model;
using scene::Weight;
namespace {

// Of the page and what is on it, in millimetres.
constexpr double paperW = 210, paperH = 297, margin = 12, titleSize = 7, subtitleSize = 3.2, cellSize = 2.7,
                 rowHeight = 4.9, footSize = 2.6, tableTop = margin + 17;

class Pages {
public:
    Pages(QPdfWriter& writer, const Network& network, std::string name)
        : writer_(writer), painter_(&writer), network_(network), name_(std::move(name)) {
        painter_.scale(writer.resolution() / 25.4, writer.resolution() / 25.4);
    }

    void add(const edit::DoorSheet& sheet) {
        begin(sheet);
        if (const auto picture =
                sheet.of.kind == Kind::group ? scene::rackPicture(network_, {sheet.of.id}) : std::nullopt) {
            rack(*picture);
            begin(sheet); // the elevation has a page to itself, so that it can be read from a step away
        }
        table(sheet);
    }

private:
    void begin(const edit::DoorSheet& sheet) {
        if (page_++ > 0)
            writer_.newPage();
        write({margin, margin + titleSize * 0.8}, sheet.title, titleSize, Weight::semiBold,
              paperW - 2 * margin);
        write({margin, margin + titleSize + subtitleSize + 1.2}, sheet.subtitle, subtitleSize,
              Weight::regular, paperW - 2 * margin);
        write({margin, paperH - margin}, fmt::format("{} · page {}", name_, page_), footSize, Weight::regular,
              paperW - 2 * margin);
    }

    void write(QPointF baseline, const std::string& text, double size, Weight weight, double room) {
        words_.text(painter_, baseline, scene::elided(text, size, weight, room), size, weight,
                    lightTheme().ink);
    }

    void rack(const scene::RackPicture& picture) {
        const scene::Rect bounds = picture.bounds();
        const double scale =
            std::min((paperW - 2 * margin) / bounds.w, (paperH - tableTop - 2 * margin) / bounds.h);
        painter_.save();
        painter_.translate(margin, tableTop);
        painter_.scale(scale, scale);
        paintRack(painter_, network_, picture, lightTheme());
        painter_.restore();
    }

    void table(const edit::DoorSheet& sheet) {
        constexpr double left = margin, width = paperW - 2 * margin;
        double y = tableTop;
        const auto row = [&](const std::vector<std::string>& cells, Weight weight) {
            double x = left;
            for (std::size_t i = 0; i < cells.size(); ++i) {
                const double room = width * sheet.widths[i] / 100;
                write({x + 0.8, y + rowHeight * 0.68}, cells[i], cellSize, weight, room - 1.6);
                x += room;
            }
            y += rowHeight;
            painter_.setPen(QPen(lightTheme().edge, weight == Weight::semiBold ? 0.3 : 0.1));
            painter_.drawLine(QPointF(left, y), QPointF(left + width, y));
        };
        row(sheet.columns, Weight::semiBold);
        for (const auto& cells : sheet.rows) {
            if (y + rowHeight > paperH - 2 * margin) {
                begin(sheet);
                y = tableTop;
                row(sheet.columns, Weight::semiBold);
            }
            row(cells, Weight::regular);
        }
    }

    QPdfWriter& writer_;
    QPainter painter_;
    SheetPainter words_{lightTheme()};
    const Network& network_;
    std::string name_;
    int page_ = 0;
};

} // namespace

QByteArray doorSheetsPdf(const Network& network, const std::vector<edit::DoorSheet>& sheets,
                         const std::string& name) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setPageMargins(QMarginsF(0, 0, 0, 0));
    writer.setTitle(QStringLiteral("Door sheets"));
    {
        Pages pages(writer, network, name); // the last page is written when it ends
        for (const edit::DoorSheet& sheet : sheets)
            pages.add(sheet);
    }
    return bytes;
}

} // namespace underridge::paint

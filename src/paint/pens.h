// SPDX-License-Identifier: GPL-3.0-or-later
// Pens and paths that several drawings use.
#pragma once
#include "paint/sheet_painter.h"

#include <QPainterPath>
#include <QPen>
#include <QPolygonF>

namespace underridge::paint {

/// Ends where the line ends; corners are round.
inline QPen flat(const QColor& colour, double width) {
    QPen pen(colour, width);
    pen.setCapStyle(Qt::FlatCap);
    pen.setJoinStyle(Qt::RoundJoin);
    return pen;
}

inline QPolygonF polygon(const std::vector<scene::PointF>& path) {
    QPolygonF out;
    out.reserve(static_cast<qsizetype>(path.size()));
    for (const scene::PointF p : path)
        out << toQt(p);
    return out;
}

/// The path with its corners rounded, where its pieces are long enough.
inline QPainterPath roundedPath(const std::vector<scene::PointF>& path, double radius) {
    QPainterPath out(toQt(path.front()));
    for (std::size_t i = 1; i + 1 < path.size(); ++i) {
        const scene::PointF in = path[i] - path[i - 1], onward = path[i + 1] - path[i];
        const double before = scene::length(in), after = scene::length(onward);
        const double cut = std::min({radius, before / 2, after / 2});
        if (before <= 0 || after <= 0)
            continue;
        out.lineTo(toQt(path[i] - in * (cut / before)));
        out.quadTo(toQt(path[i]), toQt(path[i] + onward * (cut / after)));
    }
    out.lineTo(toQt(path.back()));
    return out;
}

} // namespace underridge::paint

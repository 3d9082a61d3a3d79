// SPDX-License-Identifier: GPL-3.0-or-later
// Pens and paths that several drawings use.
#pragma once
#include "paint/sheet_painter.h"

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

} // namespace underridge::paint

// SPDX-License-Identifier: GPL-3.0-or-later
// Cable labels on paper: two for each cable, one for each end.
#pragma once
#include "core/model/network.h"

#include <QByteArray>
#include <QPageSize>
#include <QRectF>

namespace underridge::paint {

/// How labels lie on a sheet; lengths in millimetres.
struct LabelGrid {
    QPageSize::PageSizeId paper = QPageSize::A4;
    int across = 4, down = 16;
    double marginMm = 8; ///< around the sheet
    double gapMm = 2;    ///< between labels
};

/// Where the label of a number, from 0, lies on its page, in millimetres.
QRectF labelPlace(const LabelGrid& grid, int number);

/// A PDF with the labels of these cables, in this order: the label in bold, this end and
/// the far one, type and length. Cables without a label are passed over; refuses when
/// none has one.
Result<QByteArray> labelSheet(const model::Network& network, const std::vector<model::CableId>& cables,
                              const LabelGrid& grid = {});

} // namespace underridge::paint

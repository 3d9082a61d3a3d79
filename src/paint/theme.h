// SPDX-License-Identifier: GPL-3.0-or-later
// Colours of the sheet and the panels, as tokens. A test measures their contrast in both
// themes.
#pragma once
#include "core/model/words.h"

#include <QColor>

namespace underridge::paint {

struct Theme {
    bool dark = false;
    QColor sheet, dots, plate, edge, ink, muted, accent, error, warning, advice;
    QColor panel;  ///< background of docks and bars
    QColor frame;  ///< notes, badges
    QColor socket; ///< outline of a free port

    /// The colour of a role's spine; never the only sign of the role.
    QColor spine(model::Role role) const;
    /// Drawn on a spine.
    QColor glyph() const { return QColor(0xFF, 0xFF, 0xFF); }
};

const Theme& lightTheme();
const Theme& darkTheme();

/// WCAG 2.1 contrast ratio, 1 to 21.
double contrast(const QColor& a, const QColor& b);

} // namespace underridge::paint

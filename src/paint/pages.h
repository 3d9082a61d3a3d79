// SPDX-License-Identifier: GPL-3.0-or-later
// A sheet on paper: fitted on a page or at a scale over several, with marks to join them
// and a title block. Lengths are millimetres. At 100 % one sheet unit is 25.4/96 mm.
// Paper sizes are those of ISO 216.
#pragma once
#include "core/model/network.h"
#include "core/scene/scene.h"
#include "paint/overlays/overlay.h"
#include "paint/theme.h"

#include <QPageSize>
#include <QPainter>
#include <optional>
#include <string>
#include <vector>

namespace underridge::paint {

inline constexpr double mmPerUnit = 25.4 / 96;

struct PageSetup {
    QPageSize::PageSizeId paper = QPageSize::A4;
    bool landscape = true;
    /// Pages across and down to fit the sheet on; with a scale, as many as it takes.
    int across = 1, down = 1;
    std::optional<double> scalePercent; ///< 5 to 400
    double marginMm = 10;
    bool titleBlock = true;

    bool operator==(const PageSetup&) const = default;
};

/// What the title block says; texts are drawn as they are.
struct TitleBlock {
    std::string network, sheet, date, revision;
};

struct PageLayout {
    QSizeF paperMm;
    QRectF drawingMm; ///< where the sheet is drawn, the same on every page
    double mmEachUnit = 1;
    int across = 1, down = 1;
    scene::Rect area;   ///< of the sheet, over all pages
    double titleMm = 0; ///< height of the title block

    int count() const { return across * down; }
    /// What one page shows; pages go row by row.
    scene::Rect areaOf(int page) const;
    int scalePercent() const;
};

inline constexpr int maxPages = 200;

/// "A4" … "A0"; nothing for other words.
std::optional<QPageSize::PageSizeId> paperFromText(const std::string& text);

/// Refuses a scale at which the sheet would take more than maxPages.
Result<PageLayout> layOut(const scene::Scene& scene, const PageSetup& setup);

/// Draws a page; the painter's units are millimetres from the upper left corner of the
/// paper. The drawing is in the light colours on white paper. Overlays have their legends on
/// the first page.
void drawPage(QPainter& painter, const scene::Scene& scene, const model::Network& network,
              const PageLayout& layout, int page, const TitleBlock& title, const LaidOver& laid = {});

/// Six hexadecimal digits that change whenever the network does.
std::string revisionOf(const model::Network& network);

/// All pages in one PDF.
Result<QByteArray> pagesPdf(const scene::Scene& scene, const model::Network& network, const PageSetup& setup,
                            const TitleBlock& title, const LaidOver& laid = {});
/// One page as SVG with its texts as outlines. Refuses a page that is not there.
Result<QByteArray> pageSvg(const scene::Scene& scene, const model::Network& network, const PageSetup& setup,
                           int page, const TitleBlock& title, const LaidOver& laid = {});

} // namespace underridge::paint

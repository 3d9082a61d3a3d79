// SPDX-License-Identifier: GPL-3.0-or-later
// What is drawn over the tiles at every move: what is selected, and where the keyboard is.
#pragma once
#include "core/scene/trouble.h"
#include "paint/sheet_painter.h"

#include <QCoreApplication>
#include <QPixmap>

#include <map>

namespace underridge::app {

class Camera;
class Session;

class LiveLayer {
    Q_DECLARE_TR_FUNCTIONS(LiveLayer)
public:
    explicit LiveLayer(const Session& session);

    void setTheme(const paint::Theme& theme);
    /// The selection, in sheet units.
    void paintSelection(QPainter& painter, const Camera& camera) const;
    /// The focus, apart from the selection: a thin second outline.
    void paintFocus(QPainter& painter, model::ObjectRef focused, double zoom) const;
    /// On tiles, in pixels: how much the checks report of what is in them.
    void paintTrouble(QPainter& painter, const scene::Scene& seen, const Camera& camera,
                      const std::map<model::GroupId, scene::Trouble>& trouble) const;
    /// What to do on an empty sheet, in pixels.
    void paintEmptyHelp(QPainter& painter, QSize size) const;

    paint::SheetPainter& painter() const { return *painter_; }
    const paint::Theme& theme() const { return *theme_; }

private:
    void paintOnDemand(QPainter& painter, const Camera& camera) const;
    void paintSelected(QPainter& painter, const scene::Item& item, const scene::Rect& seen,
                       double zoom) const;

    /// A count in a box, painted once for every number.
    const QPixmap& box(int count, bool isError, double pixelRatio) const;

    const Session& session_;
    const paint::Theme* theme_;
    std::unique_ptr<paint::SheetPainter> painter_;
    mutable std::map<std::pair<int, bool>, QPixmap> boxes_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// The points of the cable route that is selected: dragged one by one, a new one from the
// middle of a piece. The network changes once, when it is let go.
#pragma once
#include "app/sheet/tool.h"
#include "core/edit/act.h"

namespace underridge::app {

class RouteShaping {
    Q_DECLARE_TR_FUNCTIONS(RouteShaping)
public:
    RouteShaping(Session& session, Surface& surface) : session_(session), surface_(surface) {}

    /// Whether a handle is there; a drag from there begins.
    bool begin(scene::PointF at);
    bool isHandle(scene::PointF at) const { return handleAt(at).has_value(); }
    void dragTo(const Pointer& pointer);
    /// Refuses as the act does; none where nothing changed. A point dropped on the straight
    /// way between its neighbours is gone.
    std::optional<edit::ActResult> drop() const;
    void end() { held_.reset(); }
    bool active() const { return held_.has_value(); }
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const;
    QString hint() const;

private:
    /// A point of the route, or the middle of the piece that begins with it.
    struct Handle {
        std::size_t point = 0;
        bool middle = false;
    };
    const scene::RouteLine* route() const;
    const model::Sheet* sheet() const;
    std::optional<Handle> handleAt(scene::PointF at) const;

    Session& session_;
    Surface& surface_;
    std::optional<std::size_t> held_;
    model::CableRouteId of_; ///< the route whose point is held
    std::vector<scene::PointF> path_;
};

} // namespace underridge::app

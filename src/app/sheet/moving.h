// SPDX-License-Identifier: GPL-3.0-or-later
// What is selected while it is dragged over the sheet: where it goes, into which group it
// would come, and how that looks. The network changes once, when it is dropped.
#pragma once
#include "app/sheet/snapping.h"
#include "app/sheet/tool.h"
#include "core/edit/act.h"

#include <functional>

namespace underridge::app {

class Moving {
    Q_DECLARE_TR_FUNCTIONS(Moving)
public:
    Moving(Session& session, Surface& surface) : session_(session), surface_(surface) {}

    void begin();
    void dragTo(const Pointer& from, const Pointer& pointer);
    /// Makes the act of a release here, on any thread; it refuses as acts do. Null where nothing would
    /// change.
    std::function<edit::ActResult()> drop() const;
    /// Whether so much is moved that the act takes longer than a frame.
    bool isLarge() const;
    void end();
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const;
    /// What a release would do.
    QString hint() const;

    /// The group under the pointer that it would come into; none: nobody's.
    model::GroupId into() const { return into_; }
    /// Of what is moved, before it was.
    const scene::Rect& bounds() const { return bounds_; }

private:
    bool changesGroup() const;
    void paintGhosts(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const;
    void paintMoved(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const;
    void paintTarget(QPainter& painter, const paint::Theme& theme, double zoom) const;

    Session& session_;
    Surface& surface_;
    scene::Scene scene_; ///< as it was taken hold of
    edit::Refs moved_;
    std::set<std::uint64_t> ids_;             ///< of all that moves, with what is in groups
    std::vector<const scene::Plate*> plates_; ///< of scene_: those that go along
    std::optional<Neighbours> neighbours_;
    scene::Rect neighboursIn_; ///< where those are
    scene::Rect bounds_;
    model::Point by_;
    model::GroupId into_;
    std::vector<std::pair<scene::PointF, scene::PointF>> guides_;
};

} // namespace underridge::app

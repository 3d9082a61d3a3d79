// SPDX-License-Identifier: GPL-3.0-or-later
// What is selected while it is dragged over the sheet: where it goes, into which group it
// would come, and how that looks. The network changes once, when it is dropped.
#pragma once
#include "app/sheet/tool.h"
#include "core/edit/act.h"

namespace underridge::app {

class Moving {
    Q_DECLARE_TR_FUNCTIONS(Moving)
public:
    Moving(Session& session, Surface& surface) : session_(session), surface_(surface) {}

    void begin();
    void dragTo(const Pointer& from, const Pointer& pointer);
    /// Where it is now; refuses as the acts do. No act where nothing would change.
    std::optional<edit::ActResult> drop() const;
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
    std::vector<const scene::Plate*> platesMoved() const;

    Session& session_;
    Surface& surface_;
    edit::Refs moved_;
    scene::Rect bounds_;
    model::Point by_;
    model::GroupId into_;
    std::vector<std::pair<scene::PointF, scene::PointF>> guides_;
};

} // namespace underridge::app

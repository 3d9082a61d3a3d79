// SPDX-License-Identifier: GPL-3.0-or-later
// Devices added by typing, at a free place, linked to what they were dragged from.
#pragma once
#include "app/sheet/add_field.h"
#include "app/sheet/surface.h"
#include "core/edit/act.h"
#include "core/linking/best.h"

namespace underridge::app {

class Session;

class TypeToAdd : public QObject {
    Q_OBJECT
public:
    /// The field lies on the surface.
    TypeToAdd(Session& session, Surface& surface);

    /// Opens the field: for devices at a place, or else where the pointer is; linked to
    /// an end, if one is given.
    void open(std::optional<scene::PointF> at = std::nullopt,
              std::optional<linking::End> linkFrom = std::nullopt);
    AddField& field() { return *field_; }

Q_SIGNALS:
    /// Devices were added and are selected.
    void added();

private:
    void add(const edit::Addition& addition);
    edit::ActResult linked(edit::Act act) const;
    /// The place nearest to the one wanted where a block covers no plate, by whole steps.
    scene::PointF freePlaceNear(scene::PointF wanted, const scene::Rect& block, scene::PointF step) const;

    Session& session_;
    Surface& surface_;
    AddField* field_;
    std::optional<scene::PointF> at_;
    std::optional<linking::End> from_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// A link in the making: dragged or clicked from a grip or a port to its target, or chosen
// with the keys.
#pragma once
#include "app/sheet/tool.h"
#include "core/linking/best.h"

#include <map>
#include <optional>

namespace underridge::app {

class LinkTool : public Tool {
public:
    using Tool::Tool;

    /// Starts with a link in hand at the pointer, which is pressed.
    void begin(linking::End from, const Pointer& pointer);
    /// The same from a folded group: which device in it the link begins at follows from the
    /// target. Whether there is any.
    bool beginOutOf(model::GroupId group, const Pointer& pointer);
    /// Starts with the target to be chosen by arrows or by typing its name; links each of
    /// `from` to it.
    void choose(std::vector<model::DeviceId> from);

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool key(QKeyEvent& event) override;
    bool wantsLetters() const override { return true; }
    bool cancel() override;
    void paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) override;
    QString hint() const override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }

    model::DeviceId target() const { return target_; }
    const QString& typed() const { return typed_; }

    static constexpr double snapPixels = 12, addPixels = 40;

private:
    using Answer = Result<linking::Proposal>;

    /// What linking to a device would give; worked out once for each.
    const Answer& answerFor(model::DeviceId device);
    void aim(scene::PointF at);
    void aimAt(model::DeviceId device);
    /// At a plate: out of a group from the device in it that is best for it.
    void aimAtPlate(model::DeviceId device);
    /// At a folded group or through a doorway: the best device behind it.
    void aimThrough(model::ObjectRef shown);
    /// What the link in hand goes to on the sheet.
    std::optional<scene::Anchor> anchorOfTarget() const;
    void finish(const Pointer& pointer);
    void commit();
    void openDrawer();
    void stepTo(int key);
    void matchTyped();
    void end();

    std::vector<model::DeviceId> from_;
    model::GroupId outOf_;  ///< the folded group it begins at; none: at a device
    model::DeviceId usual_; ///< the device in that group where nothing else follows from the target
    std::map<model::DeviceId, model::DeviceId> starts_; ///< in that group, by target
    std::string port_;
    bool byKeys_ = false;
    Pointer start_, now_;
    model::DeviceId target_;
    QString typed_;
    std::map<model::DeviceId, Answer> answers_;
    model::ObjectRef through_;                           ///< the tile or doorway the target is behind
    std::map<model::ObjectRef, model::DeviceId> behind_; ///< the best device behind each; none: there is none
};

} // namespace underridge::app

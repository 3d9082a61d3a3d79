// SPDX-License-Identifier: GPL-3.0-or-later
// One way of using the pointer and the keys on the sheet. The view forwards its events to
// the active tool; a tool changes the network only when its gesture ends, so that Escape
// leaves all as it was.
#pragma once
#include "app/sheet/camera.h"
#include "core/linking/best.h"
#include "core/scene/scene.h"
#include "paint/sheet_painter.h"

#include <QCoreApplication>
#include <QCursor>
#include <QKeyEvent>

namespace underridge::app {

class FieldsInPlace;
class LinkFlow;
class Session;
class Surface;
class TypeToAdd;

/// A pointer event in both measures.
struct Pointer {
    scene::PointF sheet;
    QPointF screen;
    Qt::KeyboardModifiers modifiers;
    Qt::MouseButton button = Qt::NoButton;
    Qt::MouseButtons buttons;
};

/// Whoever has the tools in hand.
class ToolUser {
public:
    virtual ~ToolUser() = default;
    /// The tool has done its work; the one at rest follows.
    virtual void endTool() = 0;
    virtual void startLink(linking::End from, const Pointer& pointer) = 0;
    /// From a folded group: over whichever device in it is best for the target.
    virtual void startLinkOut(model::GroupId group, const Pointer& pointer) = 0;
    virtual void openFaceplate() = 0;
    /// A line was drawn over the plan.
    virtual void measured(double units) = 0;
};

/// What tools may use.
struct ToolContext {
    Session& session;
    Surface& surface;
    LinkFlow& linking;
    FieldsInPlace& fields;
    TypeToAdd& adding;
    ToolUser& user;
};

class Tool {
    Q_DECLARE_TR_FUNCTIONS(Tool)
public:
    explicit Tool(const ToolContext& context) : session_(context.session), context_(context) {}
    virtual ~Tool() = default;
    Tool(const Tool&) = delete;
    Tool& operator=(const Tool&) = delete;

    virtual void press(const Pointer&) {}
    virtual void move(const Pointer&) {}
    virtual void release(const Pointer&) {}
    virtual void doubleClick(const Pointer&) {}
    /// Whether the key was used. Escape comes as cancel().
    virtual bool key(QKeyEvent&) { return false; }
    /// Whether typed letters belong to the tool rather than to commands.
    virtual bool wantsLetters() const { return false; }
    /// Ends the gesture without a trace. Whether there was one.
    virtual bool cancel() { return false; }
    /// Drawn over the tiles, in sheet units.
    virtual void paint(QPainter&, paint::SheetPainter&, double zoom) = 0;
    /// What a release would do, for the status line.
    virtual QString hint() const { return {}; }
    virtual Qt::CursorShape cursor() const { return Qt::ArrowCursor; }

protected:
    Surface& surface() const { return context_.surface; }
    /// What is seen: groups may be closed by the zoom.
    std::shared_ptr<const scene::Scene> seen() const;

    Session& session_;
    const ToolContext& context_;
};

} // namespace underridge::app

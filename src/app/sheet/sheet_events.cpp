// SPDX-License-Identifier: GPL-3.0-or-later
// The events of the sheet: painting, pointer, keys, drag and drop.
#include "app/carried.h"
#include "app/session/session.h"
#include "app/sheet/sheet_view.h"

#include "app/files/clipboard.h"

#include <QContextMenuEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>

namespace underridge::app {
using namespace model;

bool SheetView::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && tool_->wantsLetters()) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (!key->text().isEmpty() && !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) {
            event->accept();
            return true;
        }
    }
    if (event->type() == QEvent::KeyPress) { // Tab would leave the sheet otherwise
        auto* key = static_cast<QKeyEvent*>(event);
        if ((key->key() == Qt::Key_Tab || key->key() == Qt::Key_Backtab) &&
            !(key->modifiers() & Qt::ControlModifier) && !session_.scene().empty()) {
            if (tool_ != &select_ || !linking_.takeTab())
                keyPressEvent(key);
            return true;
        }
    }
    return Surface::event(event);
}

void SheetView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const double zoom = camera().zoom();
    const scene::Rect seen = camera().visible();
    if (morph_.isMoving()) {
        painter.fillRect(rect(), live_.theme().sheet);
        painter.scale(zoom, zoom);
        painter.translate(-seen.x, -seen.y);
        return morph_.paint(painter, live_.theme(), zoom);
    }
    tiles().draw(painter, camera(), devicePixelRatioF());
    painter.scale(zoom, zoom);
    painter.translate(-seen.x, -seen.y);
    const auto& overlays = session_.overlays().shown();
    if (!overlays.empty()) {
        const auto drawn = session_.scene().seenAt(zoom);
        if (marked_ != drawn.get())
            marks_ = {session_.network(), *drawn, overlays};
        marked_ = drawn.get();
        marks_.paintHalos(painter, live_.painter(), *drawn, seen, zoom);
        marks_.paintBadges(painter, live_.theme(), seen, zoom);
    }
    if (const auto& trouble = session_.workspace().reported()->byGroup; !trouble.empty())
        if (const auto drawn = session_.scene().seenAlready(zoom)) { // else with the first tile
            painter.save();
            painter.resetTransform();
            live_.paintTrouble(painter, *drawn, camera(), trouble);
            painter.restore();
        }
    live_.paintSelection(painter, camera());
    if (hasFocus())
        live_.paintFocus(painter, select_.focused(), zoom);
    tool_->paint(painter, live_.painter(), zoom);
    painter.setPen(QPen(live_.theme().accent, 1.5 / zoom));
    painter.setBrush(Qt::NoBrush);
    for (const scene::Rect& ghost : ghosts_)
        painter.drawRoundedRect(QRectF(ghost.x, ghost.y, ghost.w, ghost.h), 4, 4);
    painter.resetTransform();
    mark_.paint(painter, session_.scene(), camera(), live_.theme(), size());
    paint::paintLegends(painter, live_.theme(), overlays, size());
    if (session_.scene().empty() && tool_ == &select_)
        live_.paintEmptyHelp(painter, size());
}

void SheetView::resizeEvent(QResizeEvent* event) {
    locator_->stepAside(false);
    Surface::resizeEvent(event);
}

void SheetView::mousePressEvent(QMouseEvent* event) {
    session_.workspace().settle(); // what is pressed is where it will be
    card_->hide();
    cardTimer_.stop();
    if (!fields_.finish())
        return; // a name that cannot be taken is put right first
    linking_.hideDrawer();
    if (beginPan(*event)) {
        // from here on the view moves with the pointer
    } else if (event->button() == Qt::BackButton) {
        session_.navigation().back();
    } else if (event->button() == Qt::ForwardButton) {
        session_.navigation().forward();
    } else if (event->button() == Qt::LeftButton) {
        tool_->press(pointerOf(*event));
    } else if (event->button() == Qt::RightButton && tool_ == &select_) {
        const auto hit = scene::hitAt(*session_.scene().seenAt(camera().zoom()),
                                      camera().toSheet(event->position()), 6 / camera().zoom());
        if (hit && !session_.selected().contains(hit.object))
            session_.select({hit.object});
    }
    afterEvent();
}

void SheetView::mouseMoveEvent(QMouseEvent* event) {
    card_->hide();
    if (panTo(*event))
        return;
    // Past the edge of the sheet the view goes on; past that of the window a move is a
    // drag to somewhere else.
    if (tool_ == &select_ && select_.isMoving() &&
        !window()->rect().contains(mapTo(window(), event->position().toPoint()))) {
        edge_.stop();
        select_.cancel();
        update();
        Q_EMIT dragOutWanted();
        return;
    }
    dragged_ = pointerOf(*event);
    tool_->move(dragged_);
    isDragging(dragged_) ? edge_.follow(event->position(), size()) : edge_.stop();
    followHold();
    const QRect corner(width() - 168, height() - 116, 168, 116);
    locator_->stepAside(event->buttons() != Qt::NoButton && corner.contains(event->position().toPoint()));
    if (tool_ == &select_ && event->buttons() == Qt::NoButton && select_.hovered())
        cardTimer_.start();
    else
        cardTimer_.stop();
    afterEvent();
}

void SheetView::followHold() {
    const GroupId over = tool_ == &select_ ? select_.heldOver() : GroupId{};
    if (over == heldOver_)
        return;
    heldOver_ = over;
    over ? hold_.start() : hold_.stop();
}

bool SheetView::isDragging(const Pointer& pointer) const {
    return pointer.buttons & Qt::LeftButton && (tool_ == &select_ ? select_.inGesture() : tool_ == &link_);
}

void SheetView::scrollAtEdge(QPointF by) {
    if (!isDragging(dragged_)) { // Esc, or what was dragged is gone
        edge_.stop();
        return;
    }
    pan(-by);
    dragged_.sheet = camera().toSheet(dragged_.screen);
    tool_->move(dragged_);
    afterEvent();
}

/// What is dragged may be let go over a panel that takes it.
bool SheetView::droppedElsewhere(const QMouseEvent& event) const {
    return tool_ == &select_ && select_.isMoving() && !rect().contains(event.position().toPoint()) &&
           takesDrop_ && takesDrop_(event.globalPosition().toPoint());
}

void SheetView::mouseReleaseEvent(QMouseEvent* event) {
    edge_.stop();
    hold_.stop();
    heldOver_ = {};
    dragged_ = {};
    if (endPan(*event)) {
        // and no further
    } else if (event->button() == Qt::LeftButton && droppedElsewhere(*event)) {
        select_.cancel();
    } else if (event->button() == Qt::LeftButton) {
        tool_->release(pointerOf(*event));
    } else if (event->button() == Qt::RightButton && tool_ != &select_) {
        cancelTool();
    }
    if (tool_ == &select_)
        select_.move(pointerOf(*event)); // what lies under the pointer now
    locator_->stepAside(false);
    afterEvent();
}

void SheetView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && (tool_ == &select_ || tool_ == &route_))
        tool_->doubleClick(pointerOf(*event));
    else
        mousePressEvent(event);
    afterEvent();
}

/// With nothing left to give up Esc leaves the group at the second time.
void SheetView::escapeTwice() {
    constexpr qint64 soonMs = 1500;
    if (escaped_.isValid() && escaped_.elapsed() < soonMs) {
        escaped_.invalidate();
        session_.navigation().leaveGroup();
    } else {
        escaped_.start();
    }
}

void SheetView::keyPressEvent(QKeyEvent* event) {
    card_->hide();
    if (event->key() == Qt::Key_Escape) {
        linking_.hideDrawer();
        linking_.hideStrip();
        const bool ended = tool_->cancel();
        if (ended && tool_ == &place_)
            Q_EMIT placingEnded();
        if (!ended && tool_ == &select_ && session_.scene().entered())
            escapeTwice();
        tool_ = &select_;
        afterEvent();
        return;
    }
    session_.workspace().settle();
    if (event->key() == Qt::Key_Space && tool_ == &select_) {
        holdSpace(*event);
        afterEvent();
        return;
    }
    if (!tool_->key(*event))
        Surface::keyPressEvent(event);
    afterEvent();
}

void SheetView::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat() && spaceHeld()) {
        const bool pressed = releaseSpace();
        const ObjectRef ref = select_.focused();
        if (pressed && session_.scene().item(ref)) {
            if (event->modifiers() & Qt::ShiftModifier)
                session_.selected().toggle(ref);
            else
                session_.select({ref});
        }
        afterEvent();
        return;
    }
    Surface::keyReleaseEvent(event);
}

void SheetView::leaveEvent(QEvent*) {
    cardTimer_.stop();
    card_->hide();
    select_.leave();
    afterEvent();
}

void SheetView::focusInEvent(QFocusEvent*) {
    update();
}

void SheetView::focusOutEvent(QFocusEvent*) {
    forgetSpace();
    update();
}

void SheetView::contextMenuEvent(QContextMenuEvent* event) {
    if (tool_ == &select_)
        contextMenu_.popup(event->globalPos());
}

const DeviceModel* SheetView::draggedModel(const QDropEvent& event) const {
    const QByteArray id = event.mimeData()->data(QString::fromLatin1(modelMimeType));
    return id.isEmpty() ? nullptr : session_.catalogue().device(id.toStdString());
}

bool SheetView::bringsClip(const QDropEvent& event) const {
    return !event.source() && event.mimeData()->hasFormat(QString::fromLatin1(networkMimeType));
}

bool SheetView::bringsDevices(const QDropEvent& event) {
    return carriesDevices(*event.mimeData());
}

void SheetView::dragEnterEvent(QDragEnterEvent* event) {
    if (draggedModel(*event) || bringsClip(*event) || bringsDevices(*event))
        event->acceptProposedAction();
}

void SheetView::dragMoveEvent(QDragMoveEvent* event) {
    const DeviceModel* model = draggedModel(*event);
    if (bringsClip(*event) || bringsDevices(*event))
        event->acceptProposedAction();
    if (!model)
        return;
    if (tool_ != &place_)
        tool_ = &place_;
    place_.preview(model, camera().toSheet(event->position()), !(event->modifiers() & Qt::ControlModifier));
    event->acceptProposedAction();
    update();
}

void SheetView::dragLeaveEvent(QDragLeaveEvent*) {
    place_.cancel();
    cancelTool();
}

void SheetView::dropEvent(QDropEvent* event) {
    const DeviceModel* model = draggedModel(*event);
    place_.cancel();
    cancelTool();
    if (bringsDevices(*event)) {
        putOn(carriedDevices(*event->mimeData(), session_.network()), camera().toSheet(event->position()));
        event->acceptProposedAction();
        setFocus();
        return;
    }
    if (!model && bringsClip(*event)) { // from another window
        auto clip = clipFrom(clipBytes(*event->mimeData()), session_.catalogue());
        if (clip)
            paste(*clip, camera().toSheet(event->position()));
        else
            Q_EMIT session_.workspace().refused(clip.refusal());
        event->setDropAction(Qt::CopyAction);
        event->accept();
        setFocus();
        return;
    }
    if (!model)
        return;
    place_.put(*model, camera().toSheet(event->position()), !(event->modifiers() & Qt::ControlModifier));
    event->acceptProposedAction();
    setFocus();
}

} // namespace underridge::app

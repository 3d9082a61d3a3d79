// SPDX-License-Identifier: GPL-3.0-or-later
// The events of the sheet: painting, pointer, keys, drag and drop.
#include "app/session/session.h"
#include "app/session/typed_fields.h"
#include "app/sheet/sheet_view.h"

#include "app/files/clipboard.h"
#include "app/overlays/overlay_layer.h"

#include <QContextMenuEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

namespace underridge::app {
using namespace model;
namespace {
constexpr double wheelStep = 1.2; // zoom of one notch
}

bool SheetView::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && tool_->wantsLetters()) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (!key->text().isEmpty() && !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) {
            event->accept();
            return true;
        }
    }
    if (event->type() == QEvent::NativeGesture) {
        const auto* pinch = static_cast<QNativeGestureEvent*>(event);
        if (pinch->gestureType() == Qt::ZoomNativeGesture) {
            camera_.zoomAt(pinch->position(), std::max(0.1, 1 + pinch->value()));
            cameraMoved();
            return true;
        }
    }
    if (event->type() == QEvent::KeyPress) { // Tab would leave the sheet otherwise
        auto* key = static_cast<QKeyEvent*>(event);
        if ((key->key() == Qt::Key_Tab || key->key() == Qt::Key_Backtab) &&
            !(key->modifiers() & Qt::ControlModifier) && session_.scene().count<scene::Plate>() > 0) {
            keyPressEvent(key);
            return true;
        }
    }
    return QWidget::event(event);
}

void SheetView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    tiles_.draw(painter, camera_, devicePixelRatioF());
    const double zoom = camera_.zoom();
    const scene::Rect seen = camera_.visible();
    painter.scale(zoom, zoom);
    painter.translate(-seen.x, -seen.y);
    paintOverlays(painter, *painter_, session_.overlays(), session_.scene(), seen, zoom);
    for (const ObjectRef ref : session_.selection())
        if (const scene::Item* item = session_.scene().item(ref);
            item && item->bounds.grown(8).intersects(seen))
            paintSelected(painter, *item);
    if (hasFocus()) { // the focus, apart from the selection: a thin second outline
        const auto* plate = session_.scene().plate({select_.focused().id});
        const auto* note = session_.scene().note({select_.focused().id});
        if (plate || note) {
            painter.setRenderHint(QPainter::Antialiasing);
            painter.setPen(QPen(theme_->accent, 1 / zoom));
            painter.setBrush(Qt::NoBrush);
            const scene::Rect frame = plate ? plate->frame : note->frame;
            painter.drawRoundedRect(paint::toQt(frame.grown(8 / std::max(zoom, 0.5))), 10, 10);
        }
    }
    tool_->paint(painter, *painter_, zoom);
    painter.resetTransform();
    paintLegends(painter, *theme_, session_.overlays(), size());
    if (session_.scene().count<scene::Plate>() == 0 && session_.scene().count<scene::NoteCard>() == 0 &&
        tool_ == &select_)
        paintEmptyHelp(painter);
}

void SheetView::paintSelected(QPainter& painter, const scene::Item& item) {
    constexpr std::size_t mostPlatesAgain = 60; // plates stay above links
    const double zoom = camera_.zoom();
    const auto* line = item.as<scene::LinkLine>();
    if (!line) {
        painter_->selection(painter,
                            item.as<scene::Plate>() ? item.as<scene::Plate>()->frame
                                                    : item.as<scene::NoteCard>()->frame,
                            zoom);
        return;
    }
    const auto detail = scene::detailFor(zoom);
    painter_->selectedLine(painter, *line, zoom);
    if (const auto plates = session_.scene().itemsIn(item.bounds).of<scene::Plate>();
        plates.size() <= mostPlatesAgain)
        for (const scene::Plate* above : plates)
            painter_->plate(painter, *above, detail, zoom);
    for (std::size_t i = 1; i + 1 < line->path.size(); ++i) {
        const QPointF c = paint::toQt(line->path[i]);
        painter.setBrush(theme_->plate);
        painter.drawRect(QRectF(c.x() - 4 / zoom, c.y() - 4 / zoom, 8 / zoom, 8 / zoom));
    }
    if (detail == scene::Detail::near || detail == scene::Detail::close) { // labels stay above too
        for (const scene::Label* label : session_.scene().labelsIn(item.bounds))
            painter_->label(painter, *label);
        for (const scene::Label& label : line->labels)
            painter_->label(painter, label);
    }
}

void SheetView::paintEmptyHelp(QPainter& painter) {
    const QStringList lines{tr("Press A and type, such as 4 access switch 24"),
                            tr("Drag a model from the catalogue"), tr("Open a network: Ctrl+O")};
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(theme_->muted);
    QFont large = font();
    large.setPointSizeF(large.pointSizeF() * 1.15);
    painter.setFont(large);
    const int step = painter.fontMetrics().height() + 8;
    int y = height() / 2 - step * static_cast<int>(lines.size()) / 2;
    for (const QString& line : lines) {
        painter.drawText(QRect(0, y, width(), step), Qt::AlignCenter, line);
        y += step;
    }
}

void SheetView::resizeEvent(QResizeEvent*) {
    camera_.setViewport(size());
    locator_->stepAside(false);
    cameraMoved();
}

void SheetView::mousePressEvent(QMouseEvent* event) {
    card_->hide();
    cardTimer_.stop();
    if (!finishNote() || (nameField_->isVisible() && !finishName()))
        return; // a name that cannot be taken is put right first
    drawer_->hide();
    if (event->button() == Qt::MiddleButton || (event->button() == Qt::LeftButton && spaceHeld_)) {
        panning_ = true;
        spacePanned_ = spaceHeld_;
        lastPan_ = event->position();
    } else if (event->button() == Qt::LeftButton) {
        tool_->press(pointerOf(*event));
    } else if (event->button() == Qt::RightButton && tool_ == &select_) {
        const auto hit =
            scene::hitAt(session_.scene(), camera_.toSheet(event->position()), 6 / camera_.zoom());
        if (hit && !session_.selected().contains(hit.object))
            session_.select({hit.object});
    }
    afterEvent();
}

void SheetView::mouseMoveEvent(QMouseEvent* event) {
    card_->hide();
    if (panning_) {
        pan(event->position() - lastPan_);
        lastPan_ = event->position();
        return;
    }
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
    const QRect corner(width() - 168, height() - 116, 168, 116);
    locator_->stepAside(event->buttons() != Qt::NoButton && corner.contains(event->position().toPoint()));
    if (tool_ == &select_ && event->buttons() == Qt::NoButton && select_.hovered())
        cardTimer_.start();
    else
        cardTimer_.stop();
    afterEvent();
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
    dragged_.sheet = camera_.toSheet(dragged_.screen);
    tool_->move(dragged_);
    afterEvent();
}

void SheetView::mouseReleaseEvent(QMouseEvent* event) {
    edge_.stop();
    dragged_ = {};
    if (panning_ && event->button() != Qt::RightButton)
        panning_ = false;
    else if (event->button() == Qt::LeftButton)
        tool_->release(pointerOf(*event));
    else if (event->button() == Qt::RightButton && tool_ != &select_)
        cancelTool();
    if (tool_ == &select_)
        select_.move(pointerOf(*event)); // what lies under the pointer now
    locator_->stepAside(false);
    afterEvent();
}

void SheetView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && tool_ == &select_)
        select_.doubleClick(pointerOf(*event));
    else
        mousePressEvent(event);
    afterEvent();
}

void SheetView::wheelEvent(QWheelEvent* event) {
    const bool touchpad = event->pointingDevice()->type() == QInputDevice::DeviceType::TouchPad;
    if (touchpad && !(event->modifiers() & Qt::ControlModifier)) {
        constexpr double pixelsADegree = 1.0 / 4;
        pan(event->pixelDelta().isNull() ? QPointF(event->angleDelta()) * pixelsADegree
                                         : QPointF(event->pixelDelta()));
        event->accept();
        return;
    }
    const double notches = event->angleDelta().y() / 120.0;
    if (notches != 0) {
        camera_.zoomAt(event->position(), std::pow(wheelStep, notches));
        cameraMoved();
    }
    event->accept();
}

void SheetView::keyPressEvent(QKeyEvent* event) {
    card_->hide();
    if (event->key() == Qt::Key_Escape) {
        drawer_->hide();
        strip_->hide();
        if (tool_->cancel() && tool_ == &place_)
            Q_EMIT placingEnded();
        tool_ = &select_;
        afterEvent();
        return;
    }
    if (event->key() == Qt::Key_Space && tool_ == &select_) {
        if (!event->isAutoRepeat()) {
            spaceHeld_ = true;
            spacePanned_ = false;
        }
        afterEvent();
        return;
    }
    if (!tool_->key(*event))
        QWidget::keyPressEvent(event);
    afterEvent();
}

void SheetView::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat() && spaceHeld_) {
        spaceHeld_ = panning_ = false;
        const ObjectRef ref = select_.focused();
        if (!spacePanned_ && (session_.scene().plate({ref.id}) || session_.scene().note({ref.id}))) {
            if (event->modifiers() & Qt::ShiftModifier)
                session_.selected().toggle(ref);
            else
                session_.select({ref});
        }
        afterEvent();
        return;
    }
    QWidget::keyReleaseEvent(event);
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
    spaceHeld_ = false;
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

void SheetView::dragEnterEvent(QDragEnterEvent* event) {
    if (draggedModel(*event) || bringsClip(*event))
        event->acceptProposedAction();
}

void SheetView::dragMoveEvent(QDragMoveEvent* event) {
    const DeviceModel* model = draggedModel(*event);
    if (bringsClip(*event))
        event->acceptProposedAction();
    if (!model)
        return;
    if (tool_ != &place_)
        tool_ = &place_;
    place_.preview(model, camera_.toSheet(event->position()), !(event->modifiers() & Qt::ControlModifier));
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
    if (!model && bringsClip(*event)) { // from another window
        auto clip = clipFrom(clipBytes(*event->mimeData()), session_.catalogue());
        if (clip)
            paste(*clip, camera_.toSheet(event->position()));
        else
            Q_EMIT session_.workspace().refused(clip.refusal());
        event->setDropAction(Qt::CopyAction);
        event->accept();
        setFocus();
        return;
    }
    if (!model)
        return;
    place_.put(*model, camera_.toSheet(event->position()), !(event->modifiers() & Qt::ControlModifier));
    event->acceptProposedAction();
    setFocus();
}

bool SheetView::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Escape) {
            static_cast<QWidget*>(watched)->hide();
            setFocus();
            return true;
        }
        const bool enter = key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter;
        if (watched == noteField_ && enter && key->modifiers() & Qt::ControlModifier) {
            finishNote();
            return true;
        }
    }
    if (event->type() == QEvent::FocusOut && TypedFields::leaves(*static_cast<QFocusEvent*>(event)) &&
        static_cast<QWidget*>(watched)->isVisible()) {
        if (watched == noteField_)
            finishNote();
        else if (!finishName())
            closeField(*nameField_, Then::closes); // the person is elsewhere; why is in the status line
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/fields_in_place.h"

#include "app/session/session.h"
#include "app/session/typed_fields.h"
#include "app/sheet/snapping.h"
#include "app/shown_text.h"
#include "core/edit/devices.h"
#include "core/edit/names.h"
#include "core/edit/sheets.h"
#include "core/scene/plates.h"

#include <QKeyEvent>

namespace underridge::app {
using namespace model;
using scene::PointF;

FieldsInPlace::FieldsInPlace(Session& session, Surface& surface)
    : QObject(&surface),
      session_(session),
      surface_(surface),
      name_(new QLineEdit(&surface)),
      note_(new QPlainTextEdit(&surface)) {
    name_->setAccessibleName(tr("Name"));
    note_->setAccessibleName(tr("Note"));
    note_->setPlaceholderText(tr("Ctrl+Enter keeps the note, Esc drops it"));
    for (QWidget* field : std::initializer_list<QWidget*>{name_, note_}) {
        field->hide();
        field->installEventFilter(this);
    }
    connect(name_, &QLineEdit::returnPressed, this, [this] { finishName(Then::closes); });
}

bool FieldsInPlace::commit() {
    const bool note = finishNote(Then::stays);
    return finishName(Then::stays) && note;
}

bool FieldsInPlace::finish() {
    const bool note = finishNote(Then::closes);
    return finishName(Then::closes) && note;
}

void FieldsInPlace::hide() {
    name_->hide();
    note_->hide();
}

void FieldsInPlace::close(QWidget& field, Then then) {
    if (then == Then::stays)
        return;
    const bool held = field.hasFocus();
    field.hide();
    if (held)
        surface_.setFocus();
}

void FieldsInPlace::openNote(const QRect& at) {
    note_->setGeometry(at);
    note_->show();
    note_->setFocus();
}

void FieldsInPlace::addNote(PointF at) {
    noteAt_ = at;
    noteEdited_ = {};
    note_->clear();
    openNote({surface_.camera().toScreen(at).toPoint(), QSize(220, 90)});
}

void FieldsInPlace::editNote(NoteId id) {
    const Note* note = session_.network().note(id);
    const scene::NoteCard* shown = session_.scene().note(id);
    if (!note || !shown)
        return;
    noteEdited_ = id;
    note_->setPlainText(QString::fromStdString(note->text.str()));
    const QRect frame = surface_.onScreen(shown->frame).toRect();
    openNote({frame.topLeft(), QSize(std::max(220, frame.width()), std::max(90, frame.height()))});
    note_->selectAll();
}

bool FieldsInPlace::finishNote(Then then) {
    if (note_->isHidden())
        return true;
    const std::string text = note_->toPlainText().toStdString();
    const Note* edited = session_.network().note(noteEdited_);
    if (edited ? edited->text.view() == text : trimmed(text).empty()) {
        close(*note_, then);
        return true;
    }
    auto act =
        edited ? edit::setNoteText(session_.network(), noteEdited_, text)
               : edit::addNote(session_.network(), session_.look(), onGrid(noteAt_), text, session_.ids());
    if (!act) {
        Q_EMIT session_.workspace().refused(act.refusal());
        return false;
    }
    noteEdited_ = {act->subjects.front().id}; // what is typed on is this note's
    close(*note_, then);
    session_.apply(std::move(act));
    return true;
}

void FieldsInPlace::rename(edit::Refs objects) {
    std::erase_if(objects, [](ObjectRef ref) {
        return ref.kind != Kind::device && ref.kind != Kind::group && ref.kind != Kind::cableRoute;
    });
    if (objects.empty()) {
        Q_EMIT session_.workspace().refused(
            advice(tr("nothing that has a name is selected"), tr("select a device")));
        return;
    }
    if (objects.size() > 1) {
        std::vector<DeviceId> devices;
        for (const ObjectRef ref : objects)
            if (ref.kind == Kind::device)
                devices.push_back({ref.id});
        Q_EMIT seriesWanted(devices);
        return;
    }
    naming_ = std::move(objects);
    const scene::Item* item = session_.scene().item(naming_.front());
    QRectF at(surface_.width() / 2.0 - 100, surface_.height() / 2.0, 200, 28);
    if (item) {
        const auto* route = item->as<scene::RouteLine>();
        const scene::Rect frame = route ? route->labelArea : scene::frameOf(*item);
        at = surface_.onScreen({frame.x + scene::spineWidth, frame.y,
                                std::min(frame.w, scene::tileWidth) - scene::spineWidth, 22});
        at.setWidth(std::max(at.width(), 180.0));
        at.setHeight(std::max(at.height(), 26.0));
    }
    name_->setText(session_.nameOf(naming_.front()));
    name_->setGeometry(at.toRect());
    name_->selectAll();
    name_->show();
    name_->raise();
    name_->setFocus();
}

bool FieldsInPlace::finishName(Then then) {
    if (name_->isHidden())
        return true;
    const std::string typed = name_->text().trimmed().toStdString();
    const auto names = edit::seriesNames(typed, 1, {});
    auto act = names ? edit::rename(session_.network(), naming_, *names) : edit::ActResult(names.refusal());
    if (!act) {
        Q_EMIT session_.workspace().refused(act.refusal());
        return false;
    }
    close(*name_, then);
    session_.apply(std::move(act));
    return true;
}

bool FieldsInPlace::eventFilter(QObject* watched, QEvent* event) {
    auto& field = static_cast<QWidget&>(*watched);
    if (event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Escape) {
            field.hide();
            surface_.setFocus();
            return true;
        }
        const bool enter = key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter;
        if (&field == note_ && enter && key->modifiers() & Qt::ControlModifier) {
            finishNote(Then::closes);
            return true;
        }
    }
    if (event->type() == QEvent::FocusOut && TypedFields::leaves(*static_cast<QFocusEvent*>(event)) &&
        field.isVisible()) {
        if (&field == note_)
            finishNote(Then::closes);
        else if (!finishName(Then::closes))
            close(*name_, Then::closes); // the person is elsewhere; why is in the status line
    }
    return QObject::eventFilter(watched, event);
}

} // namespace underridge::app

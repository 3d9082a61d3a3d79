// SPDX-License-Identifier: GPL-3.0-or-later
// Names and notes typed where they stand on a surface.
#pragma once
#include "app/sheet/surface.h"
#include "core/edit/act.h"

#include <QLineEdit>
#include <QPlainTextEdit>

namespace underridge::app {

class Session;

class FieldsInPlace : public QObject {
    Q_OBJECT
public:
    FieldsInPlace(Session& session, Surface& surface);

    /// One object in place; several devices by a series, which others are asked for.
    void rename(edit::Refs objects);
    void editNote(model::NoteId note);
    /// A new note with its upper left corner at a point.
    void addNote(scene::PointF at);

    /// Takes what is typed; the field stays open. False when it cannot be taken, which is
    /// told.
    bool commit();
    /// Takes what is typed and closes. False: a field stays open.
    bool finish();
    /// Closes without taking.
    void hide();

    QLineEdit& nameField() { return *name_; }
    QPlainTextEdit& noteField() { return *note_; }

Q_SIGNALS:
    /// Several devices are to be named by a series.
    void seriesWanted(const std::vector<underridge::model::DeviceId>& devices);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    /// What becomes of a field whose text is taken.
    enum class Then { stays, closes };
    bool finishName(Then then);
    bool finishNote(Then then);
    void close(QWidget& field, Then then);
    void openNote(const QRect& at);

    Session& session_;
    Surface& surface_;
    QLineEdit* name_;
    QPlainTextEdit* note_;
    edit::Refs naming_;
    model::NoteId noteEdited_; ///< none: a new one
    scene::PointF noteAt_;
};

} // namespace underridge::app

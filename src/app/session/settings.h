// SPDX-License-Identifier: GPL-3.0-or-later
// What is kept for the person between two runs, by name and type. Keys of commands:
// app/commands/keys.h.
#pragma once
#include "app/session/sheet_session.h"
#include "core/linking/best.h"

#include <QSettings>
#include <QStringList>

namespace underridge::app {

class Settings {
public:
    explicit Settings(QSettings& store) : store_(store) {}

    /// The unit lengths are shown in: metres, unless the person chose, or lives where it
    /// is feet.
    model::LengthUnit lengthUnit() const;
    void setLengthUnit(model::LengthUnit unit);
    /// How ports are chosen for the person.
    linking::Habits habits() const;
    void setHabits(const linking::Habits& habits);
    /// Per cent of the desktop's text size, 80 to 250.
    int textScale() const;
    void setTextScale(int percent);

    /// Whether the view may move by itself, where the desktop wants no less of that.
    bool motion() const;
    void setMotion(bool on);

    /// Files opened or saved, the latest first; those that are gone are left out.
    QStringList recentFiles() const;
    void addRecent(const QString& path);
    /// What was looked for and found, the latest first.
    QStringList lastFinds() const;
    void addFind(const QString& text);
    /// Where files were chosen last.
    QString folder() const;
    void setFolder(const QString& folder);
    /// Whether the network that was open last is opened again at the start.
    bool opensLast() const;
    void setOpensLast(bool on);
    /// What was open when the program was left; empty: nothing, or a network without a
    /// file.
    QString lastFile() const;
    void setLastFile(const QString& path);

    /// How pages were printed last.
    struct Pages {
        QString paper = QStringLiteral("A4");
        bool portrait = false, byScale = false, titleBlock = true;
        int scalePercent = 70;
    };
    Pages pages() const;
    void setPages(const Pages& pages);

    /// Where a file was looked at when it was left.
    struct Place {
        model::SheetId sheet;
        View view;
    };
    std::optional<Place> placeIn(const QString& path) const;
    void setPlaceIn(const QString& path, const Place& place);

private:
    QSettings& store_;
};

} // namespace underridge::app

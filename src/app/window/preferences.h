// SPDX-License-Identifier: GPL-3.0-or-later
// What a person likes: theme, text size, units, port habits, keys. Kept where the desktop keeps settings,
// changed at once.
#pragma once
#include "app/commands/command_table.h"
#include "app/window/desktop_theme.h"
#include "core/linking/best.h"
#include "core/model/length.h"

#include <QDialog>
#include <QKeySequence>
#include <QLabel>
#include <QTableWidget>

class QCheckBox;
class QComboBox;
class QSettings;
class QSpinBox;

namespace underridge::app {

/// A command's name in the settings: "add-devices".
QString settingName(const Command& command);
/// The keys of a command: the person's own if there are any, else the standard ones. Without single letters,
/// those that are one letter alone are left out.
QList<QKeySequence> keysOf(const Command& command, const QSettings& settings);
/// The unit lengths are shown in: metres, unless the person chose, or lives where it is feet.
model::LengthUnit lengthUnit(const QSettings& settings);
/// How ports are chosen for the person.
linking::Habits habits(const QSettings& settings);
/// Per cent of the desktop's text size, 80 to 250.
int textScale(const QSettings& settings);

class Preferences : public QDialog {
    Q_OBJECT
public:
    Preferences(QSettings& settings, DesktopTheme& theme, QWidget* parent);

    QComboBox& theme() { return *theme_; }
    QSpinBox& scale() { return *scale_; }
    QComboBox& units() { return *units_; }
    QComboBox& portEnd() { return *portEnd_; }
    QCheckBox& hostsTakeUplinks() { return *uplinks_; }
    QCheckBox& letters() { return *letters_; }
    QTableWidget& keys() { return *keys_; }
    QString wrong() const { return wrong_->text(); }
    /// Gives a command another key; empty: none. False when another command has it, which is said.
    bool setKey(CommandId id, const QKeySequence& key);
    void resetKeys();

Q_SIGNALS:
    void changed();

private:
    void fillKeys();

    QSettings& settings_;
    QComboBox* theme_;
    QSpinBox* scale_;
    QComboBox *units_, *portEnd_;
    QCheckBox* uplinks_;
    QCheckBox* letters_;
    QTableWidget* keys_;
    QLabel* wrong_;
};

} // namespace underridge::app

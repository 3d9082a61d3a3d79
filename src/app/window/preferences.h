// SPDX-License-Identifier: GPL-3.0-or-later
// What a person likes: theme, text size, units, port habits, keys. Kept where the desktop
// keeps settings, changed at once.
#pragma once
#include "app/commands/command_table.h"
#include "app/style/desktop_theme.h"

#include <QDialog>
#include <QKeySequence>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>

class QCheckBox;
class QComboBox;
class QSettings;
class QSpinBox;

namespace underridge::app {

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
    QCheckBox& motion() { return *motion_; }
    QCheckBox& opensLast() { return *opensLast_; }
    QLineEdit& search() { return *search_; }
    QTableWidget& keys() { return *keys_; }
    QString wrong() const { return wrong_->text(); }
    /// Gives a command another key; empty: none. False when another command has it, which
    /// is said.
    bool setKey(CommandId id, const QKeySequence& key);
    void resetKeys();

Q_SIGNALS:
    void changed();

private:
    QWidget* looksPage(const DesktopTheme& theme);
    QWidget* linkingPage();
    QWidget* keysPage();
    void connectChoices(DesktopTheme& theme);
    void fillKeys();
    void showMatching(const QString& words);

    QSettings& settings_;
    QComboBox* theme_;
    QSpinBox* scale_;
    QComboBox *units_, *portEnd_;
    QCheckBox* uplinks_;
    QCheckBox* motion_;
    QCheckBox* opensLast_;
    QLineEdit* search_;
    QCheckBox* letters_;
    QTableWidget* keys_;
    QLabel* wrong_;
};

} // namespace underridge::app

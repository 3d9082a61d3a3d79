// SPDX-License-Identifier: GPL-3.0-or-later
// Which keys a command has: the person's own, or those of the table.
#pragma once
#include "app/commands/command_table.h"

#include <QKeySequence>

class QSettings;

namespace underridge::app {

/// Whether single letters are commands while the sheet has the focus.
inline const QString lettersSetting = QStringLiteral("keys/singleLetters");

/// Where a command's own key is kept in the settings: "keys/add-devices".
QString keySetting(const Command& command);
/// The keys of a command: the person's own if there are any, else the standard ones.
/// Without single letters, those that are one letter alone are left out.
QList<QKeySequence> keysOf(const Command& command, const QSettings& settings);
/// "Ctrl+Shift+Z, Ctrl+Y" in the desktop's words.
QString keysText(const QList<QKeySequence>& keys);

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/keys.h"

#include <QSettings>
#include <QStringList>

namespace underridge::app {
namespace {

bool isSingleLetter(const QKeySequence& key) {
    if (key.count() != 1)
        return false;
    const auto combination = key[0];
    return !(combination.keyboardModifiers() & ~Qt::KeyboardModifiers(Qt::ShiftModifier)) &&
           combination.key() >= Qt::Key_A && combination.key() <= Qt::Key_Z;
}

QList<QKeySequence> standardKeys(const Command& command) {
    QList<QKeySequence> keys;
    for (const QString& key : QString::fromUtf8(command.keys).split(QLatin1Char(' '), Qt::SkipEmptyParts))
        keys << QKeySequence::fromString(key, QKeySequence::PortableText);
    return keys;
}

} // namespace

QString keySetting(const Command& command) {
    QString name = plainText(command).toLower();
    for (QChar& c : name)
        if (!c.isLetterOrNumber())
            c = QLatin1Char('-');
    return QStringLiteral("keys/") + name;
}

QList<QKeySequence> keysOf(const Command& command, const QSettings& settings) {
    const QString name = keySetting(command);
    QList<QKeySequence> keys = standardKeys(command);
    if (settings.contains(name)) {
        const QString own = settings.value(name).toString();
        keys.clear();
        if (!own.isEmpty())
            keys << QKeySequence::fromString(own, QKeySequence::PortableText);
    }
    if (!settings.value(lettersSetting, true).toBool())
        keys.removeIf(isSingleLetter);
    return keys;
}

QString keysText(const QList<QKeySequence>& keys) {
    QStringList out;
    for (const QKeySequence& key : keys)
        out << key.toString(QKeySequence::NativeText);
    return out.join(QStringLiteral(", "));
}

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// Whether the desktop is dark: by the settings portal (org.freedesktop.appearance
// color-scheme), else by the palette the program was started with.
#pragma once
#include "paint/theme.h"

#include <QDBusVariant>
#include <QObject>
#include <QPalette>

namespace underridge::app {

enum class ThemeChoice { desktop, light, dark };

class DesktopTheme : public QObject {
    Q_OBJECT
public:
    explicit DesktopTheme(QObject* parent = nullptr);

    ThemeChoice choice() const { return choice_; }
    void choose(ThemeChoice choice);
    const paint::Theme& theme() const;

Q_SIGNALS:
    void changed();

private Q_SLOTS:
    void settingChanged(const QString& space, const QString& key, const QDBusVariant& value);

private:
    void ask();

    ThemeChoice choice_ = ThemeChoice::desktop;
    bool desktopDark_ = false;
};

/// The palette of panels for a theme.
QPalette paletteFor(const paint::Theme& theme);

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/style/desktop_theme.h"

#include <QApplication>
#include <QDBusConnection>
#include <QDBusInterface>
#include <QDBusPendingCallWatcher>
#include <QDBusPendingReply>

namespace underridge::app {
namespace {
const QString service = QStringLiteral("org.freedesktop.portal.Desktop");
const QString path = QStringLiteral("/org/freedesktop/portal/desktop");
const QString interface = QStringLiteral("org.freedesktop.portal.Settings");
const QString space = QStringLiteral("org.freedesktop.appearance");
const QString schemeKey = QStringLiteral("color-scheme");
constexpr unsigned preferDark = 1;

QVariant unwrapped(QVariant value) {
    while (value.canConvert<QDBusVariant>())
        value = value.value<QDBusVariant>().variant();
    return value;
}
} // namespace

DesktopTheme::DesktopTheme(QObject* parent) : QObject(parent) {
    desktopDark_ = QApplication::palette().color(QPalette::Window).lightness() < 128;
    ask();
}

void DesktopTheme::ask() {
    QDBusConnection bus = QDBusConnection::sessionBus();
    if (!bus.isConnected())
        return;
    bus.connect(service, path, interface, QStringLiteral("SettingChanged"), this,
                SLOT(settingChanged(QString, QString, QDBusVariant)));
    QDBusMessage call = QDBusMessage::createMethodCall(service, path, interface, QStringLiteral("Read"));
    call << space << schemeKey;
    auto* watcher = new QDBusPendingCallWatcher(bus.asyncCall(call), this);
    connect(watcher, &QDBusPendingCallWatcher::finished, this, [this, watcher] {
        const QDBusPendingReply<QDBusVariant> reply = *watcher;
        watcher->deleteLater();
        if (reply.isValid())
            settingChanged(space, schemeKey, reply.value());
    });
}

void DesktopTheme::settingChanged(const QString& where, const QString& key, const QDBusVariant& value) {
    if (where != space || key != schemeKey)
        return;
    const bool dark = unwrapped(value.variant()).toUInt() == preferDark;
    if (std::exchange(desktopDark_, dark) != dark && choice_ == ThemeChoice::desktop)
        Q_EMIT changed();
}

void DesktopTheme::choose(ThemeChoice choice) {
    if (std::exchange(choice_, choice) != choice)
        Q_EMIT changed();
}

const paint::Theme& DesktopTheme::theme() const {
    switch (choice_) {
    case ThemeChoice::light:
        return paint::lightTheme();
    case ThemeChoice::dark:
        return paint::darkTheme();
    case ThemeChoice::desktop:
        break;
    }
    return desktopDark_ ? paint::darkTheme() : paint::lightTheme();
}

QPalette paletteFor(const paint::Theme& theme) {
    QPalette p;
    p.setColor(QPalette::Window, theme.panel);
    p.setColor(QPalette::WindowText, theme.ink);
    p.setColor(QPalette::Base, theme.plate);
    p.setColor(QPalette::AlternateBase, theme.panel);
    p.setColor(QPalette::Text, theme.ink);
    p.setColor(QPalette::PlaceholderText, theme.muted);
    p.setColor(QPalette::Button, theme.panel);
    p.setColor(QPalette::ButtonText, theme.ink);
    p.setColor(QPalette::BrightText, theme.error);
    p.setColor(QPalette::Highlight, theme.accent);
    p.setColor(QPalette::HighlightedText, theme.dark ? theme.sheet : theme.plate);
    p.setColor(QPalette::ToolTipBase, theme.plate);
    p.setColor(QPalette::ToolTipText, theme.ink);
    p.setColor(QPalette::Link, theme.accent);
    p.setColor(QPalette::Light, theme.plate);
    p.setColor(QPalette::Midlight, theme.frame);
    p.setColor(QPalette::Mid, theme.edge);
    p.setColor(QPalette::Dark, theme.edge.darker(120));
    p.setColor(QPalette::Shadow, theme.dark ? QColor(0, 0, 0) : theme.edge.darker(160));
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText}) {
        QColor faint = theme.muted;
        faint.setAlphaF(0.65F);
        p.setColor(QPalette::Disabled, role, faint);
    }
    return p;
}

} // namespace underridge::app

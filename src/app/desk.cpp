// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk.h"

#include <QFileInfo>

namespace underridge::app {

void Desk::chooseNetwork(const QString& title, std::function<void(const QString&)> then) const {
    fileDialogs.choose(
        {title, QObject::tr("Networks (*.underridge *.json *.graphml *.xml *.csv *.tsv *.xlsx);;"
                            "Underridge networks (*.underridge);;All files (*)")},
        std::move(then));
}

QString Desk::networkName() const {
    return QString::fromStdString(session.network().info().name)
        .toLower()
        .replace(QLatin1Char(' '), QLatin1Char('-'))
        .remove(QLatin1Char('/'));
}

QString Desk::proposedName() const {
    const QString name = QFileInfo(QString::fromStdString(session.document().path())).completeBaseName();
    return name.isEmpty() ? networkName() : name;
}

} // namespace underridge::app

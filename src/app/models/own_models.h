// SPDX-License-Identifier: GPL-3.0-or-later
// The person's library of own models, and taking changed models over into the open
// network.
#pragma once
#include "app/desk.h"
#include "app/style/desktop_theme.h"

namespace underridge::app {

class OwnModels : public QObject {
    Q_OBJECT
public:
    /// `path`: of the library; empty: none is kept.
    OwnModels(const Desk& desk, const DesktopTheme& theme, QString path, QObject* parent);

    /// Reads the library; what is wrong with it is told.
    void load();
    void editAll();
    /// Offers to take over the models that have changed since the network took its copy.
    void update();

private:
    void keep(const std::vector<model::DeviceModel>& models);

    Desk desk_;
    const DesktopTheme& theme_;
    QString path_;
};

} // namespace underridge::app

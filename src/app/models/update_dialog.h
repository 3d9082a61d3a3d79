// SPDX-License-Identifier: GPL-3.0-or-later
// Models that have changed since the network took its copy: which to take over.
#pragma once
#include "core/edit/models.h"

#include <QDialog>
#include <QTreeWidget>

namespace underridge::app {

class UpdateDialog : public QDialog {
    Q_OBJECT
public:
    UpdateDialog(const std::vector<edit::Outdated>& outdated, QWidget* parent);

    /// Ids of the models to take over.
    std::vector<std::string> chosen() const;

private:
    void add(const edit::Outdated& each);

    QTreeWidget* tree_;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// What is in the network but not on the sheet shown: it waits here to be put there.
#pragma once
#include "core/model/network.h"

#include <QLabel>
#include <QListWidget>
#include <QPushButton>

namespace underridge::app {

class Session;

class MissingPanel : public QWidget {
    Q_OBJECT
public:
    explicit MissingPanel(Session& session, QWidget* parent = nullptr);

    QListWidget& list() { return *list_; }
    QPushButton& putAll() { return *all_; }
    int count() const { return static_cast<int>(devices_.size()); }

Q_SIGNALS:
    void countChanged(int count);
    /// These are to be put on the sheet, where the person looks.
    void putWanted(const std::vector<underridge::model::DeviceId>& devices);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void later();
    void refresh();
    std::vector<model::DeviceId> chosen() const;

    Session& session_;
    std::vector<model::DeviceId> devices_; ///< by name
    QLabel* says_;
    QListWidget* list_;
    QPushButton *some_, *all_;
    bool waiting_ = false;
};

} // namespace underridge::app

// SPDX-License-Identifier: GPL-3.0-or-later
// A field for a filter, with completion of fields and of what the network has for them.
#pragma once
#include "core/base/remark.h"
#include "core/model/network.h"

#include <QCompleter>
#include <QLineEdit>
#include <QStringListModel>

namespace underridge::app {

/// What is wrong with a filter, and where.
QString wrongFilter(const Remark& why);

class FilterField : public QLineEdit {
    Q_OBJECT
public:
    using NetworkNow = std::function<const model::Network&()>;
    explicit FilterField(NetworkNow network, QWidget* parent = nullptr);

    /// What is offered now, whole texts.
    QStringList offered() const { return offers_->stringList(); }

private:
    void offer();

    NetworkNow network_;
    QStringListModel* offers_;
    QCompleter* completer_;
};

} // namespace underridge::app
